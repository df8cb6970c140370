"""The numbers in a text as small tables, and what could show each of them."""

from __future__ import annotations

from dataclasses import dataclass

from django.utils.safestring import SafeString, mark_safe

from ypsil.core.drawing import scene_markup
from ypsil.core.errors import YpsilError
from ypsil.core.numbers import Group, found_in
from ypsil.core.numbers.model import SHARE
from ypsil.core.style import HouseStyle
from ypsil.core.visuals import VISUALS, Box, draw
from ypsil.web.compose.typed_tiles import looks_for

_MOST_SHOWN, _MOST_LOOKS = 12, 4
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


def numbers_shown(text: str) -> tuple[list[Shown], int]:
    """Return the numbers of a text as they go together, each with what could show it, and how many more there are."""
    groups = [group for group in found_in(text).groups if group.kind not in ("steps", "dates")]
    shown = [_shown(group, text) for group in groups[:_MOST_SHOWN]]
    return shown, len(groups) - len(shown)


def _shown(group: Group, text: str) -> Shown:
    cells = [["What", _heading(group.unit)], *([str(name), _cell(value, group.unit)] for name, value in group.rows)]
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
