"""Strip plot: every single value as a dot, group by group."""

from __future__ import annotations

import numpy as np

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Rect, Scene, Shape
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.shared.grid import texts_of
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.settings import NamedAxisOptions
from ypsil.core.visuals.shared.spread import lanes, spread_of
from ypsil.core.visuals.shared.summary import told


class StripOptions(NamedAxisOptions):
    pass


def draw(answer: Answer, options: StripOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one dot a value; dots of a group stand at different heights only so that none hides another."""
    spread = spread_of(answer)
    at = lanes(spread, options, box, style)
    radius = 4.0 if answer.height < 300 else 2.5
    shapes: list[Shape] = list(at.shapes)
    for index, values in enumerate(spread.values):
        # The golden ratio spreads the heights evenly and alike each time.
        heights = (np.arange(len(values)) * 0.618033988749895) % 1.0 - 0.5
        texts = texts_of(values.tolist(), spread.column, options)
        reach = min(at.bands.width, 60.0) - 2 * radius
        for value, height, text in zip(np.sort(values).tolist(), heights.tolist(), _sorted(values, texts), strict=True):
            x, y = at.scale(value), at.bands.middle(index) + height * max(0.0, reach)
            title = mark_title(spread.names[index], text)
            shapes.append(Rect(x - radius, y - radius, 2 * radius, 2 * radius, style.accent, radius, title, 0.55))
    said = told(answer, "Strip plot", f"{answer.height:,} dots")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said)


def _sorted(values: np.ndarray, texts: list[str]) -> list[str]:
    return [texts[place] for place in np.argsort(values, kind="stable").tolist()]


VISUAL = Visual(
    name="strip",
    label="Dots, one a row",
    purposes=("how it spreads",),
    purpose="every single value",
    needs=Needs(split="any", groups=(1, MANY), series=(1, 40), each_row="needed", values=(1, 4000)),
    options=StripOptions,
    draw=draw,
    advice=(
        rule(0.8, "each of {values} values as a dot", values=(1, 200)),
        rule(0.5, "each of {values} values as a dot"),
    ),
)
