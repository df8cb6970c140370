"""Prepare a folder of data for being served: ``python -m ypsil.web.prepare``."""

from __future__ import annotations

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
    call_command("collectstatic", interactive=False, verbosity=0)
    from ypsil.demo.load import close_sample, load_demo

    if settings.DEMO:
        load_demo()
    else:
        close_sample()


def close_files(home: Path) -> None:
    """Let nobody but its owner read the database and the key, also where they were made before this was seen to."""
    for path in (*home.glob("*.sqlite3*"), *home.glob("secret_key*")):
        path.chmod(0o600)


if __name__ == "__main__":
    prepare()
