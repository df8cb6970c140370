"""The log of a report's changes: writing an entry, and what somebody saw at an earlier one."""

from __future__ import annotations

from dataclasses import dataclass

from ypsil.core.document import Document, Entry, apply, parse_change, read_document
from ypsil.core.document.changes import Batch
from ypsil.core.document.history import Reach, reach
from ypsil.core.report import ReportBody
from ypsil.web.accounts.services import User
from ypsil.web.compose.models import Change, Report, Snapshot, TableUse, view_of

SNAPSHOT_EVERY = 100


@dataclass(frozen=True, slots=True)
class Sent:
    """Who sent a change: ``client`` names it for good, ``spell`` the stretch of typing that it belongs to."""

    author: User
    client: str = ""
    spell: str = ""


def create(owner: User, document: Document) -> Report:
    """Make a report of a document."""
    report = Report.objects.create(owner=owner, document=document.as_json())
    Snapshot.objects.create(report=report, number=0, document=report.document)
    note_uses(report, view_of(document))
    return report


def keep(
    report: Report,
    document: Document,
    batch: Batch,
    sent: Sent,
    *,
    undoes: int | None = None,
    passed_over: bool = False,
) -> None:
    """Store what a change made of a report, with the change in its log."""
    report.document = document.as_json()
    report.revision += 1
    report.save(update_fields=["document", "revision", "changed"])
    Change.objects.create(
        report=report,
        author=sent.author,
        number=report.revision,
        client=sent.client,
        spell=sent.spell,
        label=batch.label,
        change=batch.model_dump(mode="json"),
        undoes=undoes,
        is_passed_over=undoes is not None and not batch.changes,
    )
    if report.revision % SNAPSHOT_EVERY == 0:
        Snapshot.objects.create(report=report, number=report.revision, document=report.document)
    note_uses(report, report.read())


def note_uses(report: Report, view: ReportBody) -> None:
    """Note which tables a report asks."""
    now = set(view.tables())
    known = set(report.uses.values_list("table_uid", flat=True))
    if now != known:
        report.uses.filter(table_uid__in=known - now).delete()
        TableUse.objects.bulk_create([TableUse(report=report, table_uid=uid) for uid in sorted(now - known)])


def document_at(report: Report, number: int) -> Document:
    """Return a report's document as the change of a number left it; as it is now where the log does not go so far
    back."""
    if number == report.revision:
        return report.read_document()
    start = report.snapshots.filter(number__lte=number).order_by("-number").first()
    if start is None:
        return report.read_document()
    document = read_document(start.document)
    for entry in report.log.filter(number__gt=start.number, number__lte=number):
        document = apply(document, parse_change(entry.change))
    return document


def reach_of(report: Report, author: User) -> Reach:
    """Return what undo and redo would take back of one author's changes."""
    entries = report.log.filter(author=author).values_list("number", "undoes", "is_passed_over", "spell")
    return reach(Entry(*entry) for entry in entries)
