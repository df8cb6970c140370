"""Bubbles: two measures as places, a third as size."""

from __future__ import annotations

import numpy as np

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Rect, Scene, Shape
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.grid import texts_of
from ypsil.core.visuals.shared.legends import key_of
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.numeric_axes import NumericPlotOptions, numeric_plot, points_of
from ypsil.core.visuals.shared.point_names import Dot, names_of_dots
from ypsil.core.visuals.shared.settings import setting
from ypsil.core.visuals.shared.summary import group_name, told

_LARGEST_PX = 26.0
_LEAST_PX = 1.5
_OPACITY = 0.7


class BubbleOptions(NumericPlotOptions):
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
    at = numeric_plot(answer, points, options, box, style, top=top, reach=reach)
    texts = [texts_of(answer.values(measure), measure, options) for measure in measures]
    shapes: list[Shape] = [*key, *at.shapes]
    dots: list[Dot] = []
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
        amounts = [f"{measure.name} {texts[index][row]}" for index, measure in enumerate(measures)]
        colour = style.colour(int(points.split[number])) if points.split_names else style.accent
        title = mark_title(name, *amounts, series=split)
        shapes.append(Rect(x - radius, y - radius, 2 * radius, 2 * radius, colour, radius, title, _OPACITY))
        dots.append(Dot(name, x, y, radius, colour, _OPACITY))
    names = names_of_dots(dots, at, style) if options.names else []
    nameless = len(dots) - len(names) if options.names else 0
    said = told(answer, "Bubbles", f"areas show {measures[2].name}")
    return Scene(
        box.width,
        box.height,
        (*shapes, *names),
        answer.sentence,
        said,
        nameless=nameless,
        undrawn=answer.height - len(dots),
    )


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
    native="bubbles",
    advice=(rule(0.75, "three measures of {groups} groups"),),
)
