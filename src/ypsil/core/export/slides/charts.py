"""Charts that office programs draw themselves, with their numbers in a workbook within (ECMA-376, part 1, 21.2)."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from typing import Any

from lxml import etree
from pptx.chart.chart import Chart
from pptx.chart.data import BubbleChartData, CategoryChartData, XyChartData
from pptx.dml.color import RGBColor
from pptx.enum.chart import XL_CHART_TYPE, XL_LABEL_POSITION, XL_LEGEND_POSITION, XL_MARKER_STYLE, XL_TICK_MARK
from pptx.oxml import parse_xml
from pptx.oxml.ns import qn
from pptx.util import Emu, Pt

from ypsil.core.drawing.colour import readable_on
from ypsil.core.drawing.svg import allowed, escaped
from ypsil.core.export.number_codes import PERIOD_CODES, number_code
from ypsil.core.export.slides.space import Space
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import NativeKind
from ypsil.core.visuals.shared.native import NativeChart, NativeSeries

_KINDS: dict[NativeKind, XL_CHART_TYPE] = {
    "columns": XL_CHART_TYPE.COLUMN_CLUSTERED,
    "bars": XL_CHART_TYPE.BAR_CLUSTERED,
    "stacked columns": XL_CHART_TYPE.COLUMN_STACKED,
    "stacked bars": XL_CHART_TYPE.BAR_STACKED,
    "shared columns": XL_CHART_TYPE.COLUMN_STACKED_100,
    "shared bars": XL_CHART_TYPE.BAR_STACKED_100,
    "histogram": XL_CHART_TYPE.COLUMN_CLUSTERED,
    "lines": XL_CHART_TYPE.LINE,
    "areas": XL_CHART_TYPE.AREA,
    "stacked areas": XL_CHART_TYPE.AREA_STACKED,
    "pie": XL_CHART_TYPE.PIE,
    "ring": XL_CHART_TYPE.DOUGHNUT,
    "dots": XL_CHART_TYPE.XY_SCATTER,
    "bubbles": XL_CHART_TYPE.BUBBLE,
    "columns and line": XL_CHART_TYPE.COLUMN_CLUSTERED,
    "web": XL_CHART_TYPE.RADAR,
}
_LYING = ("bars", "stacked bars", "shared bars")
_STACKED = ("stacked columns", "stacked bars", "shared columns", "shared bars")
_OF_WHOLE = ("shared columns", "shared bars")
_LINED = ("lines", "web")
_ROUND = ("pie", "ring")
_BY_TWO = ("dots", "bubbles")
# Those whose values have a name at their axis, as on the page.
_NAMED = ("columns", "stacked columns", "histogram", "lines", "areas", "stacked areas", *_BY_TWO)
_GAPS = {"histogram": 2, "columns": 45, "bars": 35}
_HOLE = 60
_LABEL_PX = 13.0
_LINE_PX = 2.5
_DOT_PX = 9.0
_MOST_LABELS = 60
# Names that stand beside each other below a chart, and days that do.
_MOST_NAMES, _MOST_DAYS = 24, 9
_AREA_SEEN = 0.35
_LARGEST_BUBBLE = 40


def add_chart(
    shapes: Any, chart: NativeChart, space: Space, at: tuple[float, float, float, float], style: HouseStyle, zoom: float
) -> Any:
    """Add a chart to a slide, its place in px of the page: left, top, width, height; return its frame. ``zoom`` is how
    many times as large as usual the type of drawings is."""
    x, y = space.place(at[0], at[1])
    size = (Emu(max(1, space.emu(at[2]))), Emu(max(1, space.emu(at[3]))))
    frame = shapes.add_chart(_KINDS[chart.kind], Emu(x), Emu(y), *size, _data(chart))
    made = frame.chart
    label_px = _LABEL_PX * zoom
    made.has_title = False
    made.font.size = Pt(round(max(1.0, space.points(label_px)), 1))
    made.font.name = style.body_family
    made.font.color.rgb = _rgb(style.muted)
    _legend(made, chart)
    plot = made.plots[0]
    if chart.kind in _ROUND:
        _slices(plot, chart, style)
    else:
        _axes(made, chart, style)
        if hasattr(plot, "gap_width"):
            plot.gap_width = _GAPS.get(chart.kind, 40)
            plot.overlap = 100 if chart.kind in _STACKED else 0
        if chart.kind not in _BY_TWO:
            plot.vary_by_categories = False
        for one, drawn in zip(plot.series, chart.series, strict=False):
            _coloured(one, drawn, chart, space, style)
        if chart.has_values and sum(len(one.values) for one in chart.series) <= _MOST_LABELS:
            _labels(plot, chart, style)
    if chart.kind == "columns and line" and len(chart.series) > 1:
        _put_on_line(made, chart, space, style)
    if chart.kind == "bubbles":
        plot.bubble_scale = _LARGEST_BUBBLE
    return frame


def _data(chart: NativeChart) -> Any:
    if chart.kind == "dots":
        dots = XyChartData()
        for one in chart.series:
            series = dots.add_series(allowed(one.name), number_code(one.column, one.values) or "General")
            for across, up in zip(one.across, one.values, strict=True):
                series.add_data_point(across, up)
        return dots
    if chart.kind == "bubbles":
        bubbles = BubbleChartData()
        for one in chart.series:
            series = bubbles.add_series(allowed(one.name), number_code(one.column, one.values) or "General")
            for across, up, size in zip(one.across, one.values, one.sizes, strict=True):
                series.add_data_point(across, up, size)
        return bubbles
    data = CategoryChartData()
    data.categories = [allowed(name) if isinstance(name, str) else name for name in chart.names]
    for one in chart.series:
        data.add_series(allowed(one.name), one.values, number_code(one.column, one.values) or "General")
    return data


def _rgb(colour: str) -> RGBColor:
    return RGBColor.from_string(colour.removeprefix("#")[:6].upper())


def _legend(made: Chart, chart: NativeChart) -> None:
    made.has_legend = len(chart.series) > 1 or chart.kind in _ROUND
    if made.has_legend and made.legend is not None:
        below = XL_LEGEND_POSITION.BOTTOM if chart.kind in _BY_TWO else XL_LEGEND_POSITION.TOP
        made.legend.position = XL_LEGEND_POSITION.RIGHT if chart.kind in _ROUND else below
        made.legend.include_in_layout = False


def _slices(plot: Any, chart: NativeChart, style: HouseStyle) -> None:
    series = plot.series[0]
    labels = series.data_labels
    labels.show_percentage, labels.show_value = True, False
    labels.number_format, labels.number_format_is_linked = "0%", False
    for place in range(len(chart.names)):
        colour = chart.series[0].odd.get(place) or style.colour(place)
        point = series.points[place]
        point.format.fill.solid()
        point.format.fill.fore_color.rgb = _rgb(colour)
        point.format.line.color.rgb = _rgb(style.paper)
        seen = point.data_label.font
        seen.bold, seen.color.rgb = True, _rgb(readable_on(colour, style.ink, style.paper))
        _says_share(point.data_label._dLbl)
    if chart.kind == "ring":
        hole = plot._element.find(qn("c:holeSize"))
        if hole is None:
            hole = etree.SubElement(plot._element, qn("c:holeSize"))
        hole.set("val", str(_HOLE))


def _says_share(label: Any) -> None:
    """Let the label of one slice say its share, and nothing else."""
    for name in ("c:showVal", "c:showPercent"):
        found = label.find(qn(name))
        if found is not None:
            found.set("val", "1" if name == "c:showPercent" else "0")


def _axes(made: Chart, chart: NativeChart, style: HouseStyle) -> None:
    """Give the axes the look, the scales and the numbers of the page's."""
    along, values = made.category_axis, made.value_axis
    column = chart.series[0].column
    for axis, domain in ((values, chart.up_domain), (along, chart.across_domain)):
        axis.has_major_gridlines = axis is values or chart.kind in _BY_TWO
        if axis.has_major_gridlines:
            axis.major_gridlines.format.line.color.rgb = _rgb(style.grid)
        axis.major_tick_mark = XL_TICK_MARK.NONE
        if domain is not None:
            axis.minimum_scale, axis.maximum_scale = domain
    along.format.line.color.rgb = _rgb(style.muted)
    values.format.line.fill.background()
    _numbered(values, "0%" if chart.kind in _OF_WHOLE else number_code(column, _round_ones(chart.series[0])))
    if chart.kind in _LYING:
        # Office programs count from the foot, readers from the head.
        along.reverse_order = True
        values.visible = values.has_major_gridlines = not chart.has_values
    if chart.across is not None:
        _numbered(along, number_code(chart.across, _whole(chart.series[0].across)))
        _name(along, chart.across.shown or chart.across.name, style)
    if chart.kind in _NAMED and len({one.column.name for one in chart.series}) == 1:
        _name(values, column.shown or column.name, style)
    _names_along(along, chart)


def _numbered(axis: Any, code: str) -> None:
    if code:
        axis.tick_labels.number_format, axis.tick_labels.number_format_is_linked = code, False


def _names_along(along: Any, chart: NativeChart) -> None:
    """Name as many groups or days along an axis as have room."""
    if chart.names and isinstance(chart.names[0], dt.date):
        grain = chart.per.grain if chart.per is not None else None
        _numbered(along, PERIOD_CODES.get(grain or "day", "yyyy-mm-dd"))
        _thin_days(along._element, chart)
    elif chart.kind not in _LYING and len(chart.names) > _MOST_NAMES:
        _set_last(along._element, "c:tickLblSkip", -(-len(chart.names) // _MOST_NAMES), ("c:noMultiLvlLbl",))


def _thin_days(axis: Any, chart: NativeChart) -> None:
    """Name only so many days along an axis as have room beside each other."""
    days = [day for day in chart.names if isinstance(day, dt.date)]
    first, last = min(days), max(days)
    months = 12 * (last.year - first.year) + last.month - first.month
    grain = chart.per.grain if chart.per is not None else None
    if grain == "year":
        unit, count = "years", -(-(months // 12 + 1) // _MOST_DAYS)
    elif grain in ("month", "quarter") or months > _MOST_DAYS:
        unit, count = "months", next((step for step in (1, 2, 3, 6, 12, 24, 60) if months / step < _MOST_DAYS), 120)
    else:
        unit, count = "days", max(1, -(-(last - first).days // _MOST_DAYS))
    following = ("c:majorTimeUnit", "c:minorUnit", "c:minorTimeUnit")
    _set_last(axis, "c:majorUnit", count, following)
    _set_last(axis, "c:majorTimeUnit", unit, following[1:])


def _set_last(axis: Any, name: str, value: object, following: Sequence[str]) -> None:
    """Set a property of an axis that stands behind all others but some (ECMA-376, part 1, 21.2.2.25 and 43)."""
    for found in axis.findall(qn(name)):
        axis.remove(found)
    made = etree.Element(qn(name))
    made.set("val", str(value))
    places = [axis.index(found) for other in following if (found := axis.find(qn(other))) is not None]
    axis.insert(min(places, default=len(axis)), made)


def _name(axis: Any, name: str, style: HouseStyle) -> None:
    axis.has_title = True
    axis.axis_title.text_frame.text = allowed(name)
    for run in axis.axis_title.text_frame.paragraphs[0].runs:
        run.font.bold = False
        run.font.color.rgb = _rgb(style.muted)


def _round_ones(one: NativeSeries) -> Sequence[float | None]:
    """Return values by which the numbers at an axis are written: whole ones where these are large."""
    return _whole([value for value in one.values if value is not None])


def _whole(values: Sequence[float | None]) -> Sequence[float | None]:
    found = [value for value in values if value is not None]
    return [round(value) for value in found] if max(map(abs, found), default=0) >= 10 else found


def _coloured(one: Any, drawn: NativeSeries, chart: NativeChart, space: Space, style: HouseStyle) -> None:
    colour = _rgb(drawn.colour)
    if chart.kind in _LINED:
        one.format.line.color.rgb = colour
        one.format.line.width = Emu(space.emu(_LINE_PX * style.charts.line))
        one.smooth = False
        one.marker.style = XL_MARKER_STYLE.NONE
        return
    if chart.kind == "dots":
        one.format.line.fill.background()
        one.marker.style = XL_MARKER_STYLE.CIRCLE
        one.marker.size = max(2, min(72, round(space.points(_DOT_PX))))
        one.marker.format.fill.solid()
        one.marker.format.fill.fore_color.rgb = colour
        one.marker.format.line.fill.background()
        return
    one.format.fill.solid()
    one.format.fill.fore_color.rgb = colour
    if chart.kind == "areas":
        _let_through(one.format.fill, _AREA_SEEN)
        one.format.line.color.rgb = colour
        one.format.line.width = Emu(space.emu(_LINE_PX * style.charts.line))
    if chart.kind == "bubbles":
        _let_through(one.format.fill, 0.7)
    if hasattr(one, "invert_if_negative"):
        one.invert_if_negative = False
    for place, odd in drawn.odd.items():
        fill = one.points[place].format.fill
        fill.solid()
        fill.fore_color.rgb = _rgb(odd)


def _let_through(fill: Any, solid: float) -> None:
    colour = fill._xPr.find(".//" + qn("a:srgbClr"))
    etree.SubElement(colour, qn("a:alpha")).set("val", str(round(100_000 * solid)))


def _labels(plot: Any, chart: NativeChart, style: HouseStyle) -> None:
    if chart.kind in ("lines", "areas", "stacked areas", "web", *_BY_TWO):
        return
    plot.has_data_labels = True
    labels = plot.data_labels
    labels.show_value = True
    labels.font.bold = True
    labels.font.color.rgb = _rgb(style.ink)
    code = number_code(chart.series[0].column, chart.series[0].values)
    if code:
        labels.number_format, labels.number_format_is_linked = code, False
    if chart.kind not in _STACKED:
        labels.position = XL_LABEL_POSITION.OUTSIDE_END
        return
    for one, drawn in zip(plot.series, chart.series, strict=True):
        own = one.data_labels
        own.show_value = True
        own.font.color.rgb = _rgb(readable_on(drawn.colour, style.ink, style.paper))
        if code:
            own.number_format, own.number_format_is_linked = code, False


def _put_on_line(made: Chart, chart: NativeChart, space: Space, style: HouseStyle) -> None:
    """Make the second series of columns a line with an axis of its own, at the right."""
    plot_area = made._chartSpace.chart.plotArea
    columns = plot_area.find(qn("c:barChart"))
    second = columns.findall(qn("c:ser"))[1]
    columns.remove(second)
    for unfit in ("c:invertIfNegative", "c:spPr", "c:dLbls"):
        for found in second.findall(qn(unfit)):
            second.remove(found)
    drawn = chart.series[1]
    colour = drawn.colour.removeprefix("#")[:6].upper()
    width = space.emu(_LINE_PX * style.charts.line)
    look = parse_xml(
        f'<c:spPr {_SPACES}><a:ln w="{width}" cap="rnd"><a:solidFill><a:srgbClr val="{colour}"/></a:solidFill>'
        "<a:round/></a:ln></c:spPr>"
    )
    marker = parse_xml(
        f'<c:marker {_SPACES}><c:symbol val="circle"/><c:size val="6"/><c:spPr><a:solidFill>'
        f'<a:srgbClr val="{colour}"/></a:solidFill><a:ln><a:noFill/></a:ln></c:spPr></c:marker>'
    )
    place = list(second).index(second.find(qn("c:tx"))) + 1
    second.insert(place, look)
    second.insert(place + 1, marker)
    second.append(parse_xml(f'<c:smooth {_SPACES} val="0"/>'))
    line = parse_xml(
        f'<c:lineChart {_SPACES}><c:grouping val="standard"/><c:varyColors val="0"/><c:marker val="1"/>'
        f'<c:axId val="{_SECOND_ALONG}"/><c:axId val="{_SECOND_VALUES}"/></c:lineChart>'
    )
    line.insert(2, second)
    columns.addnext(line)
    code = escaped(number_code(drawn.column, _round_ones(drawn)) or "General")
    last = [axis for axis in plot_area if axis.tag in (qn("c:catAx"), qn("c:valAx"), qn("c:dateAx"))][-1]
    along = parse_xml(
        f'<c:catAx {_SPACES}><c:axId val="{_SECOND_ALONG}"/><c:scaling><c:orientation val="minMax"/></c:scaling>'
        f'<c:delete val="1"/><c:axPos val="b"/><c:majorTickMark val="none"/><c:minorTickMark val="none"/>'
        f'<c:tickLblPos val="nextTo"/><c:crossAx val="{_SECOND_VALUES}"/><c:crosses val="autoZero"/></c:catAx>'
    )
    values = parse_xml(
        f'<c:valAx {_SPACES}><c:axId val="{_SECOND_VALUES}"/><c:scaling><c:orientation val="minMax"/></c:scaling>'
        f'<c:delete val="0"/><c:axPos val="r"/><c:numFmt formatCode="{code}" sourceLinked="0"/>'
        f'<c:majorTickMark val="none"/><c:minorTickMark val="none"/><c:tickLblPos val="nextTo"/>'
        f"<c:spPr><a:ln><a:noFill/></a:ln></c:spPr>"
        f'<c:crossAx val="{_SECOND_ALONG}"/><c:crosses val="max"/></c:valAx>'
    )
    last.addnext(along)
    along.addnext(values)


_SPACES = (
    'xmlns:c="http://schemas.openxmlformats.org/drawingml/2006/chart" '
    'xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"'
)
_SECOND_ALONG, _SECOND_VALUES = 50010, 50020
