"""Stacked columns and bars: what several series add up to, as amounts or as parts of 100%."""

from __future__ import annotations

from dataclasses import replace

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Line, Rect, Scene, Shape
from ypsil.core.drawing.stacks import Span, shares, stack
from ypsil.core.drawing.ticks import nice_domain
from ypsil.core.figures import part_texts
from ypsil.core.figures.capitals import lower_first
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box
from ypsil.core.visuals.shared.axes import LABEL_PX, horizontal_value_axis
from ypsil.core.visuals.shared.grid import Grid, grid_of, on_scale, texts_of
from ypsil.core.visuals.shared.horizontal import horizontal_plot
from ypsil.core.visuals.shared.rooms import Room, value_inside
from ypsil.core.visuals.shared.scale_colours import colours_of_parts
from ypsil.core.visuals.shared.settings import (
    ADDS_UP,
    AxisOptions,
    MarkOptions,
    NoteOptions,
    NumberOptions,
    PartOptions,
    PatternOptions,
    setting,
)
from ypsil.core.visuals.shared.summary import describe
from ypsil.core.visuals.shared.vertical import names_fit_vertically, vertical_plot

_WHOLE = (0.0, 1.0)


class HorizontalStackOptions(MarkOptions, PatternOptions):
    """Stacked bars."""


class StackOptions(AxisOptions, HorizontalStackOptions):
    """Stacked columns, which can turn into bars."""


class HorizontalShareOptions(PartOptions, PatternOptions, NoteOptions):
    """Bars of 100%."""

    values_on_marks: bool = setting(True, "Values on the marks where they fit", "Marks")


class ShareOptions(HorizontalShareOptions):
    """Columns of 100%, which can turn into bars."""

    axis_name: bool = setting(True, "Name of the values at the axis", "Axes")
    reference: float | None = setting(None, "Line at", "Notes", "a target, such as 0.5 for 50%")
    reference_name: str = setting("", "Name of the line", "Notes", max_length=60)

    def axis(self) -> AxisOptions:
        """Return the settings of the axis: percentages as they are."""
        return AxisOptions(
            decimals=self.decimals,
            axis_name=self.axis_name,
            reference=self.reference,
            reference_name=self.reference_name,
        )


AnyLevelOptions = HorizontalStackOptions | HorizontalShareOptions


def stacked_columns(
    answer: Answer, options: StackOptions | ShareOptions, box: Box, style: HouseStyle, *, parts: bool
) -> Scene:
    """Draw one column a group, its series upon each other; turned where the names do not fit below."""
    grid = grid_of(answer)
    if not names_fit_vertically(grid, box, style):
        return stacked_bars(answer, options, box, style, parts=parts)
    grid, spans, texts = _spans(grid, options)
    axis = options.axis() if isinstance(options, ShareOptions) else options
    colours = _colours(answer, grid, style)
    plot = vertical_plot(grid, _domain_beside(grid, spans, box, parts=parts), axis, box, style, colours=colours)
    shapes = list(plot.shapes)
    font = style.body(LABEL_PX - 1, bold=True)
    widest = max(text_width(text, font) for row in texts for text in row)
    fits = options.values_on_marks and widest <= plot.bands.width - 2
    for number, row in enumerate(spans):
        colour = colours[number]
        for index, span in enumerate(row):
            if span is None or span[0] == span[1]:
                continue
            top, foot = plot.scale(span[1]), plot.scale(span[0])
            x, width = plot.bands.start(index), plot.bands.width
            title = grid.title(number, index, texts[number][index])
            shapes.append(Rect(x, top, width, max(foot - top - 1, 0.5), colour, title=title))
            if fits:
                room = Room(x, top, width, foot - top)
                shapes += value_inside(texts[number][index], room, colour, font, style)
    said = describe(answer, "Stacked columns, each 100%" if parts else "Stacked columns")
    return Scene(box.width, box.height, (*shapes, *plot.front), answer.sentence, said, nameless=plot.nameless)


def stacked_bars(answer: Answer, options: AnyLevelOptions, box: Box, style: HouseStyle, *, parts: bool) -> Scene:
    """Draw one bar a group, its series one after another."""
    grid, spans, texts = _spans(grid_of(answer), options)
    domain = _domain_beside(grid, spans, box, parts=parts)
    foot = 24.0 if box.height >= 150 else 0.0
    colours = _colours(answer, grid, style)
    plot = horizontal_plot(grid, domain, texts, box, style, rows=1, foot=foot, value_room=False, colours=colours)
    scale = replace(plot.scale, range=(plot.left, box.width - 22))
    shapes: list[Shape] = list(plot.shapes)
    amounts = options if isinstance(options, NumberOptions) else None
    if foot:
        shapes += horizontal_value_axis(domain, grid.column, plot.top, box.height - foot, scale, style, amounts)
    font = plot.value_font
    for number, row in enumerate(spans):
        colour = colours[number]
        for index, span in enumerate(row):
            if span is None or span[0] == span[1]:
                continue
            start, end = scale(span[0]), scale(span[1])
            y, height = plot.bands.start(index), plot.bands.width
            title = grid.title(number, index, texts[number][index])
            shapes.append(Rect(start, y, max(end - start - 1, 0.5), height, colour, title=title))
            if options.values_on_marks:
                room = Room(start, y, end - start, height)
                shapes += value_inside(texts[number][index], room, colour, font, style)
    shapes.append(Line(scale(0), plot.top, scale(0), box.height - foot, style.muted))
    said = describe(answer, "Stacked bars, each 100%" if parts else "Stacked bars")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said, nameless=plot.nameless)


def _colours(answer: Answer, grid: Grid, style: HouseStyle) -> list[str]:
    """Return the colours of the series: those of a scale where they are its steps."""
    split = answer.of("split")
    return colours_of_parts([one.name for one in grid.series], split[0] if split else None, style)


def as_parts(column: AnswerColumn) -> AnswerColumn:
    """Return a measure's column as that of parts of 100%."""
    return replace(column, unit="%", name=f"Share of {lower_first(column.name)}")


def _spans(grid: Grid, options: AnyLevelOptions) -> tuple[Grid, list[list[Span | None]], list[list[str]]]:
    """Return the grid (its unit that of what is drawn), where each value stands, and its text."""
    values = [one.values for one in grid.series]
    if not isinstance(options, PartOptions):
        return grid, stack(values), [texts_of(row, grid.column, options) for row in values]
    made = shares(values)
    return replace(grid, column=as_parts(grid.column)), stack(made), texts_of_parts(made, options)


def texts_of_parts(rows: list[list[float | None]], options: PartOptions) -> list[list[str]]:
    """Return the percentages of parts, those of each group adding up to 100 unless that is not wanted."""
    adds_up = options.rounding == ADDS_UP
    groups = [
        part_texts(group, options.decimals, adds_up=adds_up, locale=options.in_locale)
        for group in zip(*rows, strict=True)
    ]
    return [list(row) for row in zip(*groups, strict=True)]


def _domain_beside(grid: Grid, spans: list[list[Span | None]], box: Box, *, parts: bool) -> tuple[float, float]:
    """Return the scale that holds the stacks, also those of the drawings beside this one."""
    if parts or box.beside is None:
        return _domain(spans, parts=parts)
    return _domain(stack([one.values for one in on_scale(grid, box)]), parts=False)


def _domain(spans: list[list[Span | None]], *, parts: bool) -> tuple[float, float]:
    ends = [end for row in spans for span in row if span is not None for end in span]
    low, high = min(ends, default=0.0), max(ends, default=1.0)
    if parts:
        return (-1.0 if low < 0 else 0.0, 1.0) if high > 0 else _WHOLE
    return nice_domain(min(0.0, low), max(0.0, high)) if ends and (low or high) else _WHOLE
