"""From the document and its tables to a page of scenes."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Iterator, Mapping
from contextlib import suppress
from dataclasses import dataclass, field, replace

import polars as pl

from ypsil.core.cache import Cache
from ypsil.core.document.grid import settle
from ypsil.core.drawing.pictures import Picture, is_at_hand, pictures_at_hand
from ypsil.core.drawing.scene import Font, Scene, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.errors import YpsilError
from ypsil.core.figures import current_locale
from ypsil.core.questions import Filter, Question, answer, check
from ypsil.core.questions.model import Answer
from ypsil.core.questions.shared import SharedRows
from ypsil.core.questions.stacked import stacked_rows
from ypsil.core.questions.where import keep_rows
from ypsil.core.report.document import Band, Report
from ypsil.core.report.edits import place_of
from ypsil.core.report.grid import BAND_PADDING_ROWS, PAGE_WIDTH_PX, ROW_PX, left_px, width_px
from ypsil.core.style.house import HouseStyle
from ypsil.core.tables.model import Column
from ypsil.core.tables.side_by_side import for_each
from ypsil.core.tiles import AnyTile, Place, VisualTile, Written, as_visual
from ypsil.core.visuals import Box, draw
from ypsil.core.visuals.frame import message_scene

TEXT_PX = {"title": 42.0, "heading": 25.0, "body": 17.0, "note": 14.0}
_EMPTY_BAND_ROWS = 10
_TITLE_PX = 17.0
# What a phone of 390 px leaves beside the margins.
_NARROW_PX = 358.0


@dataclass(frozen=True, slots=True)
class ReportTable:
    """A table as a report sees it. ``frame`` is called only when a tile's answer is not remembered."""

    name: str
    columns: tuple[Column, ...]
    frame: Callable[[], pl.DataFrame]
    digest: str
    source: str
    _frames: list[pl.DataFrame] = field(default_factory=list, compare=False, repr=False)
    _shared: dict[tuple[Filter, ...], SharedRows] = field(default_factory=dict, compare=False, repr=False)
    _answers: dict[str, Answer] = field(default_factory=dict, compare=False, repr=False)

    def fetch(self, question: Question) -> int:
        """Get the rows that a question is about, so that answering needs nothing from outside; return their number.

        Rows are filtered once for all the tiles that share their filters. Raises as ``answer`` does.
        """
        check(self.columns, question)
        if not self._frames:
            self._frames.append(self.frame())
        frame = self._frames[0]
        # Filters of stacked columns may speak of columns that are there only once the others are stacked.
        if not question.stack:
            if question.row_rules not in self._shared:
                known = {column.name: column for column in self.columns}
                self._shared[question.row_rules] = SharedRows(keep_rows(frame, known, question.row_rules))
            self._shared[question.row_rules].expect(question)
        return frame.height

    def rows(self, question: Question) -> pl.DataFrame:
        """Return the rows that pass a question's filters, its columns below each other where it has some.

        Raises as ``answer`` does.
        """
        self.fetch(question)
        if question.stack:
            known = {column.name: column for column in self.columns}
            return stacked_rows(self._frames[0], known, question).frame
        return self._shared[question.row_rules].frame

    def answer(self, question: Question) -> Answer:
        """Answer a question, once for all the tiles that ask it. Raises MissingColumns or QuestionRefused."""
        key = question.digest()
        if key not in self._answers:
            if not self._frames or question.row_rules not in self._shared:
                self.fetch(question)
            shared = None if question.stack else self._shared[question.row_rules]
            self._answers[key] = answer(self._frames[0], self.columns, question, shared=shared)
        return self._answers[key]


@dataclass(frozen=True, slots=True)
class Drawn:
    """A drawn tile, with the answer behind it, or the reason why there is none. ``key`` names all that it was drawn
    from, where it is remembered."""

    scene: Scene
    answer: Answer | None = None
    problem: str = ""
    key: str = ""


@dataclass(frozen=True, slots=True)
class TileView:
    """A tile on the page: its place in the band, its corner and size in px from the page's corner."""

    tile: AnyTile
    place: Place
    x: float
    y: float
    drawn: Drawn

    @property
    def scene(self) -> Scene:
        return self.drawn.scene


@dataclass(frozen=True, slots=True)
class BandView:
    band: Band
    y: float
    rows: int
    tiles: tuple[TileView, ...]

    @property
    def height(self) -> float:
        return self.rows * ROW_PX


@dataclass(frozen=True, slots=True)
class Page:
    """The whole page, 1200 px wide."""

    report: Report
    height: float
    bands: tuple[BandView, ...]
    width: float = PAGE_WIDTH_PX
    pictures: Mapping[str, Picture] = field(default_factory=dict)

    def tiles(self) -> list[TileView]:
        return [tile for band in self.bands for tile in band.tiles]

    def problems(self) -> list[tuple[TileView, str]]:
        return [(tile, tile.drawn.problem) for tile in self.tiles() if tile.drawn.problem]


Memory = Cache[str, Drawn]
_SHAPE_BYTES = 300
_ONE_PAGE = 1 << 28


def drawings(most_bytes: int) -> Memory:
    """Return a memory for drawings."""
    return Cache("drawings", most_bytes, _bytes_of)


def _bytes_of(drawn: Drawn) -> int:
    rows = 0 if drawn.answer is None else drawn.answer.frame.estimated_size()
    return _SHAPE_BYTES * len(drawn.scene.shapes) + 2 * len(drawn.scene.description) + int(rows)


def compose(
    report: Report,
    tables: Mapping[str, ReportTable],
    memory: Memory | None = None,
    *,
    pictures: Mapping[str, Picture] | None = None,
) -> Page:
    """Draw every tile and lay the bands out; a tile that cannot be drawn says why, and the rest stands.

    ``memory`` keeps drawings by content: the same table version, tile, size and style are drawn once.
    ``pictures`` are those that tiles name.
    """
    memory = memory if memory is not None else drawings(_ONE_PAGE)
    bands = []
    y = 0.0
    with pictures_at_hand(pictures or {}):
        for band in report.bands:
            view = _band_view(band, y, report, tables, memory)
            bands.append(view)
            y += view.height
    return Page(report, y, tuple(bands), pictures=pictures or {})


def draw_narrow(page: Page, tables: Mapping[str, ReportTable], memory: Memory | None = None) -> dict[str, Drawn]:
    """Draw the visuals that are wider than a phone once more at a phone's width; by tile id."""
    memory = memory if memory is not None else drawings(_ONE_PAGE)
    wide: list[tuple[AnyTile, Box]] = [
        (view.tile, Box(_NARROW_PX, max(_NARROW_PX * 0.75, min(view.scene.height, _NARROW_PX * 1.25))))
        for view in page.tiles()
        if view.tile.asks() is not None and view.scene.width > _NARROW_PX
    ]
    with pictures_at_hand(page.pictures):
        every = list(_draw_each(wide, page.report, tables, memory))
    return {tile.id: drawn for (tile, _), drawn in zip(wide, every, strict=True)}


def _band_view(band: Band, y: float, report: Report, tables: Mapping[str, ReportTable], memory: Memory) -> BandView:
    sources = sources_text(report, tables)
    places = settle([_grown(tile, report, sources) for tile in band.tiles])
    boxes = [Box(width_px(place.width), place.height * ROW_PX) for place in places]
    tiles = []
    every = _draw_each(list(zip(band.tiles, boxes, strict=True)), report, tables, memory)
    for tile, place, drawn in zip(band.tiles, places, every, strict=True):
        top = y + (place.row + BAND_PADDING_ROWS) * ROW_PX
        tiles.append(TileView(tile, place, left_px(place.column), top, drawn))
    rows = max((place.row + place.height for place in places), default=_EMPTY_BAND_ROWS) + 2 * BAND_PADDING_ROWS
    return BandView(band, y, rows, tuple(tiles))


def _grown(tile: AnyTile, report: Report, sources: str) -> Place:
    """Return a tile's place, made higher where its text needs it."""
    place = place_of(tile)
    written = tile.writes(sources)
    if written is None:
        return place
    lines, font = _text_lines(written, width_px(place.width), report.style)
    needed = -int(-(len(lines) * font.line_height) // ROW_PX)
    return place.model_copy(update={"height": max(place.height, needed)})


def text_font(role: str, style: HouseStyle) -> Font:
    """Return the type that a text of a role is set in."""
    size = TEXT_PX[role]
    return style.heading(size) if role in ("title", "heading") else style.body(size)


def _text_lines(written: Written, width: float, style: HouseStyle) -> tuple[list[str], Font]:
    font = text_font(written.role, style)
    return wrap(written.text, width, font), font


def sources_text(report: Report, tables: Mapping[str, ReportTable]) -> str:
    """Return a line for each table that the report's tiles ask."""
    used = [tables[name].source for name in report.tables() if name in tables]
    heading = "Source: " if len(used) == 1 else "Sources: "
    return heading + "; ".join(used) + "." if used else ""


def _draw_each(
    tiles: list[tuple[AnyTile, Box]], report: Report, tables: Mapping[str, ReportTable], memory: Memory
) -> Iterator[Drawn]:
    """Draw tiles on several cores where their tables are long. All rows are fetched before, by this thread alone:
    where they come from is not for several at once."""
    longest = 0
    for tile, box in tiles:
        shown = as_visual(tile)
        table = tables.get(shown.table) if shown else None
        if shown is None or table is None:
            continue
        if _content_key(shown, box, report.style, table) not in memory:
            # What cannot be asked is said by the tile, when it is drawn.
            with suppress(YpsilError):
                longest = max(longest, table.fetch(shown.question))
    sources = sources_text(report, tables)
    return for_each(lambda pair: _draw(*pair, report, tables, memory, sources), tiles, longest)


def _draw(
    tile: AnyTile, box: Box, report: Report, tables: Mapping[str, ReportTable], memory: Memory, sources: str
) -> Drawn:
    written = tile.writes(sources)
    if written is not None:
        return Drawn(_text_scene(written, box, report.style))
    shown = as_visual(tile)
    if shown is None:
        return _waiting(tile.waits_for(), box, report)
    return _draw_asked(shown, box, report, tables, memory)


def _draw_asked(tile: VisualTile, box: Box, report: Report, tables: Mapping[str, ReportTable], memory: Memory) -> Drawn:
    table = tables.get(tile.table)
    if table is None:
        return _waiting("This tile's table is no longer there. Choose another or remove the tile.", box, report)
    if not all(is_at_hand(name) for name in tile.pictures()):
        # Not remembered: it may come back, and what others drew with it is not for this report.
        return _draw_visual(tile, box, report, table)
    key = _content_key(tile, box, report.style, table)
    return memory.get_or_make(key, lambda: replace(_draw_visual(tile, box, report, table), key=key))


def _content_key(tile: VisualTile, box: Box, style: HouseStyle, table: ReportTable) -> str:
    parts = [
        table.digest,
        # Rows may stay alike where kinds, orders or what is good change; a refusal says the table's name.
        table.name,
        repr(table.columns),
        current_locale(),
        tile.question.digest(),
        tile.visual,
        json.dumps(tile.options, sort_keys=True),
        tile.title,
        tile.alt,
        f"{box.width}x{box.height}",
        style.digest(),
    ]
    return hashlib.sha256("\0".join(parts).encode()).hexdigest()


def _draw_visual(tile: VisualTile, box: Box, report: Report, table: ReportTable) -> Drawn:
    try:
        found = table.answer(tile.question)
        heading = _title_shapes(tile.title, box, report.style)
        room = Box(box.width, max(40.0, box.height - heading[1]))
        scene = draw(tile.visual, found, tile.options, room, report.style)
    except YpsilError as problem:
        return _waiting(f"{table.name}: {problem.line()}.", box, report)
    scene = replace(scene, name=tile.title or scene.name, description=tile.alt or scene.description)
    return Drawn(_below(scene, heading, box), found)


def _waiting(message: str, box: Box, report: Report) -> Drawn:
    return Drawn(message_scene(message, box, report.style, "Waiting for data"), None, message)


def _title_shapes(title: str, box: Box, style: HouseStyle) -> tuple[list[Shape], float]:
    if not title:
        return [], 0.0
    font = style.heading(_TITLE_PX)
    lines = wrap(title, box.width, font, most=3)
    shapes: list[Shape] = [
        Text(0, index * font.line_height + font.size, line, font, style.ink) for index, line in enumerate(lines)
    ]
    return shapes, len(lines) * font.line_height + 12


def _below(scene: Scene, heading: tuple[list[Shape], float], box: Box) -> Scene:
    shapes, height = heading
    moved = tuple(shape.moved(0, height) for shape in scene.shapes) if height else scene.shapes
    return replace(scene, width=box.width, height=box.height, shapes=(*shapes, *moved))


def _text_scene(written: Written, box: Box, style: HouseStyle) -> Scene:
    lines, font = _text_lines(written, box.width, style)
    colour = style.muted if written.is_quiet else style.ink
    shapes = tuple(
        Text(0, index * font.line_height + font.size, line, font, colour) for index, line in enumerate(lines) if line
    )
    return Scene(box.width, box.height, shapes)
