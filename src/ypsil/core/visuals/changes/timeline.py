"""Timeline: events at their dates, their names at stems above and below a line."""

from __future__ import annotations

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Line, Rect, Scene, Shape, Text
from ypsil.core.drawing.time_ticks import seconds
from ypsil.core.drawing.wrap import shorten
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.curves import Axis, along_labels
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.rooms import message_scene, sheet_behind
from ypsil.core.visuals.shared.settings import NoteOptions, PaletteOptions
from ypsil.core.visuals.shared.summary import group_name, value_text

_LABEL_ROOM = 180.0


class TimelineOptions(PaletteOptions, NoteOptions):
    pass


def draw(answer: Answer, options: TimelineOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw a dot an event at its date; names stand where no other name is, nearest the line first."""
    per, measure = answer.of("per")[0], answer.of("measure")[0]
    pairs = zip(answer.values(per), answer.values(measure), strict=True)
    events = sorted(((when, group_name(name, per)) for name, when in pairs if when is not None), key=lambda one: one[0])
    if not events:
        return message_scene("No event has a date.", box, style, answer.sentence)
    low, high = seconds(events[0][0]), seconds(events[-1][0])
    across = LinearScale((low, high if high > low else low + 86400), (30, box.width - 30))
    middle = box.height / 2
    axis = Axis(AnswerColumn("Time", "date", "per", grain="day"), True, low, max(high, low + 86400))
    font, small = style.body(LABEL_PX), style.body(LABEL_PX - 1)
    lane = font.line_height + small.line_height + 2
    lanes = max(1, int((middle - 58) // lane))
    taken: dict[int, float] = {}
    shapes: list[Shape] = [Line(0, middle, box.width, middle, style.muted, 2)]
    dots: list[Shape] = []
    stems: list[Shape] = []
    left_out = 0
    for number, (when, name) in enumerate(events):
        x = across(seconds(when))
        title = mark_title(name, value_text(when, measure))
        dots.append(Rect(x - 5, middle - 5, 10, 10, style.accent, 5, title))
        text = shorten(name, _LABEL_ROOM, font)
        half = max(text_width(text, font), text_width(value_text(when, measure), small)) / 2
        at = min(max(x, half), box.width - half)
        place = _free(taken, at - half, lanes, number)
        if place is None:
            left_out += 1
            continue
        taken[place] = at + half + 10
        up = place > 0
        level = abs(place) - 1
        base = middle - 20 - level * lane if up else middle + 46 + level * lane
        stem = base + 4 if up else base - lane + 8
        stems.append(Line(x, middle, x, stem, style.quiet, 1))
        words = (
            Text(at, base - small.line_height, text, font, style.ink, "middle", name),
            Text(at, base, value_text(when, measure), small, style.muted, "middle"),
        )
        # Stems of outer names go behind those of inner ones.
        shapes += [*(sheet_behind(one, style) for one in words), *words]
    ends = [shape for shape in along_labels(axis, across, box.height - 22, box.width, style) if isinstance(shape, Text)]
    said = f"Timeline of {len(events)} events, from {value_text(events[0][0], measure)} to "
    said += f"{value_text(events[-1][0], measure)} (n = {answer.base:,})."
    shown = (*stems, *shapes, *dots, *(ends if lanes > 2 else ()))
    return Scene(box.width, box.height, shown, answer.sentence, said, nameless=left_out)


def _free(taken: dict[int, float], start: float, lanes: int, number: int) -> int | None:
    """Return the nearest lane with room, above (positive) and below (negative) by turns."""
    for level in range(1, lanes + 1):
        for place in (level, -level) if number % 2 == 0 else (-level, level):
            if taken.get(place, -1e9) <= start:
                return place
    return None


VISUAL = Visual(
    name="timeline",
    label="Timeline",
    purposes=("how it changes",),
    purpose="what happened when",
    needs=Needs(groups=(1, 200), dates="never", moments=True, each_row="any"),
    options=TimelineOptions,
    draw=draw,
    advice=(
        rule(0.9, "{groups} events at their dates", groups=(1, 40)),
        rule(0.5, "many events: not all names have room"),
    ),
)
