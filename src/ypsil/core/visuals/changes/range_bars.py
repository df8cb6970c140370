"""Range bars over time: what lasted from when to when."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import BandScale, LinearScale
from ypsil.core.drawing.scene import Line, Rect, Scene, Shape, Text
from ypsil.core.drawing.time_ticks import seconds
from ypsil.core.drawing.wrap import shorten
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.curves import Axis, along_labels
from ypsil.core.visuals.shared.horizontal import SMALLEST_PX
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.rooms import message_scene
from ypsil.core.visuals.shared.settings import NoteOptions, PaletteOptions
from ypsil.core.visuals.shared.summary import group_name, value_text


class RangeOptions(PaletteOptions, NoteOptions):
    pass


@dataclass(frozen=True, slots=True)
class _Range:
    name: str
    start: dt.date
    stop: dt.date


def draw(answer: Answer, options: RangeOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw a bar a group from the first date measured to the second; those with one date missing are left out."""
    per, (first, second) = answer.of("per")[0], answer.of("measure")
    rows = zip(answer.values(per), answer.values(first), answer.values(second), strict=True)
    found = [
        _Range(group_name(name, per), min(a, b), max(a, b)) for name, a, b in rows if a is not None and b is not None
    ]
    if not found:
        return message_scene("No group has both a start and an end.", box, style, answer.sentence)
    found.sort(key=lambda one: (one.start, one.stop))
    low, high = seconds(min(one.start for one in found)), seconds(max(one.stop for one in found)) + 86400
    bands = BandScale(len(found), (0, box.height - 44), 0.3)
    font = style.body(min(LABEL_PX, max(SMALLEST_PX, bands.step * 0.8)))
    left = min(0.35 * box.width, max(text_width(one.name, font) for one in found)) + 12
    across = LinearScale((low, high), (left, box.width - 8))
    axis = Axis(AnswerColumn("Time", "date", "per", grain="day"), True, low, high)
    shapes: list[Shape] = [Line(left, box.height - 42, box.width, box.height - 42, style.grid)]
    shapes += along_labels(axis, across, box.height - 24, box.width, style)
    every = max(1, -(-int(font.size * 1.1) // max(1, int(bands.step))))
    for index, one in enumerate(found):
        x, stop = across(seconds(one.start)), across(seconds(one.stop) + 86400)
        y = bands.start(index)
        title = mark_title(one.name, f"{value_text(one.start, first)} to {value_text(one.stop, second)}")
        shapes.append(Line(left, bands.middle(index), box.width, bands.middle(index), style.grid))
        shapes.append(Rect(x, y, max(2.0, stop - x), bands.width, style.accent, min(4.0, bands.width / 3), title))
        if index % every == 0:
            baseline = bands.middle(index) + font.size * 0.35
            shown = shorten(one.name, left - 10, font)
            shapes.append(Text(left - 10, baseline, shown, font, style.ink, "end", one.name))
    said = f"Range bars of {len(found)} groups, from {value_text(found[0].start, first)} on (n = {answer.base:,})."
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said)


VISUAL = Visual(
    name="range_bars",
    label="Bars over time",
    purposes=("how it changes",),
    purpose="what lasted from when to when",
    needs=Needs(measures=(2, 2), groups=(1, 60), dates="never", moments=True, one_unit=False, each_row="any"),
    options=RangeOptions,
    draw=draw,
    advice=(rule(0.9, "{groups} stretches of time below each other"),),
)
