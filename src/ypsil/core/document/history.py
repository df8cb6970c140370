"""Undo and redo of one author's own, read from the log of changes.

Only what its author wrote is taken back, and only where it is still there: what others wrote since is left. A change of
which nothing can be taken back is passed over and said, and the next older one is tried.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from ypsil.core.document.changes import Batch, Change, Draft, Plain, plain_changes
from ypsil.core.document.model import Document
from ypsil.core.errors import EditRefused


@dataclass(frozen=True, slots=True)
class Entry:
    """A line of the log. ``undoes`` is the number of the entry that it took back; ``spell`` holds together what was
    typed without a pause."""

    number: int
    undoes: int | None = None
    is_passed_over: bool = False
    spell: str = ""


@dataclass(frozen=True, slots=True)
class Reach:
    """What undo and redo would take back, latest first: each the numbers of entries that belong together."""

    undo: tuple[tuple[int, ...], ...]
    redo: tuple[tuple[int, ...], ...]


def reach(entries: Iterable[Entry]) -> Reach:
    """Walk one author's log, oldest first; something new ends what could be redone.

    >>> reach([Entry(1), Entry(2), Entry(3, undoes=2)])
    Reach(undo=((1,),), redo=((3,),))
    >>> reach([Entry(1, spell="a"), Entry(2, spell="a"), Entry(5)]).undo
    ((5,), (1, 2))
    """
    done: list[tuple[tuple[int, ...], str]] = []
    undone: list[tuple[int, ...]] = []
    for entry in entries:
        if entry.undoes is None:
            if entry.spell and done and done[-1][1] == entry.spell:
                done[-1] = ((*done[-1][0], entry.number), entry.spell)
            else:
                done.append(((entry.number,), entry.spell))
            undone.clear()
        elif undone and entry.undoes in undone[-1]:
            undone.pop()
            if not entry.is_passed_over:
                done.append(((entry.number,), ""))
        elif done and entry.undoes in done[-1][0]:
            done.pop()
            if not entry.is_passed_over:
                undone.append((entry.number,))
    return Reach(tuple(numbers for numbers, _ in reversed(done)), tuple(reversed(undone)))


@dataclass(frozen=True, slots=True)
class TakenBack:
    """The document without some changes, the changes that made it so, and how many could not be taken back."""

    document: Document
    batch: Batch
    left: int


def take_back(document: Document, made: Sequence[Change]) -> TakenBack:
    """Take back what changes made, the latest first, where what is there is what they wrote."""
    draft = Draft(document)
    done: list[Plain] = []
    left = 0
    label = next((change.label for change in reversed(made) if isinstance(change, Batch) and change.label), "")
    for change in reversed(made):
        for one in reversed(plain_changes(change)):
            inverse = one.inverse()
            try:
                draft.make(inverse)
            except EditRefused:
                left += 1
            else:
                done.append(inverse)
    return TakenBack(draft.document(), Batch(label=label, changes=tuple(done)), left)
