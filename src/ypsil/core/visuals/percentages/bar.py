"""Percentage bar: a percentage along a track from 0 to 100, several of them at one scale."""

from __future__ import annotations

from dataclasses import replace

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Line, Rect, Scene, Shape, Text
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Visual, rule
from ypsil.core.visuals.percentages.cells import Form, draw_percentages
from ypsil.core.visuals.percentages.scale import MarkedOptions, mark_text, span
from ypsil.core.visuals.percentages.shown import NEEDS, Shown, colour, shown
from ypsil.core.visuals.shared.settings import setting

_MARK_PX = 5.0


class PercentBarOptions(MarkedOptions):
    thickness: float = setting(22, "Thickness", "Marks", "of the bar, in px", ge=6, le=80)


def draw(answer: Answer, options: PercentBarOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw each percentage as a bar from zero; what lies beyond the track is drawn beyond it."""
    found = [
        replace(one, note=", ".join(filter(None, (one.note, mark_text(options))))) for one in shown(answer, options)
    ]
    along = span(found, options.mark)

    def bar(one: Shown, width: float, height: float) -> list[Shape]:
        top = _MARK_PX if options.mark is not None else 0.0
        tall = max(4.0, min(options.thickness, height - 2 * top))
        start, end = along.part(0) * width, along.part(1) * width
        shapes: list[Shape] = [Rect(start, top, end - start, tall, style.grid, min(4.0, tall / 2))]
        left, right = sorted((start, along.part(one.share) * width))
        if right > left:
            shapes.append(Rect(left, top, right - left, tall, colour(options, style), min(4.0, tall / 2, right - left)))
        for edge in (start, end):
            if 0 < edge < width:
                shapes.append(Line(edge, top - 3, edge, top + tall + 3, style.muted, 1.5))
        if options.mark is not None:
            at = min(width - 1.5, max(1.5, along.part(options.mark) * width))
            shapes.append(Line(at, 0, at, 2 * top + tall, style.ink, 2.5))
        small = style.body(12)
        if 0 < end < width and height >= tall + 2 * top + small.line_height:
            shapes.append(Text(end, top + tall + 3 + small.size, "100%", small, style.muted, "middle"))
        return shapes

    room = options.thickness + (2 * _MARK_PX if options.mark is not None else 0) + (18 if along.high > 1 else 0)
    form = Form(max(2.0, box.width / room), is_wide=True, figure_above=True, fills_a_whole=False)
    return draw_percentages(answer, found, options, box, style, form, bar)


VISUAL = Visual(
    name="percent_bar",
    label="Percentage bar",
    purposes=("share of a whole", "how much", "what people answered"),
    purpose="a percentage along a bar, several at one scale",
    needs=replace(NEEDS, shares=False, percentages=True),
    options=PercentBarOptions,
    draw=draw,
    advice=(
        rule(0.88, "one share along a bar", share=True, measures=(1, 1), per=(0, 0)),
        rule(0.9, "a percentage that may pass 100", measures=(1, 1), per=(0, 0)),
        rule(0.6, "{groups} percentages at one scale", measures=(1, 1), per=(1, 1), groups=(2, 8)),
        rule(0.58, "{measures} percentages at one scale", measures=(2, 8)),
    ),
    is_titled=False,
    default_size=(8, 18),
)
