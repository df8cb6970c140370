"""Edits of bands."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field, ValidationError

from ypsil.core.document.model import new_id
from ypsil.core.errors import EditRefused
from ypsil.core.report.document import Band, ReportBody, walk
from ypsil.core.report.edits.base import Edit, band_in, check_new, copied, refusal, with_band, with_bands, without_loose


class AddBand(Edit):
    """Put a band, with what stands in it, at ``index`` (counted from 0; left out: at the foot)."""

    type: Literal["add_band"] = "add_band"
    band: Band
    index: int | None = Field(None, ge=0)

    def apply(self, report: ReportBody) -> ReportBody:
        check_new([self.band.id, *(one.id for one in walk(self.band.tiles))], report)
        index = len(report.bands) if self.index is None else self.index
        return with_bands(report, (*report.bands[:index], self.band, *report.bands[index:]))


class RemoveBand(Edit):
    """Take a band away, with its tiles."""

    type: Literal["remove_band"] = "remove_band"
    band: str

    def apply(self, report: ReportBody) -> ReportBody:
        band_in(report, self.band)
        return without_loose(with_bands(report, tuple(one for one in report.bands if one.id != self.band)), report)


class SetMessage(Edit):
    """Say what a band says."""

    type: Literal["set_message"] = "set_message"
    band: str
    message: str = Field(max_length=500)

    def apply(self, report: ReportBody) -> ReportBody:
        return with_band(report, band_in(report, self.band).model_copy(update={"message": self.message}))


class MoveBand(Edit):
    """Put a band elsewhere; ``index`` is its place among all, from 0."""

    type: Literal["move_band"] = "move_band"
    band: str
    index: int = Field(ge=0)

    def apply(self, report: ReportBody) -> ReportBody:
        moved = band_in(report, self.band)
        others = [band for band in report.bands if band.id != self.band]
        return with_bands(report, (*others[: self.index], moved, *others[self.index :]))


class DuplicateBand(Edit):
    """Put a copy of a band, with all in it, below it."""

    type: Literal["duplicate_band"] = "duplicate_band"
    band: str

    def apply(self, report: ReportBody) -> ReportBody:
        band = band_in(report, self.band)
        there = {tile.id for tile in report.everything()}
        copy = band.model_copy(update={"id": new_id(), "tiles": copied(band.tiles, there)})
        index = report.bands.index(band)
        return with_bands(report, (*report.bands[: index + 1], copy, *report.bands[index + 1 :]))


class ChangeBand(Edit):
    """Change what a band says, what it stands on, how much room it has."""

    type: Literal["change_band"] = "change_band"
    band: str
    changes: dict[str, Any] = Field(min_length=1)

    def apply(self, report: ReportBody) -> ReportBody:
        fixed = {"id", "tiles"} & set(self.changes)
        if fixed:
            raise EditRefused(f"a band's {min(fixed)} cannot be changed", remedy="add another band instead")
        band = band_in(report, self.band)
        alone = band.model_copy(update={"tiles": ()})
        try:
            changed = Band.model_validate(alone.model_dump() | self.changes)
        except ValidationError as problem:
            raise refusal(problem) from None
        return with_band(report, changed.model_copy(update={"tiles": band.tiles}))


class ClearBand(Edit):
    """Take away all that stands in a band."""

    type: Literal["clear_band"] = "clear_band"
    band: str

    def apply(self, report: ReportBody) -> ReportBody:
        cleared = band_in(report, self.band).model_copy(update={"tiles": ()})
        return without_loose(with_band(report, cleared), report)


class ClearPage(Edit):
    """Take all bands away."""

    type: Literal["clear_page"] = "clear_page"

    def apply(self, report: ReportBody) -> ReportBody:
        return with_bands(report, ())
