"""The shapes of a scene as shapes of a slide, in DrawingML (ECMA-376, part 1, 20.1)."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache

from ypsil.core.drawing.scene import Fade, Hatch, Line, Path, Rect, Scene, Shape, Text
from ypsil.core.drawing.svg import escaped
from ypsil.core.export.slides.colours import WHOLE, colour_xml
from ypsil.core.export.slides.space import DEGREE, Space
from ypsil.core.export.slides.words import Leads, line_box

# More shapes than these make a slide that nobody can edit, and that opens slowly.
MOST_SHAPES = 600
_MOST_TEXTS = 120
_UNITS_A_PX = 100
# Lines below each other are one text where they are no further apart than so many heights of their type.
_NEAR, _FAR = 0.9, 1.7
_HATCHES = {
    "rising": "wdUpDiag",
    "falling": "wdDnDiag",
    "horizontal": "narHorz",
    "vertical": "narVert",
    "grid": "smGrid",
    "dots": "pct20",
    "broad": "dkUpDiag",
}
# Turned clockwise from the left to the right edge.
_WAYS = {"across": 0, "down": 90, "slope": 45}


@dataclass(slots=True)
class Ids:
    """Counts the shapes of a slide: each has a number of its own."""

    last: int = 1

    def next(self) -> int:
        self.last += 1
        return self.last


def can_draw(scene: Scene) -> bool:
    """Tell whether a scene can be shapes of a slide: not with pictures within shapes, nor with very many."""
    if len(scene.shapes) > MOST_SHAPES or len(scene.texts()) > _MOST_TEXTS:
        return False
    return all(
        shape.part is None and (shape.motif is None or isinstance(shape.motif, Fade))
        for shape in scene.shapes
        if isinstance(shape, Path)
    )


def shapes_of(scene: Scene, space: Space, ids: Ids, leads: Leads, opacity: float = 1.0) -> list[str]:
    """Return the shapes of a scene as elements of a slide, in the order they are drawn."""
    found: list[str] = []
    for shape in _with_lines_together(scene.shapes):
        if isinstance(shape, list):
            found.append(line_box(shape, space, ids.next(), leads, opacity))
        elif isinstance(shape, Rect):
            found.append(_rect(shape, space, ids.next(), opacity))
        elif isinstance(shape, Line):
            found.append(_line(shape, space, ids.next()))
        elif isinstance(shape, Path):
            found.append(_path(shape, space, ids.next(), opacity))
    return [one for one in found if one]


def _with_lines_together(shapes: Sequence[Shape]) -> Iterator[Shape | list[Text]]:
    """Yield the shapes, with the lines of one text as a list."""
    pending: list[Text] = []
    for shape in shapes:
        if isinstance(shape, Text) and pending and _goes_on(pending[-1], shape):
            pending.append(shape)
            continue
        if pending:
            yield pending
            pending = []
        if isinstance(shape, Text):
            pending = [shape]
        else:
            yield shape
    if pending:
        yield pending


def _goes_on(text: Text, following: Text) -> bool:
    alike = (text.x, text.anchor, text.font, text.fill, text.link, text.angle, text.cell)
    if alike != (following.x, following.anchor, following.font, following.fill, following.link, 0, None):
        return False
    return _NEAR * text.font.size <= following.y - text.y <= _FAR * text.font.size


def _rect(shape: Rect, space: Space, number: int, opacity: float) -> str:
    if shape.width <= 0 or shape.height <= 0:
        return ""
    corner = min(0.5, shape.radius / min(shape.width, shape.height))
    form = '<a:prstGeom prst="rect"><a:avLst/></a:prstGeom>'
    if corner == 0.5 and abs(shape.width - shape.height) < 0.1:
        form = '<a:prstGeom prst="ellipse"><a:avLst/></a:prstGeom>'
    elif corner > 0:
        size = f'<a:gd name="adj" fmla="val {round(corner * WHOLE)}"/>'
        form = f'<a:prstGeom prst="roundRect"><a:avLst>{size}</a:avLst></a:prstGeom>'
    place = space.frame(shape.x, shape.y, shape.width, shape.height)
    fill = _fill(shape.fill, shape.opacity * opacity, shape.hatch)
    return _shape(number, shape.title, f"{place}{form}{fill}<a:ln><a:noFill/></a:ln>")


def _line(shape: Line, space: Space, number: int) -> str:
    flips = ' flipV="1"' if (shape.x2 - shape.x1) * (shape.y2 - shape.y1) < 0 else ""
    left, top = min(shape.x1, shape.x2), min(shape.y1, shape.y2)
    place = space.frame(left, top, abs(shape.x2 - shape.x1), abs(shape.y2 - shape.y1), flips)
    form = '<a:prstGeom prst="line"><a:avLst/></a:prstGeom>'
    name = f'<p:cNvPr id="{number}" name="{_named(shape.title, "Line")}"/>'
    stroke = _stroke(shape.stroke, shape.stroke_width, shape.dash, space)
    said = f"<p:nvCxnSpPr>{name}<p:cNvCxnSpPr/><p:nvPr/></p:nvCxnSpPr>"
    return f"<p:cxnSp>{said}<p:spPr>{place}{form}{stroke}</p:spPr></p:cxnSp>"


def _path(shape: Path, space: Space, number: int, opacity: float) -> str:
    outline = _outline(shape.d)
    if outline is None:
        return ""
    (left, top, right, bottom), commands = outline
    by = shape.zoom
    place = space.frame(shape.x + by * left, shape.y + by * top, by * (right - left), by * (bottom - top))
    wide, high = (max(1, round((end - start) * _UNITS_A_PX)) for start, end in ((left, right), (top, bottom)))
    unfilled = ' fill="none"' if shape.fill == "none" else ""
    form = (
        "<a:custGeom><a:avLst/><a:gdLst/><a:ahLst/><a:cxnLst/>"
        '<a:rect l="0" t="0" r="r" b="b"/><a:pathLst>'
        f'<a:path w="{wide}" h="{high}"{unfilled}>{commands}</a:path></a:pathLst></a:custGeom>'
    )
    solid = shape.opacity * opacity
    fill = "<a:noFill/>"
    if isinstance(shape.motif, Fade):
        fill = _fading(shape.fill, shape.motif, solid)
    elif shape.fill != "none":
        fill = _fill(shape.fill, solid, shape.hatch)
    stroke = "<a:ln><a:noFill/></a:ln>"
    if shape.stroke != "none":
        stroke = _stroke(shape.stroke, shape.stroke_width * by, shape.dash, space, solid, is_round=shape.is_round)
    return _shape(number, shape.title, f"{place}{form}{fill}{stroke}")


@lru_cache(maxsize=4096)
def _outline(d: str) -> tuple[tuple[float, float, float, float], str] | None:
    """Return the box of an outline in SVG path syntax, and its commands from there; None for an empty one."""
    from fontTools.pens.recordingPen import RecordingPen
    from fontTools.svgLib.path import parse_path

    pen = RecordingPen()
    parse_path(d, pen)
    points = [point for _, several in pen.value for point in several]
    if not points:
        return None
    left, top = min(x for x, _ in points), min(y for _, y in points)
    right, bottom = max(x for x, _ in points), max(y for _, y in points)
    names = {"moveTo": "moveTo", "lineTo": "lnTo", "curveTo": "cubicBezTo", "qCurveTo": "quadBezTo"}
    found = []
    for command, several in pen.value:
        if command == "closePath":
            found.append("<a:close/>")
        elif command in names:
            placed = "".join(
                f'<a:pt x="{round((x - left) * _UNITS_A_PX)}" y="{round((y - top) * _UNITS_A_PX)}"/>'
                for x, y in several
            )
            found.append(f"<a:{names[command]}>{placed}</a:{names[command]}>")
    return (left, top, right, bottom), "".join(found)


def _shape(number: int, title: str, form: str) -> str:
    name = f'<p:cNvPr id="{number}" name="{_named(title, "Shape")}"/>'
    return f"<p:sp><p:nvSpPr>{name}<p:cNvSpPr/><p:nvPr/></p:nvSpPr><p:spPr>{form}</p:spPr></p:sp>"


def _named(title: str, usual: str) -> str:
    return escaped(" ".join(title.split())[:200]) or usual


def _fill(colour: str, opacity: float, hatch: Hatch | None = None) -> str:
    if hatch is None:
        return f"<a:solidFill>{colour_xml(colour, opacity)}</a:solidFill>"
    front, behind = colour_xml(hatch.ink, opacity), colour_xml(colour, opacity)
    return (
        f'<a:pattFill prst="{_HATCHES[hatch.kind]}"><a:fgClr>{front}</a:fgClr><a:bgClr>{behind}</a:bgClr></a:pattFill>'
    )


def _fading(colour: str, fade: Fade, opacity: float) -> str:
    ends = "".join(
        f'<a:gs pos="{place}">{colour_xml(end, opacity)}</a:gs>' for place, end in ((0, colour), (WHOLE, fade.to))
    )
    turned = f'<a:lin ang="{_WAYS[fade.way] * DEGREE}" scaled="1"/>'
    return f"<a:gradFill><a:gsLst>{ends}</a:gsLst>{turned}</a:gradFill>"


def _stroke(colour: str, width: float, dash: str, space: Space, opacity: float = 1.0, *, is_round: bool = False) -> str:
    cap = ' cap="rnd"' if is_round else ""
    parts = [float(part) for part in dash.replace(",", " ").split()]
    dashed = ""
    if parts and width > 0:
        # In hundredths of a line's width, each longer than nothing.
        pairs = zip(parts[::2], parts[1::2] or parts[::2], strict=False)
        stops = "".join(
            f'<a:ds d="{max(1, math.ceil(on / width)) * WHOLE}" sp="{max(1, math.ceil(off / width)) * WHOLE}"/>'
            for on, off in pairs
        )
        dashed = f"<a:custDash>{stops}</a:custDash>"
    drawn = f"<a:solidFill>{colour_xml(colour, opacity)}</a:solidFill>"
    return f'<a:ln w="{space.emu(width)}"{cap}>{drawn}{dashed}<a:round/></a:ln>'
