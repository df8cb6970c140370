"""Ranked list: places, names in full and values, with a thin bar below each."""

from __future__ import annotations

from dataclasses import dataclass

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import shorten
from ypsil.core.figures import format_number
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.grid import Grid, grid_of, texts_of
from ypsil.core.visuals.shared.legends import mark_colour
from ypsil.core.visuals.shared.settings import EmphasisOptions, NoteOptions, setting
from ypsil.core.visuals.shared.summary import describe

_ROW_PX = (17.0, 52.0)
_BAR_PX = 4.0
_LEAST_WITH_BARS_PX = 21.0


class RankedListOptions(EmphasisOptions, NoteOptions):
    bars: bool = setting(True, "A bar below each name", "Marks")


@dataclass(frozen=True, slots=True)
class _Place:
    """A row of the list: its place (the same for equal values), and where its group stands in the answer."""

    place: int
    index: int
    value: float


def draw(answer: Answer, options: RankedListOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw the groups from the highest down; those that find no room are counted at the foot."""
    grid = grid_of(answer)
    texts = texts_of(grid.series[0].values, grid.column, options)
    ranked = _ranked(grid)
    step = min(_ROW_PX[1], max(_ROW_PX[0], box.height / max(1, len(ranked))))
    fitting = max(1, int((box.height + 0.5) // step))
    shown = ranked if len(ranked) <= fitting else ranked[: fitting - 1]
    with_bars = options.bars and step >= _LEAST_WITH_BARS_PX
    font = style.body(min(16.0, step * (0.56 if with_bars else 0.72)))
    bold = style.body(font.size, bold=True)
    locale = options.in_locale
    number_room = text_width(format_number(max((one.place for one in shown), default=1), locale=locale), bold) + 12
    value_room = max((text_width(texts[one.index], bold) for one in shown), default=0) + 12
    highest = max([one.value for one in ranked], default=0.0)
    shapes: list[Shape] = []
    for row, one in enumerate(shown):
        name = grid.names[one.index]
        baseline = row * step + font.size * (1.0 if with_bars else 0.5) + (0 if with_bars else step / 2 - 2)
        colour = mark_colour(name, 0, 1, options.emphasis, style)
        written = shorten(name, box.width - number_room - value_room, font)
        title = grid.title(0, one.index, texts[one.index])
        ink = style.muted if colour == style.quiet else colour
        shapes.append(Text(number_room - 12, baseline, format_number(one.place, locale=locale), bold, ink, "end"))
        shapes.append(Text(number_room, baseline, written, font, style.ink, title=name if written != name else ""))
        shapes.append(Text(box.width, baseline, texts[one.index], bold, style.ink, "end"))
        if with_bars:
            top, whole = baseline + font.size * 0.32, box.width - number_room
            shapes.append(Rect(number_room, top, whole, _BAR_PX, style.grid, _BAR_PX / 2))
            long = whole * one.value / highest if highest > 0 else 0.0
            shapes.append(Rect(number_room, top, max(long, 0.5), _BAR_PX, colour, min(_BAR_PX, long) / 2, title))
    if len(shown) < len(ranked):
        more = f"and {format_number(len(ranked) - len(shown), locale=locale)} more"
        shapes.append(Text(number_room, len(shown) * step + font.size * 1.05, more, font, style.muted))
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, describe(answer, "Ranked list"))


def _ranked(grid: Grid) -> list[_Place]:
    """Return the groups that have a value from the highest down; equal values share a place, the next is left out."""
    values = [(value, index) for index, value in enumerate(grid.series[0].values) if value is not None]
    values.sort(key=lambda one: (-one[0], one[1]))
    found: list[_Place] = []
    for row, (value, index) in enumerate(values, 1):
        place = found[-1].place if found and found[-1].value == value else row
        found.append(_Place(place, index, value))
    return found


VISUAL = Visual(
    name="ranked_list",
    label="Ranked list",
    purposes=("who is biggest",),
    purpose="places, names and values, to be read like a league table",
    needs=Needs(groups=(2, 60), negative=False),
    options=RankedListOptions,
    draw=draw,
    advice=(
        rule(0.1, "periods have an order of their own", time=True),
        rule(0.1, "classes have an order of their own", classes=True),
        rule(0.64, "{groups} names with their places", groups=(3, 20)),
        rule(0.4, "{groups} names with their places"),
    ),
)
