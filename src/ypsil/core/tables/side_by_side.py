"""The same work on each column or tile, on several cores where a table is long."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from typing import TypeVar

_LONG = 50_000
_Item = TypeVar("_Item")
_Made = TypeVar("_Made")


def for_each(work: Callable[[_Item], _Made], items: Sequence[_Item], rows: int) -> Iterator[_Made]:
    """Yield the work's result for each item, in order. polars lets other threads run while it computes.

    >>> list(for_each(len, ["a", "bb"], 2))
    [1, 2]
    """
    cores = os.cpu_count() or 1
    if rows < _LONG or cores < 2 or len(items) < 2:
        yield from map(work, items)
        return
    with ThreadPoolExecutor(min(cores, 4)) as pool:
        yield from pool.map(work, items)
