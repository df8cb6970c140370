"""A report with one band or one tile alone."""

from __future__ import annotations

from ypsil.core.errors import YpsilError
from ypsil.core.report.document import Band, ReportBody, walk
from ypsil.core.tiles import AnyTile


def part_of(report: ReportBody, band: str | None = None, tile: str | None = None) -> ReportBody:
    """Return a report with one band or one tile of it, by their ids; or the whole without what its author has still to
    say. Raises YpsilError for what is not there."""
    if band is not None:
        found = report.band(band)
        if found is None:
            there = ", ".join(one.id for one in report.bands)
            raise YpsilError(f"there is no band “{band}”", remedy=f"its bands are: {there}")
        return report.model_copy(update={"bands": (found,)})
    if tile is None:
        return report.as_read()
    for one in report.bands:
        for within in walk(one.tiles):
            if within.id == tile:
                return report.model_copy(update={"bands": (_alone(one, within),)})
    raise YpsilError(f"there is no tile “{tile}”", remedy="look for its id in report.json")


def _alone(band: Band, tile: AnyTile) -> Band:
    """Return a band with one tile, at its upper left corner, on what it stands on."""
    place = None if tile.place is None else tile.place.model_copy(update={"column": 0, "row": 0, "dx": 0, "dy": 0})
    alone = tile.model_copy(update={"place": place})
    return band.model_copy(update={"tiles": (alone,), "says_it": False, "least_rows": 0})
