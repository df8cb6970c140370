"""A scene as SVG: presentation attributes only, so that it runs under a strict content policy."""

from __future__ import annotations

import re
from html import escape

from ypsil.core.drawing.faces import chain
from ypsil.core.drawing.measure import runs
from ypsil.core.drawing.scene import Font, Line, Path, Rect, Scene, Shape, Text

_NOT_XML = re.compile("[^\\t\\n\\r\\u0020-\\ud7ff\\ue000-\\ufffd\\U00010000-\\U0010ffff]")


def scene_to_svg(scene: Scene, *, label_id: str = "", css_class: str = "") -> str:
    """Return the scene as one <svg> element with its name and description.

    ``label_id`` makes the ids of its title and description unique on a page; ``css_class`` is for its style sheet.
    """
    styled = f' class="{css_class}"' if css_class else ""
    head = (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {number(scene.width)} {number(scene.height)}" '
        f'width="{number(scene.width)}" height="{number(scene.height)}"{styled}'
    )
    if not scene.name:
        return f'{head} aria-hidden="true">{scene_markup(scene)}</svg>'
    title_id, desc_id = f"{label_id or 'scene'}-title", f"{label_id or 'scene'}-desc"
    # A drawing whose marks can be read one by one is a document of symbols (W3C, WAI-ARIA Graphics Module 1.0).
    role = "graphics-document" if any(_is_mark(shape) for shape in scene.shapes) else "img"
    return (
        f'{head} role="{role}" aria-labelledby="{title_id}" aria-describedby="{desc_id}">'
        f'<title id="{title_id}">{escaped(scene.name)}</title>'
        f'<desc id="{desc_id}">{escaped(scene.description)}</desc>{scene_markup(scene)}</svg>'
    )


def scene_markup(scene: Scene) -> str:
    """Return the shapes of a scene as SVG elements."""
    return "".join(map(_element, scene.shapes))


def escaped(text: str, *, quote: bool = True) -> str:
    """Return text as it may stand in XML; characters that XML 1.0 (section 2.2) does not allow become spaces.

    >>> escaped("a < b\\x0b")
    'a &lt; b '
    """
    return escape(_NOT_XML.sub(" ", text), quote=quote)


def number(value: float) -> str:
    """Return a coordinate with at most two decimals.

    >>> number(12.0), number(0.1 + 0.2)
    ('12', '0.3')
    """
    text = f"{value:.2f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text


def font_family(family: str) -> str:
    return ", ".join(chain(family))


def _font(font: Font) -> str:
    weight = f' font-weight="{font.weight}"' if font.weight != 400 else ""
    return f' font-family="{font_family(font.family)}" font-size="{number(font.size)}"{weight}'


def _element(shape: Shape) -> str:
    markup, name = _open(shape)
    if _is_mark(shape):
        markup += ' role="graphics-symbol"'
    title = f"<title>{escaped(shape.title)}</title>" if shape.title else ""
    if isinstance(shape, Text):
        return f"{markup}>{title}{_letters(shape)}</{name}>"
    return f"{markup}>{title}</{name}>" if title else f"{markup}/>"


def _is_mark(shape: Shape) -> bool:
    return bool(shape.title) and not isinstance(shape, Text)


def _letters(text: Text) -> str:
    """The text, its family said anew for stretches in other scripts: renderers differ in what they fall back to."""
    font = text.font
    if text.text.isascii():
        return escaped(text.text, quote=False)
    return "".join(
        escaped(run, quote=False)
        if family == font.family
        else f'<tspan font-family="{family}">{escaped(run, quote=False)}</tspan>'
        for run, family in runs(text.text, font.family, font.weight)
    )


def _opacity(opacity: float) -> str:
    return f' opacity="{number(opacity)}"' if opacity != 1 else ""


def _dash(dash: str) -> str:
    return f' stroke-dasharray="{dash}"' if dash else ""


def _open(shape: Shape) -> tuple[str, str]:
    if isinstance(shape, Rect):
        radius = f' rx="{number(shape.radius)}"' if shape.radius else ""
        return (
            f'<rect x="{number(shape.x)}" y="{number(shape.y)}" width="{number(shape.width)}" '
            f'height="{number(shape.height)}"{radius} fill="{shape.fill}"{_opacity(shape.opacity)}',
            "rect",
        )
    if isinstance(shape, Line):
        return (
            f'<line x1="{number(shape.x1)}" y1="{number(shape.y1)}" x2="{number(shape.x2)}" '
            f'y2="{number(shape.y2)}" stroke="{shape.stroke}" stroke-width="{number(shape.stroke_width)}"'
            f"{_dash(shape.dash)}",
            "line",
        )
    if isinstance(shape, Path):
        stroke = (
            f' stroke="{shape.stroke}" stroke-width="{number(shape.stroke_width)}" stroke-linejoin="round"'
            if shape.stroke != "none"
            else ""
        )
        moved = f' transform="translate({number(shape.x)} {number(shape.y)})"' if shape.x or shape.y else ""
        extra = f"{_dash(shape.dash)}{_opacity(shape.opacity)}"
        return f'<path d="{shape.d}" fill="{shape.fill}"{stroke}{extra}{moved}', "path"
    anchor = f' text-anchor="{shape.anchor}"' if shape.anchor != "start" else ""
    return (
        f'<text x="{number(shape.x)}" y="{number(shape.y)}"{_font(shape.font)} fill="{shape.fill}"{anchor}',
        "text",
    )
