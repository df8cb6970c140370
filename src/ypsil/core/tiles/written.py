"""What tiles say in words: prose set in the type of a role, with its live figures worked out."""

from __future__ import annotations

import hashlib
import logging
from dataclasses import dataclass

import polars as pl

from ypsil.core.document.page_formats import LEAST_PART
from ypsil.core.drawing.scene import Scene
from ypsil.core.prose.model import LiveFigure, Prose, Run, TextColour
from ypsil.core.prose.said import MISSING, Said, read_on, remembered, say
from ypsil.core.prose.setting import (
    Align,
    Manner,
    Paragraph,
    colour_of,
    fitted,
    height_of,
    paragraphs_of,
    shapes_of,
)
from ypsil.core.tiles.context import Context
from ypsil.core.visuals import Box

_log = logging.getLogger(__name__)


@dataclass(frozen=True, slots=True)
class Written:
    """What a tile says in words: the role that its type is set in and how many times as large, whether it stands back,
    whether somebody types it there (by one press, or by a second one), whether its type gives way where there is
    little room, and the numbers of the sources that it points to."""

    prose: Prose
    role: str
    is_quiet: bool = False
    is_typed: bool = False
    is_at_once: bool = True
    align: Align = "start"
    colour: TextColour = ""
    columns: int = 1
    scale: float = 1.0
    is_fitted: bool = False
    points: str = ""

    @property
    def text(self) -> str:
        """Its words, with a sign where a live figure stands."""
        return self.prose.plain()

    def said(self, context: Context) -> tuple[Said, ...]:
        """Return what its live figures say, in reading order."""
        return tuple(figure_said(figure, context) for figure in self.prose.figures())

    def spoken(self, context: Context) -> str:
        """Return its words with its live figures in words."""
        return self.prose.plain(tuple(one.text for one in self.said(context)))

    def problem(self, context: Context) -> str:
        """Return in words why a live figure of it cannot be worked out; nothing where all of them can."""
        reasons = dict.fromkeys(one.problem for one in self.said(context) if one.problem)
        return f"A live figure cannot be worked out: {'; '.join(reasons)}." if reasons else ""

    def height(self, width: float, context: Context) -> float:
        """Return the height in px that its lines cannot do without at a width."""
        manner = self._manner(context)
        return height_of(self._shown, self._words(context), width, self._smallest(manner, context))

    def scene(self, box: Box, context: Context) -> Scene:
        """Return its lines as a drawing."""
        manner, words = self._fitted(box, context), self._words(context)
        return Scene(box.width, box.height, shapes_of(self._shown, words, box.width, manner))

    def paragraphs(self, box: Box, context: Context) -> tuple[Manner, tuple[Paragraph, ...]]:
        """Return how it is set in a room, and its paragraphs, not broken into lines."""
        manner = self._fitted(box, context)
        return manner, tuple(paragraphs_of(self._shown, self._words(context), manner))

    @property
    def _shown(self) -> Prose:
        """Its words with the numbers of its sources behind the last."""
        if not self.points or not self.prose.blocks:
            return self.prose
        *others, last = self.prose.blocks
        number = Run(text=f"\N{WORD JOINER}{self.points}", looks=("above",))
        return Prose(blocks=(*others, last.model_copy(update={"runs": (*last.runs, number)})))

    def _words(self, context: Context) -> list[str]:
        return [one.text for one in self.said(context)]

    def _manner(self, context: Context) -> Manner:
        own = context.font(self.role)
        font = own.sized(max(round(own.size * self.scale, 3), LEAST_PART * context.page.text_size))
        ink = colour_of("quiet" if self.is_quiet else self.colour, context.style)
        return Manner(font, ink, context.style, self.align, self.columns)

    def _fitted(self, box: Box, context: Context) -> Manner:
        manner = self._manner(context)
        if not self.is_fitted:
            return manner
        least = self._smallest(manner, context).font.size
        return fitted(self._shown, self._words(context), box.width, box.height, manner, least)

    def _smallest(self, manner: Manner, context: Context) -> Manner:
        """Return the manner in the least type that it may be set in."""
        return manner.sized(LEAST_PART * context.page.text_size) if self.is_fitted else manner


def figure_said(figure: LiveFigure, context: Context) -> Said:
    """Return what a live figure says with the tables and filters of a page."""
    table = context.tables.get(figure.table)
    if table is None:
        return Said(MISSING, problem="its table is no longer there")
    if figure.take == "read":
        return read_on(table.read, context.locale)
    narrowed = [context.narrowed(figure.table, question) for question in figure.questions()]
    parts = (table.key, context.locale, figure.model_dump_json(), *(question.digest() for question in narrowed))
    key = hashlib.sha256("\0".join(parts).encode()).hexdigest()

    def made() -> Said:
        try:
            return say(figure, lambda asked: table.answer(context.narrowed(figure.table, asked)), context.locale)
        except (Exception, pl.exceptions.PanicException):
            # Whatever is wrong with one figure must not take the page with it.
            _log.exception("a live figure could not be worked out")
            return Said(MISSING, problem="something about its question goes wrong here")

    return remembered(key, made)
