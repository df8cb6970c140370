"""Making, undoing and redoing edits; each is one transaction and one entry of the log."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from django.db import transaction

from ypsil.core.document import (
    Batch,
    ChangeRefused,
    Document,
    Set,
    StaleChange,
    apply,
    differences,
    parse_change,
    take_back,
)
from ypsil.core.document.changes import Plain, Remove, same, value_at
from ypsil.core.errors import DrawingRefused, EditRefused
from ypsil.core.prose.model import UNKNOWN
from ypsil.core.report import Band, ReportBody, TextTile, parse_edit
from ypsil.core.report.edits import AddTile
from ypsil.core.report.nodes import check_tiles, document_of, settling
from ypsil.web.accounts.services import User
from ypsil.web.compose import log
from ypsil.web.compose.log import Sent
from ypsil.web.compose.models import Report, keep_style, view_of
from ypsil.web.compose.said import done

_SAID_LETTERS = 80
MOST_STEPS = 500
MOST_NAMED = 60


class StaleEdit(EditRefused):
    """An edit of something that was changed since the page was loaded; both values are in the message, and ``mine`` is
    the author's own text, whole."""

    def __init__(self, theirs: str, mine: str) -> None:
        self.mine = mine
        super().__init__(
            f"this was changed in another window meanwhile. There it says “{_short(theirs)}”, here “{_short(mine)}”. "
            "The other one stands",
            remedy="look at it, then change it again if yours should stand",
        )


@dataclass(frozen=True, slots=True)
class Step:
    """A report after a step back or forward, what is to be said of it, and the nodes that the last step was about."""

    report: Report
    notice: str = ""
    did: str = ""
    about: tuple[str, ...] = ()


def create_report(owner: User, title: str) -> Report:
    """Make a report with a first band for its headline."""
    band = Band(message="Headline")
    made = AddTile(band=band.id, tile=TextTile(role="title", text=title)).apply(ReportBody(title=title, bands=(band,)))
    return keep_report(owner, made)


def keep_report(owner: User, made: ReportBody) -> Report:
    """Keep bands with their tiles as a new report."""
    keep_style(made.style)
    return log.create(owner, document_of(made))


@transaction.atomic
def apply_edit(report_id: int, author: User, data: Any, base: int, *, client: str = "", spell: str = "") -> Report:
    """Make an edit of what its author saw at revision ``base``; one that was made already, by its ``client`` id, is not
    made again.

    Edits of different things merge. An edit of what was changed since ``base`` raises StaleEdit and changes nothing,
    EditRefused when the edit itself does not fit. One that leaves the report as it is makes no revision: to undo it
    would show nothing.
    """
    report = Report.objects.select_for_update().get(pk=report_id)
    if client and report.log.filter(client=client).exists():
        return report
    edit = parse_edit(data)
    if not 0 <= base <= report.revision:
        raise EditRefused("the page is out of step with what is stored", remedy="load the page again")
    seen = log.document_at(report, base)
    view = report.read() if base == report.revision else view_of(seen)
    made = edit.apply(view)
    if made.style != view.style:
        keep_style(made.style)
    batch = differences(seen, document_of(made, seen, view), edit.type)
    return _kept(report, batch, Sent(author, client, spell))


@transaction.atomic
def take_body(report_id: int, author: User, made: Callable[[ReportBody], ReportBody], label: str) -> Report:
    """Make of a report what a function makes of it, as one change that can be undone."""
    report = Report.objects.select_for_update().get(pk=report_id)
    seen, view = report.read_document(), report.read()
    body = made(view)
    keep_style(body.style)
    return _kept(report, differences(seen, document_of(body, seen, view), label), Sent(author))


def _kept(report: Report, batch: Batch, sent: Sent) -> Report:
    now = report.read_document()
    batch = _still_to_do(now, batch)
    if not batch.changes:
        return report
    batch, after = _made(now, batch)
    log.keep(report, after, batch, sent)
    return report


def _still_to_do(now: Document, batch: Batch) -> Batch:
    """Return what of a batch is not so yet: somebody else may have done the same."""
    return batch.model_copy(update={"changes": tuple(one for one in batch.changes if not _is_done(now, one))})


def _is_done(now: Document, change: Plain) -> bool:
    if isinstance(change, Remove):
        return change.id not in now.nodes
    return isinstance(change, Set) and same(_value_now(now, change), change.value)


def _value_now(now: Document, change: Set) -> Any:
    """Return what stands where a change would set a value."""
    if not change.id:
        return value_at(now.as_json(), change.path)
    return value_at(now.nodes[change.id].content, change.path) if change.id in now.nodes else None


def _made(now: Document, batch: Batch) -> tuple[Batch, Document]:
    """Make a batch, with the moves that let nothing overlap; raises StaleEdit or EditRefused."""
    try:
        after = apply(now, batch)
        moves = settling(after, batch)
        check_tiles(after, {one.id for one in batch.changes if isinstance(one, Set)})
    except StaleChange as problem:
        raise StaleEdit(_said(problem.now), _said_of(problem.change)) from None
    except ChangeRefused:
        setting = next((one for one in batch.changes if isinstance(one, Set)), None)
        if setting is not None:
            # What it would be set in is gone.
            raise StaleEdit("taken away", _said_of(setting)) from None
        raise
    except DrawingRefused as problem:
        raise EditRefused(problem.what, remedy=problem.remedy) from None
    if moves:
        batch = batch.model_copy(update={"changes": (*batch.changes, *moves)})
        after = apply(now, batch)
    return batch, after


def _said_of(change: Plain) -> str:
    """Return what a change says, whole."""
    if isinstance(change, Remove):
        return "taken away"
    return _said([change.value[0]] if change.value else []) if isinstance(change, Set) else _said(change.model_dump())


def _said(value: Any) -> str:
    """Return what a value says in words: its first text."""
    if value is None:
        return "taken away"
    texts = list(_texts(value))
    return texts[0] if texts else "something else"


def _texts(value: Any) -> Any:
    if isinstance(value, dict) and isinstance(value.get("blocks"), list):
        yield _words_of(value["blocks"])
    elif isinstance(value, dict):
        named = [value[name] for name in ("text", "title", "message") if value.get(name)]
        for one in named or list(value.values()):
            yield from _texts(one)
    elif isinstance(value, list | tuple):
        for one in value:
            yield from _texts(one)
    elif isinstance(value, str | int | float) and not isinstance(value, bool):
        yield str(value)


def _words_of(blocks: list[dict[str, Any]]) -> str:
    """Return the words of prose, with a sign where a live figure stands."""
    return "\n".join("".join(run.get("text") or UNKNOWN for run in block.get("runs", ())) for block in blocks)


def _short(said: str) -> str:
    return said if len(said) <= _SAID_LETTERS else said[: _SAID_LETTERS - 1] + "…"


def step_back(report_id: int, author: User, times: int = 1) -> Step:
    """Undo the author's latest changes that are not undone, as many as are asked for; nothing happens when there is
    none."""
    return _steps(report_id, author, "undo", times)


def step_forward(report_id: int, author: User, times: int = 1) -> Step:
    """Redo what the author undid last; nothing happens when there is none."""
    return _steps(report_id, author, "redo", times)


@transaction.atomic
def _steps(report_id: int, author: User, way: str, times: int) -> Step:
    """Take changes back one by one; all of it is one transaction."""
    report = Report.objects.select_for_update().get(pk=report_id)
    left, labels = 0, []
    about: tuple[str, ...] = ()
    for _ in range(max(1, min(times, MOST_STEPS))):
        took, batch = _step(report, author, way)
        left += took
        if batch is None:
            break
        labels.append(done(batch.label))
        about = tuple(dict.fromkeys(one.about for one in batch.changes if one.about))
    said = labels[0] if len(labels) == 1 else f"{len(labels)} changes"
    did = f"{_SAID[way]}: {said}" if labels else ""
    return Step(report, _LEFT if left else "", did, about[:MOST_NAMED])


def _step(report: Report, author: User, way: str) -> tuple[int, Batch | None]:
    """Take back the latest of the author's changes of which something can be; those before it that others have written
    over are passed over. Return how much was left, and what was done for it, None where there was nothing."""
    left = 0
    for numbers in getattr(log.reach_of(report, author), way):
        entries = report.log.filter(number__in=numbers).order_by("number")
        back = take_back(report.read_document(), [parse_change(entry.change) for entry in entries])
        left += back.left
        log.keep(report, back.document, back.batch, Sent(author), undoes=numbers[-1])
        if back.batch.changes:
            return left, back.batch
    return left, None


_SAID = {"undo": "Undone", "redo": "Done again"}
_LEFT = "Something of it was changed by somebody else meanwhile, and stays as they left it."
