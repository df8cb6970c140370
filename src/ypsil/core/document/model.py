"""The document: what is saved, and nothing that can be calculated from it."""

from __future__ import annotations

import secrets
from collections.abc import Iterator, Mapping
from functools import cached_property
from typing import Any

from pydantic import (
    BaseModel,
    ConfigDict,
    Field,
    SerializerFunctionWrapHandler,
    model_serializer,
    model_validator,
)

from ypsil.core.style.cards import CardManner
from ypsil.core.style.icons import IconManner
from ypsil.core.tables.conditions import Filter

FORMAT = 4
# The size of text that drawings, cards and lines are measured for.
_TYPE_PX = 17.0
ID = r"^[a-z0-9]{1,16}$"
_LEAST_INNER_PX = 50
# How many times the base size roles of text have that a page says nothing of.
_SCALE = {"lead": 21 / 17, "quote": 26 / 17, "big": 92 / 17, "label": 14 / 17}


def new_id() -> str:
    """Return a short id for a node."""
    return secrets.token_hex(4)


class _Model(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class Margins(_Model):
    """The paper round the grid, in px."""

    top: float = Field(0, ge=0, le=500)
    right: float = Field(32, ge=0, le=500)
    bottom: float = Field(0, ge=0, le=500)
    left: float = Field(32, ge=0, le=500)


class PageFormat(_Model):
    """The page: its size in px (``height`` None: as long as its bands), its grid, its sizes of text.

    Where it has a height, bands fill one page after the other. ``row_gap`` and ``band_padding`` count rows: between
    tiles one above the other, and above and below all tiles of a band. ``scale`` says how many times the base size
    each role of text has; drawings follow the base size as a whole.
    """

    width: float = Field(800, ge=200, le=5000)
    height: float | None = Field(None, ge=100, le=5000)
    margins: Margins = Margins()
    columns: int = Field(24, ge=1, le=48)
    gutter: float = Field(12, ge=0, le=100)
    row: float = Field(8, ge=1, le=100)
    row_gap: int = Field(3, ge=0, le=20)
    band_padding: int = Field(3, ge=0, le=40)
    text_size: float = Field(_TYPE_PX, ge=6, le=80)
    scale: dict[str, float] = Field(
        default_factory=lambda: {"title": 42 / 17, "heading": 25 / 17, "body": 1.0, "note": 14 / 17}
    )

    @property
    def column(self) -> float:
        """The width of a column, in px."""
        inner = self.width - self.margins.left - self.margins.right - (self.columns - 1) * self.gutter
        return inner / self.columns

    @property
    def inner_height(self) -> float | None:
        """What the margins leave of a page's height, in px; None where it is open."""
        return None if self.height is None else self.height - self.margins.top - self.margins.bottom

    @model_validator(mode="after")
    def _has_room(self) -> PageFormat:
        if self.column < 1:
            raise ValueError("the margins and gutters leave no room for the columns")
        if self.inner_height is not None and self.inner_height < _LEAST_INNER_PX:
            raise ValueError("the margins leave no room on the page")
        return self

    def left_of(self, column: int) -> float:
        """Return where a column starts, in px from the page's left edge.

        >>> PageFormat().left_of(0), PageFormat().left_of(23) + PageFormat().column
        (32.0, 768.0)
        """
        return self.margins.left + column * (self.column + self.gutter)

    def width_of(self, columns: int) -> float:
        """Return the width of some columns with the gutters between them, in px.

        >>> PageFormat().width_of(24), PageFormat(width=840, columns=12, gutter=20).width_of(6)
        (736.0, 378.0)
        """
        return columns * self.column + (columns - 1) * self.gutter

    def rows_for(self, height: float) -> int:
        """Return the rows that a height in px needs.

        >>> PageFormat().rows_for(16), PageFormat().rows_for(17)
        (2, 3)
        """
        return -int(-height // self.row)

    @property
    def zoom(self) -> float:
        """How many times as large its type is as what drawings, cards and lines are measured for."""
        return self.text_size / _TYPE_PX

    def text_px(self, role: str) -> float:
        """Return the size of type that a role of text has, in px; that of a role without one is the base size.

        >>> PageFormat().text_px("title"), PageFormat(text_size=10).text_px("body")
        (42.0, 10.0)
        """
        return round(self.text_size * self.scale.get(role, _SCALE.get(role, 1.0)), 3)


class Frame(_Model):
    """Where a node stands in its parent: columns of the page's grid, rows of its height, from the parent's own origin.

    Nodes of layer 0 lie beside each other; one of another layer is laid over them on purpose (below 0: behind them).
    """

    column: int = Field(ge=0, le=100)
    row: int = Field(ge=0, le=10_000)
    width: int = Field(ge=1, le=100)
    height: int = Field(ge=1, le=10_000)
    layer: int = Field(0, ge=-50, le=50)
    dx: float = Field(0, ge=-400, le=400, description="px that it stands to the right of its column")
    dy: float = Field(0, ge=-100, le=100, description="px that it stands below its row")


class StyleReference(_Model):
    """A house style, named by the digest of what it says."""

    digest: str = Field(max_length=128)


class Node(_Model):
    """A band, a group or a tile. ``content`` is what its kind says it holds.

    ``parent`` is None for what stands on the page itself; siblings are in the order of their keys, then of their ids.
    """

    id: str = Field(default_factory=new_id, pattern=ID)
    kind: str = Field(min_length=1, max_length=40)
    parent: str | None = Field(None, pattern=ID)
    order: str = Field("i", min_length=1, max_length=2_000, pattern=r"^[0-9a-z]+$")
    frame: Frame | None = None
    content: dict[str, Any] = Field(default_factory=dict)


class Document(_Model):
    """A report as it is kept. ``sources`` names tables; a document whose slots are open is a template."""

    format: int = Field(FORMAT, ge=FORMAT, le=FORMAT)
    title: str = Field(min_length=1, max_length=200)
    language: str = Field("en", pattern=r"^[a-z]{2,3}$")
    locale: str = Field("", max_length=20, description="how numbers and dates are written; empty: as the language")
    page: PageFormat = PageFormat()
    style: StyleReference
    sources: dict[str, str | None] = Field(default_factory=dict)
    filters: tuple[Filter, ...] = ()
    cards: CardManner = CardManner()
    icons: IconManner = IconManner()
    nodes: dict[str, Node] = Field(default_factory=dict)

    @model_validator(mode="after")
    def _is_a_forest(self) -> Document:
        for name, node in self.nodes.items():
            if name != node.id:
                raise ValueError(f"the node “{name}” calls itself “{node.id}”")
        check_parents(self.nodes)
        return self

    @model_serializer(mode="wrap")
    def _without_what_came_later(self, rest: SerializerFunctionWrapHandler) -> dict[str, Any]:
        # As long as it is as usual, an earlier Ypsil reads the document, too.
        data: dict[str, Any] = rest(self)
        if self.icons == IconManner():
            data.pop("icons", None)
        return data

    def model_copy(self, *, update: Mapping[str, Any] | None = None, deep: bool = False) -> Document:
        """Return a copy, with other values where given; what was worked out of this one is not copied along."""
        copy = super().model_copy(update=update, deep=deep)
        copy.__dict__.pop("_below", None)
        return copy

    @cached_property
    def _below(self) -> dict[str | None, list[Node]]:
        below: dict[str | None, list[Node]] = {}
        for node in self.nodes.values():
            below.setdefault(node.parent, []).append(node)
        for siblings in below.values():
            siblings.sort(key=lambda node: (node.order, node.id))
        return below

    def children(self, parent: str | None = None) -> list[Node]:
        """Return what stands in a node, or on the page itself, in its order."""
        return list(self._below.get(parent, ()))

    def subtree(self, node_id: str) -> tuple[Node, ...]:
        """Return a node and all below it, parents before their children, siblings in their order."""
        return tuple(self._walk(self.nodes[node_id]))

    def _walk(self, node: Node) -> Iterator[Node]:
        yield node
        for child in self._below.get(node.id, ()):
            yield from self._walk(child)

    def as_json(self) -> dict[str, Any]:
        """Return JSON data that reads back to the same document."""
        return self.model_dump(mode="json")


def check_parents(nodes: dict[str, Node]) -> None:
    """Raise ValueError where a parent is not there, or where a node would stand within itself."""
    known: set[str] = set()
    for node in nodes.values():
        path: list[str] = []
        at: Node = node
        while at.id not in known:
            if at.id in path:
                raise ValueError(f"the node “{at.id}” would stand within itself")
            path.append(at.id)
            if at.parent is None:
                break
            if at.parent not in nodes:
                raise ValueError(f"the node “{at.parent}” that “{at.id}” stands in is not there")
            at = nodes[at.parent]
        known.update(path)
