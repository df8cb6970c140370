"""What cartesian charts share: value axis, names of the groups, legend, and a message where nothing can stand."""

from __future__ import annotations

from dataclasses import dataclass

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Anchor, Font, Line, Rect, Scene, Shape, Text
from ypsil.core.drawing.ticks import nice_domain, ticks
from ypsil.core.drawing.wrap import shorten, wrap
from ypsil.core.figures import format_number
from ypsil.core.questions.model import Answer, AnswerColumn
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box
from ypsil.core.visuals.summary import group_name

LABEL_PX = 13.0
_LEGEND_ROW_PX = 22.0


@dataclass(frozen=True, slots=True)
class Series:
    """One row of values for all groups; ``name`` is empty where there is no split."""

    name: str
    values: tuple[float | None, ...]


def series_of(answer: Answer) -> tuple[list[str], list[Series]]:
    """Return the names of an answer's groups, and its values as one series a split value."""
    per, measure = answer.of("per")[0], answer.of("measure")[0]
    groups = list(dict.fromkeys(answer.values(per)))
    names = [group_name(value, per) for value in groups]
    splits = answer.of("split")
    if not splits:
        return names, [Series("", tuple(_number(value) for value in answer.values(measure)))]
    found = dict(
        zip(
            zip(answer.values(per), answer.values(splits[0]), strict=True),
            answer.values(measure),
            strict=True,
        )
    )
    members = list(dict.fromkeys(answer.values(splits[0])))
    return names, [
        Series(group_name(member, splits[0]), tuple(_number(found.get((group, member))) for group in groups))
        for member in members
    ]


def _number(value: object) -> float | None:
    return float(value) if isinstance(value, int | float) else None


def value_range(series: list[Series]) -> tuple[float, float]:
    """Return the lowest and highest value, zero among them."""
    values = [0.0, *(value for one in series for value in one.values if value is not None)]
    return (min(values), max(values)) if any(values) else (0.0, 1.0)


def value_domain(series: list[Series], count: int = 5) -> tuple[float, float]:
    """Return a round domain that holds all values and zero."""
    return nice_domain(*value_range(series), count)


def axis_texts(values: list[float], column: AnswerColumn) -> list[str]:
    """Return tick labels; a currency or percent sign stands on each, any other unit in the axis name."""
    unit = column.unit if column.unit in ("%", "£", "€", "$", "¥") else None
    scaled = [value * 100 for value in values] if unit == "%" else values
    decimals = 0 if all(abs(value - round(value)) < 1e-9 for value in scaled) else None
    if all(value % 1_000_000 == 0 for value in values) and max(map(abs, values), default=0) >= 1_000_000:
        return [format_number(value / 1_000_000, decimals=0, unit=unit) + "M" if value else "0" for value in values]
    return [format_number(value, decimals=decimals, unit=unit) for value in values]


def value_axis(
    domain: tuple[float, float],
    column: AnswerColumn,
    left: float,
    right: float,
    scale: LinearScale,
    style: HouseStyle,
) -> list[Shape]:
    """Return light level lines with their values in front of them; zero is drawn stronger."""
    font = style.body(LABEL_PX - 1)
    values = ticks(*domain, 5)
    shapes: list[Shape] = []
    for value, label in zip(values, axis_texts(values, column), strict=True):
        y = scale(value)
        strong = value == 0
        shapes.append(Line(left, y, right, y, style.muted if strong else style.grid, 1))
        shapes.append(Text(left - 8, y + 4, label, font, style.muted, "end"))
    return shapes


def axis_room(domain: tuple[float, float], column: AnswerColumn, style: HouseStyle) -> float:
    """Return the width that a value axis's labels take."""
    values = ticks(*domain, 5)
    font = style.body(LABEL_PX - 1)
    return max((text_width(label, font) for label in axis_texts(values, column)), default=0) + 12


def group_labels(names: list[str], step: float, font: Font, most_lines: int = 3) -> tuple[list[list[str]], int]:
    """Wrap group names into bands of ``step`` px; return the lines of each and how many bands a label spans.

    Where names are too narrow to read, every second, third … one is shown.
    """
    room = step - 4
    widest_word = max((text_width(word, font) for name in names for word in name.split()), default=0)
    every = 1
    while (every * step - 4) < min(widest_word, 64) and every < len(names):
        every += 1
    room = every * step - 4
    lines = [wrap(name, room, font, most=most_lines) if index % every == 0 else [] for index, name in enumerate(names)]
    return [[shorten(line, room, font) for line in one] for one in lines], every


def legend(series: list[Series], width: float, style: HouseStyle, top: float = 0) -> tuple[list[Shape], float]:
    """Return the legend of a split, in rows from ``top``, and the height it takes."""
    if len(series) < 2:
        return [], 0
    font = style.body(LABEL_PX)
    shapes: list[Shape] = []
    x, y = 0.0, top + 14
    for index, one in enumerate(series):
        text = shorten(one.name, width - 24, font)
        needed = 18 + text_width(text, font) + 18
        if x > 0 and x + needed - 18 > width:
            x, y = 0.0, y + _LEGEND_ROW_PX
        shapes.append(Rect(x, y - 10, 12, 12, style.colour(index), 2))
        shapes.append(Text(x + 18, y, text, font, style.ink))
        x += needed
    return shapes, y - top + 12


def mark_colour(name: str, number: int, count: int, emphasis: str, style: HouseStyle) -> str:
    """Return the colour of a group's mark: by series where there are several, else quiet beside the emphasis."""
    if count > 1:
        return style.colour(number)
    return style.quiet if emphasis and name != emphasis else style.accent


def message_scene(message: str, box: Box, style: HouseStyle, name: str) -> Scene:
    """Return a scene that says in words why nothing is drawn."""
    font = style.body(16)
    lines = wrap(message, max(40, box.width - 40), font, most=max(1, int(box.height // font.line_height) - 1))
    top = box.height / 2 - (len(lines) - 1) * font.line_height / 2
    anchor: Anchor = "middle"
    shapes = tuple(
        Text(box.width / 2, top + index * font.line_height, line, font, style.muted, anchor)
        for index, line in enumerate(lines)
    )
    return Scene(box.width, box.height, shapes, name, message)
