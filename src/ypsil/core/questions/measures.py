"""Measures as polars expressions, with the checks that come before."""

from __future__ import annotations

from collections.abc import Callable

import polars as pl

from ypsil.core.errors import QuestionRefused
from ypsil.core.questions.model import NUMBER_STATS, Measure
from ypsil.core.tables.conditions import holds_any
from ypsil.core.tables.model import Column

_STATS: dict[str, Callable[[pl.Expr], pl.Expr]] = {
    "count": lambda cell: cell.count().cast(pl.Int64),
    "distinct": lambda cell: cell.drop_nulls().n_unique().cast(pl.Int64),
    "mean": pl.Expr.mean,
    "median": pl.Expr.median,
    "min": pl.Expr.min,
    "max": pl.Expr.max,
    "first": lambda cell: cell.drop_nulls().first(),
    "last": lambda cell: cell.drop_nulls().last(),
    "std": pl.Expr.std,
}


def check_measure(measure: Measure, known: dict[str, Column]) -> None:
    """Raise QuestionRefused when a statistic does not fit the kind of its column."""
    for part in measure.parts():
        column = known[part.column] if part.column else None
        if column is None or part.stat in ("count", "distinct", "first", "last", "share"):
            continue
        if column.kind != "number" and (part.stat in NUMBER_STATS or column.kind != "date"):
            raise QuestionRefused(
                f"“{part.stat}” needs a number column, and “{column.name}” holds {column.kind}",
                remedy="choose a number column, or count instead",
            )


def measure_unit(measure: Measure, known: dict[str, Column]) -> str | None:
    """Return the unit a measure is written with; a change of shares is in points of a percent."""
    if measure.then in ("percent_change", "percent_change_year"):
        return "%"
    if measure.then == "index":
        return None
    if measure.ratio:
        above, below = (measure_unit(part, known) for part in measure.ratio)
        return above if below is None else None
    if measure.stat == "share":
        return "%"
    if measure.stat in ("count", "distinct") or measure.column is None:
        return None
    return known[measure.column].unit


def ratio(above: str, below: str) -> pl.Expr:
    """Return the ratio of two amounts of a group; it is never the mean of the rows' ratios, and none by zero."""
    return pl.when(pl.col(below) != 0).then(pl.col(above) / pl.col(below))


def amount(measure: Measure, known: dict[str, Column], complete: frozenset[str] = frozenset()) -> pl.Expr:
    """Return the expression of a statistic over a group of rows; no values give null, not zero.

    ``complete`` names the columns in which no value is missing: their sums need no second look, and polars adds them
    up several times as fast. ``std`` is that of a sample (n − 1); percentiles interpolate linearly between ranks
    (Hyndman and Fan 1996, type 7).
    """
    if measure.column is None:
        return pl.len().cast(pl.Int64)
    column = known[measure.column]
    cell = pl.col(measure.column)
    if measure.stat == "share":
        if measure.values:
            return (holds_any(column.name, column.field, measure.values).sum() / cell.count()).fill_nan(None)
        return cell.sum() if column.kind == "number" else cell.count().cast(pl.Int64)
    if measure.stat == "percentile":
        return cell.quantile((measure.p or 0) / 100, interpolation="linear")
    if measure.stat == "sum":
        return _sum(cell, column, is_complete=measure.column in complete)
    return _STATS[measure.stat or "count"](cell)


def _sum(cell: pl.Expr, column: Column, *, is_complete: bool) -> pl.Expr:
    if column.kind != "number":
        return cell.count()
    return cell.sum() if is_complete else pl.when(cell.count() > 0).then(cell.sum())
