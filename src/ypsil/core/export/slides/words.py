"""Texts of a page as texts of a slide, in DrawingML (ECMA-376, part 1, 21.1.2)."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from functools import cache

from ypsil.core.drawing.faces import face
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Font, Text
from ypsil.core.drawing.svg import escaped
from ypsil.core.drawing.typeset import Piece
from ypsil.core.export.slides.colours import WHOLE, colour_xml
from ypsil.core.export.slides.space import Space
from ypsil.core.prose.setting import Manner, Paragraph

# Gives the attributes by which a text leads to an address; nothing where that leads nowhere on a slide.
Leads = Callable[[str], str]

# What programs that measure otherwise need more than we do.
_SLACK = 1.03
_ALIGNED = {"start": "l", "middle": "ctr", "end": "r"}
_TURNED_ALIGNED = {"start": "r", "middle": "ctr", "end": "l"}
_LARGE = 1 / 0.66


@cache
def _extents(family: str, weight: int, is_italic: bool) -> tuple[float, float]:
    """Return how far a face reaches above its baseline, and how high its lines are, in heights of its type."""
    found = face(family, weight, is_italic)
    reach = found.font.get_font_extents("ltr")
    up = reach.ascender / found.units_per_em
    return up, up + (abs(reach.descender) + reach.line_gap) / found.units_per_em


def reach_above(font: Font) -> float:
    """Return the px from the upper edge of a line to its baseline."""
    return _extents(font.family, font.weight, font.is_italic)[0] * font.size


def _spacing(font: Font, line_px: float) -> str:
    """Return the distance of lines: a part of what is natural to the face."""
    natural = _extents(font.family, font.weight, font.is_italic)[1] * font.size
    return f'<a:lnSpc><a:spcPct val="{round(line_px / natural * WHOLE)}"/></a:lnSpc>'


def line_box(texts: Sequence[Text], space: Space, number: int, leads: Leads, opacity: float = 1.0) -> str:
    """Return lines of a drawing, one below the other, as a text that is as wide as they are."""
    first = texts[0]
    width = _SLACK * max(text_width(text.text, text.font) for text in texts) + 1
    step = texts[1].y - first.y if len(texts) > 1 else 0.0
    height = first.font.line_height + step * (len(texts) - 1)
    left = first.x - {"start": 0.0, "middle": 0.5, "end": 1.0}[first.anchor] * width
    top = first.y - reach_above(first.font)
    if first.angle:
        left, top = _turned(first, left, top, width, height)
    pieces = [Piece(text.text, text.font, text.fill, link=text.link) for text in texts]
    runs = "<a:br/>".join(_run(piece, space, leads, opacity) for piece in pieces)
    spacing = _spacing(first.font, step) if step else ""
    properties = f'<a:pPr algn="{_ALIGNED[first.anchor]}" marL="0" indent="0">{spacing}{_NO_ROOM}<a:buNone/></a:pPr>'
    place = space.frame(left, top, width, height, angle=first.angle)
    name = escaped(first.text[:60]) or "Text"
    return text_shape(number, name, place, f"<a:p>{properties}{runs}</a:p>", wrap="none")


def _turned(text: Text, left: float, top: float, width: float, height: float) -> tuple[float, float]:
    """Return the corner of a box that, turned about its middle, stands as the text does that is turned about its
    start."""
    angle = math.radians(text.angle)
    dx, dy = left + width / 2 - text.x, top + height / 2 - text.y
    middle_x = text.x + dx * math.cos(angle) - dy * math.sin(angle)
    middle_y = text.y + dx * math.sin(angle) + dy * math.cos(angle)
    return middle_x - width / 2, middle_y - height / 2


_NO_ROOM = '<a:spcBef><a:spcPts val="0"/></a:spcBef><a:spcAft><a:spcPts val="0"/></a:spcAft>'


def paragraphs_xml(
    manner: Manner, paragraphs: Sequence[Paragraph], space: Space, leads: Leads, opacity: float = 1.0
) -> str:
    """Return paragraphs of a tile as those of a text; they are broken into lines by whoever shows them."""
    return "".join(_paragraph(manner, one, space, leads, opacity) for one in paragraphs) or "<a:p/>"


def _paragraph(manner: Manner, one: Paragraph, space: Space, leads: Leads, opacity: float) -> str:
    aligned = (_ALIGNED if one.rightwards else _TURNED_ALIGNED)[manner.align]
    # What begins at the right is aligned by its own beginning there.
    direction = "" if one.rightwards else ' rtl="1"'
    hangs = space.emu(one.indent)
    signs = f'<a:buFont typeface="{escaped(manner.font.family)}"/>'
    if one.sign == "•":
        signs += '<a:buChar char="•"/>'
    elif one.sign:
        signs += f'<a:buAutoNum type="arabicPeriod" startAt="{int(one.sign.rstrip("."))}"/>'
    else:
        signs = "<a:buNone/>"
    step = hangs if one.sign else 0
    head = (
        f'<a:pPr algn="{aligned}" marL="{hangs}" indent="{-min(step, hangs)}"{direction}>'
        f"{_spacing(manner.font, manner.font.line_height)}{_NO_ROOM}{signs}</a:pPr>"
    )
    runs = "".join(_run(piece, space, leads, opacity) for piece in one.pieces)
    size = round(space.points(manner.font.size) * 100)
    return f'<a:p>{head}{runs}<a:endParaRPr sz="{size}"/></a:p>'


def _run(piece: Piece, space: Space, leads: Leads, opacity: float) -> str:
    size, baseline = piece.font.size, ""
    if piece.rise:
        # What stands above or below the line is made small by the program, as much as by us.
        size *= _LARGE
        baseline = f' baseline="{30_000 if piece.rise > 0 else -25_000}"'
    looks = ' b="1"' if piece.font.weight > 400 else ' b="0"'
    looks += ' i="1"' if piece.font.is_italic else ""
    looks += ' u="sng"' if piece.is_underlined else ""
    family = escaped(piece.font.family)
    faces = f'<a:latin typeface="{family}"/><a:ea typeface="{family}"/><a:cs typeface="{family}"/>'
    goal = leads(piece.link) if piece.link else ""
    link = f"<a:hlinkClick {goal}/>" if goal else ""
    fill = f"<a:solidFill>{colour_xml(piece.fill, opacity)}</a:solidFill>"
    size_pt = max(100, round(space.points(size) * 100))
    text = escaped(piece.text, quote=False).replace("\t", " ").replace("\n", " ")
    return f'<a:r><a:rPr sz="{size_pt}"{looks}{baseline}>{fill}{faces}{link}</a:rPr><a:t>{text}</a:t></a:r>'


def text_shape(
    number: int,
    name: str,
    place: str,
    paragraphs: str,
    *,
    wrap: str = "square",
    title: bool = False,
    columns: tuple[int, int] = (1, 0),
    click: str = "",
) -> str:
    """Return a text of a slide without room of its own at its edges; ``columns`` is their number and the room (EMU)
    between them, ``click`` the element that says where a press on it leads."""
    holder = '<p:ph type="title"/>' if title else ""
    box = "" if title else ' txBox="1"'
    side = f' numCol="{columns[0]}" spcCol="{columns[1]}"' if columns[0] > 1 else ""
    room = 'lIns="0" tIns="0" rIns="0" bIns="0"'
    body = f'<a:bodyPr wrap="{wrap}" {room}{side} rtlCol="0" anchor="t"><a:noAutofit/></a:bodyPr>'
    named = f'<p:cNvPr id="{number}" name="{name}">{click}</p:cNvPr>'
    return (
        f"<p:sp><p:nvSpPr>{named}<p:cNvSpPr{box}/><p:nvPr>{holder}</p:nvPr></p:nvSpPr>"
        f'<p:spPr>{place}<a:prstGeom prst="rect"><a:avLst/></a:prstGeom><a:noFill/></p:spPr>'
        f"<p:txBody>{body}<a:lstStyle/>{paragraphs}</p:txBody></p:sp>"
    )
