"""Radar: a profile of several values around a centre."""

from __future__ import annotations

import math

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.arcs import point
from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Anchor, Line, Path, Rect, Scene, Shape, Text
from ypsil.core.drawing.ticks import nice_domain, ticks
from ypsil.core.drawing.wrap import wrap
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX, axis_texts
from ypsil.core.visuals.shared.grid import grid_of, texts_of_grid
from ypsil.core.visuals.shared.legends import legend
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.settings import NoteOptions, NumberOptions, PatternOptions
from ypsil.core.visuals.shared.summary import describe


class RadarOptions(NumberOptions, PatternOptions, NoteOptions):
    pass


def draw(answer: Answer, options: RadarOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one outline a series over spokes of one scale from zero; a missing value opens the outline."""
    grid = grid_of(answer)
    key, top = legend(grid.series, box.width, style)
    values = [value for one in grid.series for value in one.values if value is not None]
    domain = nice_domain(0, max([*values, 0.0]) or 1.0, 4)
    font = style.body(LABEL_PX)
    side = min(110.0, box.width * 0.24)
    radius = max(16.0, min(box.width - 2 * side, box.height - top - 4.4 * font.line_height) / 2)
    x, y = box.width / 2, top + (box.height - top) / 2
    scale = LinearScale(domain, (0, radius))
    angles = [2 * math.pi * index / len(grid.names) for index in range(len(grid.names))]
    shapes: list[Shape] = list(key)
    rounds = [tick for tick in ticks(*domain, 4) if tick > 0]
    for tick, text in zip(rounds, axis_texts(rounds, grid.column, options), strict=True):
        corners = [point(x, y, scale(tick), angle) for angle in angles]
        shapes.append(Path(_outline(corners), stroke=style.grid, fill="none"))
        if tick in (rounds[-1], rounds[len(rounds) // 2 - 1]):
            # Between two spokes, so that it stands on no name and no line of a spoke.
            at = point(x, y, scale(tick) * math.cos(math.pi / len(angles)), math.pi / len(angles))
            shapes.append(Text(at[0], at[1] + 4, text, font.sized(LABEL_PX - 1), style.muted, "middle"))
    for index, (name, angle) in enumerate(zip(grid.names, angles, strict=True)):
        end = point(x, y, radius, angle)
        shapes.append(Line(x, y, end[0], end[1], style.grid))
        shapes += _name(name, point(x, y, radius + 10, angle), angle, side, index, box.width, style)
    written = texts_of_grid(grid, options)
    for number, one in enumerate(grid.series):
        colour = style.colour(number) if len(grid.series) > 1 else style.accent
        whole = [(value, angle) for value, angle in zip(one.values, angles, strict=True) if value is not None]
        corners = [point(x, y, scale(value), angle) for value, angle in whole]
        is_whole = len(whole) == len(angles)
        outline = _outline(corners) if is_whole else _outline(corners)[:-1]
        if is_whole:
            shapes.append(Path(outline, fill=colour, opacity=0.12))
        if len(corners) > 1:
            shapes.append(Path(outline, stroke=colour, stroke_width=2.25 * style.charts.line))
        texts = written[number]
        for index, (value, angle) in enumerate(zip(one.values, angles, strict=True)):
            if value is not None:
                at = point(x, y, scale(value), angle)
                title = mark_title(grid.names[index], texts[index], series=one.name)
                shapes.append(Rect(at[0] - 3, at[1] - 3, 6, 6, colour, 3, title))
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, describe(answer, "Radar chart"))


def _outline(corners: list[tuple[float, float]]) -> str:
    return "M" + "L".join(f"{px:.1f} {py:.1f}" for px, py in corners) + "Z"


def _name(
    name: str, at: tuple[float, float], angle: float, room: float, index: int, width: float, style: HouseStyle
) -> list[Shape]:
    font = style.body(LABEL_PX)
    sine = math.sin(angle)
    anchor: Anchor = "middle" if abs(sine) < 0.2 else ("start" if sine > 0 else "end")
    left, right = at[0], width - at[0]
    beside = 2 * min(left, right) if anchor == "middle" else right if anchor == "start" else left
    lines = wrap(name, min(room - 12, beside - 2), font, most=2)
    first = at[1] + font.size * 0.35 - (len(lines) - 1) * font.line_height / 2
    first += -8 if index == 0 else (8 if anchor == "middle" else 0)
    return [
        Text(at[0], first + row * font.line_height, line, font, style.ink, anchor, name)
        for row, line in enumerate(lines)
    ]


VISUAL = Visual(
    name="radar",
    label="Radar",
    purposes=("what goes together",),
    purpose="the profile of a few things over several values",
    needs=Needs(measures=(1, 4), split="any", groups=(3, 12), series=(1, 4), negative=False, dates="never"),
    options=RadarOptions,
    draw=draw,
    native="web",
    advice=(
        rule(0.35, "{series} profiles over {groups} values; bars compare more exactly", series=(2, 4)),
        rule(0.2, "bars compare more exactly"),
    ),
)
