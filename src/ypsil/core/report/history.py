"""Undo and redo, read from the log of edits."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

EntryKind = Literal["do", "undo", "redo"]


@dataclass(frozen=True, slots=True)
class Reach:
    """The log entries that undo and redo would take back, or None."""

    undo: int | None
    redo: int | None


def reach(entries: Iterable[tuple[int, EntryKind]]) -> Reach:
    """Walk one author's log (entry number and kind, oldest first); something new ends what could be redone.

    >>> reach([(1, "do"), (2, "do"), (3, "undo")])
    Reach(undo=1, redo=3)
    >>> reach([(1, "do"), (2, "undo"), (3, "do")])
    Reach(undo=3, redo=None)
    """
    done: list[int] = []
    undone: list[int] = []
    for number, kind in entries:
        if kind == "undo":
            done.pop()
            undone.append(number)
        elif kind == "redo":
            undone.pop()
            done.append(number)
        else:
            done.append(number)
            undone.clear()
    return Reach(done[-1] if done else None, undone[-1] if undone else None)
