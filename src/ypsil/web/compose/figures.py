"""Live figures in the editor: what could be meant, what each says now, and how it is written."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from ypsil.core.errors import EditRefused
from ypsil.core.prose import LiveFigure, Said, told
from ypsil.core.render import context_of
from ypsil.core.report import ReportBody
from ypsil.core.report.wanted import AtHand, typed_numbers, understood, with_figure
from ypsil.core.tiles import Context, ReportTable, TypedTile
from ypsil.core.tiles.written import figure_said
from ypsil.web.compose.models import Report
from ypsil.web.gather.services import current_preparation, profile_of, report_table, tables_of

MOST_TABLES, MOST_ANSWERING = 60, 8
MOST_LETTERS = 200
MOST_MEANT, MOST_OFFERED = 24, 8


@dataclass(frozen=True, slots=True)
class OfferedFigure:
    """A live figure that can be taken: as data, what it says now, what it is, how it was understood."""

    data: str
    said: Said
    sentence: str
    table: str
    heard: tuple[tuple[str, str], ...] = ()
    assumed: tuple[str, ...] = ()
    unheard: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class OfferedNumber:
    """A number that was typed by hand, and the edit that makes it a live figure."""

    text: str
    sentence: str
    table: str
    edit: str


def tables_at_hand(report: Report, body: ReportBody) -> list[tuple[AtHand, ReportTable]]:
    """Return the tables that wishes may be about, those that the report uses first."""
    used = body.tables()
    tables = [table for table in tables_of(report.owner) if table.current is not None]
    tables.sort(key=lambda table: used.index(table.uid) if table.uid in used else len(used))
    found = []
    for table in tables[:MOST_TABLES]:
        preparation = current_preparation(table)
        if preparation is not None:
            asked = report_table(table, preparation)
            found.append((AtHand(table.uid, table.name, profile_of(preparation)), asked))
    return found


def has_tables(report: Report) -> bool:
    """Tell whether there is any table that a figure could be worked out from."""
    return any(table.current is not None for table in tables_of(report.owner))


def figures_for(report: Report, wanted: str) -> list[OfferedFigure]:
    """Return the live figures that some words may mean, with what each says on the report's page."""
    body = report.read()
    tables = tables_at_hand(report, body)
    context = context_of(body, {at_hand.uid: table for at_hand, table in tables})
    found = [
        OfferedFigure(
            one.figure.model_dump_json(exclude_defaults=True),
            figure_said(one.figure, context),
            one.sentence,
            one.table,
            one.heard,
            one.assumed,
            one.unheard,
        )
        for one in understood(wanted[:MOST_LETTERS], [at_hand for at_hand, _ in tables], MOST_MEANT)
    ]
    # What no table can say stands last.
    return sorted(found, key=lambda one: bool(one.said.problem))[:MOST_OFFERED]


def figure_from(data: Any, changes: Any) -> LiveFigure:
    """Return a live figure with some of what it is changed; raises EditRefused for what is none."""
    if not isinstance(data, dict) or not isinstance(changes, dict):
        raise EditRefused("this is no live figure", remedy="choose one anew")
    try:
        return LiveFigure.model_validate({**data, **changes})
    except ValidationError as problem:
        first = problem.errors()[0]
        where = ".".join(str(part) for part in first["loc"])
        message = str(first["msg"]).removeprefix("Value error, ")
        raise EditRefused(message, where=where, remedy="change that value") from None


def offered(figure: LiveFigure, report: Report) -> OfferedFigure:
    """Return a live figure as it is now on the report's page."""
    body = report.read()
    tables = {at_hand.uid: (at_hand, table) for at_hand, table in tables_at_hand(report, body)}
    context = context_of(body, {uid: table for uid, (_, table) in tables.items()})
    name = tables[figure.table][0].name if figure.table in tables else ""
    data = figure.model_dump_json(exclude_defaults=True)
    return OfferedFigure(data, figure_said(figure, context), told(figure), name)


def figures_in(tile: TypedTile, context: Context, names: dict[str, str]) -> list[OfferedFigure]:
    """Return the live figures of a text, each with what it says."""
    return [
        OfferedFigure("", figure_said(figure, context), told(figure), names.get(figure.table, ""))
        for figure in tile.prose.figures()
    ]


def numbers_typed(tile: TypedTile, tables: list[tuple[AtHand, ReportTable]], locale: str) -> list[OfferedNumber]:
    """Return the numbers of a text that could be live figures."""
    found = []
    for typed in typed_numbers(tile.prose, tables[:MOST_ANSWERING], locale):
        text = with_figure(tile.prose, typed).model_dump(mode="json", exclude_defaults=True)
        edit = {"type": "change_tile", "tile": tile.id, "changes": {"text": text}}
        found.append(OfferedNumber(typed.text, typed.sentence, typed.table, json.dumps(edit)))
    return found
