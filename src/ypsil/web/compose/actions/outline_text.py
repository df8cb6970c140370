"""Make a report of a text, with what was chosen to show its numbers."""

from __future__ import annotations

from collections.abc import Mapping

from django.db import transaction

from ypsil.web.accounts.services import User
from ypsil.web.compose import outlines
from ypsil.web.compose.edits import keep_report
from ypsil.web.compose.models import Report


@transaction.atomic
def outline_text(asker: User, title: str, text: str, chosen: Mapping[int, str]) -> Report:
    """Make a report of the asker's out of a text: a band for each paragraph, and beside its words what was chosen for
    it (by the paragraph's place). Raises EditRefused for a text that cannot be laid out."""
    outlines.parts_of(text)
    return keep_report(asker, outlines.page_of(asker, title, text, chosen))
