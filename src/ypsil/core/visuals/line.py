"""Line chart: how an amount moves over periods, each line named at its end."""

from __future__ import annotations

from pydantic import Field

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Path, Rect, Scene, Shape, Text
from ypsil.core.drawing.svg import number as px
from ypsil.core.drawing.wrap import shorten
from ypsil.core.questions.model import Answer
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Options, Visual, group_count
from ypsil.core.visuals.frame import LABEL_PX, Series, axis_room, series_of, value_axis, value_domain
from ypsil.core.visuals.summary import describe, value_texts


class LineOptions(Options):
    points: bool = Field(True, title="Points where there are up to 40 periods")


def draw(answer: Answer, options: LineOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one line a split value; a missing value is a gap."""
    names, series = series_of(answer)
    column = answer.of("measure")[0]
    domain = value_domain(series)
    font = style.body(LABEL_PX)
    left = axis_room(domain, column, style)
    texts = [value_texts(one.values, column) for one in series]
    ends = [one.name or texts[index][-1] for index, one in enumerate(series)]
    room = min(0.25 * box.width, max(text_width(text, style.body(LABEL_PX, bold=True)) for text in ends)) + 14
    right, bottom = box.width - room, box.height - font.line_height - 8
    scale = LinearScale(domain, (bottom, 12))
    across = LinearScale((0, max(1, len(names) - 1)), (left + 8, right))
    shapes: list[Shape] = value_axis(domain, column, left, right, scale, style)
    shapes += _period_labels(names, across, bottom + 19, box.width, style)
    end_labels = []
    for index, one in enumerate(series):
        colour = style.colour(index) if len(series) > 1 else style.accent
        shapes += _line(one, names, texts[index], across, scale, colour, options.points and len(names) <= 40)
        last = next((place for place in reversed(range(len(names))) if one.values[place] is not None), None)
        if last is not None:
            label = shorten(ends[index], room - 10, style.body(LABEL_PX, bold=True))
            end_labels.append((scale(one.values[last] or 0.0), across(last), label, colour))
    shapes += _spread_labels(end_labels, style, bottom)
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, describe(answer, "Line chart"))


def _line(
    one: Series,
    names: list[str],
    texts: list[str],
    across: LinearScale,
    scale: LinearScale,
    colour: str,
    points: bool,
) -> list[Shape]:
    commands: list[str] = []
    marks: list[Shape] = []
    pen_down = False
    for index, value in enumerate(one.values):
        if value is None:
            pen_down = False
            continue
        x, y = across(index), scale(value)
        commands.append(f"{'L' if pen_down else 'M'}{px(x)} {px(y)}")
        pen_down = True
        alone = (index == 0 or one.values[index - 1] is None) and (
            index + 1 == len(one.values) or one.values[index + 1] is None
        )
        if points or alone:
            title = ", ".join(part for part in (names[index], one.name, texts[index]) if part)
            marks.append(Rect(x - 3, y - 3, 6, 6, colour, 3, title))
    return [Path("".join(commands), stroke=colour, stroke_width=2.5), *marks]


def _period_labels(names: list[str], across: LinearScale, y: float, width: float, style: HouseStyle) -> list[Shape]:
    """Name as many periods as have room, at even distances, the last one always."""
    font = style.body(LABEL_PX)
    widest = max(text_width(name, font) for name in names) + 14
    step = abs(across(1) - across(0)) if len(names) > 1 else widest
    every = max(1, int(-(-widest // step)))
    shown = range((len(names) - 1) % every, len(names), every)
    shapes: list[Shape] = []
    for index in shown:
        half = text_width(names[index], font) / 2
        x = min(max(across(index), half), width - half)
        shapes.append(Text(x, y, names[index], font, style.ink, "middle"))
    return shapes


def _spread_labels(labels: list[tuple[float, float, str, str]], style: HouseStyle, bottom: float) -> list[Shape]:
    """Stand labels beside the ends of their lines, moved apart where they would meet."""
    font = style.body(LABEL_PX, bold=True)
    shapes: list[Shape] = []
    limit = bottom
    for y, x, text, colour in sorted(labels, reverse=True):
        baseline = min(y + font.size * 0.35, limit)
        limit = baseline - font.line_height
        shapes.append(Text(x + 10, baseline, text, font, colour))
    return shapes


def _best_for(answer: Answer) -> tuple[float, str]:
    count = group_count(answer)
    return (0.95 if count > 12 or answer.of("split") else 0.78), f"{count} periods in order: a line shows the change"


VISUAL = Visual(
    name="line",
    label="Lines",
    purposes=("how it changes",),
    purpose="follow amounts over many periods",
    needs=Needs(split=True, dates="needed", groups=(2, 4000)),
    options=LineOptions,
    draw=draw,
    best_for=_best_for,
    default_size=(12, 42),
)
