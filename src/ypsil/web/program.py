"""Which program this is: what it drew before it was changed is not taken for what it draws now."""

from __future__ import annotations

import hashlib
from functools import cache
from pathlib import Path

import ypsil

_ENDINGS = {".py", ".html", ".css", ".js", ".json"}


@cache
def program_digest() -> str:
    """Return a digest of the program's version and files; it is worked out once for a process."""
    found = hashlib.sha256(ypsil.__version__.encode())
    folder = Path(ypsil.__file__).parent
    for path in sorted(folder.rglob("*")):
        if path.suffix in _ENDINGS and "vendor" not in path.parts:
            found.update(path.relative_to(folder).as_posix().encode())
            found.update(path.read_bytes())
    return found.hexdigest()
