"""Which tiles need what of a table: a new version that lacks it does not reach the report."""

from __future__ import annotations

from dataclasses import dataclass

from ypsil.core.answers import check
from ypsil.core.errors import YpsilError
from ypsil.core.questions.model import Question
from ypsil.core.report.document import ReportBody
from ypsil.core.tables.model import Column


@dataclass(frozen=True, slots=True)
class UnmetNeed:
    """A tile that a table's columns cannot answer, and why."""

    tile_id: str
    tile_name: str
    reason: str


def unmet_needs(report: ReportBody, table: str, columns: tuple[Column, ...]) -> list[UnmetNeed]:
    """Return the tiles of a report that a version of a table with these columns would leave without an answer."""
    found = []
    for tile in report.tiles():
        reasons = dict.fromkeys(
            reason
            for asked in tile.questions()
            if asked.table == table and (reason := _reason(asked.question, columns))
        )
        found += [UnmetNeed(tile.id, tile.label(), reason) for reason in reasons]
    return found


def _reason(question: Question, columns: tuple[Column, ...]) -> str:
    """Return why columns cannot answer a question; nothing where they can."""
    try:
        check(columns, question)
    except YpsilError as problem:
        return problem.what
    return ""
