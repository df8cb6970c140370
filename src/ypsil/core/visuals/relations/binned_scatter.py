"""Scatter in cells: how many of very many points lie where."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.drawing.scene import Rect, Scene, Shape, Text
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.numeric_axes import NumericPlotOptions, numeric_plot, points_of
from ypsil.core.visuals.shared.summary import value_texts, within_sentence

_CELL_PX = 9.0
__all__ = ["VISUAL", "NumericPlotOptions", "draw"]


def draw(answer: Answer, options: NumericPlotOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw a grid of cells shaded by the number of points in them; the drawing says so, and what the darkest holds."""
    points = points_of(answer)
    note_px = LABEL_PX + 8
    at = numeric_plot(answer, points, options, Box(box.width, box.height - note_px, box.beside), style)
    (left, right), (bottom, top) = at.across.range, at.up.range
    columns, rows = max(4, int((right - left) // _CELL_PX)), max(4, int((bottom - top) // _CELL_PX))
    counts = cells(points.x, points.y, at.across.domain, at.up.domain, columns, rows)
    wide, high = (right - left) / columns, (bottom - top) / rows
    most = int(counts.max(initial=0))
    shapes: list[Shape] = list(at.shapes)
    first, second = answer.of("measure")
    across, up = _spans(first, at.across.domain, columns), _spans(second, at.up.domain, rows)
    for column, row in zip(*np.nonzero(counts), strict=True):
        count = int(counts[column, row])
        colour = style.ramp(float(np.sqrt(count / most)))
        x, y = left + column * wide, bottom - (row + 1) * high
        title = mark_title(across[column], "1 point" if count == 1 else f"{count:,} points", series=up[row])
        shapes.append(Rect(x, y, wide - 0.5, high - 0.5, colour, title=title))
    note = f"{len(points.x):,} points; a cell’s shade counts them, up to {most:,}."
    font = style.body(LABEL_PX - 1)
    shapes.append(Text(0, box.height - 4, note, font, style.muted))
    said = f"Scatter in cells of {within_sentence(answer)}. {note} (n = {answer.base:,})"
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said)


def _spans(column: AnswerColumn, domain: tuple[float, float], count: int) -> list[str]:
    """Return what each row or column of cells reaches from and to, such as “Age 20 to 22”."""
    edges = value_texts(np.linspace(*domain, count + 1).tolist(), column)
    return [f"{column.name} {low} to {high}" for low, high in pairwise(edges)]


def cells(
    x: np.ndarray, y: np.ndarray, x_domain: tuple[float, float], y_domain: tuple[float, float], columns: int, rows: int
) -> np.ndarray:
    """Return the counts of points in ``columns`` by ``rows`` cells of the two domains, lower borders included."""
    across = np.clip(((x - x_domain[0]) / (x_domain[1] - x_domain[0]) * columns).astype(np.int64), 0, columns - 1)
    up = np.clip(((y - y_domain[0]) / (y_domain[1] - y_domain[0]) * rows).astype(np.int64), 0, rows - 1)
    return np.bincount(across * rows + up, minlength=columns * rows).reshape(columns, rows)


VISUAL = Visual(
    name="binned_scatter",
    label="Scatter in cells",
    purposes=("what goes together",),
    purpose="where very many points lie",
    needs=Needs(measures=(2, 2), groups=(1, MANY), each_row="any", one_unit=False, values=(40, MANY)),
    options=NumericPlotOptions,
    draw=draw,
    advice=(
        rule(0.92, "{values} values: cells show where most lie", values=(8000, MANY), each_row=True),
        rule(0.4, "few enough points to show each", each_row=True),
        rule(0.1, "time reads from left to right", time=True),
    ),
)
