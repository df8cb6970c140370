"""Visual: the answer to a question of a table, drawn."""

from __future__ import annotations

import hashlib
import json
import logging
from dataclasses import replace
from typing import Any, Literal, Self

import polars as pl
from pydantic import Field

from ypsil.core.choosing import Chosen
from ypsil.core.drawing.pictures import is_picture_name
from ypsil.core.drawing.scene import Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.errors import YpsilError
from ypsil.core.fields import fields_of
from ypsil.core.questions.model import Question
from ypsil.core.questions.sentence import sentence
from ypsil.core.style.house import HouseStyle
from ypsil.core.tiles.asked_table import ReportTable
from ypsil.core.tiles.base import Asked, TileKind, waiting
from ypsil.core.tiles.context import Charted, Context, Drawn
from ypsil.core.visuals import Box, checked_options, draw, native, visual
from ypsil.core.visuals.shared.footnotes import NOTE_PX, NOTES_PX

# The size of type that visuals are drawn for; on a page of another they are drawn larger or smaller as a whole.
_TYPE_PX = 17.0
_LEAST_PX = 40.0
_NEARLY_PX = 0.01
_PLAIN = 400
_BROKEN = "This cannot be drawn: something about its question goes wrong here. Ask it differently, or take it away."
_log = logging.getLogger(__name__)


class VisualTile(TileKind):
    type: Literal["visual"] = "visual"
    table: str
    question: Question
    visual: str
    options: dict[str, Any] = Field(default_factory=dict)
    title: str = Field("", max_length=500)
    alt: str = Field("", max_length=2_000, description="stands for the drawing; left out: written from the data")

    def usual_size(self) -> tuple[int, int]:
        return visual(self.visual).default_size

    def takes_picture(self) -> bool:
        return bool(fields_of(visual(self.visual).options).get("picture", {}).get("shows") == "picture")

    def filled(self, picture: str, aspect: float) -> Self:
        return self.model_copy(update={"options": self.options | {"picture": picture}})

    def asks(self) -> Asked:
        return Asked(self.table, self.question)

    def key(self, box: Box, context: Context) -> str:
        """Return a digest of all that its drawing is made from; nothing where it may not be remembered: without its
        table, or without a picture, which may come back and of which others are to know nothing."""
        table = context.tables.get(self.table)
        if table is None or not all(name in context.pictures for name in self.pictures()):
            return ""
        parts = [
            table.key,
            context.locale,
            self._asked(context).digest(),
            *self._chosen_here(context),
            self.visual,
            json.dumps(self.options, sort_keys=True),
            self.title,
            self.alt,
            f"{box.width}x{box.height} {context.page.text_size}",
            context.style.digest(),
        ]
        return hashlib.sha256("\0".join(parts).encode()).hexdigest()

    def narrow_height(self, width: float, wide: Box, context: Context) -> float:
        # A figure alone needs no more height than it has; what is read off axes does.
        least = width * 0.75 if visual(self.visual).is_titled else _LEAST_PX
        return max(least, min(wide.height, width * 1.25)) if wide.width > width else 0.0

    def fetches(self, box: Box, context: Context) -> int:
        table = context.tables.get(self.table)
        if table is None or ((key := self.key(box, context)) and key in context.memory):
            return 0
        for name in self.pictures():
            # Words that fill a picture look at its pixels.
            if name in context.pictures:
                context.pictures[name].fetch()
        try:
            return table.fetch(self._asked(context))
        except (Exception, pl.exceptions.PanicException):
            # What cannot be asked is said by the tile, when it is drawn.
            return 0

    def draws(self, box: Box, context: Context) -> Drawn:
        table = context.tables.get(self.table)
        if table is None:
            return waiting("This tile's table is no longer there. Choose another or remove the tile.", box, context)
        key = self.key(box, context)
        if not key:
            return self._drawn(box, table, context)
        found = context.memory.get(key)
        if found is None:
            found = replace(self._drawn(box, table, context), key=key)
            if not found.is_broken:
                # What went wrong may not do so again, such as for want of memory.
                context.memory.put(key, found)
        return found

    def _drawn(self, box: Box, table: ReportTable, context: Context) -> Drawn:
        zoom = context.page.zoom
        plain, chosen = Box(box.width / zoom, box.height / zoom), self._chosen_here(context)
        try:
            found = table.answer(self._asked(context)).written_in(context.locale)
            heading, height = _title_shapes(self.title, plain, context.style)
            room = Box(plain.width, max(_LEAST_PX, plain.height - height))
            options = self._standing_out(chosen)
            scene = draw(
                self.visual, found, options, room, context.style, locale=context.locale, pictures=context.pictures
            )
        except YpsilError as problem:
            return waiting(f"{table.name}: {problem.line()}.", box, context)
        except (Exception, pl.exceptions.PanicException):
            # Whatever is wrong with one tile must not take the page with it.
            _log.exception("the tile %s could not be drawn", self.id)
            return replace(waiting(_BROKEN, box, context), is_broken=True)
        moved = tuple(shape.moved(0, height) for shape in scene.shapes) if height else scene.shapes
        scene = replace(
            scene,
            width=plain.width,
            height=plain.height,
            shapes=(*heading, *moved),
            name=self.title or scene.name,
            description=self.alt or scene.description,
        )
        is_faded = bool(chosen) and options.get("emphasis") != chosen[0]
        return Drawn((scene.with_few(chosen, context.style.paper) if is_faded else scene).zoomed(zoom), found)

    def _standing_out(self, chosen: tuple[str, ...]) -> dict[str, Any]:
        """Return its options where readers chose some of its groups: these stand out, whatever else would."""
        if not chosen or "emphasis" not in visual(self.visual).options.model_fields:
            return self.options
        return self.options | {"emphasis": chosen[0] if len(chosen) == 1 else ""}

    def offers_marks(self) -> tuple[str, str]:
        per = self.question.per[0] if self.question.per else None
        return ("", "") if per is None or per.by in ("word", "row", "hour", "weekday") else (self.table, per.column)

    def _chosen_at_marks(self, context: Context) -> tuple[Chosen, ...]:
        """Return the choices of single ones of the groups that it shows: it shows all of them still, and these stand
        out."""
        table, name = self.offers_marks()
        column = next((one for one in context.tables[table].columns if one.name == name), None) if table else None
        return tuple(one for one in context.chosen if column and one.is_of_values and one.is_about(column))

    def _asked(self, context: Context) -> Question:
        own = self._chosen_at_marks(context)
        heard = tuple(one for one in context.chosen if one not in own)
        return replace(context, chosen=heard).narrowed(self.table, self.question)

    def _chosen_here(self, context: Context) -> tuple[str, ...]:
        """Return the groups that stand out, by what their marks are called."""
        return tuple(name for one in self._chosen_at_marks(context) for name in one.names())

    def charted(self, drawn: Drawn, context: Context) -> Charted | None:
        if drawn.answer is None or drawn.problem:
            return None
        scene, zoom = drawn.scene, context.page.zoom
        chart = native(
            self.visual,
            drawn.answer,
            self.options,
            scene,
            context.style,
            locale=context.locale,
            pictures=context.pictures,
        )
        if chart is None:
            return None
        heading, top = _title_shapes(self.title, Box(scene.width / zoom, scene.height / zoom), context.style)
        notes = tuple(
            text for text in scene.texts()[len(heading) :] if _is_note(text, scene.height, zoom, context.style)
        )
        foot = min((text.y - 1.5 * text.font.size for text in notes), default=scene.height)
        lines = tuple(text.zoomed(zoom) for text in heading if isinstance(text, Text))
        return Charted(chart, lines, notes, top * zoom, foot)

    def label(self) -> str:
        return self.title or sentence(self.question)

    def pictures(self) -> list[str]:
        return [value for value in self.options.values() if isinstance(value, str) and is_picture_name(value)]

    def check(self) -> None:
        checked_options(self.visual, self.options)


def _is_note(text: Text, height: float, zoom: float, style: HouseStyle) -> bool:
    """Tell whether a text is one of the lines below a drawing."""
    is_small = abs(text.font.size - NOTE_PX * zoom) < _NEARLY_PX and text.font.weight == _PLAIN
    return is_small and text.fill == style.muted and text.x == 0 and text.y > height - NOTES_PX * zoom


def _title_shapes(title: str, box: Box, style: HouseStyle) -> tuple[list[Shape], float]:
    if not title:
        return [], 0.0
    font = style.heading(_TYPE_PX)
    lines = wrap(title, box.width, font, most=3)
    shapes: list[Shape] = [
        Text(0, index * font.line_height + font.size, line, font, style.ink) for index, line in enumerate(lines)
    ]
    return shapes, len(lines) * font.line_height + 12
