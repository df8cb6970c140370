"""What is drawn across a chart at a value: a target, a limit, the average, a usual range."""

from __future__ import annotations

from dataclasses import dataclass

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Line, Rect, Shape, Text
from ypsil.core.drawing.ticks import nice_domain
from ypsil.core.drawing.wrap import shorten
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box
from ypsil.core.visuals.shared.axes import LABEL_PX
from ypsil.core.visuals.shared.grid import Grid, texts_of
from ypsil.core.visuals.shared.settings import AxisOptions, ReferenceOptions


@dataclass(frozen=True, slots=True)
class ReferenceLine:
    """A line across the chart at a value (a target, a limit, the average), or a band up to another one."""

    value: float
    name: str
    text: str
    end: float | None = None

    @property
    def middle(self) -> float:
        return self.value if self.end is None else (self.value + self.end) / 2


def reference_lines_of(grid: Grid, options: ReferenceOptions) -> list[ReferenceLine]:
    """Return what is set: the reference, the average of all values, the band."""
    lines: list[tuple[float, str]] = []
    if options.reference is not None:
        lines.append((options.reference, options.reference_name or "Line"))
    present = [value for one in grid.series for value in one.values if value is not None]
    if options.average and present:
        lines.append((sum(present) / len(present), "Average"))
    across = [ReferenceLine(value, name, texts_of([value], grid.column, options)[0]) for value, name in lines]
    band = band_of(options)
    if band is not None:
        said = "–".join(texts_of(band, grid.column, options))
        across.append(ReferenceLine(band[0], options.band_name or "Band", said, band[1]))
    return across


def band_of(options: ReferenceOptions) -> tuple[float, float] | None:
    """Return the ends of the band, the lower first, where both are set."""
    if options.band_from is None or options.band_to is None or options.band_from == options.band_to:
        return None
    return min(options.band_from, options.band_to), max(options.band_from, options.band_to)


def reference_room(lines: list[ReferenceLine], box: Box, style: HouseStyle) -> float:
    """Return the width that the names of lines across take at the right."""
    font = style.body(LABEL_PX - 1, bold=True)
    widest = max((text_width(text, font) for line in lines for text in (line.name, line.text)), default=-8.0)
    return min(widest, 0.26 * box.width) + 8


def draw_reference_lines(
    lines: list[ReferenceLine], scale: LinearScale, left: float, right: float, width: float, style: HouseStyle
) -> list[Shape]:
    """Return horizontal lines from ``left`` to ``right``, each with its name and value behind its end, up to ``width``.

    Names that would meet are moved apart.
    """
    font = style.body(LABEL_PX - 1, bold=True)
    shapes: list[Shape] = []
    low, high = sorted(scale.domain)
    limit = max(scale.range) + font.size
    for line in sorted((one for one in lines if low <= one.middle <= high), key=lambda one: one.middle):
        y = scale(line.middle)
        if line.end is None:
            shapes.append(Line(left, y, right, y, style.ink, 1.25, f"{line.name} {line.text}", dash="5 4"))
        baseline = min(y - 0.2 * font.size, limit - 1.1 * font.size)
        limit = baseline - 1.2 * font.size
        for row, text in enumerate((line.name, line.text)):
            shown = shorten(text, max(20.0, width - right - 6), font)
            shapes.append(Text(right + 6, baseline + row * font.size * 1.1, shown, font, style.ink))
    return shapes


def reference_bands(
    lines: list[ReferenceLine], scale: LinearScale, left: float, right: float, style: HouseStyle
) -> list[Shape]:
    """Return what stands behind the marks of a chart: the bands, light, cut to the scale."""
    foot, head = sorted(scale.domain)
    shapes: list[Shape] = []
    for line in lines:
        if line.end is not None and line.end >= foot and line.value <= head:
            top, bottom = scale(min(line.end, head)), scale(max(line.value, foot))
            title = f"{line.name} {line.text}"
            shapes.append(Rect(left, top, right - left, bottom - top, style.quiet, title=title, opacity=0.4))
    return shapes


def with_reference(domain: tuple[float, float], options: AxisOptions) -> tuple[float, float]:
    """Widen a domain so that a line and a band across stand within it."""
    wanted = [*([] if options.reference is None else [options.reference]), *(band_of(options) or ())]
    low, high = min([domain[0], *wanted]), max([domain[1], *wanted])
    return domain if (low, high) == domain else nice_domain(low, high)
