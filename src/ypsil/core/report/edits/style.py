"""Edits of a report's house style."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from ypsil.core.errors import EditRefused
from ypsil.core.report.document import ReportBody
from ypsil.core.report.edits.base import Edit, refusal
from ypsil.core.style.harmony import Harmony, harmonious, roles_of
from ypsil.core.style.house import HouseStyle
from ypsil.core.style.palettes import SHIPPED

# As many as most charts have series.
_COLOURS = 8


class Move(BaseModel):
    """Degrees of hue, and how much lighter and more colourful (OKLCH)."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    hue: float = Field(0, ge=-360, le=360)
    lightness: float = Field(0, ge=-0.5, le=0.5)
    chroma: float = Field(0, ge=-0.3, le=0.3)


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
    colours: dict[Literal["ink", "paper", "accent", "palette", "rise", "watch", "fall"], Any] = Field(
        default_factory=dict
    )
    shuffle: Literal["", "series", "all"] = Field("", description="gives its colours other roles")
    move: Move | None = Field(None, description="moves all its colours together")
    charts: dict[Literal["grid", "corner", "line"], Any] = Field(default_factory=dict)
    logo: str | None = Field(None, max_length=100, description="its name among the pictures; empty: none")
    heading_size: float | None = Field(None, description="times the size that the page has for headings")
    body_size: float | None = Field(None, description="times the size that the page has for other text")
    logo_room: float | None = Field(None, description="what stays free round the logo, in times its height")

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
        if self.move is not None:
            style = style.moved(self.move.hue, self.move.lightness, self.move.chroma)
        if self.shuffle:
            style = style.shuffled(with_paper=self.shuffle == "all")
        families = {"heading_family": self.heading_family, "body_family": self.body_family}
        changed: dict[str, Any] = {name: family for name, family in families.items() if family}
        own = {name: getattr(self, name) for name in ("logo", "logo_room", "heading_size", "body_size")}
        changed |= {name: value for name, value in own.items() if value is not None}
        if self.charts:
            changed["charts"] = style.charts.model_dump() | self.charts
        try:
            style = HouseStyle.model_validate(style.model_dump() | changed | self.colours)
        except ValidationError as problem:
            raise refusal(problem) from None
        return report.model_copy(update={"style": style.readable()})
