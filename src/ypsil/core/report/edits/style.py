"""Edits of a report's house style."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field, ValidationError

from ypsil.core.errors import EditRefused
from ypsil.core.report.document import ReportBody
from ypsil.core.report.edits.base import Edit, refusal
from ypsil.core.style.house import HouseStyle
from ypsil.core.style.palettes import SHIPPED


class Restyle(Edit):
    """Dress the report otherwise: in a shipped palette with all that belongs to it, in other families of type, or in
    single colours of one's own. What is left out stays."""

    type: Literal["restyle"] = "restyle"
    palette: str = Field("", max_length=40)
    heading_family: str = Field("", max_length=60)
    body_family: str = Field("", max_length=60)
    colours: dict[Literal["ink", "paper", "accent", "palette"], Any] = Field(default_factory=dict)

    def apply(self, report: ReportBody) -> ReportBody:
        style = report.style
        if self.palette:
            if self.palette not in SHIPPED:
                raise EditRefused(f"there is no palette “{self.palette}”", remedy=f"choose one of {', '.join(SHIPPED)}")
            style = style.dressed(self.palette)
        families = {"heading_family": self.heading_family, "body_family": self.body_family}
        changed = {name: family for name, family in families.items() if family}
        try:
            style = HouseStyle.model_validate(style.model_dump() | changed | self.colours)
        except ValidationError as problem:
            raise refusal(problem) from None
        return report.model_copy(update={"style": style.readable()})
