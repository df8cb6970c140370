"""Applying, undoing and redoing edits; each is one transaction and one entry of the log."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from ypsil.core.errors import EditRefused
from ypsil.core.report import Band, TextTile, parse_edit
from ypsil.core.report import Report as Document
from ypsil.core.report.edits import AddTile, Edit
from ypsil.core.report.history import Reach, reach
from ypsil.web.accounts.models import User
from ypsil.web.compose.models import LoggedEdit, Report


class StaleEdit(EditRefused):
    """An edit of something that was changed since the page was loaded; both values are in the message."""

    def __init__(self, theirs: str, yours: str) -> None:
        self.theirs = theirs
        self.yours = yours
        super().__init__(
            f"this was changed in another window meanwhile. There it says “{theirs}”, here “{yours}”. "
            "The other one stands",
            remedy="look at it, then change it again if yours should stand",
        )


def create_report(owner: User, title: str) -> Report:
    """Make a report with a first band for its headline."""
    band = Band(message="Headline")
    document = AddTile(band=band.id, tile=TextTile(role="title", text=title)).apply(
        Document(title=title, bands=(band,))
    )
    return Report.objects.create(owner=owner, document=document.as_json())


@transaction.atomic
def apply_edit(report_id: int, author: User, data: Any, base: int) -> Report:
    """Apply an edit made on revision ``base``.

    Edits to different things merge; an edit of what was changed since ``base`` raises StaleEdit and changes
    nothing, EditRefused when the edit itself does not fit. One that leaves the report as it is makes no revision:
    to undo it would show nothing.
    """
    report = Report.objects.select_for_update().get(pk=report_id)
    edit = parse_edit(data)
    if not 0 <= base <= report.revision:
        raise EditRefused("the page is out of step with what is stored", remedy="load the page again")
    _refuse_stale(report, edit, base)
    before = report.read()
    if edit.apply(before) == before:
        return report
    return _log(report, author, "do", edit)


def _refuse_stale(report: Report, edit: Edit, base: int) -> None:
    touched = edit.touches()
    for entry in report.edits.filter(revision__gt=base):
        later = parse_edit(entry.edit)
        if later.touches() & touched and later != edit:
            raise StaleEdit(_said(later), _said(edit))


def _said(edit: Edit) -> str:
    """Return what an edit says, short enough for a message."""
    data = edit.model_dump(mode="json")
    changes = data.get("changes") or {name: value for name, value in data.items() if name not in ("type", "band")}
    if edit.type in ("remove_tile", "remove_band"):
        return "taken away"
    texts = [str(value) for value in changes.values() if isinstance(value, str)]
    said = texts[0] if texts else ", ".join(changes)
    return said if len(said) <= 80 else said[:79] + "…"


@transaction.atomic
def step_back(report_id: int, author: User) -> Report:
    """Undo the author's latest edit that is not undone; nothing happens when there is none."""
    report = Report.objects.select_for_update().get(pk=report_id)
    return _take_back(report, author, reach_of(report, author).undo, "undo")


@transaction.atomic
def step_forward(report_id: int, author: User) -> Report:
    """Redo what the author undid last; nothing happens when there is none."""
    report = Report.objects.select_for_update().get(pk=report_id)
    return _take_back(report, author, reach_of(report, author).redo, "redo")


def reach_of(report: Report, author: User) -> Reach:
    return reach(report.edits.filter(author=author).values_list("revision", "kind"))


def _take_back(report: Report, author: User, revision: int | None, kind: str) -> Report:
    if revision is None:
        return report
    entry = report.edits.get(revision=revision)
    return _log(report, author, kind, parse_edit(entry.inverse))


def _log(report: Report, author: User, kind: str, edit: Edit) -> Report:
    before = report.read()
    # What an edit leaves out (a tile's place) is settled now, so that the log replays to the same document.
    inverse = edit.inverse(before)
    after = edit.apply(before)
    report.document = after.as_json()
    report.revision += 1
    report.save(update_fields=["document", "revision", "changed"])
    LoggedEdit.objects.create(
        report=report,
        author=author,
        revision=report.revision,
        kind=kind,
        edit=edit.model_dump(mode="json"),
        inverse=inverse.model_dump(mode="json"),
    )
    return report
