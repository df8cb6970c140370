"""Cumulative ranking: columns from the largest down, and a line that adds them up to 100%."""

from __future__ import annotations

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Line, Path, Scene, Shape, Text
from ypsil.core.drawing.ticks import nice_domain
from ypsil.core.figures import format_share
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.bars import bar_of
from ypsil.core.visuals.shared.grid import Grid, Series, grid_of, texts_of
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.settings import AxisOptions, setting
from ypsil.core.visuals.shared.summary import describe
from ypsil.core.visuals.shared.vertical import vertical_plot

_CLOSE = 0.12


class ParetoOptions(AxisOptions):
    line_at: float = setting(0.8, "Line at this part", "Notes", "0.8 for 80%", ge=0.05, le=0.99)


def draw(answer: Answer, options: ParetoOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw the groups from the largest down; those that together make up the line's part stand out.

    Columns and line share one scale, so that the line starts at the top of the first column.
    """
    grid = grid_of(answer)
    pairs = sorted(zip(grid.series[0].values, grid.groups, grid.names, strict=True), key=lambda pair: -(pair[0] or 0.0))
    values = [value or 0.0 for value, _, _ in pairs]
    names = [name for _, _, name in pairs]
    total = sum(values)
    ranked = Grid(tuple(group for _, group, _ in pairs), names, [Series("", tuple(values))], grid.per, grid.column)
    room = 44.0
    plot = vertical_plot(ranked, nice_domain(0, total), options, Box(box.width - room, box.height), style)
    share = LinearScale((0, 1), (plot.bottom, plot.scale(total)))
    texts = texts_of(values, grid.column, options)
    shapes: list[Shape] = list(plot.shapes)
    points, reached = [], 0.0
    for index, value in enumerate(values):
        inside = reached < options.line_at
        reached += value / total
        so_far = format_share(min(1.0, reached), locale=options.in_locale)
        title = mark_title(names[index], texts[index], f"with those before {so_far}")
        x, top = plot.bands.start(index), plot.scale(value)
        colour = style.accent if inside else style.quiet
        shapes.append(bar_of(x, top, plot.bands.width, max(plot.bottom - top, 0.5), colour, style, title))
        points.append(f"{plot.bands.middle(index):.1f} {share(min(1.0, reached)):.1f}")
    shapes.append(Path("M" + "L".join(points), stroke=style.colour(1), stroke_width=2.5 * style.charts.line))
    font = style.body(LABEL_PX - 1)
    y = share(options.line_at)
    shapes.append(Line(plot.left, y, box.width - room, y, style.ink, 1.25, dash="5 4"))
    for part in (0.0, *((0.5,) if abs(options.line_at - 0.5) > _CLOSE else ()), options.line_at, 1.0):
        at = share(part) + 4
        shapes.append(
            Text(
                box.width - room + 8,
                at,
                format_share(part, locale=options.in_locale),
                font,
                style.ink if part == options.line_at else style.colour(1),
            )
        )
    said = describe(answer, "Cumulative ranking")
    return Scene(box.width, box.height, (*shapes, *plot.front), answer.sentence, said, nameless=plot.nameless)


VISUAL = Visual(
    name="pareto",
    label="Cumulative ranking",
    purposes=("who is biggest",),
    purpose="how few make up most of the whole",
    needs=Needs(groups=(3, 60), parts=True, dates="never"),
    options=ParetoOptions,
    draw=draw,
    advice=(
        rule(0.55, "how few of {groups} make up 80%", groups=(8, MANY)),
        rule(0.3, "few values: bars say the same"),
    ),
)
