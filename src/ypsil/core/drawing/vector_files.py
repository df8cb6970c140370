"""Vector drawings that people bring: taken apart, and written anew from what is known to be harmless.

Nothing of a file is kept that is not on the lists below: no scripts, no handlers, no animation, no foreign content, no
styles that are not plain colours and lines, no address but that of a part of the drawing itself.
"""

from __future__ import annotations

import hashlib
import re
from typing import Final
from xml.etree import ElementTree

from ypsil.core.drawing.pictures import Picture
from ypsil.core.errors import UnreadableFile

MEDIA_TYPE: Final = "image/svg+xml"
MAX_BYTES: Final = 5_000_000
_MOST_PARTS = 20_000
# So many parts may be drawn once those are counted that are used again and again.
_MOST_DRAWN = 100_000
_MOST_DEPTH = 100
_USUAL_SIZE = (300.0, 150.0)
_LONGEST_PX = 2400.0
_SVG = "http://www.w3.org/2000/svg"
_HREFS = ("href", "{http://www.w3.org/1999/xlink}href")
_ELEMENTS = frozenset((
    "svg", "g", "path", "rect", "circle", "ellipse", "line", "polyline", "polygon", "text", "tspan", "defs",
    "linearGradient", "radialGradient", "stop", "clipPath", "mask", "pattern", "symbol", "use", "title", "desc",
))  # fmt: skip
# What can be said of a part by an attribute as well as by a style (SVG 2, 6.6 "Presentation attributes").
_PROPERTIES = frozenset((
    "fill", "fill-opacity", "fill-rule", "stroke", "stroke-width", "stroke-opacity", "stroke-linecap",
    "stroke-linejoin", "stroke-miterlimit", "stroke-dasharray", "stroke-dashoffset", "opacity", "color",
    "stop-color", "stop-opacity", "clip-path", "clip-rule", "mask", "display", "visibility", "font-family",
    "font-size", "font-weight", "font-style", "text-anchor", "letter-spacing", "paint-order",
))  # fmt: skip
_ATTRIBUTES = _PROPERTIES | frozenset((
    "id", "d", "x", "y", "dx", "dy", "x1", "y1", "x2", "y2", "cx", "cy", "r", "rx", "ry", "fx", "fy", "width",
    "height", "points", "transform", "viewBox", "preserveAspectRatio", "offset", "gradientUnits",
    "gradientTransform", "spreadMethod", "patternUnits", "patternContentUnits", "patternTransform", "maskUnits",
    "maskContentUnits", "clipPathUnits", "textLength", "lengthAdjust", "rotate",
))  # fmt: skip
_ID = re.compile(r"[A-Za-z_][\w.-]{0,200}")
_OWN_PART = re.compile(r"#([A-Za-z_][\w.-]{0,200})")
_OWN_ADDRESS = re.compile(r"url\(\s*['\"]?#([A-Za-z_][\w.-]{0,200})['\"]?\s*\)(\s+[\w#]+)?")
# Signs that plain values of the lists above have no use for.
_ODD = re.compile(r"[\\<>{}@]|:|//|/\*|url\s*\(|expression|import", re.IGNORECASE)
_RULE = re.compile(r"([^{}]+)\{([^{}]*)\}")
_SELECTOR = re.compile(r"([.#]?)([A-Za-z_][\w-]*)")
_COMMENT = re.compile(r"/\*.*?\*/", re.DOTALL)
_DOCTYPE = re.compile(rb"<!DOCTYPE[^>\[]*>", re.IGNORECASE)
_LENGTH = re.compile(r"\s*([\d.]+(?:e[+-]?\d+)?)\s*(px|pt|mm|cm|in|pc)?\s*", re.IGNORECASE)
_PX_OF = {"": 1.0, "px": 1.0, "pt": 96 / 72, "pc": 16.0, "mm": 96 / 25.4, "cm": 96 / 2.54, "in": 96.0}


def looks_like_svg(content: bytes) -> bool:
    """Tell whether a file may be a vector drawing.

    >>> looks_like_svg(b'<?xml version="1.0"?><svg/>'), looks_like_svg(b"GIF89a")
    (True, False)
    """
    return b"<svg" in content[:4096].lower()


def read_vector(content: bytes, where: str) -> Picture:
    """Return a vector drawing, written anew from its harmless parts; its size is in px, at most 2,400 long.

    Raises UnreadableFile for what is broken, empty once it is harmless, or far too large to be drawn.
    """
    if len(content) > MAX_BYTES:
        raise UnreadableFile("the drawing is larger than 5 MB", where=where, remedy="save a simpler one, or a PNG")
    plain = _DOCTYPE.sub(b"", content, count=1)
    if b"<!DOCTYPE" in plain or b"<!ENTITY" in plain:
        raise UnreadableFile(
            "the drawing declares entities, which are not taken", where=where, remedy="save it as plain SVG"
        )
    try:
        root = ElementTree.fromstring(plain)
    except (ElementTree.ParseError, ValueError, RecursionError):
        raise UnreadableFile("the drawing is broken", where=where, remedy="save it again as plain SVG") from None
    if _name(root) != "svg" or sum(1 for _ in root.iter()) > _MOST_PARTS:
        raise UnreadableFile("it is no drawing of at most 20,000 parts", where=where, remedy="save a simpler one")
    styles = _styles(root)
    clean = _clean(root, styles, 0)
    if clean is None or not _drawn(clean, where):
        raise UnreadableFile("nothing that can be drawn is in it", where=where, remedy="save it as plain SVG or PNG")
    width, height = _size(root)
    clean.set("viewBox", clean.get("viewBox") or f"0 0 {width:g} {height:g}")
    factor = min(1.0, _LONGEST_PX / max(width, height))
    width, height = max(1.0, width * factor), max(1.0, height * factor)
    clean.set("width", f"{width:g}")
    clean.set("height", f"{height:g}")
    ElementTree.register_namespace("", _SVG)
    written = ElementTree.tostring(clean, encoding="utf-8")
    return Picture(written, MEDIA_TYPE, round(width), round(height), hashlib.sha256(written).hexdigest())


def _name(element: ElementTree.Element) -> str:
    """Return an element's name where it is one of SVG; else nothing."""
    if not isinstance(element.tag, str):
        return ""
    space, _, name = element.tag.rpartition("}")
    return name if space in ("", "{" + _SVG) else ""


def _clean(element: ElementTree.Element, styles: dict[str, dict[str, str]], depth: int) -> ElementTree.Element | None:
    """Return an element made anew with what is harmless of it; nothing where it is not on the list."""
    name = _name(element)
    if name not in _ELEMENTS or depth > _MOST_DEPTH:
        return None
    made = ElementTree.Element(f"{{{_SVG}}}{name}", _attributes(element, styles))
    if name in ("text", "tspan", "title", "desc"):
        made.text = element.text
    for child in element:
        below = _clean(child, styles, depth + 1)
        if below is not None:
            below.tail = child.tail if name in ("text", "tspan") else None
            made.append(below)
        elif name in ("text", "tspan") and child.tail:
            made.text = (made.text or "") + child.tail
    return made


def _attributes(element: ElementTree.Element, styles: dict[str, dict[str, str]]) -> dict[str, str]:
    said = _harmless({name: value for name, value in element.attrib.items() if name in _ATTRIBUTES})
    keys = [_name(element), *(f".{one}" for one in element.get("class", "").split()), f"#{element.get('id', '')}"]
    for key in keys:
        said |= styles.get(key, {})
    found = said | _declarations(element.get("style", ""))
    for href in _HREFS:
        target = _OWN_PART.fullmatch(element.get(href, "").strip())
        if target and _name(element) in ("use", "linearGradient", "radialGradient", "pattern"):
            found["href"] = f"#{target.group(1)}"
    return found


def _harmless(said: dict[str, str]) -> dict[str, str]:
    return {name: value for name, value in said.items() if _is_harmless(name, value)}


def _is_harmless(name: str, value: str) -> bool:
    if name == "id":
        return _ID.fullmatch(value) is not None
    return _OWN_ADDRESS.fullmatch(value.strip()) is not None or _ODD.search(value) is None


def _declarations(text: str) -> dict[str, str]:
    """Return the plain properties that a style says."""
    found = {}
    for one in _COMMENT.sub("", text).split(";"):
        name, _, value = one.partition(":")
        if name.strip().lower() in _PROPERTIES:
            found[name.strip().lower()] = value.replace("!important", "").strip()
    return _harmless(found)


def _styles(root: ElementTree.Element) -> dict[str, dict[str, str]]:
    """Return what style sheets in a drawing say of elements, classes and ids; other selectors are passed over."""
    found: dict[str, dict[str, str]] = {}
    for element in root.iter():
        if _name(element) != "style":
            continue
        for selectors, body in _RULE.findall(_COMMENT.sub("", "".join(element.itertext()))):
            for selector in selectors.split(","):
                match = _SELECTOR.fullmatch(selector.strip())
                if match:
                    found.setdefault("".join(match.groups()), {}).update(_declarations(body))
    return found


def _drawn(root: ElementTree.Element, where: str) -> int:
    """Return how many shapes are drawn, those that are used again counted each time; raises UnreadableFile where they
    are far too many, or where something uses itself."""
    by_id = {one.get("id"): one for one in root.iter() if one.get("id")}
    counts: dict[int, int] = {}

    def count(element: ElementTree.Element, within: tuple[int, ...]) -> int:
        if id(element) in within:
            raise UnreadableFile("a part of the drawing uses itself", where=where, remedy="save it as PNG")
        if id(element) not in counts:
            within = (*within, id(element))
            found = int(_name(element) in ("path", "rect", "circle", "ellipse", "line", "polyline", "polygon", "text"))
            found += sum(count(child, within) for child in element)
            target = by_id.get(element.get("href", "")[1:]) if _name(element) == "use" else None
            found += count(target, within) if target is not None else 0
            if found > _MOST_DRAWN:
                raise UnreadableFile("the drawing has far too many parts", where=where, remedy="save it as PNG")
            counts[id(element)] = found
        return counts[id(element)]

    return count(root, ())


def _size(root: ElementTree.Element) -> tuple[float, float]:
    """Return the width and height of a drawing in px: as it says, else as its view box, else as is usual."""
    box = [float(one) for one in re.findall(r"-?[\d.]+(?:e[+-]?\d+)?", root.get("viewBox", ""))]
    said = [_px(root.get(name, "")) for name in ("width", "height")]
    if len(box) == 4 and box[2] > 0 and box[3] > 0:
        aspect = box[2] / box[3]
        width = said[0] or (said[1] * aspect if said[1] else box[2])
        return width, said[1] or width / aspect
    return said[0] or _USUAL_SIZE[0], said[1] or _USUAL_SIZE[1]


def _px(text: str) -> float:
    """Return a length in px; 0 for one that is none."""
    match = _LENGTH.fullmatch(text)
    try:
        return float(match.group(1)) * _PX_OF[(match.group(2) or "").lower()] if match else 0.0
    except ValueError:
        return 0.0
