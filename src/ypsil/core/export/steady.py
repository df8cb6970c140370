"""Files in ZIP that are the same each time they are made of the same."""

from __future__ import annotations

import io
import re
import zipfile

_NO_DAY = (1980, 1, 1, 0, 0, 0)
_DAY = re.compile(rb"(<dcterms:(created|modified)[^>]*>)[^<]*(</dcterms:)")
_CORE = "docProps/core.xml"
_APP = "docProps/app.xml"
_MADE_BY = re.compile(rb"(<Application>)[^<]*(</Application>)")
_WITHIN = (".xlsx",)


def steady(content: bytes) -> bytes:
    """Return an office file (ECMA-376, part 2) without the days and hours at which it was made; the workbooks within it
    likewise."""
    buffer = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(content)) as found, zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as made:
        for name in found.namelist():
            part = found.read(name)
            if name.endswith(_WITHIN):
                part = steady(part)
            elif name == _CORE:
                part = _DAY.sub(rb"\g<1>2000-01-01T00:00:00Z\g<3>", part)
            elif name == _APP:
                part = _MADE_BY.sub(rb"\g<1>Ypsil\g<2>", part)
            made.writestr(zipfile.ZipInfo(name, _NO_DAY), part, zipfile.ZIP_DEFLATED)
    return buffer.getvalue()
