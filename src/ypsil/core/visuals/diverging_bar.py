"""Diverging bars: parts for and against on two sides of a middle line, as rating scales are shown."""

from __future__ import annotations

from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Line, Rect, Scene, Shape
from ypsil.core.drawing.stacks import shares
from ypsil.core.questions.model import Answer
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.frame import Room, grid_of, key_of, mark_title, value_inside
from ypsil.core.visuals.level import level
from ypsil.core.visuals.settings import NoteOptions, PartOptions, PatternOptions, setting
from ypsil.core.visuals.stacking import texts_of_parts
from ypsil.core.visuals.summary import describe


class DivergingOptions(PartOptions, PatternOptions, NoteOptions):
    values_on_marks: bool = setting(True, "Values on the marks where they fit", "Marks")


def draw(answer: Answer, options: DivergingOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw each group's series as parts of 100%, the lower half to the left, a middle series across the line."""
    grid = grid_of(answer)
    made = shares([one.values for one in grid.series])
    colours = scale_colours(len(grid.series), style)
    spans = [_spans([row[index] for row in made]) for index in range(len(grid.names))]
    reach = max([0.1, *(abs(end) for row in spans for span in row if span for end in span)])
    named = [(one.name, colour) for one, colour in zip(grid.series, colours, strict=True)]
    key, top = key_of(named, box.width, style)
    plot = level(grid, (0, 1), [], box, style, rows=1, head=top, has_legend=False, value_room=False)
    scale = LinearScale((-reach, reach), (plot.left + 4, box.width - 4))
    written = texts_of_parts(made, options)
    shapes: list[Shape] = [*key, *plot.shapes]
    font = style.body(min(12.0, max(9.0, plot.bands.width * 0.7)), bold=True)
    for index, row in enumerate(spans):
        texts = [row_texts[index] for row_texts in written]
        for number, span in enumerate(row):
            if span is None:
                continue
            x, y = scale(span[0]), plot.bands.start(index)
            room = Room(x, y, max(scale(span[1]) - x - 1, 0.5), plot.bands.width)
            title = mark_title(grid.names[index], grid.series[number].name, texts[number])
            shapes.append(Rect(room.x, room.y, room.width, room.height, colours[number], title=title))
            if options.values_on_marks:
                shapes += value_inside(texts[number], room, colours[number], font, style)
    shapes.append(Line(scale(0), plot.top, scale(0), box.height, style.ink, 1))
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, describe(answer, "Diverging bars"))


def scale_colours(count: int, style: HouseStyle) -> list[str]:
    """Return colours from one end of a scale by way of a pale middle to the other."""
    if count == 1:
        return [style.accent]
    middle = (count - 1) / 2
    weights = [(index - middle) / middle for index in range(count)]
    return [
        style.quiet if weight == 0 else style.diverge(0.35 * (1 if weight > 0 else -1) + 0.65 * weight)
        for weight in weights
    ]


def _spans(parts: list[float | None]) -> list[tuple[float, float] | None]:
    """Return where each part lies, the middle of the scale at zero."""
    values = [part or 0.0 for part in parts]
    half = len(values) / 2
    below = sum(values[: int(half)]) + (values[int(half)] / 2 if len(values) % 2 else 0.0)
    spans: list[tuple[float, float] | None] = []
    at = -below
    for part, value in zip(parts, values, strict=True):
        spans.append((at, at + value) if part else None)
        at += value
    return spans


VISUAL = Visual(
    name="diverging_bar",
    label="Bars to both sides",
    purposes=("share of a whole",),
    purpose="how many are for and against, on a rating scale",
    needs=Needs(measures=(1, 7), split="any", groups=(1, 40), series=(2, 7), parts=True),
    options=DivergingOptions,
    draw=draw,
    advice=(
        rule(0.2, "time reads from left to right", time=True),
        rule(0.6, "a scale of {series} steps, centred on its middle", series=(3, 7)),
        rule(0.35, "two sides: for and against"),
    ),
)
