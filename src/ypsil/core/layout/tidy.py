"""Tidying a band: rows and columns are found in how its tiles stand, and laid out anew with equal gaps, widths that
are halves and thirds of each other, and tops that are level."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import product

from ypsil.core.document.model import Frame, PageFormat

# What may reach over a gap without closing it, of the smaller of two extents: tiles that were put there by eye.
_OVER = 0.35
# Parts of a row's width: one, two or three times its smallest.
_TIMES = (1, 2, 3)
_LEAST_COLUMNS = 2
# A width that all have alike is kept unless others are nearer to how it stands by this much (columns, squared).
_FOR_ALIKE = 10.0
_MOST_WEIGHED = 6


@dataclass(frozen=True, slots=True)
class Thing:
    """Something that is tidied: its frame, and of a text the rows that it takes in so many columns. A text is as high
    as that, whatever stands beside it."""

    frame: Frame
    text_rows: Callable[[int], int] | None = None


@dataclass(frozen=True, slots=True)
class _Leaf:
    place: int
    column: int
    row: int
    width: int
    height: int
    text_rows: Callable[[int], int] | None

    @property
    def is_text(self) -> bool:
        return self.text_rows is not None

    @property
    def right(self) -> int:
        return self.column + self.width

    @property
    def foot(self) -> int:
        return self.row + self.height


@dataclass(frozen=True, slots=True)
class _Row:
    parts: tuple[_Part, ...]


@dataclass(frozen=True, slots=True)
class _Column:
    parts: tuple[_Part, ...]


_Part = _Leaf | _Row | _Column


def tidy(things: Sequence[Thing], page: PageFormat) -> list[Frame]:
    """Return the frames of a band's tiles as they stand when it is tidy, in their order.

    What is laid over others stays where it is. In a row of drawings the largest comes first.

    >>> beside = [Frame(column=0, row=2, width=11, height=20), Frame(column=12, row=0, width=10, height=23)]
    >>> [(one.column, one.row, one.width, one.height) for one in tidy([Thing(one) for one in beside], PageFormat())]
    [(0, 0, 12, 23), (12, 0, 12, 23)]
    """
    frames = [thing.frame for thing in things]
    flat = [_leaf(place, thing, page) for place, thing in enumerate(things) if not thing.frame.layer]
    if not flat:
        return frames
    for leaf in _laid(_parts(flat), 0, 0, page.columns, page):
        update = {
            "column": leaf.column,
            "row": leaf.row,
            "width": leaf.width,
            "height": leaf.height,
            "dx": 0.0,
            "dy": 0.0,
        }
        frames[leaf.place] = frames[leaf.place].model_copy(update=update)
    return frames


def _leaf(place: int, thing: Thing, page: PageFormat) -> _Leaf:
    frame = thing.frame
    width = min(frame.width, page.columns)
    column = min(frame.column, page.columns - width)
    return _Leaf(place, column, frame.row, width, frame.height, thing.text_rows)


def _parts(leaves: Sequence[_Leaf]) -> _Part:
    """Return how leaves stand: cut between rows, each of these between columns, and so on. What cannot be cut stands
    one below the other."""
    if len(leaves) == 1:
        return leaves[0]
    rows = _cut([(one.row, one.foot, one) for one in leaves])
    if len(rows) > 1:
        return _Column(tuple(_parts(row) for row in rows))
    columns = _cut([(one.column, one.right, one) for one in leaves])
    if len(columns) > 1:
        return _Row(tuple(_parts(column) for column in columns))
    ordered: list[_Leaf] = sorted(leaves, key=lambda one: (one.row, one.column, one.place))
    return _Column(tuple(ordered))


def _cut(extents: Sequence[tuple[int, int, _Leaf]]) -> list[list[_Leaf]]:
    """Return leaves in groups that reach into each other only a little, in order."""
    order = sorted(extents, key=lambda one: (one[0] + one[1], one[2].place))
    groups = [[order[0]]]
    for before, after in zip(range(1, len(order)), order[1:], strict=True):
        is_apart = all(_reach(low, high) <= _OVER for low in order[:before] for high in order[before:])
        if is_apart:
            groups.append([])
        groups[-1].append(after)
    return [[leaf for *_, leaf in group] for group in groups]


def _reach(low: tuple[int, int, _Leaf], high: tuple[int, int, _Leaf]) -> float:
    """Return which share of the smaller of two extents lies in both, the first being the lower."""
    return (low[1] - high[0]) / min(low[1] - low[0], high[1] - high[0])


def _laid(part: _Part, column: int, row: int, width: int, page: PageFormat) -> list[_Leaf]:
    """Return the leaves of a part in a room that is so wide, from a place on."""
    if isinstance(part, _Leaf):
        return [_alone(part, column, row, width, page)]
    if isinstance(part, _Column):
        found: list[_Leaf] = []
        for one in part.parts:
            laid = _laid(one, column, row, width, page)
            found += laid
            row = max(leaf.foot for leaf in laid) + page.row_gap
        return found
    return _side_by_side(part, column, row, width, page)


def _alone(leaf: _Leaf, column: int, row: int, room: int, page: PageFormat) -> _Leaf:
    """Return a leaf that has a row for itself: as wide as the room, or a half, a third or two thirds of it."""
    if leaf.text_rows is not None:
        return replace(leaf, column=column, row=row, width=room, height=leaf.text_rows(room))
    if room < page.columns:
        return replace(leaf, column=column, row=row, width=room)
    width = min({room, *(room * part // 6 for part in (2, 3, 4))}, key=lambda wide: (abs(wide - leaf.width), -wide))
    starts = {column, column + room - width, column + (room - width) // 2}
    return replace(leaf, column=min(starts, key=lambda at: (abs(at - leaf.column), at)), row=row, width=width)


def _side_by_side(part: _Row, column: int, row: int, room: int, page: PageFormat) -> list[_Leaf]:
    count = len(part.parts)
    if room < count * _LEAST_COLUMNS:
        return _laid(_Column(part.parts), column, row, room, page)
    widths, between = _widths(tuple(_wide(one) for one in part.parts), room)
    parts = list(zip(part.parts, widths, strict=True))
    if all(isinstance(one, _Leaf) and not one.is_text for one in part.parts):
        parts.sort(key=lambda pair: -pair[1])
    columns: list[list[_Leaf]] = []
    for one, width in parts:
        columns.append(_laid(one, column, row, width, page))
        column += width + between
    foot = max(leaf.foot for laid in columns for leaf in laid)
    return [leaf for laid in columns for leaf in _reaching(laid, foot)]


def _wide(part: _Part) -> int:
    if isinstance(part, _Leaf):
        return part.width
    wide = [_wide(one) for one in part.parts]
    return max(wide) if isinstance(part, _Column) else sum(wide)


@lru_cache(maxsize=1024)
def _widths(present: tuple[int, ...], room: int) -> tuple[tuple[int, ...], int]:
    """Return widths in a room, each one, two or three times the smallest, near to how they are, and the columns left
    free between them where the room cannot be shared out evenly.

    >>> _widths((11, 10), 24), _widths((5, 17), 24), _widths((6, 5, 11), 24), _widths((3, 3, 3, 3, 3), 24)
    (((12, 12), 0), ((6, 18), 0), ((6, 6, 12), 0), ((4, 4, 4, 4, 4), 1))
    """
    count, total = len(present), sum(present)
    shared = [one * room / total for one in present]
    alike = (room // count,) * count
    ways = {alike}
    if count <= _MOST_WEIGHED:
        ways |= {
            tuple(room // sum(times) * part for part in times)
            for times in product(_TIMES, repeat=count)
            if min(times) == 1 and not room % sum(times) and room // sum(times) >= _LEAST_COLUMNS
        }

    def cost(widths: tuple[int, ...]) -> float:
        far = sum((wide - now) ** 2 for wide, now in zip(widths, shared, strict=True))
        return far + _FOR_ALIKE * (max(widths) > min(widths))

    best = min(sorted(ways), key=cost)
    return best, (room - sum(best)) // max(1, count - 1)


def _reaching(laid: list[_Leaf], foot: int) -> list[_Leaf]:
    """Return a column whose lowest drawings reach down to a foot."""
    lowest = max(leaf.foot for leaf in laid)
    return [
        replace(leaf, height=foot - leaf.row) if leaf.foot == lowest and not leaf.is_text else leaf for leaf in laid
    ]
