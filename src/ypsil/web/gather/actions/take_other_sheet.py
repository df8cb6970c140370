"""Take another sheet of a version's workbook in."""

from __future__ import annotations

from django.shortcuts import get_object_or_404

from ypsil.web.accounts.services import User
from ypsil.web.gather.arrivals import receive
from ypsil.web.gather.blobs import content
from ypsil.web.gather.models import Arrival, Version
from ypsil.web.gather.services import table_for


def take_other_sheet(asker: User, uid: str, number: int, sheet: str) -> Arrival:
    """Take a sheet of an earlier file in as the table's next version; raises UnreadableFile."""
    table = table_for(asker, uid)
    version = get_object_or_404(Version, table=table, number=number)
    return receive(asker, version.file_name, content(version.original_id), table=table, sheet=sheet)
