"""What readers of a report can choose, and what they chose."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from ypsil.core.choosing import NOTHING_CHOSEN, Choices, choices_from
from ypsil.core.report.document import ReportBody
from ypsil.core.tiles import ReportTable


def choices_of(
    report: ReportBody, tables: Mapping[str, ReportTable], asked: Mapping[str, Sequence[str]] | None = None
) -> Choices:
    """Return what readers choose at the controls of a report who ask for it by the query of an address, ``asked``; what
    cannot be chosen is left out and said."""
    controls = [control for tile in report.tiles() if (control := tile.chooses()) is not None]
    found = [tables[control.table].offered(control) for control in controls if control.table in tables]
    offered = [one for one in found if one is not None]
    if not offered:
        return NOTHING_CHOSEN
    return replace(choices_from(offered, asked or {}), least_bases=_least_bases(report))


def _least_bases(report: ReportBody) -> dict[str, int]:
    """Return by table the smallest group that a tile of a report shows, where tiles hide small ones: readers who choose
    rows are shown none that is smaller, wherever they look."""
    found: dict[str, int] = {}
    for tile in report.tiles():
        for one in tile.questions():
            if one.question.least_base:
                found[one.table] = max(found.get(one.table, 0), one.question.least_base)
    return found
