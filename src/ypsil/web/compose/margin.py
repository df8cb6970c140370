"""The margin beside the page: a chosen tile's sentence, its looks, and the numbers behind it."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Any

from ypsil.core.questions.model import Question
from ypsil.core.questions.offered import Blank, Choice, choices, offers
from ypsil.core.questions.sentence import sentence_parts
from ypsil.core.report.document import VisualTile
from ypsil.core.report.suggest import tile_for
from ypsil.core.tables import Profile
from ypsil.core.visuals import VISUALS, fit, visual


@dataclass(frozen=True, slots=True)
class Item:
    """A line of a word's menu and the edit it makes, once its blanks are filled in."""

    label: str
    edit: str
    current: bool = False
    faint: bool = False
    reason: str = ""
    blanks: tuple[dict[str, str], ...] = ()


@dataclass(frozen=True, slots=True)
class Word:
    """A piece of the sentence: fixed text, or a word with a menu."""

    text: str
    items: list[Item]


@dataclass(frozen=True, slots=True)
class OptionField:
    name: str
    label: str
    help: str
    input: str
    value: Any
    choices: list[str]


def sentence_words(tile: VisualTile, profile: Profile, answer: Any) -> list[Word]:
    """Return the sentence of a tile in pieces; the last word is the visual."""
    words = [
        Word(part.text, _items(tile, choices(tile.question, part.slot, profile)) if part.slot else [])
        for part in sentence_parts(tile.question)
    ]
    return [*words, Word(", as ", []), Word(visual(tile.visual).label.lower(), _visual_items(tile, answer))]


def offered_words(tile: VisualTile, profile: Profile) -> list[Word]:
    """Return the words that can be added to the sentence."""
    return [Word(offer.text, _items(tile, list(offer.choices))) for offer in offers(tile.question, profile)]


def option_fields(tile: VisualTile) -> list[OptionField]:
    """Return the fields of the visual's options, made from its model."""
    entry = visual(tile.visual)
    present = entry.options.model_validate(tile.options)
    fields = []
    for name, schema in entry.options.model_json_schema().get("properties", {}).items():
        fields.append(
            OptionField(
                name,
                schema.get("title", name),
                schema.get("description", ""),
                _input_type(schema),
                getattr(present, name),
                [str(value) for value in schema.get("enum", [])],
            )
        )
    return fields


def _input_type(schema: dict[str, Any]) -> str:
    if "enum" in schema:
        return "select"
    return {"boolean": "checkbox", "integer": "integer", "number": "number"}.get(schema.get("type", ""), "text")


def _items(tile: VisualTile, found: list[Choice]) -> list[Item]:
    return [
        Item(
            choice.label,
            _edit(tile, choice.question),
            choice.current,
            blanks=tuple(_blank(blank) for blank in choice.blanks),
        )
        for choice in found
    ]


def _blank(blank: Blank) -> dict[str, str]:
    path = json.dumps(["changes", "question", *blank.path])
    return {"label": blank.label, "kind": blank.kind, "value": blank.value, "path": path}


def _edit(tile: VisualTile, question: Question) -> str:
    """Return the edit that gives a tile another question; a title that said the old one follows."""
    changes: dict[str, Any] = {"question": question.model_dump(mode="json", exclude_defaults=True)}
    name = tile.visual
    if question.per and question.per[0].by == "word" and name not in ("cloud", "bar"):
        name = "cloud"
    elif name == "cloud" and not (question.per and question.per[0].by == "word"):
        name = "column" if question.per else "kpi"
    if name != tile.visual:
        changes |= {"visual": name, "options": {}}
    usual, new = tile_for(tile.table, tile.question, tile.visual), tile_for(tile.table, question, name)
    if tile.title == usual.title and new.title != tile.title:
        changes["title"] = new.title
    if tile.options.get("label") == usual.options.get("label") and new.options != usual.options:
        changes["options"] = ({} if name != tile.visual else tile.options) | new.options
    return json.dumps({"type": "change_tile", "tile": tile.id, "changes": changes})


def _visual_items(tile: VisualTile, answer: Any) -> list[Item]:
    items = []
    for entry in VISUALS.values():
        found = fit(entry, answer) if answer is not None else None
        fitting = tile_for(tile.table, tile.question, entry.name)
        # A figure carries its own label, a chart a title.
        title = "" if entry.name in ("kpi", "ring") else tile.title or fitting.title
        changes = {"visual": entry.name, "options": fitting.options, "title": title}
        edit = json.dumps({"type": "change_tile", "tile": tile.id, "changes": changes})
        faint = found is not None and not found.fits
        reason = found.reason if found else ""
        items.append(Item(entry.label, edit, entry.name == tile.visual, faint, reason))
    return sorted(items, key=lambda item: item.faint)


def all_options_json(tile: VisualTile) -> str:
    return json.dumps(tile.options)
