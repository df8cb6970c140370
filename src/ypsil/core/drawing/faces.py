"""The typefaces that Ypsil ships, all under the SIL Open Font License."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from pathlib import Path

import uharfbuzz

FONT_FOLDER = Path(__file__).parent / "fonts"
HUMANIST = "Source Sans 3"
LEGIBLE = "Atkinson Hyperlegible Next"
SANS = "Noto Sans"
SERIF = "Noto Serif"
CONDENSED = "Barlow Condensed"
FAMILIES = (HUMANIST, LEGIBLE, SANS, SERIF, CONDENSED)
# Characters that a family lacks are taken from the first of these that has them.
FALLBACKS = (SANS, "Noto Sans Hebrew", "Noto Sans Arabic")
WEIGHTS = {400: "Regular", 700: "Bold"}


@dataclass(frozen=True, slots=True)
class Face:
    """One family in one weight, ready for shaping."""

    name: str
    path: Path
    font: uharfbuzz.Font
    units_per_em: int
    characters: frozenset[int]


def face_path(family: str, weight: int) -> Path:
    """Return the TrueType file of a face."""
    return FONT_FOLDER / f"{family.replace(' ', '')}-{WEIGHTS[weight]}.ttf"


@cache
def face(family: str, weight: int) -> Face:
    """Return a shipped face; raises KeyError or FileNotFoundError for one that is not."""
    path = face_path(family, weight)
    hb_face = uharfbuzz.Face(uharfbuzz.Blob.from_file_path(str(path)))
    font = uharfbuzz.Font(hb_face)
    return Face(path.stem, path, font, hb_face.upem, frozenset(hb_face.unicodes))


def chain(family: str) -> tuple[str, ...]:
    """Return a family followed by those that stand in for the characters it lacks."""
    return (family, *(name for name in FALLBACKS if name != family))


def names(family: str) -> tuple[str, ...]:
    """Return the names that a family, and those that stand in for it, are asked for by: typst takes the width out of a
    name, and knows a condensed family by what is left.

    >>> names("Barlow Condensed")[:2]
    ('Barlow Condensed', 'Barlow')
    """
    found = (part for name in chain(family) for part in (name, name.removesuffix(" Condensed")))
    return tuple(dict.fromkeys(found))


def can_set(character: str, family: str, weight: int) -> bool:
    """Tell whether a family, or one that stands in for it, has a character."""
    return any(ord(character) in face(name, weight).characters for name in chain(family))
