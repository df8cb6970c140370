"""The margin of a tile of entries: what is typed, or which rows of which table are told."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any

from django.utils.safestring import SafeString

from ypsil.core.drawing.signs import sign_label
from ypsil.core.report import ReportBody
from ypsil.core.tables.conditions import Filter
from ypsil.core.tables.shown_names import in_words
from ypsil.core.tiles import ToldTile
from ypsil.core.tiles.told.entries import MOST_ENTRIES, Entry, Feed
from ypsil.core.tiles.told.feeding import propose_feed
from ypsil.web.compose.figures import tables_at_hand
from ypsil.web.compose.models import Report
from ypsil.web.compose.services import page_of
from ypsil.web.compose.signs import sign_markup
from ypsil.web.gather.services import pictures_of

_SIGN_PX = 20
# So many values of a column can be chosen from.
MOST_VALUES = 40


@dataclass(frozen=True, slots=True)
class TypedEntry:
    """An entry as it is typed: its place (from 1), what it holds, and what its sign looks like and is called."""

    place: int
    entry: Entry
    drawing: SafeString
    sign_said: str


@dataclass(frozen=True, slots=True)
class FeedField:
    """Which column says something: its field of the feed, how that is called, and the columns, each with whether it
    is chosen."""

    name: str
    label: str
    choices: list[tuple[str, str, bool]]


def told_context(found: Report, document: ReportBody, tile: ToldTile) -> dict[str, Any]:
    """Return what its margin shows: its entries as rows of fields, and the tables that could be told in their place."""
    tables = tables_at_hand(found, document)
    pictures = {kept.name: kept.label for kept in pictures_of(found.owner)}
    entries = [
        TypedEntry(place, entry, sign_markup(entry.sign, _SIGN_PX), pictures.get(entry.sign, sign_label(entry.sign)))
        for place, entry in enumerate(tile.entries, start=1)
    ]
    kind = type(tile)
    view = next(view for view in page_of(found).tiles() if view.tile.id == tile.id)
    proposals = []
    for at_hand, table in tables:
        feed = propose_feed(kind, at_hand.uid, table.columns)
        if feed is not None:
            proposals.append((at_hand.uid, at_hand.name, _edit(tile, feed)))
    return {
        "told": tile,
        "tight": view.scene.hints,
        "entries": entries,
        "most_entries": MOST_ENTRIES,
        "proposals": proposals,
        "type_instead": json.dumps({"type": "change_tile", "tile": tile.id, "changes": {"feed": None}}),
        "feed_json": "" if tile.feed is None else tile.feed.model_dump_json(),
        "feed_fields": _feed_fields(tile, tables),
        "feed_rows": _feed_rows(tile, tables),
    }


def _edit(tile: ToldTile, feed: Feed) -> str:
    changes = {"feed": feed.model_dump(mode="json")}
    return json.dumps({"type": "change_tile", "tile": tile.id, "changes": changes})


def _feed_rows(tile: ToldTile, tables: Any) -> list[tuple[str, list[tuple[str, str, bool]]]]:
    """Return which rows alone could be told: for each column with labels its values, each as a condition, with
    whether it is the present one. What was set otherwise stands by itself."""
    feed = tile.feed
    found = next((one for one, _ in tables if feed and one.uid == feed.table), None)
    if feed is None or found is None:
        return []
    groups, is_known = [], not feed.where
    for column in found.profile.columns:
        values = found.profile.values.get(column.name, ())[:MOST_VALUES]
        conditions = [(Filter(column=column.name, test="in", values=(value,)), value) for value in values]
        is_known = is_known or any(feed.where == (one,) for one, _ in conditions)
        if conditions:
            shown = [(_as_json((one,)), said, feed.where == (one,)) for one, said in conditions]
            groups.append((column.shown or in_words(column.name), shown))
    if not is_known:
        groups.insert(0, ("as it was set", [(_as_json(feed.where), "some rows", True)]))
    return groups


def _as_json(where: tuple[Filter, ...]) -> str:
    return json.dumps([one.model_dump(mode="json", exclude_defaults=True) for one in where])


def _feed_fields(tile: ToldTile, tables: Any) -> list[FeedField]:
    """Return which columns of the table say what; nothing where its table is gone."""
    feed = tile.feed
    columns = next((table.columns for at_hand, table in tables if feed and at_hand.uid == feed.table), ())
    if feed is None or not columns:
        return []
    asked = [("head", f"Each {tile.entry_is} is"), ("text", tile.text_is)]
    if tile.figure_is:
        asked.append(("figure", tile.figure_is))
    if tile.figure_is == "When":
        asked.append(("until", "Until"))
    if tile.has_signs:
        asked.append(("sign", "Its icon is named in"))
    asked.append(("by", "In the order of"))
    names = [("", "none"), *((one.name, one.shown or in_words(one.name)) for one in columns)]
    return [
        FeedField(
            name,
            label,
            [(value, said, value == getattr(feed, name)) for value, said in names if value or name != "head"],
        )
        for name, label in asked
    ]
