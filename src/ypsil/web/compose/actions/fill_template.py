"""Make a report of a template, or by rules, with tables in it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from ypsil.web.accounts.services import User
from ypsil.web.compose import gallery
from ypsil.web.compose.actions.make_report import LONGEST_TITLE
from ypsil.web.compose.edits import keep_report
from ypsil.web.compose.models import Report


def fill_template(
    asker: User, name: str, tables: Sequence[str], title: str, kind: str, roles: Mapping[str, str]
) -> Report:
    """Make a report of the asker's with the tables of these uids in a template; without any, with the newest table.

    Raises YpsilError where the template needs what the tables have not.
    """
    chosen = gallery.chosen_among(gallery.tables_with_rows(asker), tables)
    subjects = gallery.subjects_for(chosen)
    made = gallery.drawn(gallery.template_for(asker, name), subjects, title=title, kind=kind, roles=roles)
    called = made.body.title[:1].upper() + made.body.title[1:]
    return keep_report(asker, made.body.model_copy(update={"title": called[:LONGEST_TITLE]}))
