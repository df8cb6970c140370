"""How the cells of a row share its width, and the parts of a cell its height."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from ypsil.core.templates.model import AnyPart, Cell


def shared(cells: Sequence[Cell], columns: int) -> list[tuple[int, int]]:
    """Return left edge and width of cells that share all columns, in proportion to what they are meant to have.

    >>> from ypsil.core.templates.model import Words
    >>> shared([Cell(width=8, parts=(Words(),)), Cell(width=8, parts=(Words(),))], 24)
    [(0, 12), (12, 12)]
    """
    whole = sum(cell.width for cell in cells)
    edges = [round(columns * sum(cell.width for cell in cells[:place]) / whole) for place in range(len(cells) + 1)]
    return [(left, right - left) for left, right in pairwise(edges)]


def stacked(parts: Sequence[AnyPart], gap: int, height: int) -> list[tuple[int, int]]:
    """Return row and height of parts one above the other; those that are given none share what is left.

    >>> from ypsil.core.templates.model import Words
    >>> stacked([Words(height=5), Words()], 1, 20)
    [(0, 5), (6, 14)]
    """
    open_ones = sum(not part.height for part in parts)
    rest = height - sum(part.height for part in parts) - gap * (len(parts) - 1)
    found = []
    top = 0
    for part in parts:
        high = part.height or max(1, rest // open_ones)
        found.append((top, high))
        top += high + gap
    return found
