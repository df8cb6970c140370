"""Rectangles whose areas are amounts."""

from __future__ import annotations

from collections.abc import Sequence

Room = tuple[float, float, float, float]  # x, y, width, height


def squarified(amounts: Sequence[float], room: Room) -> list[Room]:
    """Return a rectangle for each amount, its area in proportion, as near to squares as a greedy layout gets.

    ``amounts`` come from the largest down and are positive. Rows are laid along the shorter side of the room that
    is left. Source: Bruls, Huizing and van Wijk, "Squarified treemaps" (2000).

    >>> [(round(width, 2), round(height, 2)) for _, _, width, height in squarified([6, 6, 4], (0, 0, 6, 4))]
    [(2.25, 4.0), (3.75, 2.4), (3.75, 1.6)]
    """
    total = sum(amounts)
    x, y, width, height = room
    if total <= 0 or width <= 0 or height <= 0:
        return [(x, y, 0.0, 0.0) for _ in amounts]
    areas = [amount / total * width * height for amount in amounts]
    found: list[Room] = []
    start = 0
    while start < len(areas):
        side = min(width, height)
        stop = start + 1
        while stop < len(areas) and _worst(areas[start : stop + 1], side) <= _worst(areas[start:stop], side):
            stop += 1
        row, (x, y, width, height) = _laid(areas[start:stop], (x, y, width, height))
        found += row
        start = stop
    return found


def _worst(row: Sequence[float], side: float) -> float:
    """Return the highest ratio of sides in a row of areas laid along a side."""
    total = sum(row)
    return max(side * side * max(row) / (total * total), total * total / (side * side * min(row)))


def _laid(row: Sequence[float], room: Room) -> tuple[list[Room], Room]:
    x, y, width, height = room
    depth = sum(row) / min(width, height)
    found = []
    if width >= height:
        for area in row:
            found.append((x, y, depth, area / depth))
            y += area / depth
        return found, (x + depth, room[1], max(0.0, width - depth), height)
    for area in row:
        found.append((x, y, area / depth, depth))
        x += area / depth
    return found, (room[0], y + depth, width, max(0.0, height - depth))
