"""Documents of all formats that were ever stored, and how each becomes one of the next."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from pydantic import ValidationError

from ypsil.core.document.grid import settle
from ypsil.core.document.model import FORMAT, Document, Frame
from ypsil.core.document.order import keys_after
from ypsil.core.errors import YpsilError
from ypsil.core.style.house import HouseStyle

# In format 1 a tile without a place stood at the left of its band in the size that was usual then (columns, rows).
_SIZES_THEN = {
    "text/title": (24, 8), "text/heading": (24, 5), "text/body": (12, 10), "text/note": (24, 3), "sources": (24, 6),
    "cloud": (12, 48), "compared_clouds": (24, 44), "cross_table": (14, 40), "donut": (10, 38), "filled_icon": (6, 34),
    "filled_numerals": (8, 26), "gauge": (6, 30), "icon_row": (10, 20), "kpi": (6, 20), "kpi_row": (24, 20),
    "marking_words": (16, 52), "part_of_part": (12, 26), "percent_bar": (8, 18), "percent_grid": (6, 40),
    "pie": (10, 38), "ring": (6, 34), "share_strip": (12, 16), "sparkline": (6, 12), "stars": (8, 18),
    "word_line": (16, 36),
}  # fmt: skip
_USUAL_THEN = (12, 42)


class NewerFormat(YpsilError):
    """A document that a newer Ypsil wrote: it is left as it is."""


class UnreadableDocument(YpsilError):
    """Data that is no document."""


def read_document(data: Any) -> Document:
    """Return the document that JSON data of any format holds.

    Raises NewerFormat for one of a later format, UnreadableDocument where the data is none.
    """
    if not isinstance(data, dict):
        raise UnreadableDocument("this is no document", remedy="choose another file")
    number = data.get("format", 1)
    if not isinstance(number, int) or isinstance(number, bool) or number < 1:
        raise UnreadableDocument(f"“{number}” is no format of a document", remedy="choose another file")
    if number > FORMAT:
        raise NewerFormat(
            f"this document has format {number}, and this Ypsil reads up to {FORMAT}", remedy="open it in a newer Ypsil"
        )
    try:
        while number < FORMAT:
            data = _UPGRADES[number](data)
            number += 1
        return Document.model_validate(data)
    except ValidationError as problem:
        first = problem.errors()[0]
        place = ".".join(str(part) for part in first["loc"])
        raise UnreadableDocument(
            str(first["msg"]).removeprefix("Value error, "), where=place, remedy="change that value"
        ) from None
    except (KeyError, TypeError, AttributeError) as problem:
        raise UnreadableDocument(f"the document lacks something: {problem}", remedy="choose another file") from None


def embedded_style(data: dict[str, Any]) -> HouseStyle:
    """Return the house style that a document of format 1 holds; later ones name theirs."""
    return HouseStyle.model_validate(data.get("style") or {})


# What a page was that did not say so.
_PAGE_THEN = {"width": 1200, "gutter": 16}


def _frame_then(tile: dict[str, Any]) -> Frame:
    if tile.get("place"):
        return Frame.model_validate(tile["place"])
    name = f"text/{tile.get('role', 'body')}" if tile["type"] == "text" else tile.get("visual", tile["type"])
    width, height = _SIZES_THEN.get(name, _USUAL_THEN)
    return Frame(column=0, row=0, width=width, height=height)


def _from_format_1(data: dict[str, Any]) -> dict[str, Any]:
    """Bands with their tiles within become flat nodes; a tile names its table by a slot, which has the table's name."""
    nodes: dict[str, Any] = {}
    slots: dict[str, str] = {}
    bands = data.get("bands", [])
    for band, order in zip(bands, keys_after(None, len(bands)), strict=True):
        nodes[band["id"]] = {
            "id": band["id"],
            "kind": "band",
            "order": order,
            "content": {"message": band.get("message", "")},
        }
        tiles = band.get("tiles", [])
        frames = settle([_frame_then(tile) for tile in tiles])
        for tile, key, frame in zip(tiles, keys_after(None, len(tiles)), frames, strict=True):
            content = {name: value for name, value in tile.items() if name not in ("id", "type", "place")}
            if "table" in tile:
                slots[tile["table"]] = tile["table"]
            nodes[tile["id"]] = {
                "id": tile["id"],
                "kind": tile["type"],
                "parent": band["id"],
                "order": key,
                "frame": frame.model_dump(),
                "content": content,
            }
    return {
        "format": 2,
        "title": data["title"],
        "language": data.get("language", "en"),
        "style": {"digest": embedded_style(data).digest()},
        "sources": slots,
        "nodes": nodes,
    }


def _from_format_2(data: dict[str, Any]) -> dict[str, Any]:
    """Frames have layers since, and pages say how much air there is; what is not said is as it was."""
    return {**data, "format": 3, "page": _PAGE_THEN | data.get("page", {})}


def _from_format_3(data: dict[str, Any]) -> dict[str, Any]:
    """Frames may stand beside their column and row since, bands have grounds, tiles cards; none had any."""
    return {**data, "format": 4}


_UPGRADES: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {
    1: _from_format_1,
    2: _from_format_2,
    3: _from_format_3,
}
