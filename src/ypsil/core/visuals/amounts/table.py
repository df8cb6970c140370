"""Data table: the numbers themselves, with bars, shades or arrows in their cells."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import accumulate
from typing import Literal

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.drawing.colour import pale_under, readable_on
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Line, Path, Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import shorten
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.grid import grid_of, texts_of, texts_of_grid
from ypsil.core.visuals.shared.marks import part_mark
from ypsil.core.visuals.shared.settings import NumberOptions, setting
from ypsil.core.visuals.shared.shades import shade
from ypsil.core.visuals.shared.summary import describe, group_name

_ROW_PX = 25.0
_PAD_PX = 10.0
_MOST_SHARE_OF_NAMES = 0.45


class TableOptions(NumberOptions):
    cells: Literal["plain", "bars", "shades", "arrows"] = setting("bars", "In the cells", "Marks")
    total: bool = setting(True, "Row of totals, where sums have a meaning", "Numbers")


@dataclass(frozen=True, slots=True)
class _Column:
    name: str
    values: tuple[float | None, ...]
    texts: list[str]
    about: AnswerColumn


def draw(answer: Answer, options: TableOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw the answer's rows as far as they have room; how many more there are is said in the last line."""
    names, columns = _columns(answer, options)
    font, bold = style.body(LABEL_PX), style.body(LABEL_PX, bold=True)
    has_total = options.total and all(column.about.adds_up for column in columns) and len(columns[0].values) > 1
    room = int(box.height // _ROW_PX) - 1 - has_total
    count = len(columns[0].values)
    shown = count if count <= room else max(1, room - 1)
    lefts, widths = _places(names, columns, shown, box, style)
    shapes: list[Shape] = [Line(0, _ROW_PX - 1, box.width, _ROW_PX - 1, style.ink, 1.25)]
    for index, heading in enumerate([column.name for column in columns]):
        text = shorten(heading, widths[index + 1] - _PAD_PX, bold)
        end = lefts[index + 1] + widths[index + 1] - _PAD_PX / 2
        shapes.append(Text(end, _ROW_PX - 9, text, bold, style.ink, "end", heading, cell=(0, len(names) + index)))
    shapes += _names(names, shown, widths[0], style)
    for index, column in enumerate(columns):
        place = len(names) + index
        shapes += _cells(column, shown, lefts[index + 1], widths[index + 1], place, names, options, style)
    y = (shown + 1) * _ROW_PX
    if has_total:
        shapes.append(Line(0, y, box.width, y, style.ink, 1))
        shapes.append(Text(0, y + _ROW_PX - 8, "Total", bold, style.ink, cell=(shown + 1, 0)))
        for index, column in enumerate(columns):
            total = sum(value for value in column.values if value is not None)
            text = texts_of([total], column.about, options)[0]
            end = lefts[index + 1] + widths[index + 1] - _PAD_PX / 2
            cell = (shown + 1, len(names) + index)
            shapes.append(Text(end, y + _ROW_PX - 8, text, bold, style.ink, "end", cell=cell))
        y += _ROW_PX
    if shown < count:
        shapes.append(
            Text(0, min(y + _ROW_PX - 8, box.height - 3), f"and {count - shown:,} more rows", font, style.muted)
        )
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, describe(answer, "Table"))


def _columns(answer: Answer, options: TableOptions) -> tuple[list[list[str]], list[_Column]]:
    """Return the names of the rows (one list a grouping column) and the columns of numbers."""
    per, measures = answer.of("per"), answer.of("measure")
    if answer.of("split"):
        grid = grid_of(answer)
        written = texts_of_grid(grid, options)
        made = [
            _Column(one.name, one.values, texts, grid.column) for one, texts in zip(grid.series, written, strict=True)
        ]
        return [grid.names], made
    names = [[group_name(value, column) for value in answer.values(column)] for column in per]
    made = []
    for measure in measures:
        values = tuple(float(value) if isinstance(value, int | float) else None for value in answer.values(measure))
        made.append(_Column(measure.name, values, texts_of(answer.values(measure), measure, options), measure))
    return names or [[""]], made


def _places(
    names: list[list[str]], columns: list[_Column], shown: int, box: Box, style: HouseStyle
) -> tuple[list[float], list[float]]:
    font, bold = style.body(LABEL_PX), style.body(LABEL_PX, bold=True)
    named = [max((text_width(name, bold) for name in part[:shown]), default=0) + 2 * _PAD_PX for part in names]
    first = min(sum(named), _MOST_SHARE_OF_NAMES * box.width)
    wanted = [
        max(text_width(column.name, bold), *(text_width(text, font) for text in column.texts[:shown])) + 2 * _PAD_PX
        for column in columns
    ]
    room = box.width - first
    even = [max(want, room / len(columns)) for want in wanted]
    widths = [first, *(want * min(1.0, room / sum(even)) for want in even)]
    return [0.0, *accumulate(widths)][:-1], widths


def _names(names: list[list[str]], shown: int, width: float, style: HouseStyle) -> list[Shape]:
    """Return the rows' names; a first name that stands for several rows is written once, in bold."""
    font, bold = style.body(LABEL_PX), style.body(LABEL_PX, bold=True)
    needed = [max((text_width(name, bold) for name in part[:shown]), default=0) + 2 * _PAD_PX for part in names]
    widths = [one * width / (sum(needed) or 1.0) for one in needed]
    lefts = [0.0, *accumulate(widths)]
    shapes: list[Shape] = [
        Line(0, (row + 1) * _ROW_PX, width, (row + 1) * _ROW_PX, style.grid) for row in range(1, shown)
    ]
    for place, part in enumerate(names):
        is_group = place == 0 and len(names) > 1
        face = bold if is_group else font
        for row in range(shown):
            if is_group and row and part[row] == part[row - 1]:
                continue
            text = shorten(part[row], widths[place] - 6, face)
            cell = (row + 1, place)
            y = (row + 2) * _ROW_PX - 8
            shapes.append(Text(lefts[place], y, text, face, style.ink, title=part[row], cell=cell))
    return shapes


def _cells(
    column: _Column, shown: int, left: float, width: float, place: int, names: list[list[str]],
    options: TableOptions, style: HouseStyle,
) -> list[Shape]:  # fmt: skip
    present = [value for value in column.values if value is not None]
    low, high = min([0.0, *present]), max([0.0, *present])
    font = style.body(LABEL_PX)
    shapes: list[Shape] = []
    for row in range(shown):
        value, text = column.values[row], column.texts[row]
        top = (row + 1) * _ROW_PX
        ink = style.ink
        title = part_mark((*(part[row] for part in names), column.name), text)
        if row:
            shapes.append(Line(left, top, left + width, top, style.grid))
        if value is not None and options.cells == "bars" and high > low:
            length = (width - _PAD_PX) * abs(value) / max(high, -low)
            pale = pale_under(style.accent if value >= 0 else style.colour(1), style.paper, style.ink)
            shapes.append(
                Rect(left + width - _PAD_PX / 2 - length, top + 4, max(0.5, length), _ROW_PX - 8, pale, 0, title)
            )
        elif value is not None and options.cells == "shades":
            colour = shade(value, min(present), max(present), style)
            ink = readable_on(colour, style.ink, style.paper)
            shapes.append(Rect(left + 1, top + 1, width - 2, _ROW_PX - 2, colour, 0, title))
        elif value and options.cells == "arrows":
            shapes.append(
                _arrow(
                    left + width - _PAD_PX / 2 - text_width(text, font) - 14,
                    top + _ROW_PX / 2,
                    value > 0,
                    _arrow_colour(value, column.about, style),
                )
            )
        end = left + width - _PAD_PX / 2
        shapes.append(Text(end, top + _ROW_PX - 8, text, font, ink, "end", cell=(row + 1, place)))
    return shapes


def _arrow_colour(value: float, about: AnswerColumn, style: HouseStyle) -> str:
    """Return the colour of good or bad where somebody said which way is good."""
    if about.good is None:
        return style.muted
    return style.rise if (value > 0) == (about.good == "up") else style.fall


def _arrow(x: float, y: float, up: bool, colour: str) -> Path:
    tip, flat = (y - 5, y + 4) if up else (y + 5, y - 4)
    return Path(f"M{x:.1f} {flat:.1f}L{x + 9:.1f} {flat:.1f}L{x + 4.5:.1f} {tip:.1f}Z", fill=colour)


VISUAL = Visual(
    name="table",
    label="Table",
    purposes=("who is biggest", "how it changes", "what goes together"),
    purpose="the numbers themselves, to look up",
    needs=Needs(
        measures=(1, 8), per=(0, 3), split="any", groups=(1, MANY), series=(1, 12), one_unit=False, each_row="any"
    ),
    options=TableOptions,
    draw=draw,
    advice=(
        rule(0.1, "one number is better shown big", per=(0, 0)),
        rule(0.6, "{measures} measures beside each other, to look up", measures=(2, 8)),
        rule(0.42, "the numbers themselves, to look up", groups=(1, 40)),
        rule(0.3, "long to read: a drawing says more"),
    ),
)
