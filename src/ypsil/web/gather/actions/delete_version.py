"""Delete one version of a table for good."""

from __future__ import annotations

from django.shortcuts import get_object_or_404

from ypsil.core.errors import YpsilError
from ypsil.web.accounts.services import User
from ypsil.web.gather.blobs import forget_version
from ypsil.web.gather.models import Version
from ypsil.web.gather.services import table_for


def delete_version(asker: User, uid: str, number: int) -> Version:
    """Delete a version with its file; raises YpsilError for one that reports show, or that waits."""
    table = table_for(asker, uid)
    version = get_object_or_404(Version, table=table, number=number)
    if version.pk in (table.current_id, table.held_id):
        what = f"version {number} is shown by reports" if version.pk == table.current_id else f"version {number} waits"
        raise YpsilError(what, remedy="let reports show another one first")
    forget_version(version)
    return version
