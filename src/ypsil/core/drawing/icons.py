"""The icons that Ypsil ships: solid shapes to count with, to fill in part and to stand beside words."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cache, lru_cache
from pathlib import Path as File

from ypsil.core.drawing.contours import mapped
from ypsil.core.drawing.scene import Path
from ypsil.core.drawing.svg import number as px

_FILE = File(__file__).with_name("icons.json")


@dataclass(frozen=True, slots=True)
class Icon:
    """An outline with its bounds (left, top, right, bottom) and the words it is found by."""

    name: str
    d: str
    bounds: tuple[float, float, float, float]
    words: str

    @property
    def aspect(self) -> float:
        """How wide it is for its height."""
        left, top, right, bottom = self.bounds
        return (right - left) / (bottom - top)

    @property
    def view_box(self) -> str:
        """Its bounds as an SVG viewBox."""
        left, top, right, bottom = self.bounds
        return f"{px(left)} {px(top)} {px(right - left)} {px(bottom - top)}"


@cache
def icons() -> dict[str, Icon]:
    """Return the shipped icons by name. Source: bootstrap-icons (MIT), chosen and named in vendoring/icons.txt."""
    found = json.loads(_FILE.read_text(encoding="utf-8"))
    return {name: Icon(name, one["d"], tuple(one["bounds"]), one["words"]) for name, one in found.items()}


def find_icons(text: str) -> list[Icon]:
    """Return the icons whose name or words begin with each word of a text, those found by name first.

    >>> [icon.name for icon in find_icons("reading")][:2], find_icons("no such thing")
    (['book', 'book with a marker'], [])
    """
    wanted = text.lower().split()

    def holds(words: str) -> bool:
        known = words.lower().split()
        return all(any(word.startswith(one) for word in known) for one in wanted)

    named = sorted(
        (icon for icon in icons().values() if holds(icon.name)), key=lambda icon: not icon.name.startswith(text)
    )
    return named + [icon for icon in icons().values() if icon not in named and holds(f"{icon.name} {icon.words}")]


def icon_path(name: str, x: float, y: float, height: float, fill: str) -> Path:
    """Return an icon in a height (px), its top left at ``x`` and ``y``; raises KeyError for an unknown one."""
    return Path(_scaled(name, round(height, 2)), fill=fill, x=x, y=y)


@lru_cache(maxsize=512)
def _scaled(name: str, height: float) -> str:
    icon = icons()[name]
    left, top, _, bottom = icon.bounds
    factor = height / (bottom - top)
    return mapped(icon.d, lambda x, y: ((x - left) * factor, (y - top) * factor))
