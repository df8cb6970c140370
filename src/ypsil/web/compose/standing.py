"""The margin about where things stand: tiles in their band, bands on their page, the page's format."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ypsil.core.document.model import Frame
from ypsil.core.document.page_formats import PAGE_FORMATS, name_of
from ypsil.core.drawing.faces import FAMILIES
from ypsil.core.drawing.ornaments import PATTERNS
from ypsil.core.drawing.svg import font_family
from ypsil.core.layout.arrange import Way
from ypsil.core.report.document import Band, ReportBody
from ypsil.core.report.dress import Dress
from ypsil.core.report.edits.places import tidy_frames
from ypsil.core.report.edits.standing import Chosen, chosen, with_connectors
from ypsil.core.report.grid import place_of
from ypsil.core.report.items import shown_frames
from ypsil.core.style.cards import MOST_SAID, CardManner
from ypsil.core.style.grounds import TONES
from ypsil.core.style.house import HouseStyle
from ypsil.core.style.palettes import SHIPPED
from ypsil.core.style.seen import closest_pairs
from ypsil.web.compose.render import band_label

_WAYS: tuple[tuple[Way, str], ...] = (
    ("left", "Left edges"),
    ("centre", "Centres"),
    ("right", "Right edges"),
    ("top", "Tops"),
    ("middle", "Middles"),
    ("foot", "Feet"),
    ("across", "Gaps across"),
    ("down", "Gaps down"),
    ("same_width", "Same width"),
    ("same_height", "Same height"),
    ("same_size", "Same size"),
)
_SLOPES = [("down", "downwards"), ("across", "to the right"), ("slope", "at a slope")]
_CARDS = [("none", "None"), ("usual", "As usual in this report"), *((name, said) for name, said in TONES.items())]


_SOLIDS = [(100, "as it is"), *((part, f"{100 - part} % seen through") for part in (85, 70, 55, 40, 25))]
_DOTS = 6
_MOST_WARNED = 3
_HARMONIES = {
    "one-hue": "lighter and darker", "neighbours": "neighbours of it", "opposite": "its opposite too",
    "triad": "three, far apart",
}  # fmt: skip
_SEEN_AS = {
    "protan": "to people who see no red", "deutan": "to people who see no green", "tritan": "to people who see no blue",
    "grey": "in grey, as on many printers",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class CardChoice:
    """A colour of a card: its values as JSON, each with what is said of it and whether it is the present one."""

    name: str
    label: str
    choices: list[tuple[str, str, bool]]


@dataclass(frozen=True, slots=True)
class ItsCard:
    """What can be set of one card; what is None is as in the whole report."""

    icon: str
    says: str
    most: int
    tones: list[CardChoice]
    shadow: list[tuple[str, str, bool]]
    corner: float | None
    usual_corner: float
    padding: float | None
    usual_padding: float


@dataclass(frozen=True, slots=True)
class Standing:
    """What is chosen, for the settings of where it stands: its ids as JSON, how it could be lined up, its card, and
    itself as it would be put in elsewhere."""

    ids: str
    count: int
    ways: tuple[tuple[Way, str], ...]
    layer: int
    solid: int
    solids: list[tuple[int, str]]
    is_locked: bool
    is_group: bool
    is_connector: bool
    card: str
    cards: list[tuple[str, str]]
    its_card: ItsCard | None
    only: str
    turn: float | None
    leads_to: str | None
    places: list[tuple[str, str]]
    copied_json: str
    first: str


def standing_of(document: ReportBody, ids: list[str]) -> Standing:
    """Return how the tiles of some ids stand; all of them are in the document."""
    found = chosen(document, ids, but_locked=False)
    placed = [one for one in found if not one.tile.joins()]
    cards = {_card_of(one) for one in found}
    return Standing(
        ids=json.dumps([one.tile.id for one in found]),
        count=len(found),
        ways=_WAYS if len({(one.band, one.group) for one in placed}) == 1 and len(placed) > 1 else (),
        layer=max(one.place.layer for one in found),
        solid=round(min(one.tile.opacity for one in found) * 100),
        solids=_SOLIDS,
        is_locked=all(one.tile.is_locked for one in found),
        is_group=len(found) == 1 and found[0].tile.holds,
        is_connector=all(one.tile.joins() for one in found),
        card=cards.pop() if len(cards) == 1 else "",
        cards=_CARDS,
        its_card=_its_card(document, found),
        only=found[0].tile.id,
        turn=found[0].tile.turned() if len(found) == 1 and found[0].tile.can_turn else None,
        leads_to=placed[0].tile.leads_to if len(placed) == 1 and not placed[0].tile.holds else None,
        places=[(f"#{band.id}", band_label(number, band)) for number, band in enumerate(document.bands, 1)],
        copied_json=json.dumps(
            [_as_copied(one) for one in with_connectors(document, found) if not one.tile.waits_for()],
            ensure_ascii=False,
        ),
        first=found[0].tile.label(),
    )


def _its_card(document: ReportBody, found: list[Chosen]) -> ItsCard | None:
    """Return the settings of the first card among what is chosen; None where nothing of it stands on one."""
    card = next((one.tile.card for one in found if one.tile.card is not None), None)
    if card is None:
        return None
    manner = document.cards
    tones = [
        CardChoice(name, label, _tone_choices(getattr(card, name), getattr(manner, name)))
        for name, label in (("header", "Colour of the strip"), ("line", "Line"), ("edge", "Strip at the left"))
    ]
    shadow = [("null", f"as usual: {'yes' if manner.has_shadow else 'no'}"), ("true", "yes"), ("false", "no")]
    return ItsCard(
        icon=card.icon,
        says=card.says,
        most=MOST_SAID,
        tones=tones,
        shadow=[(value, said, json.loads(value) == card.has_shadow) for value, said in shadow],
        corner=card.corner,
        usual_corner=manner.corner,
        padding=card.padding,
        usual_padding=manner.padding,
    )


def _tone_choices(present: str | None, usual: str) -> list[tuple[str, str, bool]]:
    choices = [(None, f"as usual: {TONES.get(usual, usual or 'none').lower()}"), ("", "none"), *TONES.items()]
    return [(json.dumps(value), said, value == present) for value, said in choices]


def _card_of(one: Chosen) -> str:
    card = one.tile.card
    if card is None:
        return "none"
    return card.fill if card.fill is not None else "usual"


def _as_copied(one: Chosen) -> dict[str, Any]:
    copy = one.tile.model_copy(update={"place": one.place, "is_locked": False})
    return copy.model_dump(mode="json")


def band_context(document: ReportBody, band: Band, pictures: Mapping[str, str]) -> dict[str, Any]:
    """Return what the margin of a band shows; ``pictures`` are the labels of those that its author has brought, by
    their names."""
    ground = band.ground
    return {
        "band": band,
        "number": document.bands.index(band) + 1,
        "tones": list(TONES.items()),
        "colour": ground.colour if ground else "",
        "to": ground.to if ground else "",
        "way": ground.way if ground else "down",
        "picture": ground.picture if ground else "",
        "pictures": list(pictures.items()),
        "picture_is_gone": ground is not None and bool(ground.picture) and ground.picture not in pictures,
        "slopes": _SLOPES,
        "pattern": ground.pattern if ground else "",
        "patterns": [(name, one.label) for name, one in PATTERNS.items()],
        "padding": document.page.band_padding if band.padding is None else band.padding,
    }


def page_context(document: ReportBody) -> dict[str, Any]:
    """Return what the report's margin shows of its page and its cards."""
    groups: dict[str, list[tuple[str, str]]] = {}
    for one in PAGE_FORMATS.values():
        groups.setdefault(one.group, []).append((one.name, one.label))
    page = document.page
    cards: CardManner = document.cards
    return {
        "groups": list(groups.items()),
        "name": name_of(page),
        "width": round(page.width),
        "height": "" if page.height is None else round(page.height),
        "cards": cards,
        "cards_json": cards.model_dump_json(),
        "icons": document.icons,
        "icons_json": document.icons.model_dump_json(),
        "tones": list(TONES.items()),
        "style": style_context(document.style),
        "charts": document.style.charts,
        "logo": document.style.logo,
        "logo_room": document.style.logo_room,
    }


_MOVES = {
    "Other hue": {"hue": 20},
    "Hue back": {"hue": -20},
    "Lighter": {"lightness": 0.05},
    "Darker": {"lightness": -0.05},
    "Fuller": {"chroma": 0.03},
    "Calmer": {"chroma": -0.03},
}
_ROLES = {"ink": "Ink", "paper": "Paper", "rise": "Good", "watch": "To watch", "fall": "Bad"}


_HEADINGS = {0.8: "smaller", 1.0: "as usual", 1.2: "larger", 1.4: "much larger"}
_TEXTS = {0.9: "smaller", 1.0: "as usual", 1.1: "larger", 1.25: "much larger"}


def _sizes(known: Mapping[float, str], now: float) -> list[tuple[str, str, bool]]:
    """Return the sizes that can be chosen, each with its word and whether it is so now."""
    shown = {**known, now: known.get(now, f"{now:g} times")}
    return [(f"{size:g}", said, size == now) for size, said in sorted(shown.items())]


def _series_called(place: int) -> str:
    return "Emphasis, and first series" if not place else f"Series {place + 1}"


def style_context(style: HouseStyle) -> dict[str, Any]:
    """Return what the report's margin shows of its style: the palettes, each as it would look, and the families."""
    palettes = [
        {
            "name": one.name,
            "label": one.label,
            "manners": ", ".join(one.manners),
            "paper": one.paper,
            "ink": one.ink,
            "dots": [(44 + 16 * place, colour) for place, colour in enumerate(one.series[:_DOTS])],
            "is_current": (style.palette, style.paper) == (one.series, one.paper),
        }
        for one in SHIPPED.values()
    ]
    return {
        "palettes": palettes,
        "accent": style.accent,
        "moves": [(label, json.dumps({"type": "restyle", "move": move})) for label, move in _MOVES.items()],
        "series": [(place, _series_called(place), one) for place, one in enumerate(style.palette)],
        "series_json": json.dumps(style.palette),
        "roles": [(name, label, getattr(style, name)) for name, label in _ROLES.items()],
        "harmonies": list(_HARMONIES.items()),
        "close": [(one, _SEEN_AS[one.seen_as]) for one in closest_pairs(style.palette[:_DOTS], _MOST_WARNED)],
        "families": [(name, font_family(name), says) for name, says in FAMILIES.items()],
        "parts": [
            ("heading_family", "Headings", style.heading_family, "heading_size", _sizes(_HEADINGS, style.heading_size)),
            (
                "body_family",
                "Text, and what stands in charts",
                style.body_family,
                "body_size",
                _sizes(_TEXTS, style.body_size),
            ),
        ],
    }


def dress_context(dress: Dress) -> dict[str, Any]:
    """Return what is shown of a house style: its paper with its ink, its series, and its type in its own faces."""
    style = dress.style
    return {
        "paper": style.paper,
        "ink": style.ink,
        "dots": [(24 + 34 * place, colour) for place, colour in enumerate(style.palette[:8])],
        "heading": (style.heading_family, font_family(style.heading_family)),
        "body": (style.body_family, font_family(style.body_family)),
    }


def tidied(document: ReportBody, band: Band) -> list[tuple[Frame, bool]]:
    """Return where the tiles of a band would stand if it were tidied, each with whether that is elsewhere."""
    seen = shown_frames(document, band)
    frames = tidy_frames(document, band)
    return [
        (frames[tile.id], frames[tile.id] != seen.get(tile.id, place_of(tile, document.page))) for tile in band.tiles
    ]
