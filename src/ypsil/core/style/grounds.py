"""Grounds: the colours that text and drawings stand on, and a style's form on each of them."""

from __future__ import annotations

import io
import re
from collections.abc import Callable
from functools import lru_cache
from typing import Annotated, Any, Literal

from PIL import Image
from pydantic import AfterValidator, BaseModel, ConfigDict, Field, field_validator

from ypsil.core.drawing.colour import contrast_ratio, mix, relative_luminance
from ypsil.core.drawing.oklch import from_oklch, to_oklch
from ypsil.core.drawing.pictures import Picture
from ypsil.core.drawing.rasters import raster_of
from ypsil.core.style.house import HouseStyle

# What text needs (WCAG 2.2, success criterion 1.4.3).
TEXT_CONTRAST = 4.5
# Names of colours by their part in a style, and how they are said; the others of its palette are second, third ...
TONES = {
    "paper": "Paper",
    "wash": "Quiet grey",
    "tint": "Tint of the main colour",
    "accent": "The main colour",
    "deep": "The main colour, dark",
    "ink": "Ink",
    "second": "The second colour",
    "second-tint": "Tint of the second colour",
    "third": "The third colour",
    "third-tint": "Tint of the third colour",
    "fourth": "The fourth colour",
    "fourth-tint": "Tint of the fourth colour",
}
_OF_STYLE: dict[str, Callable[[HouseStyle], str]] = {
    "paper": lambda style: style.paper,
    "wash": lambda style: mix(style.paper, style.ink, 0.045),
    "tint": lambda style: mix(style.paper, style.accent, 0.1),
    "accent": lambda style: style.accent,
    "deep": lambda style: mix(style.accent, "#000000", 0.45),
    "ink": lambda style: style.ink,
}
_PLACES = {"second": 1, "third": 2, "fourth": 3}
_HEX = re.compile(r"^#[0-9a-f]{6}$")
_STEPS = 20
_LEAST_VEIL = 6
_SAMPLED_PX = 48
_HALVINGS = 10
# How much of the ink a pattern has, the most first.
_PATTERN_PARTS = (0.08, 0.05, 0.03)


class Ground(BaseModel):
    """What something stands on: a colour, one that fades into another, or a picture that is dimmed until text on it
    can be read. Colours are tones of the style, which follow it, or codes like ``#2a1a3e``."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    colour: str = Field("paper", title="Colour")
    to: str = Field("", title="Fading into", description="left out: one colour")
    way: Literal["down", "across", "slope"] = Field("down", title="Fading")
    picture: str = Field("", max_length=200, title="Picture")
    pattern: str = Field("", max_length=40, title="Pattern", description="an ornament that lies on the colour")

    @field_validator("colour", "to")
    @classmethod
    def _is_known(cls, colour: str) -> str:
        if colour and colour not in TONES and not _HEX.match(colour):
            raise ValueError(f"“{colour}” is neither a tone of the style nor a colour like #2a1a3e")
        return colour

    @field_validator("colour")
    @classmethod
    def _is_there(cls, colour: str) -> str:
        if not colour:
            raise ValueError("a ground has a colour")
        return colour


def known_colour(colour: str) -> str:
    """Return a tone's name or a code as it is; raises ValueError for what is neither."""
    return Ground(colour=colour).colour


# A colour of a tile, and how it is chosen.
Tone = Annotated[str, AfterValidator(known_colour)]
TONE_CHOICES: dict[str, Any] = {"enum": [*TONES], "labels": [*TONES.values()]}


def pattern_colour(ground: str, style: HouseStyle) -> str:
    """Return the colour of a pattern on a ground: a little of the ink there, as far as text stays readable on it."""
    ink = readable(style.ink, style.paper, ground)
    return next(
        (mixed for part in _PATTERN_PARTS if contrast_ratio(ink, mixed := mix(ground, ink, part)) >= TEXT_CONTRAST),
        ground,
    )


def readable(ink: str, paper: str, ground: str) -> str:
    """Return which of two colours is read better on a ground."""
    return max((ink, paper), key=lambda one: contrast_ratio(one, ground))


def tone(style: HouseStyle, name: str) -> str:
    """Return the colour that a tone is in a style, or a code as it is.

    >>> tone(HouseStyle(), "accent"), tone(HouseStyle(), "#2a1a3e")
    ('#14697f', '#2a1a3e')
    """
    if name in _OF_STYLE:
        return _OF_STYLE[name](style)
    base, _, tint = name.partition("-")
    if base not in _PLACES:
        return name
    colour = style.colour(_PLACES[base])
    return mix(style.paper, colour, 0.1) if tint else colour


def colours_of(ground: Ground, style: HouseStyle, picture: Picture | None = None) -> tuple[str, ...]:
    """Return the colours that text on a ground has behind it: its own, the one that it fades into, or the darkest and
    the lightest of a picture through its veil.

    The second is as near to the first as it takes for one colour of text to be read on both.
    """
    first = tone(style, ground.colour)
    if picture is not None:
        return first, *_seen_through(picture, first, veil_over(picture, first, style))
    if not ground.to:
        return (first,)
    end = tone(style, ground.to)
    nearer = (mix(end, first, step / _STEPS) for step in range(_STEPS + 1))
    return first, next(one for one in nearer if _is_readable(style, first, one))


def veil_over(picture: Picture, colour: str, style: HouseStyle) -> float:
    """Return how much of a colour lies over a picture (0 to 1), so that one colour of text is read on all of it."""
    steps = (step / _STEPS for step in range(_LEAST_VEIL, _STEPS + 1))
    return next(
        part for part in steps if part == 1 or _is_readable(style, colour, *_seen_through(picture, colour, part))
    )


@lru_cache(maxsize=512)
def _seen_through(picture: Picture, colour: str, part: float) -> tuple[str, str]:
    """Return the darkest and the lightest of a picture's colours with so much of another over them."""
    small = Image.open(io.BytesIO(raster_of(picture))).convert("RGBA").resize((_SAMPLED_PX, _SAMPLED_PX))
    # Through its clear parts the colour itself is seen.
    data = Image.alpha_composite(Image.new("RGBA", small.size, colour), small).convert("RGB").tobytes()
    seen = {mix(f"#{data[place : place + 3].hex()}", colour, part) for place in range(0, len(data), 3)}
    return min(seen, key=relative_luminance), max(seen, key=relative_luminance)


def on_ground(style: HouseStyle, ground: Ground | None, picture: Picture | None = None) -> HouseStyle:
    """Return a style's form on a ground."""
    return style if ground is None else on(style, *colours_of(ground, style, picture))


@lru_cache(maxsize=512)
def on(style: HouseStyle, *grounds: str) -> HouseStyle:
    """Return a style's form on a colour, or on one that fades into another: every colour of it that draws or writes
    has 4.5:1 with each of them.

    Its ink stays where it can be read, else its paper is the ink; quiet tones stand between the two, and the palette
    keeps its hues, lighter or darker.

    >>> dark = on(HouseStyle(), "#22212b")
    >>> dark.ink, dark.paper, contrast_ratio(dark.accent, "#22212b") >= 4.5
    ('#ffffff', '#22212b', True)
    """
    if grounds == (style.paper,):
        return style
    ground = grounds[0]
    ink = _ink(style, grounds)

    def lifted(colour: str) -> str:
        return _lifted(colour, grounds)

    changed: dict[str, Any] = {name: lifted(getattr(style, name)) for name in ("accent", "rise", "watch", "fall")}
    changed |= {
        "paper": ground,
        "ink": ink,
        "muted": _readable(mix(ink, ground, 0.3), ink, grounds),
        "grid": mix(ground, ink, 0.16),
        "quiet": mix(ground, ink, 0.3),
        "palette": tuple(map(lifted, style.palette)),
    }
    return style.model_copy(update=changed)


def _ink(style: HouseStyle, grounds: tuple[str, ...]) -> str:
    """Return the first of the style's ink and paper, black and white that can be read on all; the best, where none
    is."""
    inks = (style.ink, style.paper, "#000000", "#ffffff")
    best = max(inks[:2], key=lambda one: _worst(one, grounds))
    if _worst(best, grounds) >= TEXT_CONTRAST:
        return best
    return max(inks, key=lambda one: _worst(one, grounds))


def _worst(colour: str, grounds: tuple[str, ...]) -> float:
    return min(contrast_ratio(colour, ground) for ground in grounds)


def _readable(colour: str, ink: str, grounds: tuple[str, ...]) -> str:
    """Return a colour with as much ink in it as it takes to be read."""
    steps = (mix(colour, ink, step / _STEPS) for step in range(_STEPS + 1))
    return next((one for one in steps if _worst(one, grounds) >= TEXT_CONTRAST), ink)


def _is_readable(style: HouseStyle, *grounds: str) -> bool:
    return _worst(_ink(style, grounds), grounds) >= TEXT_CONTRAST


@lru_cache(maxsize=4096)
def _lifted(colour: str, grounds: tuple[str, ...]) -> str:
    """Return a colour of the same hue, as much lighter or darker as it takes to be read on all grounds; black or white
    where no lightness is enough."""
    if _worst(colour, grounds) >= TEXT_CONTRAST:
        return colour
    lightness, chroma, hue = to_oklch(colour)
    end = max(("#ffffff", "#000000"), key=lambda one: _worst(one, grounds))
    low, high = lightness, 1.0 if end == "#ffffff" else 0.0
    best = end
    for _ in range(_HALVINGS):
        middle = (low + high) / 2
        found = from_oklch(middle, chroma, hue)
        if _worst(found, grounds) >= TEXT_CONTRAST:
            best, high = found, middle
        else:
            low = middle
    return best
