"""Timing: two jobs in turn, A B A B …, so that both meet the machine in the same mood; medians are told."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass

Job = Callable[[], object]


@dataclass(frozen=True)
class Row:
    """One line of the report."""

    what: str
    ours_ms: float
    other: str
    other_ms: float
    target: str

    @property
    def times(self) -> float:
        return self.other_ms / self.ours_ms


def side_by_side(what: str, ours: Job, other_name: str, other: Job, target: str, runs: int = 7) -> Row:
    """Time two jobs in turn after one run each that does not count."""
    ours(), other()
    mine, theirs = [], []
    for _ in range(runs):
        mine.append(_milliseconds(ours))
        theirs.append(_milliseconds(other))
    return Row(what, statistics.median(mine), other_name, statistics.median(theirs), target)


def _milliseconds(job: Job) -> float:
    started = time.perf_counter()
    job()
    return (time.perf_counter() - started) * 1000


def print_rows(rows: list[Row]) -> None:
    print(f"{'what':<46}{'Ypsil':>11}  {'beside':<26}{'':>11}{'ratio':>8}  target")
    for row in rows:
        print(
            f"{row.what:<46}{row.ours_ms:>8.1f} ms  {row.other:<26}{row.other_ms:>8.1f} ms"
            f"{row.times:>7.1f}x  {row.target}"
        )
