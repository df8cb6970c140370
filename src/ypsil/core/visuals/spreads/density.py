"""Density: how thickly values lie along a scale, as a smooth hill."""

from __future__ import annotations

import numpy as np

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Line, Path, Scene, Shape
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.settings import NamedAxisOptions
from ypsil.core.visuals.shared.spread import lanes, spread_of
from ypsil.core.visuals.shared.summary import told

_PLACES = 160
_BINS = 2048


class DensityOptions(NamedAxisOptions):
    pass


def draw(answer: Answer, options: DensityOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one hill a group, all with the same area."""
    spread = spread_of(answer)
    at = lanes(spread, options, box, style, padding=0.12)
    places = np.linspace(*at.scale.domain, _PLACES)
    hills = [density(values, places) for values in spread.values]
    highest = max((float(hill.max()) for hill in hills), default=1.0) or 1.0
    shapes: list[Shape] = list(at.shapes)
    for index, hill in enumerate(hills):
        foot = at.bands.start(index) + at.bands.width
        tops = foot - hill / highest * at.bands.width
        outline = "L".join(f"{at.scale(float(x)):.1f} {y:.1f}" for x, y in zip(places, tops, strict=True))
        ends = f"L{at.scale.range[1]:.1f} {foot:.1f}L{at.scale.range[0]:.1f} {foot:.1f}Z"
        colour = style.colour(index) if len(hills) > 1 else style.accent
        count = f"{len(spread.values[index]):,} values"
        shapes.append(
            Path(f"M{outline}{ends}", fill=colour, opacity=0.3, title=mark_title(spread.names[index] or "All", count))
        )
        shapes.append(Path(f"M{outline}", stroke=colour, stroke_width=2))
        shapes.append(Line(at.scale.range[0], foot, at.scale.range[1], foot, style.grid))
    said = told(answer, "Density", f"{len(hills)} hills")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said)


def density(values: np.ndarray, places: np.ndarray) -> np.ndarray:
    """Return the Gaussian kernel density of values at places, its width by Scott's rule (1992).

    Very many values are put into 2,048 narrow classes first. Values all alike get a hill of a hundredth of the
    places' length.
    """
    spread = float(values.std(ddof=1)) if len(values) > 1 else 0.0
    width = spread * len(values) ** -0.2 or float(places[-1] - places[0]) / 100 or 1.0
    weights = np.full(len(values), 1.0 / len(values))
    if len(values) > _BINS:
        counts, edges = np.histogram(values, bins=_BINS)
        values, weights = (edges[:-1] + edges[1:]) / 2, counts / counts.sum()
    away = (places[:, None] - values[None, :]) / width
    found: np.ndarray = (np.exp(-0.5 * away * away) @ weights) / (width * np.sqrt(2 * np.pi))
    return found


VISUAL = Visual(
    name="density",
    label="Density",
    purposes=("how it spreads",),
    purpose="where values lie thickly, as a smooth hill",
    needs=Needs(split="any", groups=(1, MANY), series=(1, 8), each_row="needed", values=(10, MANY)),
    options=DensityOptions,
    draw=draw,
    advice=(
        rule(0.7, "the shape of {values} values", values=(100, MANY)),
        rule(0.3, "few values: a smooth hill promises too much"),
    ),
)
