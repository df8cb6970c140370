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
# Each with what it is, for those who choose one.
FAMILIES = {
    HUMANIST: "a humanist face, made for reading",
    LEGIBLE: "letters that are hard to confuse, with a stroke through the zero",
    SANS: "plain, with many scripts",
    SERIF: "a text face with serifs, with many scripts",
    CONDENSED: "narrow and upright, for long headings",
    "Work Sans": "a plain grotesque",
    "Jost": "geometric, drawn with ruler and compasses",
    "Bitter": "a slab, sturdy and even",
    "Fraunces": "a display face with serifs, old-fashioned and warm",
    "Nunito": "rounded and friendly",
    "Playpen Sans": "handwriting, as pupils write",
    "Courier Prime": "as from a typewriter, each letter as wide as the next",
    "Literata": "a face for books, with serifs",
    "Archivo Narrow": "a narrow grotesque, for much in little room",
    "Rubik": "a grotesque with softened corners",
    "Crimson Pro": "a fine face with serifs",
    "Andika": "large and clear, for those who learn to read",
    "Josefin Sans": "geometric and elegant, with a low middle",
    "Oswald": "narrow and heavy, for posters",
}
# Families that have no italics: what is to be slanted stands upright.
UPRIGHT_ONLY = frozenset({"Playpen Sans", "Oswald", "Noto Sans Hebrew", "Noto Sans Arabic"})
# Characters that a family lacks are taken from the first of these that has them.
FALLBACKS = (SANS, "Noto Sans Hebrew", "Noto Sans Arabic")
WEIGHTS = {400: "Regular", 700: "Bold"}
ITALICS = {400: "Italic", 700: "BoldItalic"}


@dataclass(frozen=True, slots=True)
class Face:
    """One family in one weight and slope, ready for shaping."""

    name: str
    path: Path
    font: uharfbuzz.Font
    units_per_em: int
    characters: frozenset[int]


def face_path(family: str, weight: int, is_italic: bool = False) -> Path:
    """Return the TrueType file of a face; some families have no italics."""
    named = ITALICS if is_italic and family not in UPRIGHT_ONLY else WEIGHTS
    return FONT_FOLDER / f"{family.replace(' ', '')}-{named[weight]}.ttf"


@cache
def face(family: str, weight: int, is_italic: bool = False) -> Face:
    """Return a shipped face; raises KeyError or FileNotFoundError for one that is not."""
    path = face_path(family, weight, is_italic)
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


# Characters that only join or vary others, and are never seen themselves.
JOINERS = "\u200d\ufe0e\ufe0f"


def lacking(text: str, family: str, weight: int, is_italic: bool = False) -> str:
    """Return the characters of a text that no shipped face has, each once.

    >>> lacking("Book 图 book 图", "Noto Sans", 400)
    '图'
    """
    found = dict.fromkeys(text)
    return "".join(one for one in found if one not in JOINERS and not can_set(one, family, weight, is_italic))


def can_set(character: str, family: str, weight: int, is_italic: bool = False) -> bool:
    """Tell whether a family, or one that stands in for it, has a character."""
    return any(ord(character) in face(name, weight, is_italic).characters for name in chain(family))
