"""Bubbles: two measures as places, a third as size."""

from __future__ import annotations

import numpy as np

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import shorten
from ypsil.core.questions.model import Answer
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.frame import LABEL_PX, key_of, mark_title, texts_of
from ypsil.core.visuals.plane import PlaneOptions, plane, points_of
from ypsil.core.visuals.settings import setting
from ypsil.core.visuals.summary import group_name, told

_LARGEST_PX = 26.0
_LEAST_PX = 1.5


class BubbleOptions(PlaneOptions):
    names: bool = setting(True, "Names at the bubbles where they fit", "Names")


def draw(answer: Answer, options: BubbleOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one bubble a group, its area the third measure; nothing is drawn for sizes of zero and below."""
    points = points_of(answer)
    measures = answer.of("measure")
    per = answer.of("per")[0]
    sizes = np.array(
        [value if isinstance(value, int | float) and value > 0 else 0.0 for value in answer.values(measures[2])]
    )
    largest = float(sizes.max(initial=0.0)) or 1.0
    named = [(name, style.colour(index)) for index, name in enumerate(points.split_names)]
    key, top = key_of(named, box.width, style) if len(named) > 1 else ([], 0.0)
    reach = min(_LARGEST_PX, box.width / 12)
    at = plane(answer, points, options, box, style, top=top, reach=reach)
    texts = [texts_of(answer.values(measure), measure, options) for measure in measures]
    shapes: list[Shape] = [*key, *at.shapes]
    labels: list[tuple[float, float, float, str]] = []
    order = sorted(range(len(points.x)), key=lambda number: -sizes[points.rows[number]])
    for number in order:
        row = int(points.rows[number])
        if not sizes[row]:
            continue
        # A bubble that cannot be seen says nothing; how small it is, its title tells.
        radius = max(_LEAST_PX, reach * float(np.sqrt(sizes[row] / largest)))
        x, y = at.across(float(points.x[number])), at.up(float(points.y[number]))
        name = group_name(answer.values(per)[row], per)
        split = points.split_names[points.split[number]] if points.split_names else ""
        said = [f"{measure.name} {texts[index][row]}" for index, measure in enumerate(measures)]
        colour = style.colour(int(points.split[number])) if points.split_names else style.accent
        title = mark_title(name, split, *said)
        shapes.append(Rect(x - radius, y - radius, 2 * radius, 2 * radius, colour, radius, title, 0.7))
        labels.append((x, y - radius - 4, radius, name))
    note = told(answer, "Bubbles", f"areas show {measures[2].name}")
    if options.names:
        named_shapes = _names(labels, box, style)
        shapes += named_shapes
        without = len(labels) - len(named_shapes)
        if without:
            note += f" {without} names have no room; they are read at their bubbles."
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, note)


def _names(labels: list[tuple[float, float, float, str]], box: Box, style: HouseStyle) -> list[Shape]:
    """Stand names above the bubbles, the largest first, where no other name is."""
    font = style.body(LABEL_PX - 1)
    taken: list[tuple[float, float, float]] = []
    shapes: list[Shape] = []
    for x, y, _, whole in labels:
        name = shorten(whole, box.width / 2, font)
        half = text_width(name, font) / 2
        at = min(max(x, half), box.width - half)
        clear = all(
            abs(y - other_y) > font.size or at + half < left or at - half > right for left, right, other_y in taken
        )
        if clear and y > font.size:
            taken.append((at - half, at + half, y))
            shapes.append(Text(at, y, name, font, style.ink, "middle", whole))
    return shapes


VISUAL = Visual(
    name="bubble",
    label="Bubbles",
    purposes=("what goes together",),
    purpose="two measures as places and a third as size",
    needs=Needs(
        measures=(3, 3),
        split="any",
        split_measures=3,
        groups=(1, 400),
        series=(1, 8),
        each_row="any",
        one_unit=False,
        values=(1, 1500),
    ),
    options=BubbleOptions,
    draw=draw,
    advice=(rule(0.75, "three measures of {groups} groups"),),
)
