"""Signs as markup for screens, in the colour of the text beside them."""

from __future__ import annotations

from ypsil.core.drawing.icons import icons
from ypsil.core.drawing.signs.shipped import COLOURED_PLANE, LINE_PLANE, coloured, line_icons

_STROKE = 1.8


def sign_svg(name: str, size: float) -> str:
    """Return a sign as an SVG image of ``size`` px that is hidden from those who listen; nothing for an unknown one.

    >>> sign_svg("line:no such thing", 24)
    ''
    """
    of, _, label = name.rpartition(":")
    if of == "line" and label in line_icons():
        return _svg(_line(label), f"0 0 {LINE_PLANE:g} {LINE_PLANE:g}", size)
    if of == "coloured" and label in coloured():
        parts = "".join(f'<path d="{d}" fill="{fill}"/>' for fill, d in coloured()[label].parts)
        return _svg(parts, f"0 0 {COLOURED_PLANE:g} {COLOURED_PLANE:g}", size)
    if not of and name in icons():
        return _svg(f'<path d="{icons()[name].d}" fill="currentColor"/>', icons()[name].view_box, size)
    return ""


def _line(label: str) -> str:
    icon = line_icons()[label]
    drawn = f'<path d="{icon.filled}" fill="currentColor"/>' if icon.filled else ""
    if icon.line:
        ends = 'stroke-linecap="round" stroke-linejoin="round"'
        drawn += f'<path d="{icon.line}" fill="none" stroke="currentColor" stroke-width="{_STROKE}" {ends}/>'
    return drawn


def _svg(inner: str, box: str, size: float) -> str:
    return f'<svg viewBox="{box}" width="{size:g}" height="{size:g}" aria-hidden="true" focusable="false">{inner}</svg>'
