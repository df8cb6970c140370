"""A report's bands and tiles from the nodes of its document, and back."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from pydantic import TypeAdapter, ValidationError

from ypsil.core.document import Document, Frame, Insert, Move, Node
from ypsil.core.document.changes import Change, plain_changes, spot_of
from ypsil.core.document.grid import next_free_frame, settle
from ypsil.core.document.model import StyleReference
from ypsil.core.document.order import key_between
from ypsil.core.errors import DrawingRefused
from ypsil.core.report.document import Band, ReportBody
from ypsil.core.report.grid import usual_size
from ypsil.core.style.house import HouseStyle
from ypsil.core.tiles import HOLDERS, KINDS, AnyTile, LaterTile, Tile, TileKind

_TILE: TypeAdapter[AnyTile] = TypeAdapter(Tile)
_NOT_CONTENT = {"id", "type", "place", "tiles"}
# What every kind has is kept only where it was set.
_OF_BANDS = set(Band.model_fields) - _NOT_CONTENT
_USUAL = {name: field.default for name, field in TileKind.model_fields.items() if name not in _NOT_CONTENT}


def report_of(document: Document, style: HouseStyle) -> ReportBody:
    """Return a document as bands with their tiles. A tile of a kind that is not known here stays what it is."""
    bands = tuple(_band_of(document, node) for node in document.children() if node.kind == "band")
    plain = {name: getattr(document, name) for name in ("title", "language", "page", "filters", "cards", "icons")}
    # A locale that a later Ypsil knows is kept, and not refused.
    return ReportBody(style=style, **plain).model_copy(update={"bands": bands, "locale": document.locale})


def _band_of(document: Document, node: Node) -> Band:
    tiles = tuple(tile_of(document, child) for child in document.children(node.id))
    return _read_band(node).model_copy(update={"tiles": tiles})


def _read_band(node: Node) -> Band:
    """Return what a node says of a band, without what stands in it."""
    known = {name: value for name, value in node.content.items() if name in _OF_BANDS}
    try:
        return Band(id=node.id, **known)
    except ValidationError:
        # What a later Ypsil says of a band is kept in its node; here it looks as usual.
        return Band(id=node.id, message=str(node.content.get("message", ""))[:500])


def tile_of(document: Document, node: Node) -> AnyTile:
    """Return the tile that a node is; one of a kind or with a content that is not known here is a LaterTile."""
    data = {**node.content, "id": node.id, "type": node.kind}
    data = with_tables(data, {slot: table for slot, table in document.sources.items() if table})
    place = None if node.frame is None else node.frame.model_dump()
    below = tuple(tile_of(document, child) for child in document.children(node.id)) if node.kind in HOLDERS else ()
    try:
        tile = _TILE.validate_python({**data, "place": place})
        return tile.with_below(below) if below else tile
    except ValidationError:
        return LaterTile(id=node.id, kind=node.kind, place=place)


def document_of(report: ReportBody, before: Document | None = None, seen: ReportBody | None = None) -> Document:
    """Return a report as a document. What ``before`` says beyond bands and tiles is kept, and so are order keys.

    ``seen`` is ``before`` as a report: the tiles that are still the same in both keep their nodes as they are.
    """
    known = {} if before is None else before.nodes
    same = {} if seen is None else {tile.id: tile for tile in seen.everything()}
    slots = {table: slot for slot, table in (before.sources.items() if before else ()) if table is not None}
    # A slot that is open stays so: what its tiles ask is still to be chosen.
    opened = {slot: None for slot, table in (before.sources.items() if before else ()) if table is None}
    sources = {slots.get(table, table): table for table in report.tables() if table not in opened} | opened
    nodes: dict[str, Node] = {}

    def put(tiles: Sequence[AnyTile], parent: str) -> None:
        orders = _orders([tile.id for tile in tiles], known, parent)
        frames = _frames(tiles, known, report)
        for tile, key, frame in zip(tiles, orders, frames, strict=True):
            node = known.get(tile.id)
            if node is not None and same.get(tile.id) is tile and (node.parent, node.order) == (parent, key):
                nodes[tile.id] = node
            else:
                nodes[tile.id] = _node_of(tile, parent, key, frame, slots, known)
            put(_within(tile), tile.id)

    for band, order in zip(report.bands, _orders([band.id for band in report.bands], known, None), strict=True):
        content = _band_content(band, known.get(band.id))
        nodes[band.id] = Node(id=band.id, kind="band", order=order, content=content)
        put(band.tiles, band.id)
    if before is not None:
        nodes |= _unseen(before, nodes)
    plain: dict[str, Any] = {
        name: getattr(report, name) for name in ("title", "language", "locale", "page", "filters", "cards", "icons")
    }
    plain |= {"sources": sources, "nodes": nodes}
    style = StyleReference(digest=report.style.digest())
    if before is None:
        return Document(style=style, **plain)
    # A style that is not kept here is not taken for the shipped one: its name stays.
    if seen is not None and seen.style != report.style:
        plain["style"] = style
    return before.model_copy(update=plain)


def _band_content(band: Band, node: Node | None) -> dict[str, Any]:
    """Return what a band's node holds: what was set, beside what a later Ypsil may have put there."""
    alone = band.model_copy(update={"tiles": ()})
    if node is not None and _read_band(node) == alone:
        return node.content
    others = {} if node is None else {name: one for name, one in node.content.items() if name not in _OF_BANDS}
    own = alone.model_dump(mode="json", exclude=_NOT_CONTENT, exclude_defaults=True)
    return {**others, "message": band.message, **own}


def _unseen(before: Document, nodes: dict[str, Node]) -> dict[str, Node]:
    """Return the nodes that are neither bands nor tiles in one, such as later kinds may be: they stay for as long as
    what they stand in."""
    holders = {node.id for node in before.children() if node.kind == "band"}
    found: dict[str, Node] = {}
    for top in before.children():
        for node in before.subtree(top.id):
            is_seen = node.id in holders or node.parent in holders
            if is_seen and node.kind in HOLDERS:
                holders.add(node.id)
            if not is_seen and (node.parent is None or node.parent in nodes or node.parent in found):
                found[node.id] = node
    return found


def _node_of(tile: AnyTile, band: str, order: str, frame: Frame, slots: dict[str, str], known: dict[str, Node]) -> Node:
    if tile.waits_for():
        # What it holds is known to its own kind alone.
        return known[tile.id].model_copy(update={"parent": band, "order": order})
    usual = {name for name, default in _USUAL.items() if getattr(tile, name) == default}
    content = tile.model_dump(mode="json", exclude=_NOT_CONTENT | usual)
    content = with_tables(content, slots)
    return Node(id=tile.id, kind=tile.type, parent=band, order=order, frame=frame, content=content)


# What of a tile names tables further down.
_HOLD_TABLES = ("text", "cites")


def with_tables(content: dict[str, Any], names: Mapping[str, str]) -> dict[str, Any]:
    """Return what a tile holds with its tables under other names: its own, those of the live figures in its text, and
    those that it points to.

    >>> with_tables({"table": "a", "text": {"blocks": [{"table": "a"}]}, "options": {"table": "a"}}, {"a": "b"})
    {'table': 'b', 'text': {'blocks': [{'table': 'b'}]}, 'options': {'table': 'a'}}
    """

    def named(value: Any) -> Any:
        if isinstance(value, list):
            return [named(one) for one in value]
        if not isinstance(value, dict):
            return value
        return {key: names.get(one, one) if key == "table" else named(one) for key, one in value.items()}

    found = {key: names.get(one, one) if key == "table" else one for key, one in content.items()}
    deep = {key: named(one) for key, one in found.items() if key in _HOLD_TABLES and isinstance(one, dict | list)}
    return found | deep


def _orders(ids: list[str], known: dict[str, Node], parent: str | None) -> list[str]:
    """Return rising order keys; a node that stands there already keeps its own where it can."""
    own = {name: known[name].order for name in ids if name in known and known[name].parent == parent}
    found: list[str] = []
    last: str | None = None
    for place, name in enumerate(ids):
        later = [own[other] for other in ids[place + 1 :] if other in own and (last is None or own[other] > last)]
        key = own.get(name)
        if key is None or (last is not None and key <= last) or (later and key >= min(later)):
            key = key_between(last, min(later, default=None))
        found.append(key)
        last = key
    return found


def _within(tile: AnyTile) -> Sequence[Any]:
    """Return what stands in a tile: kinds that the union of all kinds names, though a kind cannot say so of itself."""
    return tile.below()


def _frames(tiles: Sequence[AnyTile], known: dict[str, Node], report: ReportBody) -> list[Frame]:
    """Return a frame for each tile; one without a place keeps the frame it has, or gets the next free one."""
    there = [tile.place or (known[tile.id].frame if tile.id in known else None) for tile in tiles]
    taken = [place for place in there if place is not None and not place.layer]
    frames: list[Frame] = []
    for tile, place in zip(tiles, there, strict=True):
        if place is None:
            size = usual_size(tile, report.page)
            place = next_free_frame(taken, *size, report.page.columns, report.page.row_gap)
            taken.append(place)
        frames.append(place)
    return frames


def settling(document: Document, change: Change) -> list[Move]:
    """Return the moves that let no tiles overlap in the bands that a change put something into: what was put there
    stays, and others make room; what is locked stays in any case."""
    put = {one.about for one in plain_changes(change) if isinstance(one, Insert | Move) and _is_put(one)}
    bands = {node.parent for name in put if (node := document.nodes.get(name)) is not None and node.parent is not None}
    moves = []
    for band in sorted(bands):
        tiles = [node for node in document.children(band) if node.frame is not None]
        ranks = [-1 if node.content.get("is_locked") else int(node.id not in put) for node in tiles]
        frames = settle([node.frame for node in tiles if node.frame is not None], document.page.row_gap, ranks)
        for node, frame in zip(tiles, frames, strict=True):
            if node.frame != frame:
                was = spot_of(node)
                moves.append(Move(id=node.id, was=was, to=was.model_copy(update={"frame": frame})))
    return moves


def _is_put(change: Insert | Move) -> bool:
    """Tell whether a change puts something elsewhere, and not only earlier or later among what is read."""
    if isinstance(change, Insert):
        return True
    return (change.was.parent, change.was.frame) != (change.to.parent, change.to.frame)


def check_tiles(document: Document, ids: set[str]) -> None:
    """Raise DrawingRefused where a change left a tile with options that its visual does not have."""
    for name in ids & document.nodes.keys():
        node = document.nodes[name]
        if node.kind == "band":
            continue
        tile = tile_of(document, node)
        tile.check()
        if tile.type != node.kind and node.kind in KINDS:
            raise DrawingRefused("the tile would not be what it is any more", remedy="load the page again")
