"""Lines of text whose stretches differ in look: broken by measured width, and put in the order they are seen in."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache

from ypsil.core.drawing.bidi import (
    has_direction,
    has_leftward,
    is_strong,
    levels,
    mirrored,
    runs_rightwards,
    seen_order,
)
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Font
from ypsil.core.drawing.wrap import break_word

# Spaces at which a line may end (Unicode Standard Annex 14, class SP and the breaking ones of class BA): none of those
# that hold together what stands beside them.
_SPACES = re.compile("[ \\t\\u1680\\u2000-\\u2006\\u2008-\\u200a\\u205f\\u3000]+")
# A line may end behind a hyphen or a dash within a word (class HY, BA), but not behind a minus sign.
_HYPHENS = re.compile("(?<=[^\\W_][-\\u2010\\u2013\\u2014])(?=[^\\W\\d_])")


@dataclass(frozen=True, slots=True)
class Piece:
    """A stretch of text in one look: its font and colour, how many px it stands above the line, whether it is
    underlined, and the address that it leads to."""

    text: str
    font: Font
    fill: str
    rise: float = 0.0
    is_underlined: bool = False
    link: str = ""
    # Whether it stands for a value that is put into the text: that may be a name in another script.
    is_put_in: bool = False

    def saying(self, text: str) -> Piece:
        # Named one by one: a text has a piece for each word, and replacing a field takes three times as long.
        return Piece(text, self.font, self.fill, self.rise, self.is_underlined, self.link)

    def looks_like(self, other: Piece) -> bool:
        return (self.font is other.font or self.font == other.font) and (
            self.fill,
            self.rise,
            self.is_underlined,
            self.link,
        ) == (
            other.fill,
            other.rise,
            other.is_underlined,
            other.link,
        )

    @property
    def width(self) -> float:
        return text_width(self.text, self.font)


_Word = list[Piece]


@dataclass(frozen=True, slots=True)
class SetLine:
    """One line: its pieces in reading order, and whether its paragraph begins at the left."""

    pieces: tuple[Piece, ...]
    rightwards: bool = True

    @property
    def width(self) -> float:
        return sum(piece.width for piece in self.pieces)

    @property
    def text(self) -> str:
        return "".join(piece.text for piece in self.pieces)

    def placed(self) -> list[tuple[float, Piece]]:
        """Return what is drawn in the order it is read, each with its distance (px) from the line's left end."""
        found: list[tuple[int, float, Piece]] = []
        x = 0.0
        for start, piece in _as_seen(self):
            found.append((start, x, piece))
            x += piece.width
        return [(x, piece) for _, x, piece in sorted(found, key=lambda one: one[0])]


def set_lines(pieces: Sequence[Piece], width: float) -> list[SetLine]:
    """Break one paragraph into lines of at most ``width`` px, at spaces and behind hyphens; a word that is wider is
    broken. There is at least one line.

    >>> plain = Font("Noto Sans", 14)
    >>> bold = Font("Noto Sans", 14, 700)
    >>> lines = set_lines([Piece("The Bracken", plain, "#000"), Piece("shire readers survey", bold, "#000")], 110)
    >>> [[piece.text for piece in line.pieces] for line in lines]
    [['The'], ['Bracken', 'shire'], ['readers survey']]
    """
    return list(_set(tuple(pieces), width))


@lru_cache(maxsize=8192)
def _set(pieces: tuple[Piece, ...], width: float) -> tuple[SetLine, ...]:
    rightwards = begins_left(pieces)
    lines: list[list[Piece]] = []
    line: list[Piece] = []
    for word, space in _words(pieces):
        longer = _merged([*line, *space, *word]) if line else _merged(word)
        if sum(piece.width for piece in longer) <= width:
            line = longer
            continue
        if line:
            lines.append(line)
        *full, line = _broken(word, width)
        lines += full
    return tuple(SetLine(tuple(line), rightwards) for line in [*lines, line])


def begins_left(pieces: Sequence[Piece]) -> bool:
    """Tell whether a paragraph begins at the left: by the words that somebody typed, or, without any, by all of it.

    >>> plain = Font("Noto Sans", 14)
    >>> name = Piece("אלון", plain, "#000", is_put_in=True)
    >>> begins_left([name, Piece(" leads", plain, "#000")]), begins_left([name, Piece(": 5", plain, "#000")])
    (True, False)
    """
    typed = "".join(piece.text for piece in pieces if not piece.is_put_in)
    return runs_rightwards(typed if has_direction(typed) else "".join(piece.text for piece in pieces))


def _words(pieces: Sequence[Piece]) -> Iterator[tuple[_Word, _Word]]:
    """Yield what a line may not end within, each with the space before it, in the look that this was typed in."""
    word: _Word = []
    space: _Word = []
    pending: _Word = []
    for piece in pieces:
        for index, stretch in enumerate(_SPACES.split(piece.text)):
            if index:
                if word:
                    yield word, space
                word, pending = [], pending or [piece.saying(" ")]
            for part in _HYPHENS.split(stretch):
                if not part:
                    continue
                if word and _HYPHENS.search(word[-1].text[-2:] + part[0]):
                    yield word, space
                    word = []
                if not word:
                    space, pending = pending, []
                word.append(piece.saying(part))
    if word:
        yield word, space


def _merged(pieces: Sequence[Piece]) -> list[Piece]:
    """Return pieces with neighbours of one look as one, so that they are shaped together."""
    if len(pieces) == 1:
        return [*pieces]
    merged: list[Piece] = []
    for piece in pieces:
        if merged and merged[-1].looks_like(piece):
            merged[-1] = piece.saying(merged[-1].text + piece.text)
        else:
            merged.append(piece)
    return merged


def _broken(word: _Word, width: float) -> list[list[Piece]]:
    """Return a word on as many lines as it needs: between its looks, then between its letters."""
    if sum(piece.width for piece in _merged(word)) <= width:
        return [_merged(word)]
    lines: list[list[Piece]] = []
    for piece in _merged(word):
        cut = [piece.saying(part) for part in break_word(piece.text, width, piece.font)]
        if lines and sum(one.width for one in lines[-1]) + cut[0].width <= width:
            lines[-1].append(cut.pop(0))
        lines += [[part] for part in cut]
    return lines


def _as_seen(line: SetLine) -> list[tuple[int, Piece]]:
    """Return a line's pieces from the left to the right, each with the place of its first letter in what is read. Each
    holds letters of one direction, the first and last of which say which: whoever draws it can do nothing else."""
    if line.rightwards and not has_leftward(line.text):
        return list(enumerate(line.pieces))
    letters = [(letter, piece) for piece in line.pieces for letter in piece.text]
    found = levels(line.text, rightwards=line.rightwards)
    seen: list[tuple[int, Piece]] = []
    before = -2
    for at in seen_order(found):
        letter, piece = letters[at]
        follows = abs(at - before) == 1 and found[at] == found[before] and letters[before][1] is piece
        if follows and found[at] % 2 == 0:
            start, so_far = seen[-1]
            seen[-1] = (start, piece.saying(so_far.text + letter))
        elif follows and _holds_strong(letters, found, at, before):
            seen[-1] = (at, piece.saying(letter + seen[-1][1].text))
        else:
            turned = found[at] % 2 and not is_strong(letter)
            seen.append((at, piece.saying(mirrored(letter) if turned else letter)))
        before = at
    return seen


def _holds_strong(letters: list[tuple[str, Piece]], found: list[int], at: int, before: int) -> bool:
    """Tell whether a letter that runs to the left may be drawn with the one before it: both stand between letters that
    have a direction of their own."""
    return _is_within(letters, found, at) and _is_within(letters, found, before)


def _is_within(letters: list[tuple[str, Piece]], found: list[int], at: int) -> bool:
    piece, level = letters[at][1], found[at]

    def reaches(step: int) -> bool:
        place = at
        while 0 <= place < len(letters) and letters[place][1] is piece and found[place] == level:
            if is_strong(letters[place][0]):
                return True
            place += step
        return False

    return reaches(-1) and reaches(1)
