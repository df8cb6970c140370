"""A house style as design tokens, and from those of other programs.

The format is that of the W3C Design Tokens Community Group (Design Tokens Format Module 2025.10): groups of tokens with
``$type`` and ``$value``, colours as components in a colour space, names in braces that stand for other tokens.
"""

from __future__ import annotations

import json
import math
import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from ypsil.core.drawing.colour import channels, mix
from ypsil.core.drawing.faces import FAMILIES
from ypsil.core.errors import YpsilError
from ypsil.core.style.cards import CardManner
from ypsil.core.style.house import HouseStyle

MOST_BYTES = 1_000_000
_MOST_DEEP, _MOST_TOKENS = 40, 5_000
_MOST_COLOURS = 12
# What a part of a style is called, here and elsewhere (common practice, no source); what stands first is meant first.
_CALLED: dict[str, tuple[str, ...]] = {
    "ink": ("ink", "text", "foreground", "onbackground", "onsurface", "body"),
    "paper": ("paper", "background", "surface", "canvas", "base"),
    "accent": ("emphasis", "accent", "primary", "brand"),
    "muted": ("muted", "secondarytext", "textsecondary", "subtle"),
    "rise": ("good", "success", "positive", "rise"),
    "watch": ("watch", "warning", "caution"),
    "fall": ("bad", "danger", "negative", "critical", "fall"),
}
_HEADINGS = ("heading", "headline", "display", "title")
_ALIAS = re.compile(r"\{([^{}]+)\}")


@dataclass(frozen=True, slots=True)
class Token:
    """A token under its whole name, with its type and its value."""

    name: str
    type: str
    value: Any


@dataclass(frozen=True, slots=True)
class Imported:
    """A style that was read, its corner of cards where one is named, and what was passed over, in words."""

    style: HouseStyle
    corner: float | None
    notes: tuple[str, ...]


def tokens_of(style: HouseStyle, cards: CardManner) -> dict[str, Any]:
    """Return a style as design tokens.

    >>> tokens_of(HouseStyle(), CardManner())["colour"]["ink"]["$value"]["hex"]
    '#22212b'
    """
    parts = {
        "ink": style.ink, "paper": style.paper, "emphasis": style.accent, "muted": style.muted, "good": style.rise,
        "watch": style.watch, "bad": style.fall,
    }  # fmt: skip
    series = {f"{place}": _colour(colour) for place, colour in enumerate(style.palette, start=1)}
    return {
        "colour": {"$type": "color", **{name: _colour(one) for name, one in parts.items()}, "series": series},
        "font": {
            "$type": "fontFamily",
            "heading": {"$value": [style.heading_family]},
            "text": {"$value": [style.body_family]},
        },
        "card": {"corner": {"$type": "dimension", "$value": {"value": cards.corner, "unit": "px"}}},
    }


def _colour(code: str) -> dict[str, Any]:
    components = [round(channel / 255, 4) for channel in channels(code)]
    return {"$value": {"colorSpace": "srgb", "components": components, "hex": code}}


def style_from(data: bytes, like: HouseStyle) -> Imported:
    """Return a style of design tokens; what they say nothing of is as in another. Each colour is brought to where it
    can be read. Raises YpsilError for what holds no tokens."""
    tokens = _read(data)
    notes: list[str] = []
    colours = {token.name: code for token in tokens if token.type == "color" and (code := _code(token, notes))}
    families = [token for token in tokens if token.type == "fontFamily"]
    if not colours and not families:
        raise YpsilError("there are no colours and no families of type in it", remedy="give a file of design tokens")
    found: dict[str, Any] = {}
    for part, names in _CALLED.items():
        called = next((name for wanted in names for name in colours if _last(name) == wanted), None)
        if called is not None:
            found[part] = colours[called]
    parts = set(found.values())
    named = [code for name, code in colours.items() if "series" in name.lower() or "chart" in name.lower()]
    palette = list(dict.fromkeys(named or [code for code in colours.values() if code not in parts]))[:_MOST_COLOURS]
    if "accent" in found or palette:
        found["accent"] = found.get("accent", palette[0] if palette else like.accent)
        found["palette"] = tuple(dict.fromkeys((found["accent"], *palette)))
    if "paper" in found or "ink" in found:
        # What stands between the two follows them.
        paper, ink = found.get("paper", like.paper), found.get("ink", like.ink)
        found |= {"grid": mix(paper, ink, 0.13), "quiet": mix(paper, ink, 0.25)}
    found |= _families(families, notes)
    others = sorted({token.type for token in tokens} - {"color", "fontFamily", "dimension"})
    if others:
        notes.append(
            f"Passed over, as a style here has nothing like it: {', '.join(one or 'no type' for one in others)}."
        )
    try:
        style = HouseStyle.model_validate(like.model_dump() | found).readable()
    except ValidationError as problem:
        raise YpsilError(str(problem.errors()[0]["msg"]), remedy="mend the file") from None
    return Imported(style, _corner(tokens), tuple(notes))


def _read(data: bytes) -> list[Token]:
    if len(data) > MOST_BYTES:
        raise YpsilError("the file is larger than 1 MB", remedy="give the tokens of colours and type alone")
    try:
        tree = json.loads(data)
    except (ValueError, RecursionError):
        raise YpsilError("this is not JSON", remedy="give a file of design tokens") from None
    if not isinstance(tree, dict):
        raise YpsilError("this holds no groups of tokens", remedy="give a file of design tokens")
    found = []
    for token in _tokens(tree, (), "", 0):
        found.append(token)
        if len(found) > _MOST_TOKENS:
            raise YpsilError(f"there are more than {_MOST_TOKENS:,} tokens", remedy="give a part of them")
    by_name = {token.name: token for token in found}
    return [Token(one.name, one.type or _type_of(one, by_name), _resolved(one.value, by_name)) for one in found]


def _tokens(tree: dict[str, Any], path: tuple[str, ...], inherited: str, depth: int) -> Iterator[Token]:
    """Yield the tokens of a group and of those in it."""
    said = tree.get("$type")
    kind = said if isinstance(said, str) else inherited
    if "$value" in tree:
        yield Token(".".join(path), kind, tree["$value"])
        return
    if depth < _MOST_DEEP:
        for name, below in tree.items():
            if isinstance(below, dict) and not name.startswith("$"):
                yield from _tokens(below, (*path, name), kind, depth + 1)


def _type_of(token: Token, by_name: dict[str, Token]) -> str:
    """Return the type of a token that says none: that of the one it stands for."""
    alias = _ALIAS.fullmatch(token.value) if isinstance(token.value, str) else None
    return by_name[alias[1]].type if alias and alias[1] in by_name else ""


def _resolved(value: Any, by_name: dict[str, Token]) -> Any:
    """Return a value with what its name in braces stands for, however often that is another name."""
    for _ in range(_MOST_DEEP):
        alias = _ALIAS.fullmatch(value) if isinstance(value, str) else None
        if alias is None or alias[1] not in by_name:
            return value
        value = by_name[alias[1]].value
    return None


def _code(token: Token, notes: list[str]) -> str:
    """Return a colour as a code; nothing where it cannot be read, which is noted."""
    value = token.value
    if isinstance(value, str) and re.fullmatch(r"#[0-9a-fA-F]{6}(?:[0-9a-fA-F]{2})?", value):
        return value[:7].lower()
    if isinstance(value, str) and re.fullmatch(r"#[0-9a-fA-F]{3}", value):
        return "#" + "".join(2 * one for one in value[1:]).lower()
    if isinstance(value, dict):
        space, components = value.get("colorSpace", "srgb"), value.get("components")
        if isinstance(space, str) and isinstance(components, list) and (code := _in_space(space, components)):
            return code
        if isinstance(value.get("hex"), str) and re.fullmatch(r"#[0-9a-fA-F]{6}", value["hex"]):
            return str(value["hex"]).lower()
    notes.append(f"The colour “{token.name}” cannot be read.")
    return ""


def _in_space(space: str, components: list[Any]) -> str:
    """Return a colour of a colour space as the nearest of a screen; nothing where there is none."""
    numbers = [0.0 if one == "none" else one for one in components]
    is_numbers = all(
        isinstance(one, int | float) and not isinstance(one, bool) and math.isfinite(one) for one in numbers
    )
    if len(numbers) != 3 or not is_numbers:
        return ""
    from coloraide import Color

    try:
        return str(Color(space, numbers).convert("srgb").fit().to_string(hex=True))[:7]
    except ValueError:
        return ""


def _families(tokens: list[Token], notes: list[str]) -> dict[str, str]:
    """Return the families of headings and of text: the first named one that is shipped."""
    found: dict[str, str] = {}
    shipped = {name.lower(): name for name in FAMILIES}
    for token in tokens:
        names = token.value if isinstance(token.value, list) else [token.value]
        named = [name for one in names if isinstance(one, str) for name in one.split(",")]
        known = next(
            (shipped[name.strip(" '\"").lower()] for name in named if name.strip(" '\"").lower() in shipped), None
        )
        if known is None:
            said = ", ".join(name.strip() for name in named[:3]) or token.name
            notes.append(f"“{said}” is not among the families that Ypsil ships; the one it has stays.")
            continue
        is_heading = any(word in token.name.lower() for word in _HEADINGS)
        found.setdefault("heading_family" if is_heading else "body_family", known)
    return found


def _corner(tokens: list[Token]) -> float | None:
    for token in tokens:
        value = token.value
        is_corner = any(word in token.name.lower() for word in ("corner", "radius"))
        if token.type == "dimension" and is_corner and isinstance(value, dict):
            number = value.get("value")
            if isinstance(number, int | float) and not isinstance(number, bool) and 0 <= number <= 60:
                return float(number)
    return None


def _last(name: str) -> str:
    """Return the last word of a token's name, without what only tells its place.

    >>> _last("colour.text.default"), _last("brand.primary.500")
    ('text', 'primary')
    """
    parts = [re.sub(r"[^a-z]", "", part.lower()) for part in name.split(".")]
    told = [part for part in parts if part and part not in ("default", "main", "base", "normal", "color", "colour")]
    return told[-1] if told else (parts[-1] if parts else "")
