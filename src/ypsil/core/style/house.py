"""The house style of a report."""

from __future__ import annotations

import hashlib
import random
from collections.abc import Mapping, Sequence

from pydantic import BaseModel, ConfigDict, Field, field_validator

from ypsil.core.drawing.colour import channels, lifted, mix
from ypsil.core.drawing.faces import FAMILIES, HUMANIST
from ypsil.core.drawing.oklch import from_oklch, to_oklch
from ypsil.core.drawing.scene import Font, font
from ypsil.core.style.manners import ChartManner
from ypsil.core.style.palettes import PALETTES, SHIPPED

# Fields that styles of earlier documents do not have.
_LATER = ("charts", "logo", "logo_room", "heading_size", "body_size")
_HEADED = ("title", "heading", "big")


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
    charts: ChartManner = ChartManner()
    heading_size: float = Field(1.0, ge=0.75, le=1.5, description="times the size that the page has for headings")
    body_size: float = Field(1.0, ge=0.9, le=1.3, description="times the size that the page has for other text")
    logo: str = Field("", max_length=100, pattern=r"^(picture:[0-9a-f]{64})?$", description="stands by the sources")
    logo_room: float = Field(0.0, ge=0, le=1, description="what stays free round the logo, in times its height")

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

    def size_of(self, role: str) -> float:
        """Return how many times as large as on the page a role of text is set."""
        return self.heading_size if role in _HEADED else self.body_size

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

    def shuffled(self, *, with_paper: bool = False) -> HouseStyle:
        """Return the style with its colours in other roles: another for emphasis, the series in another order, and, if
        wanted, another paper with its ink. The same style is always shuffled into the same."""
        chance = random.Random(self.digest())
        palette = list(self.palette)
        chance.shuffle(palette)
        if palette[0] == self.palette[0]:
            palette = [*palette[1:], palette[0]]
        changed: dict[str, object] = {"palette": tuple(palette), "accent": palette[0]}
        if with_paper:
            light = [
                ("#ffffff", "#22212b"),
                *((mix("#ffffff", one, 0.08), mix("#16151c", one, 0.2)) for one in palette[:3]),
            ]
            dark = [(mix("#14131a", one, 0.22), "#f4f2f8") for one in palette[:3]]
            paper, ink = chance.choice([one for one in (*light, *dark) if one[0] != self.paper])
            changed |= {
                "paper": paper, "ink": ink, "muted": mix(ink, paper, 0.32), "grid": mix(paper, ink, 0.13),
                "quiet": mix(paper, ink, 0.25),
            }  # fmt: skip
        return self.model_copy(update=changed).readable()

    def moved(self, hue: float, lightness: float, chroma: float) -> HouseStyle:
        """Return the style with all its colours moved together in OKLCH: by degrees of hue, and by so much lighter and
        more colourful (0 to 1 and 0 to 0.4); paper and ink turn with them and stay as light as they are."""

        def turned(colour: str, lighter: float, fuller: float) -> str:
            at, full, angle = to_oklch(colour)
            return from_oklch(min(0.95, max(0.15, at + lighter)), max(0.0, full + fuller), angle + hue)

        series = {"palette": tuple(turned(one, lightness, chroma) for one in self.palette)}
        plain = {name: turned(getattr(self, name), 0, 0) for name in ("ink", "muted", "grid", "quiet")}
        at, full, angle = to_oklch(self.paper)
        paper = from_oklch(at, full, angle + hue)
        accent = turned(self.accent, lightness, chroma)
        return self.model_copy(update={**series, **plain, "paper": paper, "accent": accent}).readable()

    def digest(self) -> str:
        """Return a key that is the same for the same style; what came later counts where it is not as usual."""
        usual = {name for name in _LATER if getattr(self, name) == type(self).model_fields[name].default}
        return hashlib.sha256(self.model_dump_json(exclude=usual).encode()).hexdigest()
