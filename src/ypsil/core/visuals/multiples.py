"""Small multiples: the same small chart for each value of the split, all on one scale."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Literal

from ypsil.core.drawing.scene import Scene, Shape, Text
from ypsil.core.drawing.wrap import shorten
from ypsil.core.questions.model import Answer
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.column import ColumnOptions, columns
from ypsil.core.visuals.frame import LABEL_PX, grid_of, value_domain
from ypsil.core.visuals.line import LineOptions, lines
from ypsil.core.visuals.settings import LineAcrossOptions, setting
from ypsil.core.visuals.summary import describe, group_name

_WIDTH_PX = 110.0
_SHAPE = 1.5  # width to height
_MOST_COLUMNS = 24


class MultiplesOptions(LineAcrossOptions):
    chart: Literal["as it suits", "columns", "lines"] = setting("as it suits", "Each drawn as", "Marks")


def draw(answer: Answer, options: MultiplesOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw a chart a split value, in rows, under its name; one scale, so that all can be compared."""
    split = answer.of("split")[0]
    domain = value_domain(grid_of(answer).series, 3)
    members = list(dict.fromkeys(answer.values(split)))
    across = min(range(1, len(members) + 1), key=lambda count: _crowded(count, len(members), box))
    down = math.ceil(len(members) / across)
    gap = 18.0
    width, height = (box.width - gap * (across - 1)) / across, (box.height - gap * (down - 1)) / down
    font = style.body(LABEL_PX, bold=True)
    head = font.line_height
    room = Box(width, max(30.0, height - head))
    shapes: list[Shape] = []
    as_columns = options.chart == "columns" or (options.chart == "as it suits" and _suits_columns(answer))
    common = options.model_dump(exclude={"chart"}) | {"axis_name": False}
    for index, member in enumerate(members):
        x, y = (index % across) * (width + gap), (index // across) * (height + gap)
        name = group_name(member, split)
        shapes.append(Text(x, y + font.size, shorten(name, width, font), font, style.ink, title=name))
        small = _part(answer, member)
        if as_columns:
            scene = columns(small, grid_of(small), ColumnOptions(**common), room, style, domain)
        else:
            scene = lines(small, LineOptions(**common, points=False), room, style, domain, names_ends=False)
        shapes += [shape.moved(x, y + head) for shape in scene.shapes]
    return Scene(
        box.width, box.height, tuple(shapes), answer.sentence, describe(answer, f"{len(members)} small charts")
    )


def _crowded(across: int, count: int, box: Box) -> float:
    """Return how far the small charts of a layout are from the shape they read best in."""
    width, height = box.width / across, box.height / math.ceil(count / across)
    return abs(math.log(width / height / _SHAPE)) + (1.0 if width < _WIDTH_PX else 0.0)


def _suits_columns(answer: Answer) -> bool:
    per = answer.of("per")[0]
    return not (per.ordered or per.kind == "date") or answer.series(per).n_unique() <= _MOST_COLUMNS // 2


def _part(answer: Answer, member: object) -> Answer:
    """Return the rows of one split value, without the split."""
    split = answer.of("split")[0]
    place = answer.columns.index(split)
    name = answer.frame.columns[place]
    frame = answer.frame.filter(answer.series(split) == member).drop(name)
    kept = tuple(column for column in answer.columns if column is not split)
    return replace(answer, columns=kept, frame=frame)


VISUAL = Visual(
    name="multiples",
    label="Small charts side by side",
    purposes=("how it changes", "who is biggest"),
    purpose="the same chart for each, so that none hides another",
    needs=Needs(split="needed", groups=(1, MANY), series=(2, 24)),
    options=MultiplesOptions,
    draw=draw,
    advice=(
        rule(0.9, "{series} lines would cross each other: side by side each is seen", time=True, series=(6, 24)),
        rule(0.55, "{series} charts on one scale", time=True),
        rule(0.4, "{series} charts on one scale", groups=(1, 8)),
        rule(0.25, "names have little room in small charts"),
    ),
)
