"""A scene as SVG: presentation attributes only, so that it runs under a strict content policy."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import lru_cache
from html import escape

from ypsil.core.drawing.faces import names
from ypsil.core.drawing.fills import AddressOf, Fills
from ypsil.core.drawing.measure import runs
from ypsil.core.drawing.pictures import data_address
from ypsil.core.drawing.scene import Font, Line, Mark, Path, Rect, Scene, Shape, Text

# What XML 1.0 (W3C, 2.2 Characters) leaves out is listed: a class of what it lets in takes 30 times as long to compile.
_LEFT_OUT = "\\x00-\\x08\\x0b\\x0c\\x0e-\\x1f\\ud800-\\udfff\\ufffe\\uffff"
_SPECIAL = re.compile(f"[{_LEFT_OUT}\"&'<>]")
_MARK = ' role="graphics-symbol"'
_NOT_XML = re.compile(f"[{_LEFT_OUT}]")


def scene_to_svg(
    scene: Scene,
    *,
    label_id: str = "",
    css_class: str = "",
    address_of: AddressOf = data_address,
    language: str = "",
    opacity: float = 1.0,
) -> str:
    """Return the scene as one <svg> element with its name and description.

    ``label_id`` makes the ids of its title and description unique on a page; ``css_class`` is for its style sheet.
    Pictures are held within, unless ``address_of`` tells where they are found. ``language`` is that of its texts, for a
    drawing that stands alone, ``opacity`` that of the whole.
    """
    said = f' lang="{escaped(language)}" xml:lang="{escaped(language)}"' if language else ""
    styled = f' class="{css_class}"' if css_class else ""
    head = (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {number(scene.width)} {number(scene.height)}" '
        f'width="{number(scene.width)}" height="{number(scene.height)}"{said}{styled}'
    )
    markup = scene_markup(scene, label_id, address_of)
    if opacity != 1:
        markup = f'<g opacity="{number(opacity)}">{markup}</g>'
    if not scene.name:
        return f'{head} aria-hidden="true">{markup}</svg>'
    title_id, desc_id = f"{label_id or 'scene'}-title", f"{label_id or 'scene'}-desc"
    # A drawing whose marks can be read one by one is a document of symbols (W3C, WAI-ARIA Graphics Module 1.0).
    role = "graphics-document" if _MARK in markup else "img"
    return (
        f'{head} role="{role}" aria-labelledby="{title_id}" aria-describedby="{desc_id}">'
        f'<title id="{title_id}">{escaped(scene.name)}</title>'
        f'<desc id="{desc_id}">{escaped(scene.description)}</desc>{markup}</svg>'
    )


def scene_markup(scene: Scene, prefix: str = "", address_of: AddressOf = data_address) -> str:
    """Return the shapes of a scene as SVG elements; ``prefix`` makes the ids of their fills unique on a page."""
    fills = Fills(prefix, address_of)
    shapes = "".join([_WRITERS[type(shape)](shape, fills) for shape in scene.shapes])
    return fills.definitions() + shapes


def escaped(text: str, *, quote: bool = True) -> str:
    """Return text as it may stand in XML; characters that XML 1.0 (section 2.2) does not allow become spaces.

    >>> escaped("a < b\\x0b")
    'a &lt; b '
    """
    return escape(_NOT_XML.sub(" ", text), quote=quote) if _SPECIAL.search(text) else text


def allowed(text: str) -> str:
    """Return text without the characters that XML 1.0 (section 2.2) does not allow: spaces stand for them."""
    return _NOT_XML.sub(" ", text)


@lru_cache(maxsize=32_768)
def number(value: float) -> str:
    """Return a coordinate with at most two decimals.

    >>> number(12.0), number(0.1 + 0.2)
    ('12', '0.3')
    """
    return f"{round(value, 2) + 0.0:.9g}"


def font_family(family: str) -> str:
    # Quoted: a name of which a part begins with a digit is else no name (W3C, CSS Fonts Module Level 4, 2.1.1).
    return ", ".join(f"'{name}'" for name in names(family))


@lru_cache(maxsize=256)
def _font(font: Font) -> str:
    weight = f' font-weight="{font.weight}"' if font.weight != 400 else ""
    slope = ' font-style="italic"' if font.is_italic else ""
    return f' font-family="{font_family(font.family)}" font-size="{number(font.size)}"{weight}{slope}'


def _text(shape: Text, _: Fills) -> str:
    anchor = f' text-anchor="{shape.anchor}"' if shape.anchor != "start" else ""
    title = f"<title>{escaped(shape.title)}</title>" if shape.title else ""
    turned = ""
    if shape.angle:
        turned = f' transform="rotate({number(shape.angle)} {number(shape.x)} {number(shape.y)})"'
    written = (
        f'<text x="{number(shape.x)}" y="{number(shape.y)}"{_font(shape.font)} fill="{shape.fill}"{anchor}{turned}>'
        f"{title}{_letters(shape)}</text>"
    )
    return f'<a href="{escaped(shape.link)}">{written}</a>' if shape.link else written


def _letters(text: Text) -> str:
    """The text, its family said anew for stretches in other scripts: renderers differ in what they fall back to."""
    font = text.font
    if text.text.isascii():
        return escaped(text.text, quote=False)
    return "".join(
        escaped(run, quote=False)
        if family == font.family
        else f"""<tspan font-family="'{family}'">{escaped(run, quote=False)}</tspan>"""
        for run, family in runs(text.text, font.family, font.weight, font.is_italic)
    )


def _rect(shape: Rect, fills: Fills) -> str:
    radius = f' rx="{number(shape.radius)}"' if shape.radius else ""
    return (
        f'<rect x="{number(shape.x)}" y="{number(shape.y)}" width="{number(shape.width)}" '
        f'height="{number(shape.height)}"{radius} fill="{fills.fill(shape)}"{_opacity(shape.opacity)}'
        f"{_closed(shape, 'rect')}"
    )


def _line(shape: Line, _: Fills) -> str:
    return (
        f'<line x1="{number(shape.x1)}" y1="{number(shape.y1)}" x2="{number(shape.x2)}" '
        f'y2="{number(shape.y2)}" stroke="{shape.stroke}" stroke-width="{number(shape.stroke_width)}"'
        f"{_dash(shape.dash)}{_closed(shape, 'line')}"
    )


def _path(shape: Path, fills: Fills) -> str:
    stroke = ""
    if shape.stroke != "none":
        width = number(shape.stroke_width)
        stroke = f' stroke="{shape.stroke}" stroke-width="{width}" stroke-linejoin="round"'
        if shape.is_round:
            stroke += ' stroke-linecap="round"'
    moved = f"translate({number(shape.x)} {number(shape.y)})" if shape.x or shape.y else ""
    if shape.zoom != 1:
        moved += f" scale({number(shape.zoom)})"
    moved = f' transform="{moved.strip()}"' if moved else ""
    return (
        f'<path d="{shape.d}" fill="{fills.fill(shape)}"{stroke}{_dash(shape.dash)}{_opacity(shape.opacity)}{moved}'
        f"{_closed(shape, 'path')}"
    )


def _closed(shape: Rect | Line | Path, name: str) -> str:
    """End an element; a shape with a title is a mark that readers reach."""
    if not shape.title:
        return "/>"
    return f"{_MARK}{_stands_for(shape.title)}><title>{escaped(shape.title)}</title></{name}>"


def _stands_for(title: str) -> str:
    """The group and the series that a mark stands for, for scripts."""
    if not isinstance(title, Mark):
        return ""
    group = f' data-group="{escaped(title.group)}"' if title.group else ""
    return group + (f' data-series="{escaped(title.series)}"' if title.series else "")


def _opacity(opacity: float) -> str:
    return f' opacity="{number(opacity)}"' if opacity != 1 else ""


def _dash(dash: str) -> str:
    return f' stroke-dasharray="{dash}"' if dash else ""


_WRITERS: dict[type[Shape], Callable[..., str]] = {Rect: _rect, Line: _line, Path: _path, Text: _text}
