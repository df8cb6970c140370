"""Edits of a report as a whole."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field, ValidationError

from ypsil.core.report.document import ReportBody
from ypsil.core.report.edits.base import Edit, refusal


class Rename(Edit):
    """Give the report another title."""

    type: Literal["rename"] = "rename"
    title: str = Field(min_length=1, max_length=200)

    def apply(self, report: ReportBody) -> ReportBody:
        return report.model_copy(update={"title": self.title})


class ChangeReport(Edit):
    """Change what holds for the whole report: its language, how numbers are written, its page, its filters."""

    type: Literal["change_report"] = "change_report"
    changes: dict[Literal["language", "locale", "page", "filters", "cards"], Any] = Field(min_length=1)

    def apply(self, report: ReportBody) -> ReportBody:
        try:
            checked = ReportBody.model_validate({"title": report.title, **self.changes})
        except ValidationError as problem:
            raise refusal(problem) from None
        return report.model_copy(update={name: getattr(checked, name) for name in self.changes})
