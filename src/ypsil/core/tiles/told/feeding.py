"""What of a table could be told: a feed that is proposed, and which columns can say what."""

from __future__ import annotations

from collections.abc import Sequence

from ypsil.core.tables.model import Column
from ypsil.core.tiles.told.base import ToldTile
from ypsil.core.tiles.told.entries import Feed

_WHEN = "When"
_MOST_SHORT = 60


def propose_feed(kind: type[ToldTile], table: str, columns: Sequence[Column]) -> Feed | None:
    """Return a feed of a table for a kind: names first, figures of the sort that it has; None without columns."""
    names = [one for one in columns if one.kind in ("category", "text", "list")]
    if not columns:
        return None
    head = next((one for one in names if one.kind == "category"), names[0] if names else columns[0])
    text = next((one.name for one in names if one.kind == "text" and one is not head), "")
    wanted = "date" if kind.figure_is == _WHEN else "number"
    figures = [one.name for one in columns if one.kind == wanted] if kind.figure_is else []
    figure = figures[0] if figures else ""
    until = figures[1] if wanted == "date" and len(figures) > 1 else ""
    return Feed(
        table=table,
        head=head.name,
        text=text,
        figure=figure,
        until=until,
        by=figure,
        descending=bool(figure) and wanted == "number",
    )
