"""Edits of a report's house style."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field, ValidationError

from ypsil.core.errors import EditRefused
from ypsil.core.report.document import ReportBody
from ypsil.core.report.edits.base import Edit, refusal
from ypsil.core.style.harmony import Harmony, harmonious, roles_of
from ypsil.core.style.house import HouseStyle
from ypsil.core.style.palettes import SHIPPED

# As many as most charts have series.
_COLOURS = 8


class Restyle(Edit):
    """Dress the report otherwise: in a shipped palette with all that belongs to it, in colours that go with one, in
    other families of type, or in single colours of one's own. What is left out stays."""

    type: Literal["restyle"] = "restyle"
    palette: str = Field("", max_length=40)
    from_colour: str = Field("", pattern=r"^(#[0-9a-fA-F]{6})?$", description="the colour that the others go with")
    harmony: Harmony = "neighbours"
    instead: tuple[str, str] | None = Field(None, description="a colour of its palette, and what stands in its place")
    heading_family: str = Field("", max_length=60)
    body_family: str = Field("", max_length=60)
    colours: dict[Literal["ink", "paper", "accent", "palette"], Any] = Field(default_factory=dict)

    def apply(self, report: ReportBody) -> ReportBody:
        style = report.style
        if self.palette:
            if self.palette not in SHIPPED:
                raise EditRefused(f"there is no palette “{self.palette}”", remedy=f"choose one of {', '.join(SHIPPED)}")
            style = style.dressed(self.palette)
        if self.from_colour:
            style = style.composed(roles_of(self.from_colour), harmonious(self.from_colour, self.harmony, _COLOURS))
        if self.instead is not None:
            old, new = self.instead
            palette = tuple(new if colour == old else colour for colour in style.palette)
            style = style.model_copy(
                update={"palette": palette, "accent": new if style.accent == old else style.accent}
            )
        families = {"heading_family": self.heading_family, "body_family": self.body_family}
        changed = {name: family for name, family in families.items() if family}
        try:
            style = HouseStyle.model_validate(style.model_dump() | changed | self.colours)
        except ValidationError as problem:
            raise refusal(problem) from None
        return report.model_copy(update={"style": style.readable()})
