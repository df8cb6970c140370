"""Tiles of somebody's own in a template, with another table in them."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any, get_args

from pydantic import BaseModel, ValidationError

from ypsil.core.draft import Subject
from ypsil.core.errors import YpsilError
from ypsil.core.figures import Grain
from ypsil.core.questions import Question, parse_question
from ypsil.core.report.amounts import natural_measure
from ypsil.core.report.suggest import tile_for
from ypsil.core.tables.profile import Profile
from ypsil.core.templates.model import CLASSES, GRAIN, GROUP, ROLE, patterns_in, roles_in
from ypsil.core.templates.roles import Casting
from ypsil.core.tiles import KINDS, AnyTile, VisualTile
from ypsil.core.tiles.told.entries import Feed
from ypsil.core.visuals import VISUALS, fit

# What shows an answer where the chosen visual cannot.
_INSTEAD = ("line", "bar", "column", "kpi", "table")
_GRAINS = get_args(Grain)
# Settings that say how a visual looks whatever its table holds: of a few words, or yes and no.
_LOOKS = ("enum", "const")


def opened(asked: Mapping[str, Any], roles: Mapping[str, str], profile: Profile) -> dict[str, Any] | None:
    """Return a question or the rows that a list tells, as JSON data, with ``@role`` for each column; a measure that is
    the natural one of its column is so for any, and so are the periods that a table has rows for.

    None where it cannot be asked of another table: it needs a column that plays no role.
    """
    needed = Feed.model_validate(asked).question() if "head" in asked else parse_question(asked)
    if any(text.startswith(ROLE) for text in _texts(asked)) or not set(needed.columns()) <= set(roles):
        return None
    made: dict[str, Any] = _opened(dict(asked), roles, profile)
    for name in Feed.model_fields if "head" in asked else ("weight",):
        if isinstance(asked.get(name), str) and asked[name] in roles and name != "table":
            made[name] = ROLE + roles[asked[name]]
    order = made.get("order")
    if isinstance(order, dict) and order.get("by") == "given":
        per = made["per"][0]["column"] if made.get("per") else ""
        made["order"] = {"given": per} if per.startswith(ROLE) and not made["per"][0].get("by") else None
    return made


def _opened(node: Any, roles: Mapping[str, str], profile: Profile) -> Any:
    if isinstance(node, list | tuple):
        return [_opened(one, roles, profile) for one in node]
    if not isinstance(node, dict):
        return node
    made = {name: _opened(value, roles, profile) for name, value in node.items() if name != "table"}
    if "columns" in node:
        made["columns"] = [ROLE + roles[one] if one in roles else one for one in node["columns"]]
    column = profile.column(node.get("column"))
    if column is None or column.name not in roles:
        return made
    made["column"] = ROLE + roles[column.name]
    if column.kind == "number" and not node.get("values") and node.get("stat") == natural_measure(column, profile).stat:
        made["stat"] = "natural"
    by = node.get("by")
    if isinstance(by, dict) and "width" in by:
        # So wide are classes for this table's values; another's are others.
        made["by"] = CLASSES
    elif by in _GRAINS and by == profile.grains.get(column.name):
        made["by"] = GRAIN
    return made


def _texts(node: Any) -> Iterator[str]:
    if isinstance(node, dict):
        node = list(node.values())
    if isinstance(node, list | tuple):
        for one in node:
            yield from _texts(one)
    elif isinstance(node, str):
        yield node


def looks_of(visual: str, options: Mapping[str, Any]) -> dict[str, Any]:
    """Return the settings of a visual that are the same whatever it shows: no words, names or amounts of a table."""
    fields = VISUALS[visual].options.model_json_schema().get("properties", {}) if visual in VISUALS else {}
    return {
        name: value
        for name, value in options.items()
        if isinstance(value, bool) or any(key in fields.get(name, {}) for key in _LOOKS)
    }


@dataclass(frozen=True, slots=True)
class Refilling:
    """A table for tiles of somebody's own."""

    casting: Casting

    @property
    def subject(self) -> Subject:
        return self.casting.subject

    def tile(self, content: Mapping[str, Any]) -> AnyTile | None:
        """Return a tile with the table in it; None where the table has nothing for it."""
        if not all(roles_in(pattern) <= set(self.casting.roles) for pattern in patterns_in(content)):
            return None
        try:
            if content["type"] == "visual":
                return self._visual(content)
            made = self._refilled(content)
            tile: AnyTile = KINDS[content["type"]].model_validate(made)
        except (YpsilError, ValidationError, KeyError):
            return None
        return tile if all(self._answers(one.question) for one in tile.questions()) else None

    def _visual(self, content: Mapping[str, Any]) -> VisualTile | None:
        question = parse_question(self._asked(content["question"]))
        if not self._answers(question):
            return None
        answer = self.subject.table.answer(question)
        names = [name for name in (content["visual"], *_INSTEAD) if name in VISUALS]
        shown = next((name for name in names if fit(VISUALS[name], answer).fits), None)
        if shown is None:
            return None
        tile = tile_for(self.subject.key, question, shown)
        options = content.get("options", {}) if shown == content["visual"] else {}
        kept = {name: value for name, value in content.items() if name not in ("question", "visual", "options")}
        made = tile.model_dump(mode="json") | kept | {"options": tile.options | options, "id": tile.id}
        return VisualTile.model_validate(made)

    def _refilled(self, node: Any, within: str = "") -> Any:
        """Return a tile's data with the table's columns in what it asks, and their names in its words."""
        if isinstance(node, list | tuple):
            return [self._refilled(one, within) for one in node]
        if isinstance(node, str):
            return self.casting.named(node) if within in ("text", "hint") else node
        if not isinstance(node, dict):
            return node
        made = {}
        for name, value in node.items():
            if name in ("question", "against") and isinstance(value, dict):
                made[name] = self._asked(value)
            elif name == "feed" and isinstance(value, dict):
                made[name] = {"table": self.subject.key, **self._asked(value)}
            else:
                made[name] = self._refilled(value, name)
        if "question" in made:
            made["table"] = self.subject.key
        return made

    def _asked(self, pattern: Mapping[str, Any]) -> Any:
        """Return what is asked of the table, about its own groups in the places of those that the template names."""
        asked = self.casting.resolved(pattern)
        groups = self.casting.renamed()
        column = self.casting.roles.get(GROUP)
        for node in [*asked.get("where", ()), *asked.get("measures", ())]:
            if node.get("column") == column and node.get("values"):
                node["values"] = [groups.get(value, value) for value in node["values"]]
        return asked

    def _answers(self, question: Question) -> bool:
        """Tell whether a table answers with something: a question after words that it does not hold would be answered
        by nought, which nobody measured."""
        if not all(self._holds(column, words) for column, words in words_asked_for(question)):
            return False
        try:
            return bool(self.subject.table.answer(question).height)
        except YpsilError:
            return False

    def _holds(self, column: str, words: set[str]) -> bool:
        frame = self.subject.table.frame()
        if column not in frame.columns:
            return True
        known = self.subject.profile.column(column)
        if known is not None and known.kind == "yesno":
            return True
        cells = frame[column].drop_nulls().unique()
        held = {str(one) for cell in cells for one in (cell if isinstance(cell, list) else (cell,))}
        return bool(words & held)


def words_asked_for(question: Question) -> Iterator[tuple[str, set[str]]]:
    """Yield the columns in which a question looks for some words, with those."""
    for part in (part for measure in question.measures for part in measure.parts()):
        if part.values and part.column is not None:
            yield part.column, set(part.values)
    for rule in question.where:
        if rule.test == "in":
            yield rule.column, {str(value) for value in rule.values}


def without_defaults(data: BaseModel) -> dict[str, Any]:
    """Return a model as JSON data that says only what is not as usual."""
    return data.model_dump(mode="json", exclude_defaults=True)
