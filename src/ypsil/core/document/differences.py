"""From one state of a document to another: the changes that lead there."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from ypsil.core.document.changes import FIELDS, Batch, Insert, Maybe, Move, Plain, Remove, Set, as_data, same, spot_of
from ypsil.core.document.model import Document, Node

# Values that say one thing together: their parts are not set one by one.
WHOLE = frozenset({"question", "style", "page", "filters", "ground"})


def differences(before: Document, after: Document, label: str = "") -> Batch:
    """Return the changes that make ``after`` of ``before``; in each only what differs, so that others can change what
    stands beside it. Raises ValueError where a node is of another kind than before: that is another node."""
    return Batch(label=label, changes=tuple(_changes(before, after)))


def _changes(before: Document, after: Document) -> Iterator[Plain]:
    yield from _set_fields(before, after)
    new = {name for name in after.nodes if name not in before.nodes}
    gone = {name for name in before.nodes if name not in after.nodes}
    kept = [node for top in after.children() for node in after.subtree(top.id) if node.id not in new]
    turned = next((node.id for node in kept if node.kind != before.nodes[node.id].kind), None)
    if turned is not None:
        raise ValueError(f"the node “{turned}” is of another kind than before")
    for top in _tops(after, new):
        yield Insert(nodes=tuple(_only(after, top, new)))
    # From the page downwards: whatever a node moves into stands by then where it is to be.
    kept = [node for node in kept if node is not before.nodes[node.id]]
    for node in kept:
        was, to = spot_of(before.nodes[node.id]), spot_of(node)
        if was != to:
            yield Move(id=node.id, was=was, to=to)
    for top in _tops(before, gone):
        yield Remove(id=top.id, was=tuple(_only(before, top, gone)))
    for node in kept:
        yield from _set_content(before.nodes[node.id], node)


def _tops(document: Document, some: set[str]) -> list[Node]:
    """Return those of some nodes that stand in none of them."""
    return [document.nodes[name] for name in document.nodes if name in some and document.nodes[name].parent not in some]


def _only(document: Document, top: Node, some: set[str]) -> Iterator[Node]:
    """Yield a node with what stands below it, as far as it belongs to some."""
    yield top
    for child in document.children(top.id):
        if child.id in some:
            yield from _only(document, child, some)


def _set_fields(before: Document, after: Document) -> Iterator[Set]:
    # Each by itself: what a document leaves out as it is usual is compared as well.
    old, new = ({name: as_data(getattr(document, name)) for name in FIELDS} for document in (before, after))
    yield from _sets("", (), old, new)


def _set_content(before: Node, after: Node) -> Iterator[Set]:
    yield from _sets(after.id, (), before.content, after.content)


def _sets(node_id: str, path: tuple[str, ...], before: dict[str, Any], after: dict[str, Any]) -> Iterator[Set]:
    for key in dict.fromkeys((*before, *after)):
        was: Maybe = (before[key],) if key in before else ()
        value: Maybe = (after[key],) if key in after else ()
        if same(was, value):
            continue
        here = (*path, key)
        if key not in WHOLE and was and value and isinstance(was[0], dict) and isinstance(value[0], dict):
            yield from _sets(node_id, here, was[0], value[0])
        else:
            yield Set(id=node_id, path=here, was=was, value=value)
