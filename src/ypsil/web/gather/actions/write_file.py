"""Write the prepared rows of a version as a file, in the background."""

from __future__ import annotations

from django.shortcuts import get_object_or_404

from ypsil.web.accounts.services import User
from ypsil.web.gather.arrivals import write_in_background
from ypsil.web.gather.models import Arrival, Version
from ypsil.web.gather.services import table_for


def write_file(asker: User, uid: str, number: int, ending: str) -> Arrival:
    """Begin to write a version's rows as a file of this ending; return the work, at which the file is found."""
    table = table_for(asker, uid)
    return write_in_background(table, asker, get_object_or_404(Version, table=table, number=number), ending)
