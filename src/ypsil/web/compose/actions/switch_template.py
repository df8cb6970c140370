"""Lay a report out anew, by another template."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from ypsil.core.templates import switched
from ypsil.web.accounts.services import User
from ypsil.web.compose import gallery
from ypsil.web.compose.edits import take_body
from ypsil.web.compose.models import Report
from ypsil.web.compose.services import report_for


def switch_template(
    asker: User, uid: str, name: str, tables: Sequence[str], kind: str, roles: Mapping[str, str]
) -> Report:
    """Lay the asker's report out by a template with the tables of these uids in it. What it holds stays, and one undo
    brings all back.

    Raises YpsilError where the template needs what the tables have not.
    """
    report = report_for(asker, uid)
    chosen = gallery.chosen_among(gallery.tables_with_rows(asker), tables)
    made = gallery.drawn(gallery.template_for(asker, name), gallery.subjects_for(chosen), kind=kind, roles=roles)
    return take_body(report.pk, asker, lambda body: switched(body, made), "take_template")
