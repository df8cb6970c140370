"""Cross-tables: shares by row, column or total, the chi-square test, and which differences are more than chance.

Chi-square: K. Pearson (1900). Its warning: W. G. Cochran, Some methods for strengthening the common chi-square tests,
Biometrics 10 (1954), 417-451: no expected count below 1, and not more than a fifth of them below 5.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ypsil.core.survey.intervals import difference_interval

Of = Literal["row", "column", "total"]
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

    ``signs`` holds 1 where a row's share is above that of all together, −1 where it is below, 0 where the interval of
    the difference leaves that open. A row's difference from all is its difference from all other rows, less the row's
    own part of all; so both intervals leave zero out together, and Newcombe's, which needs groups apart, decides.
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
) -> CrossTable:
    """Return the cross-table of counts, a row a group and a column an answer.

    ``bases`` are the people of each row, where they are not the sums of its counts; ``one_each`` tells that everybody
    gave one answer, without which there is no chi-square. Chance is judged by ``tested``, where counts are weighted:
    they are as many as the effective bases. Raises ValueError for rows of different length.

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
    wholes = {"row": rows[:, None], "column": columns[None, :], "total": np.array([[whole]])}[of]
    with np.errstate(divide="ignore", invalid="ignore"):
        shares = table / np.broadcast_to(wholes, table.shape)
        totals = columns / (columns if of == "column" else whole)
    return CrossTable(
        tuple(tuple(_present(value) for value in row) for row in shares),
        tuple(_present(value) for value in totals),
        tuple(rows.tolist()),
        tuple(columns.tolist()),
        tuple(
            tuple(_sign(judged, people, row, column) for column in range(table.shape[1])) for row in range(len(rows))
        ),
        chi_square(judged) if one_each else None,
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


def _sign(table: np.ndarray, rows: np.ndarray, row: int, column: int) -> int:
    """Tell whether a row's share lies above or below that of all other rows together, beyond chance."""
    base, others = float(rows[row]), float(rows.sum() - rows[row])
    if base <= 0 or others <= 0:
        return 0
    own, rest = table[row, column] / base, (table[:, column].sum() - table[row, column]) / others
    ends = difference_interval(min(1.0, own), base, min(1.0, rest), others)
    if ends is None:
        return 0
    return 1 if ends[0] > 0 else -1 if ends[1] < 0 else 0


def _present(value: float) -> float | None:
    return float(value) if np.isfinite(value) else None
