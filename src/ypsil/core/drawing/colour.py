"""Colours as sRGB hex codes: mixing, luminance and contrast."""

from __future__ import annotations

import re

# What text needs (WCAG 2.2, success criterion 1.4.3).
_TEXT_CONTRAST = 4.5
_LIFTS = 40
# How much of a background a pale colour holds.
_PALE = 0.72
_HEX = re.compile(r"^#[0-9a-fA-F]{6}$")


def channels(colour: str) -> tuple[int, int, int]:
    """Return red, green and blue from 0 to 255; raises ValueError for anything but ``#rrggbb``."""
    if not _HEX.match(colour):
        raise ValueError(f"{colour!r} is not a colour like #2a1a3e")
    return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)


def mix(first: str, second: str, part: float) -> str:
    """Return ``first`` with ``part`` (0 to 1) of ``second`` in it.

    >>> mix("#000000", "#ffffff", 0.5)
    '#808080'
    """
    pairs = zip(channels(first), channels(second), strict=True)
    return "#" + "".join(f"{int(a + (b - a) * part + 0.5):02x}" for a, b in pairs)


def relative_luminance(colour: str) -> float:
    """Return the relative luminance, 0 to 1. Source: WCAG 2.2, "relative luminance"."""

    def linear(channel: int) -> float:
        value = channel / 255
        return value / 12.92 if value <= 0.04045 else ((value + 0.055) / 1.055) ** 2.4

    red, green, blue = map(linear, channels(colour))
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast_ratio(first: str, second: str) -> float:
    """Return the contrast ratio of two colours, 1 to 21. Source: WCAG 2.2, "contrast ratio".

    >>> contrast_ratio("#ffffff", "#000000"), round(contrast_ratio("#777777", "#ffffff"), 2)
    (21.0, 4.48)
    """
    lighter, darker = sorted((relative_luminance(first), relative_luminance(second)), reverse=True)
    return round((lighter + 0.05) / (darker + 0.05), 4)


def readable_on(background: str, dark: str, light: str) -> str:
    """Return whichever of two text colours stands out more from the background, made darker or lighter where it does
    not stand out enough (WCAG 2.2, success criterion 1.4.3).

    >>> readable_on("#12806c", "#2a1a3e", "#ffffff"), readable_on("#4496ad", "#14697f", "#ffffff")
    ('#ffffff', '#202020')
    """
    best = max((dark, light), key=lambda colour: contrast_ratio(colour, background))
    return best if contrast_ratio(best, background) >= _TEXT_CONTRAST else lifted(best, background)


def lifted(colour: str, background: str, least: float = _TEXT_CONTRAST) -> str:
    """Return a colour, mixed with as much white or black as it takes to have a contrast on a background.

    4.5 is what text needs (WCAG 2.2, success criterion 1.4.3).

    >>> lifted("#14697f", "#ffffff"), lifted("#14697f", "#22212b")
    ('#14697f', '#5592a2')
    """
    end = readable_on(background, "#000000", "#ffffff")
    steps = (mix(colour, end, step / _LIFTS) for step in range(_LIFTS + 1))
    return next((one for one in steps if contrast_ratio(one, background) >= least), end)


def faded(colour: str, background: str, least: float = _TEXT_CONTRAST) -> str:
    """Return a colour, mixed with as much of a background as leaves it a contrast there.

    >>> faded("#000000", "#ffffff")
    '#737373'
    """
    steps = (mix(colour, background, step / _LIFTS) for step in range(_LIFTS, -1, -1))
    return next((one for one in steps if contrast_ratio(one, background) >= least), colour)


def pale_under(colour: str, background: str, ink: str) -> str:
    """Return a colour as pale on a background as lets text in an ink be read on both.

    >>> pale_under("#14697f", "#ffffff", "#22212b"), pale_under("#a1d3e1", "#14697f", "#ffffff")
    ('#bdd5db', '#338094')
    """
    steps = (mix(colour, background, _PALE + (1 - _PALE) * step / _LIFTS) for step in range(_LIFTS + 1))
    return next((one for one in steps if contrast_ratio(ink, one) >= _TEXT_CONTRAST), background)
