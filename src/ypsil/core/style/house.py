"""The house style of a report."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping, Sequence

from pydantic import BaseModel, ConfigDict, field_validator

from ypsil.core.drawing.colour import channels, lifted, mix
from ypsil.core.drawing.faces import FAMILIES, HUMANIST
from ypsil.core.drawing.scene import Font, font
from ypsil.core.style.palettes import PALETTES, SHIPPED


class HouseStyle(BaseModel):
    """Colours and type; the defaults give a report that looks good untouched.

    Every text colour and every palette colour has at least 4.5:1 on ``paper`` (WCAG 2.2, 1.4.3).
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    heading_family: str = HUMANIST
    body_family: str = HUMANIST
    ink: str = "#22212b"
    muted: str = "#5f5d6e"
    paper: str = "#ffffff"
    grid: str = "#e3e1ea"
    quiet: str = "#c9c6d6"
    accent: str = "#14697f"
    rise: str = "#1f7a4d"
    watch: str = "#8a5a00"
    fall: str = "#b3343f"
    palette: tuple[str, ...] = PALETTES["house"]

    @field_validator("heading_family", "body_family")
    @classmethod
    def _shipped(cls, family: str) -> str:
        if family not in FAMILIES:
            raise ValueError(f"the shipped families are {', '.join(FAMILIES)}")
        return family

    @field_validator("ink", "muted", "paper", "grid", "quiet", "accent", "rise", "watch", "fall")
    @classmethod
    def _colour(cls, colour: str) -> str:
        channels(colour)
        return colour

    @field_validator("palette")
    @classmethod
    def _colours(cls, palette: tuple[str, ...]) -> tuple[str, ...]:
        for colour in palette:
            channels(colour)
        if not palette:
            raise ValueError("a palette has at least one colour")
        return palette

    def coloured(self, palette: str) -> HouseStyle:
        """Return the style with the colours of a shipped palette, as they are read on its own paper; the first is the
        accent."""
        colours = tuple(lifted(colour, self.paper) for colour in PALETTES[palette])
        return self.model_copy(update={"palette": colours, "accent": colours[0]})

    def dressed(self, palette: str) -> HouseStyle:
        """Return the style with all that a shipped palette says: its paper, its ink, and what stands between."""
        found = SHIPPED[palette]
        changed = {
            "paper": found.paper, "ink": found.ink, "palette": found.series, "accent": found.series[0],
            "rise": lifted(found.rise, found.paper), "watch": lifted(found.watch, found.paper),
            "fall": lifted(found.fall, found.paper), "muted": lifted(mix(found.ink, found.paper, 0.32), found.paper),
            "grid": mix(found.paper, found.ink, 0.13), "quiet": mix(found.paper, found.ink, 0.25),
        }  # fmt: skip
        return self.model_copy(update=changed)

    def composed(self, roles: Mapping[str, str], palette: Sequence[str]) -> HouseStyle:
        """Return the style in colours by their parts: ink, paper, emphasis, quiet, good and bad."""
        ink, paper = roles["ink"], roles["paper"]
        changed = {
            "paper": paper, "ink": ink, "muted": roles["quiet"], "accent": roles["emphasis"], "rise": roles["good"],
            "fall": roles["bad"], "palette": (roles["emphasis"], *palette[1:]), "grid": mix(paper, ink, 0.13),
            "quiet": mix(paper, ink, 0.25),
        }  # fmt: skip
        return self.model_copy(update=changed).readable()

    def readable(self) -> HouseStyle:
        """Return the style with each of its colours lighter or darker until it can be read on its paper: a style never
        makes a page unreadable (WCAG 2.2, 1.4.3).

        >>> HouseStyle(ink="#cccccc", accent="#ffe680").readable().ink
        '#757575'
        """
        names = ("ink", "muted", "accent", "rise", "watch", "fall")
        changed: dict[str, object] = {name: lifted(getattr(self, name), self.paper) for name in names}
        changed["palette"] = tuple(lifted(colour, self.paper) for colour in self.palette)
        return self.model_copy(update=changed)

    def body(self, size: float, *, bold: bool = False) -> Font:
        return font(self.body_family, size, 700 if bold else 400)

    def heading(self, size: float) -> Font:
        return font(self.heading_family, size, 700)

    def colour(self, index: int) -> str:
        return self.palette[index % len(self.palette)]

    def ramp(self, part: float) -> str:
        """Return a colour from pale (0) to the accent (1), for amounts."""
        return mix(self.paper, self.accent, 0.1 + 0.9 * min(1.0, max(0.0, part)))

    def diverge(self, part: float) -> str:
        """Return a colour from the second of the palette (−1) by way of pale grey (0) to the accent (1)."""
        end = self.accent if part >= 0 else self.colour(1)
        return mix(self.grid, end, min(1.0, abs(part)))

    def digest(self) -> str:
        return hashlib.sha256(self.model_dump_json().encode()).hexdigest()
