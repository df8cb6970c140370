"""24-hour ring: amounts round a clock, each hour a spoke outwards from the ring."""

from __future__ import annotations

import math

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.arcs import point, sector
from ypsil.core.drawing.scene import Path, Scene, Shape, Text
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.grid import texts_of
from ypsil.core.visuals.shared.horizontal import SMALLEST_PX
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.rooms import message_scene
from ypsil.core.visuals.shared.settings import EmphasisOptions, NoteOptions, setting
from ypsil.core.visuals.shared.summary import describe, group_name

_HOURS = 24
_TURN = 2 * math.pi / _HOURS
_INNER = 0.44
_NAMED_EVERY = 3


class ClockOptions(EmphasisOptions, NoteOptions):
    peak: bool = setting(True, "The busiest hour in the middle", "Marks")


def draw(answer: Answer, options: ClockOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw a spoke for each hour, its length from the inner ring the amount; midnight stands at the top."""
    per, measure = answer.of("per")[0], answer.of("measure")[0]
    hours = [int(hour) for hour in answer.values(per)]
    values = dict(zip(hours, answer.values(measure), strict=True))
    texts = dict(zip(hours, texts_of(answer.values(measure), measure, options), strict=True))
    present = {hour: float(value) for hour, value in values.items() if value is not None}
    highest = max(present.values(), default=0.0)
    font = style.body(LABEL_PX)
    radius = min(box.width / 2 - 26, box.height / 2 - font.line_height - 4)
    if radius < 30:
        return message_scene("The ring of hours needs more room.", box, style, answer.sentence)
    x, y, inner = box.width / 2, box.height / 2, radius * _INNER
    names = {hour: group_name(hour, per) for hour in range(_HOURS)}
    shapes: list[Shape] = []
    for hour in range(_HOURS):
        start = hour * _TURN
        track = sector(x, y, inner, radius, start + 0.012, start + _TURN - 0.012)
        shapes.append(Path(track, fill=style.grid, opacity=0.45))
        if highest > 0 and present.get(hour, 0) > 0:
            reach = inner + (radius - inner) * present[hour] / highest
            colour = style.quiet if options.emphasis and names[hour] != options.emphasis else style.accent
            outline = sector(x, y, inner, reach, start + 0.012, start + _TURN - 0.012)
            shapes.append(Path(outline, fill=colour, title=mark_title(names[hour], texts[hour])))
    for hour in range(0, _HOURS, _NAMED_EVERY):
        at = point(x, y, radius + 13, hour * _TURN)
        shapes.append(Text(at[0], at[1] + font.size * 0.35, str(hour), font, style.muted, "middle"))
    if options.peak and present and highest > 0:
        shapes += _peak(max(present, key=lambda hour: (present[hour], -hour)), names, texts, (x, y), inner, style)
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, describe(answer, "24-hour ring"))


def _peak(
    hour: int,
    names: dict[int, str],
    texts: dict[int, str],
    middle: tuple[float, float],
    inner: float,
    style: HouseStyle,
) -> list[Shape]:
    """Return the busiest hour and its amount, in the middle of the ring."""
    x, y = middle
    text = texts[hour]
    figure = style.heading(max(SMALLEST_PX, min(34.0, inner * 0.5, inner * 2.4 / max(3, len(text)))))
    small = style.body(min(LABEL_PX, max(SMALLEST_PX, inner * 0.24)))
    return [
        Text(x, y + 2, text, figure, style.ink, "middle"),
        Text(x, y + 2 + small.line_height, f"at {names[hour]}", small, style.muted, "middle"),
    ]


VISUAL = Visual(
    name="clock",
    label="24-hour ring",
    purposes=("how it changes", "how it spreads"),
    purpose="amounts by the hour of the day",
    needs=Needs(groups=(1, 24), grain="hour", negative=False),
    options=ClockOptions,
    draw=draw,
    advice=(rule(0.8, "hours go round, and so does the ring"),),
)
