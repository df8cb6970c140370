"""The numbers in a text as small tables, and what could show each of them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.utils.safestring import SafeString, mark_safe

from ypsil.core.drawing import scene_markup
from ypsil.core.errors import YpsilError
from ypsil.core.numbers import Group, found_in
from ypsil.core.numbers.model import SHARE
from ypsil.core.style import HouseStyle
from ypsil.core.tiles import KINDS, Context
from ypsil.core.tiles.told.entries import MOST_ENTRIES
from ypsil.core.visuals import VISUALS, Box, draw
from ypsil.web.compose.typed_tiles import looks_for

_MOST_SHOWN, _MOST_LOOKS = 12, 4
# The kinds of tiles that tell steps and dates.
TOLD = {"steps": "steps", "dates": "timeline"}
_MOST_HEAD, _TOLD_WIDTH = 300, 380.0
_LOOK_BOX = Box(300, 190)
_SAYS = {
    "comparison": "Compared", "parts": "Parts of a whole", "series": "One after the other", "change": "A change",
    "steps": "Steps", "dates": "What happened when", "single": "A number",
}  # fmt: skip
_MONEY = frozenset({"£", "$", "€", "¥", "₹"})


@dataclass(frozen=True, slots=True)
class Look:
    """A visual for some numbers, drawn with them."""

    visual: str
    label: str
    drawing: SafeString


@dataclass(frozen=True, slots=True)
class Shown:
    """Numbers that belong together: what they say, the words they stand in, their table to correct, their looks."""

    says: str
    words: str
    cells: list[list[str]]
    looks: list[Look]


@dataclass(frozen=True, slots=True)
class Told:
    """Steps or dates: what they are, the tile that tells them as JSON data, and how it looks."""

    says: str
    label: str
    content: dict[str, Any]
    drawing: SafeString


def numbers_shown(text: str) -> tuple[list[Shown], int]:
    """Return the numbers of a text as they go together, each with what could show it, and how many more there are."""
    groups = [group for group in found_in(text).groups if group.kind not in TOLD]
    shown = [shown_of(group, text) for group in groups[:_MOST_SHOWN]]
    return shown, len(groups) - len(shown)


def told_in(text: str) -> list[Told]:
    """Return the steps and the dates of a text, each as the tile that tells it."""
    return [told_of(group) for group in found_in(text).groups if group.kind in TOLD][:_MOST_SHOWN]


def told_of(group: Group, style: HouseStyle | None = None) -> Told:
    """Return steps or dates as the tile that tells them, drawn."""
    if group.kind == "steps":
        entries = [{"head": str(said)[:_MOST_HEAD]} for _, said in group.rows]
    else:
        entries = [{"head": str(said)[:_MOST_HEAD], "figure": when[:60]} for when, said in group.rows]
    name = TOLD[group.kind]
    content: dict[str, Any] = {"type": name, "entries": entries[:MOST_ENTRIES]}
    tile = KINDS[name].model_validate(content)
    context = Context(style=style or HouseStyle())
    height = max(tile.least_height(_TOLD_WIDTH, context), 60.0)
    scene = tile.draws(Box(_TOLD_WIDTH, height), context).scene
    markup = f'<svg viewBox="0 0 {scene.width:g} {scene.height:g}" aria-hidden="true">{scene_markup(scene)}</svg>'
    label = "a timeline" if group.kind == "dates" else "these steps"
    return Told(_SAYS[group.kind], label, content, mark_safe(markup))


def cells_of_group(group: Group) -> list[list[str]]:
    """Return numbers as the small table that somebody would type."""
    return [["What", _heading(group.unit)], *([str(name), _cell(value, group.unit)] for name, value in group.rows)]


def shown_of(group: Group, text: str) -> Shown:
    """Return numbers with what could show them."""
    cells = cells_of_group(group)
    return Shown(_SAYS[group.kind], text[group.start : group.end].strip()[:120], cells, _looks(group, cells))


def _heading(unit: str | None) -> str:
    return "Number" if unit is None or unit in ("%", SHARE) or unit in _MONEY else unit


def _cell(value: float | str, unit: str | None) -> str:
    """Return a value as somebody would type it."""
    if isinstance(value, str):
        return value
    if unit == SHARE:
        return f"{100 * value:.10g}%"
    said = f"{value:.12g}"
    return f"{said}%" if unit == "%" else f"{unit}{said}" if unit in _MONEY else said


def _looks(group: Group, cells: list[list[str]]) -> list[Look]:
    typed = "\n".join("\t".join(row) for row in cells)
    try:
        fitting = looks_for(typed)
    except YpsilError:
        return []
    wanted = [name for name in group.visuals if name in fitting] or list(fitting)
    found = []
    for name in wanted[:_MOST_LOOKS]:
        tile, answer = fitting[name]
        scene = draw(name, answer, tile.options, _LOOK_BOX, HouseStyle())
        markup = f'<svg viewBox="0 0 {scene.width:g} {scene.height:g}" aria-hidden="true">{scene_markup(scene)}</svg>'
        found.append(Look(name, VISUALS[name].label, mark_safe(markup)))
    return found
