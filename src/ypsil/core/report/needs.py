"""Which tiles need what of a table: a new version that lacks it does not reach the report."""

from __future__ import annotations

from dataclasses import dataclass

from ypsil.core.answers import check
from ypsil.core.errors import YpsilError
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
        asked = tile.asks()
        if asked is not None and asked.table == table:
            try:
                check(columns, asked.question)
            except YpsilError as problem:
                found.append(UnmetNeed(tile.id, tile.label(), problem.what))
    return found
