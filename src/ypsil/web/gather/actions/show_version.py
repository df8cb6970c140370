"""Let reports show a version of a table."""

from __future__ import annotations

from django.shortcuts import get_object_or_404

from ypsil.web.accounts.services import User
from ypsil.web.gather.holding import make_current
from ypsil.web.gather.models import Version
from ypsil.web.gather.services import table_for


def show_version(asker: User, uid: str, number: int) -> Version:
    """Let reports show a version, whatever it lacks; raises UnreadableFile where it cannot be read any more."""
    table = table_for(asker, uid)
    version = get_object_or_404(Version, table=table, number=number)
    make_current(table, version)
    return version
