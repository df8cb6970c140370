"""Changes of a document: data, each with what was there, so that neither stale nor undo needs to know of screens.

A change is stale where what is there is not what its author saw. It is taken back where what is there is what its
author wrote.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter, ValidationError

from ypsil.core.document.model import Document, Frame, Node, check_parents
from ypsil.core.errors import EditRefused

MOST_CHANGES = 10_000
# A value that may be missing: none or one of it.
Maybe = tuple[()] | tuple[Any]
FIELDS = ("title", "language", "locale", "page", "style", "sources", "filters", "cards", "icons")


class ChangeRefused(EditRefused):
    """A change that does not fit the document: what it speaks of is not there, or cannot be so."""


class StaleChange(EditRefused):
    """A change of what was changed meanwhile. ``change`` is the one that was not made, ``now`` what is there."""

    def __init__(self, change: Plain, now: Any) -> None:
        self.change = change
        self.now = now
        super().__init__("this was changed meanwhile", remedy="look at it, then change it again")


class _Change(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class Insert(_Change):
    """Put nodes in: the first, and those that stand below it, parents before their children."""

    type: Literal["insert"] = "insert"
    nodes: tuple[Node, ...] = Field(min_length=1)

    @property
    def about(self) -> str:
        return self.nodes[0].id

    def inverse(self) -> Remove:
        return Remove(id=self.about, was=self.nodes)


class Remove(_Change):
    """Take a node out with all below it; ``was`` is what its author saw there."""

    type: Literal["remove"] = "remove"
    id: str
    was: tuple[Node, ...] = Field(min_length=1)

    @property
    def about(self) -> str:
        return self.id

    def inverse(self) -> Insert:
        return Insert(nodes=self.was)


class Set(_Change):
    """Set a value: of a node's content, or with an empty ``id`` of the document. ``was`` and ``value`` are empty where
    there is none."""

    type: Literal["set"] = "set"
    id: str = ""
    path: tuple[str, ...] = Field(min_length=1, max_length=20)
    was: Maybe = ()
    value: Maybe = ()

    @property
    def about(self) -> str:
        return self.id

    def inverse(self) -> Set:
        return Set(id=self.id, path=self.path, was=self.value, value=self.was)


class Spot(_Change):
    """Where a node stands: its parent, its place among its siblings, its frame."""

    parent: str | None = None
    order: str = Field(min_length=1, max_length=2_000, pattern=r"^[0-9a-z]+$")
    frame: Frame | None = None


class Move(_Change):
    """Put a node elsewhere."""

    type: Literal["move"] = "move"
    id: str
    was: Spot
    to: Spot

    @property
    def about(self) -> str:
        return self.id

    def inverse(self) -> Move:
        return Move(id=self.id, was=self.to, to=self.was)


Plain = Insert | Remove | Set | Move


class Batch(_Change):
    """Changes that are made together or not at all, under the name of what somebody did."""

    type: Literal["batch"] = "batch"
    label: str = Field("", max_length=200)
    changes: tuple[Annotated[Plain, Field(discriminator="type")], ...] = Field((), max_length=MOST_CHANGES)

    def inverse(self) -> Batch:
        return Batch(label=self.label, changes=tuple(change.inverse() for change in reversed(self.changes)))


Change = Plain | Batch
_ADAPTER: TypeAdapter[Change] = TypeAdapter(Annotated[Change, Field(discriminator="type")])


def parse_change(data: Any) -> Change:
    """Turn JSON data into a change; raises ChangeRefused naming what does not fit."""
    try:
        return _ADAPTER.validate_python(data)
    except ValidationError as problem:
        first = problem.errors()[0]
        place = ".".join(str(part) for part in first["loc"])
        said = str(first["msg"]).removeprefix("Value error, ")
        raise ChangeRefused(said, where=place, remedy="change that value") from None


def change_schema() -> dict[str, Any]:
    """Return the JSON Schema of changes."""
    return _ADAPTER.json_schema()


def plain_changes(change: Change) -> tuple[Plain, ...]:
    """Return the changes that a change is made of."""
    return change.changes if isinstance(change, Batch) else (change,)


def apply(document: Document, change: Change) -> Document:
    """Return the document as a change leaves it; all of a batch is made, or none.

    Raises StaleChange where something is not as the change's author saw it, ChangeRefused where the change does not
    fit.
    """
    draft = Draft(document)
    for one in plain_changes(change):
        draft.make(one)
    return draft.document()


class Draft:
    """A document while changes are made to it."""

    def __init__(self, document: Document) -> None:
        self._before = document
        self._nodes = dict(document.nodes)
        self._fields = {name: getattr(document, name) for name in FIELDS}
        self._changed_fields: set[str] = set()
        self._children: dict[str | None, set[str]] = {}
        for node in document.nodes.values():
            self._children.setdefault(node.parent, set()).add(node.id)

    def document(self) -> Document:
        """Return what the changes made; raises ChangeRefused where that is no document."""
        plain = {name: as_data(value) for name, value in self._fields.items()} if self._changed_fields else {}
        try:
            check_parents(self._nodes)
            if not self._changed_fields:
                return self._before.model_copy(update={"nodes": self._nodes})
            changed = Document.model_validate({"format": self._before.format, **plain})
        except ValidationError as problem:
            raise ChangeRefused(_first_said(problem), remedy="change that value") from None
        except ValueError as problem:
            raise ChangeRefused(str(problem), remedy="load the page again") from None
        return changed.model_copy(update={"nodes": self._nodes})

    def make(self, change: Plain) -> None:
        """Make one change, or raise and leave all as it was."""
        if isinstance(change, Insert):
            self._insert(change)
        elif isinstance(change, Remove):
            self._remove(change)
        elif isinstance(change, Move):
            self._move(change)
        elif change.id:
            self._set_in_node(change)
        else:
            self._set_in_document(change)

    def _insert(self, change: Insert) -> None:
        there = [node.id for node in change.nodes if node.id in self._nodes]
        if there:
            raise StaleChange(change, self._nodes[there[0]].model_dump(mode="json"))
        first, *others = change.nodes
        if first.parent is not None and first.parent not in self._nodes:
            raise ChangeRefused("what it should stand in is no longer there", remedy="put it elsewhere")
        known = {first.id}
        for node in others:
            if node.parent not in known or node.id in known:
                raise ChangeRefused("a node that is put in stands below no other of them", remedy="load the page again")
            known.add(node.id)
        for node in change.nodes:
            self._nodes[node.id] = node
            self._children.setdefault(node.parent, set()).add(node.id)

    def _remove(self, change: Remove) -> None:
        node = self._node(change, change.id)
        now = tuple(self._subtree(node))
        seen = {one.id: one for one in change.was}
        if len(now) != len(seen) or any(seen.get(one.id) != one for one in now):
            raise StaleChange(change, [one.model_dump(mode="json") for one in now])
        self._children[node.parent].discard(node.id)
        for one in now:
            del self._nodes[one.id]
            self._children.pop(one.id, None)

    def _move(self, change: Move) -> None:
        node = self._node(change, change.id)
        if spot_of(node) != change.was:
            raise StaleChange(change, spot_of(node).model_dump(mode="json"))
        to = change.to
        if to.parent is not None and to.parent not in self._nodes:
            raise ChangeRefused("what it should stand in is no longer there", remedy="put it elsewhere")
        at = to.parent
        while at is not None:
            if at == node.id:
                raise ChangeRefused("nothing can stand within itself", remedy="put it elsewhere")
            at = self._nodes[at].parent
        self._children[node.parent].discard(node.id)
        self._children.setdefault(to.parent, set()).add(node.id)
        self._nodes[node.id] = node.model_copy(update={"parent": to.parent, "order": to.order, "frame": to.frame})

    def _set_in_node(self, change: Set) -> None:
        node = self._node(change, change.id)
        content = _with(node.content, change, change.path)
        self._nodes[node.id] = node.model_copy(update={"content": content})

    def _set_in_document(self, change: Set) -> None:
        name = change.path[0]
        if name not in FIELDS:
            raise ChangeRefused(f"a document has no “{name}”", remedy="load the page again")
        plain = _with({name: as_data(self._fields[name])}, change, change.path)
        if name not in plain:
            raise ChangeRefused(f"a document cannot be without its {name}", remedy="give another")
        self._fields[name] = plain[name]
        self._changed_fields.add(name)

    def _node(self, change: Plain, node_id: str) -> Node:
        if node_id not in self._nodes:
            raise StaleChange(change, None)
        return self._nodes[node_id]

    def _subtree(self, node: Node) -> Iterator[Node]:
        yield node
        for child in self._children.get(node.id, ()):
            yield from self._subtree(self._nodes[child])


def spot_of(node: Node) -> Spot:
    """Return where a node stands."""
    return Spot(parent=node.parent, order=node.order, frame=node.frame)


def value_at(content: Any, path: tuple[str, ...]) -> Maybe:
    """Return the value at a path of keys, or none.

    >>> value_at({"options": {"names": False}}, ("options", "names")), value_at({}, ("options", "names"))
    ((False,), ())
    """
    for key in path:
        if not isinstance(content, dict) or key not in content:
            return ()
        content = content[key]
    return (content,)


def _with(content: dict[str, Any], change: Set, path: tuple[str, ...]) -> dict[str, Any]:
    """Return content with the change's value at a path; only what lies along the path is made anew."""
    now = value_at(content, path)
    if not same(now, change.was):
        raise StaleChange(change, list(now))
    key, *rest = path
    if rest:
        inner = content.get(key)
        if not isinstance(inner, dict):
            raise ChangeRefused(
                f"there is nothing at “{key}” in which “{rest[0]}” could be", remedy="load the page again"
            )
        return content | {key: _with(inner, change, tuple(rest))}
    if change.value:
        return content | {key: change.value[0]}
    return {name: value for name, value in content.items() if name != key}


def same(one: Maybe, other: Maybe) -> bool:
    """Tell whether two values are the same JSON: true is not 1, while 1 is 1.0."""
    return len(one) == len(other) and all(map(_same_value, one, other))


def _same_value(one: Any, other: Any) -> bool:
    if isinstance(one, bool) or isinstance(other, bool):
        return one is other
    if isinstance(one, dict) and isinstance(other, dict):
        return one.keys() == other.keys() and all(_same_value(one[key], other[key]) for key in one)
    if isinstance(one, list | tuple) and isinstance(other, list | tuple):
        return len(one) == len(other) and all(map(_same_value, one, other))
    return bool(one == other)


def as_data(value: Any) -> Any:
    """Return a value of a document as JSON data."""
    if isinstance(value, BaseModel):
        return value.model_dump(mode="json")
    return [as_data(one) for one in value] if isinstance(value, tuple) else value


def _first_said(problem: ValidationError) -> str:
    return str(problem.errors()[0]["msg"]).removeprefix("Value error, ")
