"""Edits of a report as a whole."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Literal

from pydantic import Field, ValidationError

from ypsil.core.document.model import PageFormat
from ypsil.core.document.page_formats import PAGE_FORMATS, Unit, own_format
from ypsil.core.errors import EditRefused
from ypsil.core.layout.reflow import reflow
from ypsil.core.report.document import ReportBody
from ypsil.core.report.edits.base import Edit, refusal
from ypsil.core.report.edits.standing import at_place
from ypsil.core.report.grid import place_of
from ypsil.core.tiles import AnyTile


class Rename(Edit):
    """Give the report another title."""

    type: Literal["rename"] = "rename"
    title: str = Field(min_length=1, max_length=200)

    def apply(self, report: ReportBody) -> ReportBody:
        return report.model_copy(update={"title": self.title})


class ChangeReport(Edit):
    """Change what holds for the whole report: its language, how numbers are written, its page, its filters."""

    type: Literal["change_report"] = "change_report"
    changes: dict[Literal["language", "locale", "page", "filters", "cards", "icons"], Any] = Field(min_length=1)

    def apply(self, report: ReportBody) -> ReportBody:
        try:
            checked = ReportBody.model_validate({"title": report.title, **self.changes})
        except ValidationError as problem:
            raise refusal(problem) from None
        return report.model_copy(update={name: getattr(checked, name) for name in self.changes})


class SetFormat(Edit):
    """Give the report another page: one of the named formats, or a size of one's own. Bands keep what is in them; a
    page that holds less beside each other has more rows."""

    type: Literal["set_format"] = "set_format"
    name: str = Field("", max_length=40)
    width: float | None = Field(None, gt=0, le=100_000)
    height: float | None = Field(None, gt=0, le=100_000)
    unit: Unit = "px"

    def apply(self, report: ReportBody) -> ReportBody:
        page = self._page(report.page)
        if page == report.page:
            return report
        bands = tuple(
            band.model_copy(update={"tiles": _reflowed(band.tiles, report.page, page)}) for band in report.bands
        )
        return report.model_copy(update={"page": page, "bands": bands})

    def _page(self, now: PageFormat) -> PageFormat:
        if self.name:
            if self.name not in PAGE_FORMATS:
                raise EditRefused(f"there is no page format “{self.name}”", remedy="choose one of the list")
            return PAGE_FORMATS[self.name].page
        if self.width is None:
            raise EditRefused("the page has no width", remedy="give one")
        try:
            return own_format(self.width, self.height, self.unit, now)
        except ValidationError as problem:
            raise refusal(problem) from None


def _reflowed(tiles: Sequence[Any], before: PageFormat, after: PageFormat) -> tuple[AnyTile, ...]:
    frames = reflow([place_of(tile, before) for tile in tiles], before, after)
    return tuple(at_place(tile, frame, after) for tile, frame in zip(tiles, frames, strict=True))
