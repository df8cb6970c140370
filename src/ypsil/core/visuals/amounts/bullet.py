"""Bullet bars: an amount against its target, over bands that say what is low and high."""

from __future__ import annotations

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.colour import mix
from ypsil.core.drawing.scene import Line, Rect, Scene, Shape, Text
from ypsil.core.figures import format_share
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.grid import Grid, grid_of, texts_of, value_range
from ypsil.core.visuals.shared.horizontal import HorizontalPlot, horizontal_plot
from ypsil.core.visuals.shared.legends import key_of
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.settings import NumberOptions, setting
from ypsil.core.visuals.shared.summary import describe

_BANDS = (0.5, 0.75, 1.0)


class BulletOptions(NumberOptions):
    target: float | None = setting(None, "Target of each", "Notes", "where there is no second measure")
    bands: bool = setting(True, "Bands at half, three quarters and the whole of the target", "Marks")


def draw(answer: Answer, options: BulletOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw the first measure as a bar and the second (or the target that is set) as a mark across it."""
    grid = grid_of(answer)
    amounts = grid.series[0].values
    targets = grid.series[1].values if len(grid.series) > 1 else tuple(options.target for _ in amounts)
    texts = texts_of(amounts, grid.column, options)
    reach = value_range(grid.series)[1]
    reach = max([reach, *(target for target in targets if target is not None)])
    named = [(grid.series[0].name or grid.column.name, style.accent)]
    if len(grid.series) > 1 or options.target is not None:
        named.append((grid.series[1].name if len(grid.series) > 1 else "Target", style.ink))
    key, top = key_of(named, box.width, style)
    plot = horizontal_plot(grid, (0, reach), [texts], box, style, rows=1, head=top, has_legend=False)
    shapes: list[Shape] = [*key, *plot.shapes]
    for index, amount in enumerate(amounts):
        shapes += _bullet(grid, index, amount, targets[index], texts[index], plot, options, style)
    said = describe(answer, "Bullet bars")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said, nameless=plot.nameless)


def _bullet(
    grid: Grid, index: int, amount: float | None, target: float | None, text: str, plot: HorizontalPlot,
    options: BulletOptions, style: HouseStyle,
) -> list[Shape]:  # fmt: skip
    y, height = plot.bands.start(index), plot.bands.width
    zero = plot.scale(0)
    shapes: list[Shape] = []
    if target is not None and options.bands:
        for number, part in enumerate(reversed(_BANDS)):
            shade = mix(style.grid, style.quiet, 0.45 * number)
            shapes.append(Rect(zero, y, max(0.5, plot.scale(target * part) - zero), height, shade))
    share = (
        format_share(amount / target, locale=options.in_locale) + " of the target"
        if amount is not None and target
        else ""
    )
    if amount is not None:
        title = mark_title(grid.names[index], text, share)
        shapes.append(
            Rect(zero, y + height * 0.3, max(0.5, plot.scale(amount) - zero), height * 0.4, style.accent, 0, title)
        )
        at = max(plot.scale(amount), plot.scale(target) if target is not None else 0.0) + 7
        baseline = y + height / 2 + plot.value_font.size * 0.34
        shapes.append(Text(at, baseline, text, plot.value_font, style.ink))
    if target is not None:
        x = plot.scale(target)
        shapes.append(Line(x, y + height * 0.08, x, y + height * 0.92, style.ink, 3))
    return shapes


VISUAL = Visual(
    name="bullet",
    label="Bars with a target",
    purposes=("how much", "who is biggest"),
    purpose="an amount against its target",
    needs=Needs(measures=(1, 2), groups=(1, 30), negative=False),
    options=BulletOptions,
    draw=draw,
    advice=(
        rule(0.2, "time reads from left to right", time=True),
        rule(0.68, "the second measure as the target of the first", measures=(2, 2)),
        rule(0.25, "set a target to compare with"),
    ),
)
