"""Prose set in lines: its looks, its lists, its columns, each line where it is drawn."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Font, Line, Shape, Text, font
from ypsil.core.drawing.typeset import Piece, SetLine, begins_left, set_lines
from ypsil.core.prose.model import Block, Prose, Run
from ypsil.core.style.house import HouseStyle

Align = Literal["start", "middle", "end"]
# In heights of the type (common practice, no source).
_RAISED, _LOWERED, _SMALL = 0.36, -0.16, 0.66
_INDENT = 1.4
_COLUMN_GAP = 1.6
_UNDERLINE = 0.12
_BULLET = "•"
_OTHERS = {"second": 1, "third": 2, "fourth": 3}


@dataclass(frozen=True, slots=True)
class Manner:
    """How prose is set: its font and colour, where its lines stand, and in how many columns."""

    font: Font
    ink: str
    style: HouseStyle
    align: Align = "start"
    columns: int = 1

    def sized(self, size: float) -> Manner:
        return replace(self, font=self.font.sized(size))


@dataclass(frozen=True, slots=True)
class Paragraph:
    """A paragraph, or an item of a list with the sign before it, ``indent`` px further in."""

    pieces: tuple[Piece, ...]
    sign: str = ""
    indent: float = 0.0

    @property
    def rightwards(self) -> bool:
        """Whether it begins at the left."""
        return begins_left(self.pieces)


@dataclass(frozen=True, slots=True)
class _Row:
    """A line with its distance (px) from the beginning of its column, and the sign of a list before it."""

    line: SetLine
    indent: float = 0.0
    sign: str = ""


def colour_of(name: str, style: HouseStyle) -> str:
    """Return a colour of the house style by its name on screen; that of text where it has none."""
    if name == "quiet":
        return style.muted
    if name in _OTHERS:
        return style.colour(_OTHERS[name])
    return style.accent if name == "accent" else style.ink


def height_of(prose: Prose, said: Sequence[str], width: float, manner: Manner) -> float:
    """Return the height in px that prose takes at a width."""
    return _lines(prose, tuple(said), width, manner) * manner.font.line_height


@lru_cache(maxsize=4096)
def _lines(prose: Prose, said: tuple[str, ...], width: float, manner: Manner) -> int:
    """Return how many lines the longest column has."""
    return _columns(_rows(prose, said, width, manner), manner)[0]


def fitted(prose: Prose, said: Sequence[str], width: float, height: float, manner: Manner, least: float) -> Manner:
    """Return the manner in the largest type, from its own down to ``least`` px, at which prose has room."""
    steps = [manner.font.size - step / 2 for step in range(int(2 * (manner.font.size - least)) + 1)]
    low, high = 0, len(steps) - 1
    while low < high:
        middle = (low + high) // 2
        if height_of(prose, said, width, manner.sized(steps[middle])) <= height:
            high = middle
        else:
            low = middle + 1
    return manner.sized(steps[low]) if steps else manner


def shapes_of(prose: Prose, said: Sequence[str], width: float, manner: Manner) -> tuple[Shape, ...]:
    """Return the lines of prose as they are drawn, from the upper left corner."""
    return _shapes(prose, tuple(said), width, manner)


@lru_cache(maxsize=512)
def _shapes(prose: Prose, said: tuple[str, ...], width: float, manner: Manner) -> tuple[Shape, ...]:
    rows = _rows(prose, said, width, manner)
    each, _ = _columns(rows, manner)
    column_width, gap = _column(width, manner)
    shapes: list[Shape] = []
    for index, row in enumerate(rows):
        column, place = divmod(index, max(1, each))
        left = column * (column_width + gap)
        baseline = place * manner.font.line_height + manner.font.size
        shapes += _drawn(row, left, baseline, column_width, manner)
    return tuple(shapes)


def _columns(rows: Sequence[_Row], manner: Manner) -> tuple[int, int]:
    """Return how many lines a column has, and how many lines there are."""
    return -(-len(rows) // manner.columns), len(rows)


def _column(width: float, manner: Manner) -> tuple[float, float]:
    gap = _COLUMN_GAP * manner.font.size if manner.columns > 1 else 0.0
    return max(1.0, (width - (manner.columns - 1) * gap) / manner.columns), gap


def paragraphs_of(prose: Prose, said: Sequence[str], manner: Manner) -> Iterator[Paragraph]:
    """Yield the paragraphs of prose, not broken into lines."""
    words = iter(said)
    counts: dict[int, int] = {}
    for block in prose.blocks:
        pieces = tuple(piece for run in block.runs if (piece := _piece(run, words, manner)).text)
        sign = _sign(block, counts)
        indent = (block.level + 1) * _INDENT * manner.font.size if sign else 0.0
        yield Paragraph(pieces, sign, indent)


def _rows(prose: Prose, said: Sequence[str], width: float, manner: Manner) -> list[_Row]:
    column_width, _ = _column(width, manner)
    rows: list[_Row] = []
    for one in paragraphs_of(prose, said, manner):
        for place, line in enumerate(set_lines(one.pieces, max(1.0, column_width - one.indent))):
            rows.append(_Row(line, one.indent, "" if place else one.sign))
    return rows


def _piece(run: Run, said: object, manner: Manner) -> Piece:
    text = run.text if run.figure is None else next(said, "")  # type: ignore[call-overload]
    own = manner.font
    is_small = "above" in run.looks or "below" in run.looks
    set_in = font(
        own.family,
        round(own.size * _SMALL, 3) if is_small else own.size,
        700 if "bold" in run.looks else own.weight,
        "italic" in run.looks,
    )
    rise = own.size * (_RAISED if "above" in run.looks else _LOWERED) if is_small else 0.0
    fill = colour_of(run.colour, manner.style) if run.colour else manner.style.accent if run.link else manner.ink
    is_underlined = "underline" in run.looks or bool(run.link)
    return Piece(text, set_in, fill, rise, is_underlined, run.link, run.figure is not None)


def _sign(block: Block, counts: dict[int, int]) -> str:
    """Return what stands before an item: a dot or its number; ``counts`` holds the last number of each level."""
    for level in [level for level in counts if level > block.level or block.kind == "paragraph"]:
        del counts[level]
    if block.kind == "number":
        counts[block.level] = counts.get(block.level, 0) + 1
        return f"{counts[block.level]}."
    counts.pop(block.level, None)
    return _BULLET if block.kind == "bullet" else ""


def _drawn(row: _Row, left: float, baseline: float, width: float, manner: Manner) -> list[Shape]:
    line = row.line
    room = width - row.indent
    rest = room - line.width
    share = {"start": 0.0, "middle": 0.5, "end": 1.0}[manner.align]
    # Lines that begin at the right have their start there.
    x = left + (row.indent + share * rest if line.rightwards else (1 - share) * rest)
    shapes: list[Shape] = []
    if row.sign:
        shapes.append(_sign_drawn(row, x, baseline, manner))
    for offset, piece in line.placed():
        letters = piece.text.strip(" ")
        if not letters:
            continue
        # Spaces at the ends of a text are not drawn everywhere (SVG 1.1, 10.15): it begins with its first letter.
        start = x + offset + text_width(" ", piece.font) * (len(piece.text) - len(piece.text.lstrip(" ")))
        drawn = Text(start, baseline - piece.rise, letters, piece.font, piece.fill, link=piece.link)
        shapes.append(drawn)
        if piece.is_underlined:
            shapes.append(_underline(drawn, piece.saying(letters)))
    return shapes


def _sign_drawn(row: _Row, x: float, baseline: float, manner: Manner) -> Text:
    """The sign of an item hangs before its first line, wherever that begins."""
    gap = 0.45 * manner.font.size
    wide = text_width(row.sign, manner.font)
    at = x - gap - wide if row.line.rightwards else x + row.line.width + gap
    return Text(at, baseline, row.sign, manner.font, manner.ink)


def _underline(text: Text, piece: Piece) -> Line:
    y = text.y + _UNDERLINE * piece.font.size
    return Line(text.x, y, text.x + piece.width, y, piece.fill, max(1.0, piece.font.size / 16))
