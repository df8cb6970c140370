"""Cross-tables: shares by row, column or total, the chi-square test, and which differences are more than chance.

Chi-square: K. Pearson (1900). Its warning: W. G. Cochran, Some methods for strengthening the common chi-square tests,
Biometrics 10 (1954), 417-451: no expected count below 1, and not more than a fifth of them below 5.

Many differences at once: S. Holm, A simple sequentially rejective multiple test procedure, Scandinavian Journal of
Statistics 6 (1979), 65-70.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ypsil.core.survey.intervals import difference_interval

Of = Literal["row", "column", "total"]
SIGNIFICANT = 0.05
_FEW, _FEWEST, _MOST_FEW = 5.0, 1.0, 0.2


@dataclass(frozen=True, slots=True)
class ChiSquare:
    """Pearson's statistic, its degrees of freedom and probability; ``is_doubtful`` where expected counts are small."""

    statistic: float
    freedom: int
    probability: float
    is_doubtful: bool


@dataclass(frozen=True, slots=True)
class CrossTable:
    """Counts with their shares (None where the whole is empty), row by row, and the sums of rows and columns.

    ``signs`` holds 1 where a row's share is above that of all together, −1 where it is below, 0 where that may be
    chance. A row's difference from all is its difference from all other rows, less the row's own part of all; so it is
    judged by the latter, of groups apart: the test of two shares, corrected for the number of differences in the table
    by Holm's procedure, and Newcombe's interval, which is surer in small groups, must both say so. Where the chi-square
    test of the whole table finds nothing, there are no signs.
    """

    shares: tuple[tuple[float | None, ...], ...]
    total_shares: tuple[float | None, ...]
    row_sums: tuple[float, ...]
    column_sums: tuple[float, ...]
    signs: tuple[tuple[int, ...], ...]
    test: ChiSquare | None


def cross_table(
    counts: Sequence[Sequence[float]],
    of: Of = "row",
    bases: Sequence[float] | None = None,
    *,
    one_each: bool = True,
    tested: Sequence[Sequence[float]] | None = None,
    tested_bases: Sequence[float] | None = None,
) -> CrossTable:
    """Return the cross-table of counts, a row a group and a column an answer.

    ``bases`` are the people of each row, where they are not the sums of its counts; ``one_each`` tells that everybody
    gave one answer, without which there is no chi-square. Chance is judged by ``tested``, where counts are weighted:
    they are as many as the effective bases, which are ``tested_bases`` where they are not their sums. Raises ValueError
    for rows of different length.

    >>> made = cross_table([[30, 10], [20, 40]])
    >>> made.shares, round(made.test.statistic, 3), made.signs
    (((0.75, 0.25), (0.3333333333333333, 0.6666666666666666)), 16.667, ((1, -1), (-1, 1)))
    """
    table = np.array([list(row) for row in counts], dtype=float)
    if table.ndim != 2:
        raise ValueError("a cross-table needs rows of one length")
    rows = np.array(bases, dtype=float) if bases is not None else table.sum(axis=1)
    columns, whole = table.sum(axis=0), float(rows.sum())
    judged = table if tested is None else np.array([list(row) for row in tested], dtype=float)
    people = rows if tested is None else judged.sum(axis=1)
    people = people if tested_bases is None else np.array(tested_bases, dtype=float)
    wholes = {"row": rows[:, None], "column": columns[None, :], "total": np.array([[whole]])}[of]
    with np.errstate(divide="ignore", invalid="ignore"):
        shares = table / np.broadcast_to(wholes, table.shape)
        totals = columns / (columns if of == "column" else whole)
    test = chi_square(judged) if one_each else None
    is_chance = one_each and (test is None or test.probability >= SIGNIFICANT)
    signs = np.zeros(table.shape, dtype=int) if is_chance else _signs(judged, people, one_each=one_each)
    return CrossTable(
        tuple(tuple(_present(value) for value in row) for row in shares),
        tuple(_present(value) for value in totals),
        tuple(rows.tolist()),
        tuple(columns.tolist()),
        tuple(tuple(row) for row in signs.tolist()),
        test,
    )


def chi_square(counts: np.ndarray) -> ChiSquare | None:
    """Return the test of independence, without rows and columns that are empty; None where fewer than two are left."""
    kept = counts[counts.sum(axis=1) > 0][:, counts.sum(axis=0) > 0]
    if min(kept.shape, default=0) < 2:
        return None
    from scipy.special import chdtrc  # takes half a second to load, and few pages need it

    expected = kept.sum(axis=1, keepdims=True) * kept.sum(axis=0, keepdims=True) / kept.sum()
    statistic = float(((kept - expected) ** 2 / expected).sum())
    freedom = (kept.shape[0] - 1) * (kept.shape[1] - 1)
    doubtful = bool(expected.min() < _FEWEST or (expected < _FEW).mean() > _MOST_FEW)
    return ChiSquare(statistic, freedom, float(chdtrc(freedom, statistic)), doubtful)


def _signs(table: np.ndarray, people: np.ndarray, *, one_each: bool) -> np.ndarray:
    """Return which shares lie above or below those of all other rows together, beyond chance."""
    groups, answers = table.shape
    probabilities = np.ones(table.shape)
    sides = np.zeros(table.shape, dtype=int)
    for row in range(groups):
        for column in range(answers):
            sides[row, column], probabilities[row, column] = _difference(table, people, row, column)
    # Of two groups, or two answers that exclude each other, the second differs as the first does, turned round.
    rows = 1 if groups == 2 else groups
    columns = 1 if one_each and answers == 2 else answers
    allowed = holm(probabilities[:rows, :columns].ravel()).max(initial=0.0)
    return np.where(probabilities <= allowed * (1 + 1e-9), sides, 0)


def holm(probabilities: np.ndarray) -> np.ndarray:
    """Return those of the probabilities that stay below 0.05 when corrected for their number, from the smallest up.

    >>> holm(np.array([0.01, 0.04, 0.03, 0.005])).tolist()
    [0.005, 0.01]
    """
    ordered = np.sort(probabilities)
    corrected = ordered * np.arange(len(ordered), 0, -1)
    failing = np.flatnonzero(corrected >= SIGNIFICANT)
    return ordered[: failing[0] if len(failing) else len(ordered)]


def _difference(table: np.ndarray, people: np.ndarray, row: int, column: int) -> tuple[int, float]:
    """Return on which side a row's share lies of that of all others, 0 for none, and how probable that is by chance."""
    base, others = float(people[row]), float(people.sum() - people[row])
    if base <= 0 or others <= 0:
        return 0, 1.0
    chosen, rest = float(table[row, column]), float(table[:, column].sum() - table[row, column])
    own, other = min(1.0, chosen / base), min(1.0, rest / others)
    ends = difference_interval(own, base, other, others)
    pooled = (own * base + other * others) / (base + others)
    error = math.sqrt(pooled * (1 - pooled) * (1 / base + 1 / others))
    if ends is None or error == 0 or ends[0] <= 0 <= ends[1]:
        return 0, 1.0
    return (1 if own > other else -1), math.erfc(abs(own - other) / error / math.sqrt(2))


def _present(value: float) -> float | None:
    return float(value) if np.isfinite(value) else None
