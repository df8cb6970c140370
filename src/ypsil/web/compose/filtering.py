"""Filters in the editor: what readers could choose by, and which tiles listen."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any

from ypsil.core.choosing import way_of
from ypsil.core.report import ReportBody
from ypsil.core.tables.model import Column
from ypsil.core.tables.profile import Profile
from ypsil.core.tables.shown_names import in_words
from ypsil.core.tiles import AnyTile, Offer, as_filter
from ypsil.web.compose.figures import tables_at_hand
from ypsil.web.compose.models import Report

# A column of more names is one of names of their own, by which nobody filters first.
_FEW_NAMES = 40
_MOST_OFFERED = 8


@dataclass(frozen=True, slots=True)
class Listener:
    """A tile that a filter can narrow: what it is called, whether it listens, and the edit that changes that."""

    id: str
    label: str
    listens: bool
    edit: str


def filters_offered(found: Report, document: ReportBody) -> list[Offer]:
    """Return filters by the columns of the report's tables, those that many tiles could listen to first."""
    used = document.tables()
    offers = []
    for at_hand, table in tables_at_hand(found, document):
        if used and at_hand.uid not in used:
            continue
        for column in table.columns:
            hint = _hint(column, at_hand.profile)
            if hint:
                content = {"table": at_hand.uid, "column": column.name, "way": way_of(column)}
                name = column.shown or in_words(column.name)
                sample = {"title": name, "column": ""}
                offers.append(Offer(f"Filter by {name}", content, hint, sample=sample, sample_height=90.0))
    return offers[:_MOST_OFFERED]


def _hint(column: Column, profile: Profile) -> str:
    way = way_of(column)
    if way == "values":
        count = 2 if column.kind == "yesno" else column.distinct
        return f"readers choose among {count} names" if 2 <= count <= _FEW_NAMES else ""
    ends = profile.ends.get(column.name)
    if way is None or ends is None or ends[0] == ends[1]:
        return ""
    return "readers choose a period" if way == "period" else "readers choose from – to"


def filter_context(found: Report, document: ReportBody, tile: AnyTile) -> dict[str, Any]:
    """Return what the margin of a filter shows: the columns there are, and the tiles that could listen."""
    present = as_filter(tile)
    if present is None:
        return {}
    groups, is_there = [], False
    for at_hand, table in tables_at_hand(found, document):
        choices = []
        for column in table.columns:
            way = way_of(column)
            if way is None:
                continue
            is_now = (at_hand.uid, column.name) == (present.table, present.column)
            is_there = is_there or is_now
            changes = {"table": at_hand.uid, "column": column.name, "way": way}
            choices.append((_edit(tile, changes), column.shown or in_words(column.name), is_now))
        groups.append((at_hand.name, choices))
    return {"by_columns": groups, "is_by_none": not is_there, "listeners": _listeners(document, tile, present.spares)}


def _listeners(document: ReportBody, tile: AnyTile, spares: tuple[str, ...]) -> list[Listener]:
    found = []
    present = as_filter(tile)
    own = next((band for band in document.bands if any(one.id == tile.id for one in band.shown())), None)
    near = own.shown() if own is not None and present is not None and present.reach == "band" else document.tiles()
    for other in near:
        if other.id == tile.id or other.chooses() is not None or not other.questions():
            continue
        listens = other.id not in spares
        others = [one for one in spares if one != other.id]
        edit = _edit(tile, {"spares": [*others, other.id] if listens else others})
        found.append(Listener(other.id, other.label(), listens, edit))
    return found


def _edit(tile: AnyTile, changes: dict[str, Any]) -> str:
    return json.dumps({"type": "change_tile", "tile": tile.id, "changes": changes})
