"""Box plot: where the middle half of the values lies, how far the others reach, which stand apart."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Line, Rect, Scene, Shape
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.shared.grid import texts_of
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.settings import NamedAxisOptions, setting
from ypsil.core.visuals.shared.spread import Lanes, Spread, lanes, spread_of
from ypsil.core.visuals.shared.summary import told

_MOST_APART = 200


class BoxOptions(NamedAxisOptions):
    apart: bool = setting(True, "Values that stand apart, as dots", "Marks")


@dataclass(frozen=True, slots=True)
class FiveNumbers:
    """Quartiles (linear between ranks), whiskers to the last value within 1.5 box lengths, and those beyond.

    Source: Tukey, "Exploratory Data Analysis" (1977).
    """

    low: float
    first: float
    median: float
    third: float
    high: float
    apart: np.ndarray


def five_numbers(values: np.ndarray) -> FiveNumbers:
    """Return the box of a group's values (at least one).

    >>> box = five_numbers(np.array([1.0, 2, 3, 4, 20])); box.first, box.median, box.high, box.apart.tolist()
    (2.0, 3.0, 4.0, [20.0])
    """
    first, median, third = (float(value) for value in np.percentile(values, [25, 50, 75]))
    reach = 1.5 * (third - first)
    inside = values[(values >= first - reach) & (values <= third + reach)]
    low, high = min(float(inside.min()), first), max(float(inside.max()), third)
    return FiveNumbers(low, first, median, third, high, values[(values < low) | (values > high)])


def draw(answer: Answer, options: BoxOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one box a group; of very many values that stand apart the farthest are drawn, and it is said."""
    spread = spread_of(answer)
    at = lanes(spread, options, box, style)
    shapes: list[Shape] = list(at.shapes)
    hidden = 0
    for index, values in enumerate(spread.values):
        found = five_numbers(values)
        shapes += _box(spread, index, found, at, options, style)
        if options.apart:
            shown = found.apart[np.argsort(-np.abs(found.apart - found.median))[:_MOST_APART]]
            hidden += len(found.apart) - len(shown)
            y = at.bands.middle(index)
            for value, text in zip(shown.tolist(), texts_of(shown.tolist(), spread.column, options), strict=True):
                title = mark_title(spread.names[index], text)
                shapes.append(Rect(at.scale(value) - 2.5, y - 2.5, 5, 5, style.colour(1), 2.5, title, 0.7))
    said = told(answer, "Box plot", f"{len(spread.names)} boxes")
    if hidden:
        said += f" {hidden:,} values that stand apart are not drawn."
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said)


def _box(
    spread: Spread, index: int, found: FiveNumbers, at: Lanes, options: BoxOptions, style: HouseStyle
) -> list[Shape]:
    y, height = at.bands.start(index), min(at.bands.width, 46.0)
    middle = at.bands.middle(index)
    y = middle - height / 2
    five = [found.low, found.first, found.median, found.third, found.high]
    low, first, median, third, high = (at.scale(value) for value in five)
    names = ("lowest", "first quartile", "median", "third quartile", "highest")
    said = [f"{name} {text}" for name, text in zip(names, texts_of(five, spread.column, options), strict=True)]
    return [
        Line(low, middle, high, middle, style.ink, 1.25),
        Line(low, middle - height / 4, low, middle + height / 4, style.ink, 1.25),
        Line(high, middle - height / 4, high, middle + height / 4, style.ink, 1.25),
        Rect(first, y, max(1.0, third - first), height, style.ramp(0.45), 2, mark_title(spread.names[index], *said)),
        Line(median, y, median, y + height, style.ink, 2.5),
    ]


VISUAL = Visual(
    name="box",
    label="Boxes",
    purposes=("how it spreads",),
    purpose="how values spread, group by group",
    needs=Needs(split="any", groups=(1, MANY), series=(1, 40), each_row="needed", values=(2, MANY)),
    options=BoxOptions,
    draw=draw,
    advice=(
        rule(0.85, "the spread of {values} values, group by group", groups=(2, 40), values=(20, MANY)),
        rule(0.6, "the spread of {values} values"),
    ),
)
