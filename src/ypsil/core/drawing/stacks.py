"""Values on top of each other."""

from __future__ import annotations

from collections.abc import Sequence

Span = tuple[float, float]


def stack(rows: Sequence[Sequence[float | None]]) -> list[list[Span | None]]:
    """Return where each value of each series starts and ends, series upon series.

    ``rows`` has one list of values a series, all of one length. Positive values grow upwards and negative ones
    downwards from zero; a missing value takes no room.

    >>> stack([[1, -2], [3, 4]])
    [[(0.0, 1.0), (-2.0, 0.0)], [(1.0, 4.0), (0.0, 4.0)]]
    """
    width = len(rows[0]) if rows else 0
    up, down = [0.0] * width, [0.0] * width
    spans: list[list[Span | None]] = []
    for row in rows:
        line: list[Span | None] = []
        for index, value in enumerate(row):
            if value is None:
                line.append(None)
            elif value >= 0:
                line.append((up[index], up[index] + value))
                up[index] += value
            else:
                line.append((down[index] + value, down[index]))
                down[index] += value
        spans.append(line)
    return spans


def shares(rows: Sequence[Sequence[float | None]]) -> list[list[float | None]]:
    """Return each value as a part of its group's sum of sizes; a group of nothing has no parts.

    >>> shares([[1, 0], [3, 0]])
    [[0.25, None], [0.75, None]]
    """
    totals = [sum(abs(value) for value in group if value is not None) for group in zip(*rows, strict=True)]
    return [
        [None if value is None or not total else value / total for value, total in zip(row, totals, strict=True)]
        for row in rows
    ]
