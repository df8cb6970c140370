"""Gauge: a percentage along a half ring, with zones and a mark."""

from __future__ import annotations

import math
from dataclasses import replace
from itertools import pairwise

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Line, Path, Scene, Shape, Text
from ypsil.core.drawing.svg import number as px
from ypsil.core.figures import format_share
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Visual, rule
from ypsil.core.visuals.percentages.cells import Form, draw_percentages
from ypsil.core.visuals.percentages.scale import MarkedOptions, Span, mark_text, span
from ypsil.core.visuals.percentages.shown import NEEDS, Shown, colour, shown
from ypsil.core.visuals.shared.comparing import Good, Standard, state_of
from ypsil.core.visuals.shared.settings import setting

_SCALE_PX = 13.0
# The half ring, with the ends of its scale in a line below.
_ASPECT = 1.7


class GaugeOptions(MarkedOptions):
    thickness: float = setting(0.26, "Thickness", "Marks", "as a part of the radius", ge=0.05, le=0.5)
    on_track: float | None = setting(None, "On track from", "Notes", "a zone, such as 0.6 for 60%")
    act: float | None = setting(None, "Act from", "Notes", "a zone; what lies between is to be watched")
    good: Good = setting("up", "Which way is good", "Colours", "where one of the two is set")


def draw(answer: Answer, options: GaugeOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw each percentage on a half ring from the left to the right."""
    wanted = Standard(good=options.good, on_track=options.on_track, act=options.act)
    found = [_with_notes(one, options, wanted) for one in shown(answer, options)]
    along = span(found, options.mark)

    def gauge(one: Shown, width: float, height: float) -> list[Shape]:
        foot = 1.4 * _SCALE_PX
        radius = max(8.0, min(width / 2 - 8, height - foot - 7))
        x, y = width / 2, height - foot
        thickness = radius * options.thickness
        middle = radius - thickness / 2
        shapes: list[Shape] = [_arc(x, y, middle, 0.0, 1.0, thickness, style.grid)]
        start, end = sorted((along.part(0.0), along.part(one.share)))
        if end > start:
            shapes.append(_arc(x, y, middle, start, end, thickness, colour(options, style)))
        shapes += _zones(x, y, radius + 4, along, wanted, style)
        if options.mark is not None:
            shapes.append(_across(x, y, radius - thickness - 3, radius + 7, along.part(options.mark), style.ink, 2.5))
        for edge in (0.0, 1.0):
            if 0 < along.part(edge) < 1:
                shapes.append(_across(x, y, radius - thickness, radius, along.part(edge), style.paper, 2))
        figure = style.heading(radius * 0.52)
        widest = max(text_width(other.text, figure) for other in found)
        room = 1.75 * (radius - thickness)
        figure = figure.sized(min(figure.size, figure.size * room / widest))
        shapes.append(Text(x, y - 0.04 * radius, one.text, figure, style.ink, "middle"))
        small = style.body(_SCALE_PX)
        if width >= 2.2 * text_width(format_share(along.high, locale=options.in_locale), small) + thickness:
            for at, value in ((x - middle, along.low), (x + middle, along.high)):
                said = format_share(value, locale=options.in_locale)
                shapes.append(Text(at, y + small.line_height, said, small, style.muted, "middle"))
        return shapes

    form = Form(_ASPECT, fills_a_whole=False)
    return draw_percentages(answer, found, options, box, style, form, gauge)


def _with_notes(one: Shown, options: GaugeOptions, wanted: Standard) -> Shown:
    """Say the state and the mark below the gauge, so that neither is told by colour or place alone."""
    state = None if one.value is None else state_of(one.value, wanted)
    return replace(one, note=", ".join(part for part in (one.note, state, mark_text(options)) if part))


def _zones(x: float, y: float, radius: float, along: Span, wanted: Standard, style: HouseStyle) -> list[Shape]:
    """A thin arc outside the ring, in the colours of the states."""
    limits = sorted({limit for limit in (wanted.on_track, wanted.act) if limit is not None})
    inside = [limit for limit in limits if along.low < limit < along.high]
    if not limits:
        return []
    ends = [along.low, *inside, along.high]
    colours = {"On track": style.rise, "Watch": style.watch, "Act": style.fall}
    shapes: list[Shape] = []
    for low, high in pairwise(ends):
        state = state_of((low + high) / 2, wanted)
        if state:
            shapes.append(_arc(x, y, radius, along.part(low), along.part(high) - 0.006, 5, colours[state]))
    return shapes


def _point(x: float, y: float, radius: float, part: float) -> tuple[float, float]:
    angle = math.pi * (1 - part)
    return x + radius * math.cos(angle), y - radius * math.sin(angle)


def _arc(x: float, y: float, radius: float, start: float, end: float, thickness: float, stroke: str) -> Path:
    (x1, y1), (x2, y2) = (_point(x, y, radius, part) for part in (start, end))
    arc = f"M{px(x1)} {px(y1)}A{px(radius)} {px(radius)} 0 0 1 {px(x2)} {px(y2)}"
    return Path(arc, stroke=stroke, stroke_width=thickness)


def _across(x: float, y: float, inner: float, outer: float, part: float, stroke: str, width: float) -> Line:
    (x1, y1), (x2, y2) = (_point(x, y, radius, part) for radius in (inner, outer))
    return Line(x1, y1, x2, y2, stroke, width)


VISUAL = Visual(
    name="gauge",
    label="Gauge",
    purposes=("share of a whole", "how much"),
    purpose="a percentage against zones and a mark",
    needs=replace(NEEDS, shares=False, percentages=True),
    options=GaugeOptions,
    draw=draw,
    advice=(
        rule(0.9, "one share, against zones or a target", share=True, measures=(1, 1), per=(0, 0)),
        rule(0.85, "a percentage that may pass 100", measures=(1, 1), per=(0, 0)),
        rule(0.35, "percentages, each against zones or a target"),
    ),
    is_titled=False,
    default_size=(6, 30),
)
