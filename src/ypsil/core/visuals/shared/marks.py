"""What a reader learns at a mark, and what the mark stands for."""

from __future__ import annotations

from collections.abc import Sequence

from ypsil.core.drawing.scene import Mark
from ypsil.core.figures import in_full


def mark_title(group: str, *told: str, series: str = "") -> Mark:
    """Return what a reader learns at a mark: its names, and its values in full."""
    return Mark(", ".join(in_full(part) for part in (group, series, *told) if part), group, series)


def curve_mark(series: str) -> Mark:
    """Return what a reader learns at a whole series."""
    return Mark(series, series=series)


def part_mark(names: Sequence[str], *told: str) -> Mark:
    """Return what a reader learns at a part within a part, or at a cell of a table: the first name is its group, the
    others its series."""
    group, *within = [name for name in names if name] or [""]
    return mark_title(group, *told, series=", ".join(within))
