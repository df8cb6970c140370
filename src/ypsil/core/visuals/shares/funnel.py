"""Funnel: how many are left at each stage."""

from __future__ import annotations

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.colour import readable_on
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Rect, Scene, Shape, Text
from ypsil.core.figures import format_share
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.grid import grid_of, texts_of
from ypsil.core.visuals.shared.horizontal import horizontal_plot
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.settings import NoteOptions, NumberOptions
from ypsil.core.visuals.shared.summary import describe


class FunnelOptions(NumberOptions, NoteOptions):
    pass


def draw(answer: Answer, options: FunnelOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw one centred bar a stage, with its value and what part of the first stage it is."""
    grid = grid_of(answer)
    values = grid.series[0].values
    texts = texts_of(values, grid.column, options)
    highest = max((value for value in values if value is not None), default=1.0) or 1.0
    plot = horizontal_plot(grid, (0, 1), [], box, style, value_room=False)
    first = next((value for value in values if value), None)
    room = text_width("100%", plot.value_font) + 12
    scale = LinearScale((0, highest), (0, max(10.0, box.width - plot.left - room)))
    middle = plot.left + scale(highest) / 2
    shapes: list[Shape] = list(plot.shapes)
    for index, value in enumerate(values):
        if value is None:
            continue
        width, y = scale(value), plot.bands.start(index)
        share = format_share(value / first, locale=options.in_locale) if first else ""
        title = mark_title(grid.names[index], texts[index], f"{share} of the first" if share else "")
        shapes.append(Rect(middle - width / 2, y, max(width, 0.75), plot.bands.width, style.accent, 2, title))
        baseline = plot.bands.middle(index) + plot.value_font.size * 0.34
        inside = text_width(texts[index], plot.value_font) < width - 6
        ink = readable_on(style.accent, style.ink, style.paper) if inside else style.ink
        at = middle if inside else middle + width / 2 + 5
        shapes.append(Text(at, baseline, texts[index], plot.value_font, ink, "middle" if inside else "start"))
        shapes.append(Text(box.width, baseline, share, plot.value_font, style.muted, "end"))
    said = describe(answer, "Funnel")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said, nameless=plot.nameless)


VISUAL = Visual(
    name="funnel",
    label="Funnel",
    purposes=("how it changes", "who is biggest"),
    purpose="how many are left, stage by stage",
    needs=Needs(groups=(2, 12), negative=False),
    options=FunnelOptions,
    draw=draw,
    advice=(
        rule(0.05, "periods are not stages of one way", time=True),
        rule(0.05, "these are no stages of one way: put them in the order that people go through them", ordered=False),
        rule(0.3, "{groups} stages: how many are left at each"),
    ),
)
