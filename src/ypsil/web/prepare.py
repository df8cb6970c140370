"""Prepare a folder of data for being served: ``python -m ypsil.web.prepare``."""

from __future__ import annotations

import hashlib
import os
from pathlib import Path


def prepare() -> None:
    """Bring the database to this program's form, and lay out what browsers load."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ypsil.web.settings")
    import django

    django.setup()
    from django.conf import settings
    from django.core.management import call_command

    call_command("migrate", verbosity=0)
    close_files(settings.HOME)
    lay_out_static(Path(settings.STATIC_ROOT))
    from ypsil.demo.load import close_sample, load_demo

    if settings.DEMO:
        load_demo()
    else:
        close_sample()


def lay_out_static(folder: Path) -> None:
    """Copy what browsers load into a folder, each also made small; nothing where it is there already."""
    from django.contrib.staticfiles.finders import get_finders
    from django.core.management import call_command

    said = hashlib.sha256()
    for finder in get_finders():
        for name, storage in finder.list([]):
            found = Path(storage.path(name)).stat()
            said.update(f"{storage.path(name)} {found.st_size} {found.st_mtime_ns}\n".encode())
    note = folder.with_name("static.is")
    if folder.is_dir() and note.exists() and note.read_text() == said.hexdigest():
        return
    note.unlink(missing_ok=True)
    call_command("collectstatic", interactive=False, verbosity=0)
    note.write_text(said.hexdigest())


def close_files(home: Path) -> None:
    """Let nobody but its owner read the database and the key, also where they were made before this was seen to."""
    for path in (*home.glob("*.sqlite3*"), *home.glob("secret_key*")):
        path.chmod(0o600)


if __name__ == "__main__":
    prepare()
