"""Tiles that start from a few typed numbers: these become a table of their own, and are changed at the tile."""

from __future__ import annotations

import csv
import io
from typing import Any

from django.http import Http404

from ypsil.core.answers.model import Answer
from ypsil.core.errors import UnreadableFile, YpsilError
from ypsil.core.questions import Measure, Order, Per, Question
from ypsil.core.render import TileView, compose
from ypsil.core.report import Band, ReportTable, VisualTile
from ypsil.core.report.suggest import tile_for
from ypsil.core.tables.profile import profile
from ypsil.core.tables.read import read_table
from ypsil.core.tables.typed_cells import as_csv, as_text, cells_of, turned
from ypsil.core.tiles import as_visual
from ypsil.core.visuals import ranked
from ypsil.web.accounts.services import User
from ypsil.web.compose.edits import apply_edit
from ypsil.web.compose.models import Report
from ypsil.web.gather.actions.show_version import show_version
from ypsil.web.gather.actions.take_in import DataRequest, take_in
from ypsil.web.gather.services import TYPED_FILE, Table, content, pictures_named, table_for, tables_of

_MOST_SERIES = 4
EMPTY_CELLS = [[""] * 2] * 7
# Charts that say less of a few numbers than they promise.
_NOT_FIRST = ("kpi", "kpi_row", "table", "cloud")


def typed_cells(table: Table | None) -> list[list[str]] | None:
    """Return the typed cells of a table; None for a table that was not typed."""
    if table is None or table.current is None or table.current.file_name != TYPED_FILE:
        return None
    text = content(table.current.original_id).decode()
    return [*csv.reader(io.StringIO(text, newline=""))]


def typed_text(table: Table | None) -> str | None:
    """Return the typed cells of a table as text; None for a table that was not typed."""
    cells = typed_cells(table)
    return None if cells is None else as_text(cells)


def typed_tile(author: User, report: Report, tile_id: str) -> tuple[VisualTile, Table]:
    """Return a tile of typed numbers with its table; what is none is not there (404)."""
    tile = as_visual(report.read().tile(tile_id))
    if tile is None:
        raise Http404
    table = table_for(author, tile.table)
    if typed_text(table) is None:
        raise Http404
    return tile, table


def start(author: User, report: Report, text: str, visual: str = "") -> VisualTile:
    """Make a table of typed numbers and return the tile that suits them best, or a ``visual`` that was chosen and
    suits them; raises UnreadableFile."""
    return start_for(author, report.read().title, text, visual)


def start_for(author: User, title: str, text: str, visual: str = "") -> VisualTile:
    """Make a table of numbers that were typed for something of a title, as ``start`` does."""
    data = as_csv(cells_of(text))
    table = take_in(author, DataRequest(TYPED_FILE, data, name=_free_name(author, title))).table
    assert table is not None
    return _best_tile(table.uid, _as_report_table(data, table.name), visual)


def looks_for(text: str) -> dict[str, tuple[VisualTile, Answer]]:
    """Return the visuals that suit typed numbers, the best first, each with its tile and its answer; nothing is kept.
    Raises UnreadableFile."""
    table = _as_report_table(as_csv(cells_of(text)), TYPED_FILE)
    question = _question(table)
    answer = table.answer(question)
    return {entry.name: (tile_for("", question, entry.name), answer) for entry, fits in ranked(answer) if fits.fits}


def _free_name(author: User, title: str) -> str:
    taken = set(tables_of(author).values_list("name", flat=True))
    names = (f"Numbers for {title[:160]}" + (f" ({count})" if count > 1 else "") for count in range(1, 10_000))
    return next(name for name in names if name not in taken)


def _as_report_table(data: bytes, name: str) -> ReportTable:
    read = read_table(data, TYPED_FILE)
    return ReportTable(name, read.columns, lambda: read.frame, "typed", name)


def _best_tile(uid: str, table: ReportTable, wanted: str = "") -> VisualTile:
    """Return a tile that shows all the numbers by their names, in the order they were typed."""
    question = _question(table)
    fitting = [
        entry.name for entry, fits in ranked(table.answer(question)) if fits.fits or entry.name not in _NOT_FIRST
    ]
    best = wanted if wanted in fitting else next(name for name in fitting if name not in _NOT_FIRST)
    tile = tile_for(uid, question, best)
    # Numbers out of a text stand beside it, which says what they are.
    return tile.model_copy(update={"title": ""}) if wanted else tile


def _question(table: ReportTable) -> Question:
    """Return what asks for all the numbers by their names; raises UnreadableFile where there are none."""
    known = profile(table.frame(), table.columns)
    names = next((column for column in known.columns if column.kind != "number"), known.columns[0])
    numbers = [column for column in known.of("number") if column != names]
    if not numbers:
        raise UnreadableFile("nothing can be drawn from this", remedy="type a name and a number a line")
    measures = tuple(Measure(stat="sum", column=column.name) for column in numbers[:_MOST_SERIES])
    per = Per(column=names.name, by=known.grains.get(names.name) if names.kind == "date" else None)
    typed = tuple(str(name) for name in table.frame()[names.name].drop_nulls().unique(maintain_order=True))
    order = Order(by="given", values=typed) if names.kind == "category" else None
    return Question(measures=measures, per=(per,), order=order)


def turn(text: str) -> str:
    """Return typed text with its rows and columns swapped."""
    return as_text(turned(cells_of(text)))


def drawn(report: Report, tile: VisualTile, text: str) -> TileView:
    """Return the tile as it would be with the typed numbers, which are not kept."""
    table = _as_report_table(as_csv(cells_of(text)), "Numbers")
    shown = tile.model_copy(update=fitting_changes(tile, table))
    document = report.read()
    alone = document.model_copy(update={"bands": (Band(tiles=(shown,)),)})
    pictures = pictures_named(report.owner, alone.pictures())
    return compose(alone, {tile.table: table}, pictures=pictures).tiles()[0]


def fitting_changes(tile: VisualTile, table: ReportTable) -> dict[str, Any]:
    """Return what changes of a tile whose question has no answer any more, since the names were typed anew."""
    try:
        table.answer(tile.question)
    except YpsilError:
        best = _best_tile(tile.table, table)
        return {"question": best.question, "visual": best.visual, "options": best.options, "title": best.title}
    return {}


def keep(author: User, report: Report, tile: VisualTile, table: Table, text: str) -> Report:
    """Keep typed numbers as the table's next version, and the tile fitting to them; raises UnreadableFile."""
    data = as_csv(cells_of(text))
    changes = fitting_changes(tile, _as_report_table(data, table.name))
    take_in(author, DataRequest(TYPED_FILE, data, table.uid))
    table.refresh_from_db()
    if table.held is not None:
        # Whoever types other names at the tile has decided already.
        show_version(author, table.uid, table.held.number)
    if changes:
        plain = tile.model_copy(update=changes).model_dump(mode="json")
        edit = {"type": "change_tile", "tile": tile.id, "changes": {name: plain[name] for name in changes}}
        return apply_edit(report.pk, author, edit, report.revision)
    return report
