"""Words with what is counted of them, the group that each belongs to, and the colours they are set in."""

from __future__ import annotations

import zlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal
from unicodedata import category

from pydantic import Field

from ypsil.core.answers.model import Answer
from ypsil.core.cloud import SMALLEST_PX, CloudWord, PlacedWord, Sizing
from ypsil.core.drawing.colour import faded, lifted, mix
from ypsil.core.drawing.faces import can_set
from ypsil.core.drawing.scene import Mark, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.figures import DEFAULT_LOCALE, format_number
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import is_words
from ypsil.core.visuals.shared.settings import PaletteOptions, setting
from ypsil.core.visuals.shared.summary import group_name

Colouring = Literal["usual", "rank", "group", "value", "hue"]
_COLOURINGS = {
    "usual": "as fits",
    "rank": "in turn",
    "group": "by group",
    "value": "darker for more",
    "hue": "shades of one colour",
}
_TYPEFACES = {"headings": "that of headings", "text": "that of text"}
_SIZINGS = {"area": "the area follows it", "height": "the height follows it", "log": "evened out"}
_IN_TURN = 4
_SHADES = 7
_DARKEST = 0.65
# On a page; a file that is printed large may go down to the least.
_READABLE_PX = 12.0
_NOTE_PX = 12.0
_NAMED = 12
_BOLD = 700
# Marks that only say how the letter before them looks or joins.
_UNSEEN = ("Mn", "Cf")
# Names that say nothing without their column.
_BARE = ("Yes", "No")


class WordOptions(PaletteOptions):
    """How words are sized and coloured, whatever they are drawn as."""

    colours: dict[str, Annotated[int, Field(ge=1, le=8)]] = Field(
        {},
        max_length=400,
        description="words with a colour of the palette that is theirs, 1 to 8",
        json_schema_extra={"hidden": True},
    )
    colouring: Colouring = setting("usual", "Colours of words", "Colours", choices=_COLOURINGS)
    typeface: Literal["headings", "text"] = setting("headings", "Typeface", "Marks", choices=_TYPEFACES)
    sizing: Sizing = setting("area", "Size by count", "Marks", choices=_SIZINGS)
    smallest: float = setting(_READABLE_PX, "Smallest words (px)", "Marks", ge=SMALLEST_PX, le=40)
    largest: float | None = setting(
        None, "Largest word (px)", "Marks", "where it is left empty, as large as fits", ge=SMALLEST_PX, le=400
    )

    def in_typeface(self, style: HouseStyle) -> HouseStyle:
        """Return the style with the family that words are set in as that of its headings."""
        return style if self.typeface == "headings" else style.model_copy(update={"heading_family": style.body_family})


@dataclass(frozen=True, slots=True)
class CountedWords:
    """The words of an answer, each once and in its order, and the names of the groups they belong to, if any."""

    words: tuple[CloudWord, ...]
    groups: tuple[str, ...] = ()


def counted_words(answer: Answer) -> CountedWords:
    """Return the words of an answer; in a split one each has the sum of its counts and belongs to the group that uses
    it most, for how much that group is counted in all."""
    per, split, measure = answer.of("per")[0], next(iter(answer.of("split")), None), answer.of("measure")[0]
    names = [group_name(value, per) for value in answer.values(per)]
    counts = [float(count or 0) for count in answer.values(measure)]
    if split is None:
        words = zip(names, counts, strict=True)
        return CountedWords(tuple(CloudWord(word, count) for word, count in words if count > 0))
    members = [named(group_name(value, split), split.name) for value in answer.values(split)]
    groups = [named(group_name(value, split), split.name) for value in answer.members(split)]
    totals = {group: sum(count for count, one in zip(counts, members, strict=True) if one == group) for group in groups}
    uses: dict[str, dict[str, float]] = {}
    for word, member, count in zip(names, members, counts, strict=True):
        uses.setdefault(word, {})[member] = count

    def word_of(word: str, of: Mapping[str, float]) -> CloudWord:
        most = max(of, key=lambda group: of[group] / (totals[group] or 1))
        weight = sum(of.values()) if measure.unit != "%" else max(of.values())
        return CloudWord(word, weight, groups.index(most))

    made = (word_of(word, of) for word, of in uses.items())
    return CountedWords(tuple(word for word in made if word.weight > 0), tuple(groups))


def named(group: str, column: str) -> str:
    """Return what a group is called beside others.

    >>> named("Yes", "Would recommend"), named("Dunmere", "Branch")
    ('Would recommend: Yes', 'Dunmere')
    """
    return f"{column}: {group}" if group in _BARE else group


class Colours:
    """The colours of words on a background, each with the contrast that text needs."""

    def __init__(self, options: WordOptions, counted: CountedWords, style: HouseStyle, background: str) -> None:
        self._own = {word.casefold(): colour for word, colour in options.colours.items()}
        self._way = options.colouring
        if self._way == "usual":
            self._way = "group" if counted.groups else "rank"
        self._group = {word.text: word.group for word in counted.words}
        self._top = max((word.weight for word in counted.words), default=1.0)
        self._palette = [lifted(colour, background) for colour in style.palette]
        self._pale = faded(lifted(style.accent, background), background)
        self._strong = mix(self._palette[0], style.ink if background != style.ink else style.paper, _DARKEST)

    def of(self, word: PlacedWord) -> str:
        own = self._own.get(word.text.casefold())
        if own is not None:
            return self._palette[(own - 1) % len(self._palette)]
        if self._way == "group":
            return self.of_group(self._group.get(word.text, 0))
        if self._way == "rank":
            return self._palette[word.rank % _IN_TURN % len(self._palette)]
        part = word.weight / self._top
        if self._way == "hue":
            part = zlib.crc32(word.text.casefold().encode()) % _SHADES / (_SHADES - 1)
        return mix(self._pale, self._strong, part)

    def gathered(self, words: Sequence[CloudWord]) -> list[CloudWord]:
        """Return the words with those of one colour as a group; shades of one colour are parted by their groups."""
        if self._way in ("value", "hue"):
            return list(words)
        ranks = sorted(words, key=lambda word: (-word.weight, word.text))
        colours = [self.of(PlacedWord(word.text, word.weight, 0, 0, 1, rank)) for rank, word in enumerate(ranks)]
        groups = list(dict.fromkeys(colours))
        return [
            CloudWord(word.text, word.weight, groups.index(colour)) for word, colour in zip(ranks, colours, strict=True)
        ]

    def of_group(self, group: int) -> str:
        return self._palette[group % len(self._palette)]

    @property
    def is_by_group(self) -> bool:
        return self._way == "group"


def drawn_word(
    word: PlacedWord, colour: str, style: HouseStyle, unit: str | None = None, locale: str = DEFAULT_LOCALE
) -> Text:
    """Return a placed word; only the first of repeated ones is a mark that readers reach."""
    often = format_number(word.weight, unit=unit, locale=locale)
    title = "" if word.is_repeat else Mark(f"{word.text}: {often}", word.text)
    return Text(word.x, word.y, word.text, style.heading(word.size), colour, title=title, angle=word.angle)


def notes_below(said: str, width: float, height: float, most: int, style: HouseStyle) -> list[Text]:
    """Return a note in a few lines at the bottom of a drawing."""
    font = style.body(_NOTE_PX)
    lines = wrap(said, width, font, most=most)
    top = height - len(lines) * font.line_height + font.size
    return [Text(0, top + row * font.line_height, line, font, style.muted) for row, line in enumerate(lines)]


def note_height(most: int, style: HouseStyle) -> float:
    """Return the room that a note of so many lines takes."""
    return (most + 0.5) * style.body(_NOTE_PX).line_height


def can_be_set(text: str, style: HouseStyle) -> bool:
    """Tell whether the shipped typefaces have all letters of a text; they have no emoji."""
    letters = (letter for letter in text if not letter.isspace() and category(letter) not in _UNSEEN)
    return all(can_set(letter, style.heading_family, _BOLD) for letter in letters)


def not_drawn(left_out: Sequence[str], style: HouseStyle) -> str:
    """Say which words are not drawn: for want of room, or of letters.

    >>> not_drawn(["bus", "van", "\U0001f44d"], HouseStyle())
    'Without room: bus, van. No typeface here has: \U0001f44d'
    """
    crowded = [text for text in left_out if can_be_set(text, style)]
    unset = [text for text in left_out if text not in crowded]
    said = (("Without room", crowded), ("No typeface here has", unset))
    return ". ".join(f"{lead}: {_listed(texts)}" for lead, texts in said if texts)


def _listed(texts: Sequence[str]) -> str:
    more = len(texts) - _NAMED
    return ", ".join(texts[:_NAMED]) + (f" and {more} more" if more > 0 else "")


def described(
    kind: str, answer: Answer, placed: Sequence[PlacedWord], left_out: Sequence[str], style: HouseStyle
) -> str:
    """Return a drawing of words in a sentence or two: how many, from what, the first of them, and what is missing."""
    unit = answer.of("measure")[0].unit
    words = sorted((word for word in placed if not word.is_repeat), key=lambda word: word.rank)
    first = ", ".join(
        f"{word.text} ({format_number(word.weight, unit=unit, locale=answer.locale)})" for word in words[:5]
    )
    base = f"from {format_number(answer.base, locale=answer.locale)} {'answers' if is_words(answer) else 'rows'}"
    text = f"{kind} of {len(words)} words {base}. Most used: {first}."
    return text + (f" {not_drawn(left_out, style)}." if left_out else "")
