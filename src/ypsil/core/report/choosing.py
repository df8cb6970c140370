"""What readers of a report can choose, and what they chose."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace

from ypsil.core.choosing import NOTHING_CHOSEN, Choices, Control, choices_from
from ypsil.core.report.document import ReportBody
from ypsil.core.tiles import ReportTable


def choices_of(
    report: ReportBody, tables: Mapping[str, ReportTable], asked: Mapping[str, Sequence[str]] | None = None
) -> Choices:
    """Return what readers choose at the controls of a report who ask for it by the query of an address, ``asked``; what
    cannot be chosen is left out and said."""
    controls = list(_controls(report))
    found = [tables[control.table].offered(control) for control in controls if control.table in tables]
    offered = [one for one in found if one is not None]
    if not offered:
        return NOTHING_CHOSEN
    return replace(choices_from(offered, asked or {}), least_bases=_least_bases(report))


def _controls(report: ReportBody) -> Iterator[Control]:
    """Yield the controls of a report, those that filter their own band with all that stands elsewhere among what they
    spare."""
    every = {tile.id for tile in report.tiles()}
    for band in report.bands:
        here = {tile.id for tile in band.shown()}
        for control in filter(None, (tile.chooses() for tile in band.shown())):
            others = every - here if control.reach == "band" else set()
            yield replace(control, spares=control.spares | others) if others else control


def _least_bases(report: ReportBody) -> dict[str, int]:
    """Return by table the smallest group that a tile of a report shows, where tiles hide small ones: readers who choose
    rows are shown none that is smaller, wherever they look."""
    found: dict[str, int] = {}
    for tile in report.tiles():
        for one in tile.questions():
            if one.question.least_base:
                found[one.table] = max(found.get(one.table, 0), one.question.least_base)
    return found
