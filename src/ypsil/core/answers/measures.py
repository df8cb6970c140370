"""Measures as polars expressions, with the checks that come before."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

import polars as pl

from ypsil.core.errors import QuestionRefused
from ypsil.core.figures import POINTS
from ypsil.core.questions.model import NUMBER_STATS, UNWEIGHTED_STATS, Measure, Question
from ypsil.core.tables.conditions import holds_any
from ypsil.core.tables.model import Column, Way
from ypsil.core.tables.natural_order import scale_places

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
_HIGHEST_RECOMMENDATION = 10


@dataclass(frozen=True, slots=True)
class Basis:
    """What measures are reckoned with.

    ``complete`` names the columns in which no value is missing: their sums need no second look, and polars adds them
    up several times as fast. ``weight`` is the column that says how much a row counts, ``places`` gives the words of
    each rating scale their numbers.
    """

    known: Mapping[str, Column]
    complete: frozenset[str] = frozenset()
    weight: str | None = None
    places: Mapping[str, Mapping[str, int]] = field(default_factory=dict)


# These give back what stands in the column.
_AS_THEY_ARE = frozenset({"first", "last", "min", "max"})


def check_measure(measure: Measure, known: Mapping[str, Column], question: Question | None = None) -> None:
    """Raise QuestionRefused when a statistic does not fit the kind of its column."""
    for part in measure.parts():
        column = known[part.column] if part.column else None
        _check_arithmetic(measure, part, column)
        if question is not None and question.weight and part.stat in UNWEIGHTED_STATS:
            raise QuestionRefused(
                f"“{part.stat}” is not weighted here", remedy="take the weight away, or ask for a mean or a share"
            )
        if column is None or part.stat in ("count", "distinct", "first", "last", "share"):
            continue
        if part.stat == "score":
            if column.kind not in ("number", "category"):
                raise QuestionRefused(
                    f"“score” needs a rating, and “{column.name}” holds {column.kind}",
                    remedy="choose a column of ratings",
                )
        elif column.kind != "number" and (
            part.stat in NUMBER_STATS or part.stat == "recommendation" or column.kind != "date"
        ):
            raise QuestionRefused(
                f"“{part.stat}” needs a number column, and “{column.name}” holds {column.kind}",
                remedy="choose a number column, or count instead",
            )


def _check_arithmetic(measure: Measure, part: Measure, column: Column | None) -> None:
    """Raise QuestionRefused where a change or a ratio is asked of what is no number."""
    is_reckoned = measure.then is not None or measure.ratio is not None
    if is_reckoned and column is not None and part.stat in _AS_THEY_ARE and column.kind != "number":
        raise QuestionRefused(
            f"a {'ratio' if measure.ratio else 'change'} needs numbers, and “{column.name}” holds {column.kind}",
            remedy="choose a number column, or count instead",
        )


def basis_of(cells: Callable[[str], pl.Series], known: Mapping[str, Column], question: Question) -> Basis:
    """Return what a question's measures are reckoned with.

    ``cells`` gives a column of all rows: a scale is the same whatever is filtered.

    Raises QuestionRefused for words whose order nobody gave, for recommendations beyond 0 to 10, and for weights that
    cannot be.
    """
    places = {}
    for part in (part for measure in question.measures for part in measure.parts()):
        if part.stat == "score" and part.column and known[part.column].kind == "category":
            places[part.column] = _places(cells(part.column), known[part.column])
        elif part.stat == "recommendation" and part.column:
            _check_recommendation(cells(part.column))
    if question.weight:
        _check_weight(cells(question.weight), known[question.weight])
    return Basis(known, weight=question.weight, places=places)


def _places(cells: pl.Series, column: Column) -> dict[str, int]:
    labels = cells.drop_nulls().unique().to_list()
    places = scale_places(labels, column.order)
    if places is None:
        raise QuestionRefused(
            f"the order of the answers in “{column.name}” is not known",
            remedy="say it once on the table's page, with the step “Put answers in order”",
        )
    return places


def _check_recommendation(cells: pl.Series) -> None:
    low, high = cells.min(), cells.max()
    if low is not None and not 0 <= float(low) <= float(high) <= _HIGHEST_RECOMMENDATION:  # type: ignore[arg-type]
        ends = f"from {float(low):g} to {float(high):g}"  # type: ignore[arg-type]
        raise QuestionRefused(
            f"a recommendation score needs answers from 0 to 10, and “{cells.name}” goes {ends}",
            remedy="choose the column with the answers from 0 to 10, or ask for the mean",
        )


def scale_doubts(cells: Callable[[str], pl.Series], question: Question) -> list[str]:
    """Say so where a recommendation score is taken of answers that seem to be on a shorter scale than 0 to 10."""
    asked = [part.column for measure in question.measures for part in measure.parts() if part.stat == "recommendation"]
    found = []
    for name in filter(None, asked):
        highest = cells(name).max()
        if highest is not None and float(highest) <= _HIGHEST_RECOMMENDATION / 2:  # type: ignore[arg-type]
            found.append(f"no answer in {name} is above {float(highest):g}: is it asked from 0 to 10?")  # type: ignore[arg-type]
    return found


def _check_weight(cells: pl.Series, column: Column) -> None:
    if column.kind != "number":
        raise QuestionRefused(
            f"weights are numbers, and “{column.name}” holds {column.kind}", remedy="choose a number column"
        )
    negative = cells.filter(cells < 0)
    if len(negative):
        rows = "1 row has" if len(negative) == 1 else f"{len(negative):,} rows have"
        raise QuestionRefused(
            f"{rows} a negative weight in “{column.name}”, such as {negative[0]}; nobody counts less than nothing",
            remedy="correct these cells, or choose another column",
        )


def measure_unit(measure: Measure, known: Mapping[str, Column]) -> str | None:
    """Return the unit a measure is written with; a change of shares is in points of a percent."""
    if measure.then in ("percent_change", "percent_change_year", "index"):
        return None if measure.then == "index" else "%"
    if measure.then in ("change", "change_year"):
        plain = measure_unit(measure.model_copy(update={"then": None}), known)
        return POINTS if plain == "%" else plain
    if measure.ratio:
        above, below = (measure_unit(part, known) for part in measure.ratio)
        return above if below is None else None
    if measure.stat == "share":
        return "%"
    is_unitless = measure.stat in ("count", "distinct", "score", "recommendation") or measure.column is None
    return None if is_unitless else known[measure.column or ""].unit


def good_way(measure: Measure, known: Mapping[str, Column]) -> Way | None:
    """Return which way of a measure was called good for its column; of a ratio that of what is divided, unless what it
    is divided by has a way of its own."""
    if measure.ratio:
        above, below = (good_way(part, known) for part in measure.ratio)
        return above if below is None else None
    if measure.column is None or measure.stat in ("count", "distinct", "std", "share"):
        return None
    return known[measure.column].good


def ratio(above: str, below: str) -> pl.Expr:
    """Return the ratio of two amounts of a group; it is never the mean of the rows' ratios, and none by zero."""
    return pl.when(pl.col(below) != 0).then(pl.col(above) / pl.col(below))


def amount(measure: Measure, basis: Basis) -> pl.Expr:
    """Return the expression of a statistic over a group of rows; no values give null, not zero.

    ``std`` is that of a sample (n − 1); percentiles interpolate linearly between ranks (Hyndman and Fan 1996, type 7).
    """
    if basis.weight is not None and measure.stat not in ("distinct", "min", "max", "first", "last"):
        return _weighted(measure, basis, pl.col(basis.weight))
    if measure.column is None:
        return pl.len().cast(pl.Int64)
    own = _STATS_WITH_BASIS.get(measure.stat or "count")
    if own is not None:
        return own(measure, basis.known[measure.column], basis)
    return _STATS[measure.stat or "count"](pl.col(measure.column))


def _share(measure: Measure, column: Column, basis: Basis) -> pl.Expr:
    cell = pl.col(column.name)
    if measure.values:
        whole = cell.count() if measure.of == "answered" else pl.len()
        return (holds_any(column.name, column.field, measure.values).sum() / whole).fill_nan(None)
    return cell.sum() if column.kind == "number" else cell.count().cast(pl.Int64)


def _percentile(measure: Measure, column: Column, basis: Basis) -> pl.Expr:
    return pl.col(column.name).quantile((measure.p or 0) / 100, interpolation="linear")


def _sum(measure: Measure, column: Column, basis: Basis) -> pl.Expr:
    cell = pl.col(column.name)
    if column.kind != "number":
        return cell.count()
    return cell.sum() if column.name in basis.complete else pl.when(cell.count() > 0).then(cell.sum())


def _score(measure: Measure, column: Column, basis: Basis) -> pl.Expr:
    return as_numbers(column.name, basis).mean()


def _recommendation(measure: Measure, column: Column, basis: Basis) -> pl.Expr:
    cell = pl.col(column.name)
    return ((cell >= 9).sum().cast(pl.Float64) - (cell <= 6).sum()) / _or_none(cell.count()) * 100


_STATS_WITH_BASIS: dict[str, Callable[[Measure, Column, Basis], pl.Expr]] = {
    "share": _share,
    "percentile": _percentile,
    "sum": _sum,
    "score": _score,
    "recommendation": _recommendation,
}


def _weighted(measure: Measure, basis: Basis, weight: pl.Expr) -> pl.Expr:
    """Return the statistic with each row counted as often as its weight says."""
    if measure.column is None:
        return weight.sum()
    column = basis.known[measure.column]
    cell = pl.col(measure.column)
    answered = _or_none(weight.filter(cell.is_not_null()).sum())
    if measure.stat == "share" and measure.values:
        whole = answered if measure.of == "answered" else _or_none(weight.sum())
        return weight.filter(holds_any(column.name, column.field, measure.values)).sum() / whole
    if measure.stat == "count" or (measure.stat == "share" and column.kind != "number"):
        return weight.filter(cell.is_not_null()).sum()
    if measure.stat == "recommendation":
        return (weight.filter(cell >= 9).sum() - weight.filter(cell <= 6).sum()) / answered * 100
    if measure.stat in ("sum", "share"):
        return pl.when(cell.count() > 0).then((weight * cell).sum())
    return (weight * as_numbers(measure.column, basis)).sum() / answered


def as_numbers(name: str, basis: Basis) -> pl.Expr:
    """Return a column as numbers: itself, or the places of its words on their scale."""
    places = basis.places.get(name)
    if places is None:
        return pl.col(name)
    return pl.col(name).replace_strict(dict(places), default=None, return_dtype=pl.Int64)


def beside(measure: Measure, name: str, basis: Basis) -> list[pl.Expr]:
    """Return what is kept beside a measure that says something about those who answered: how many they are, how far
    their values lie apart, and how many equal answers a weighted one is worth (Kish 1965, section 11.7)."""
    if basis.weight is not None and (measure.stat == "count" or measure.is_of_respondents):
        return _beside_count(measure, name, pl.col(basis.weight))
    if not measure.rests_on_values:
        return []
    column = measure.column or ""
    here = pl.col(column).is_not_null() if measure.of == "answered" else pl.lit(True)
    if column in basis.places:
        here = as_numbers(column, basis).is_not_null()
    base = here.sum() if measure.of == "answered" else pl.len()
    found = [base.cast(pl.Int64).alias(f"{name}-base")]
    is_mean = measure.stat in ("mean", "score")
    numbers = as_numbers(column, basis).cast(pl.Float64) if is_mean else None
    if basis.weight is None:
        return [*found, numbers.std().alias(f"{name}-deviation")] if numbers is not None else found
    weight = pl.col(basis.weight).filter(here)
    effective = weight.sum() ** 2 / _or_none((weight**2).sum())
    found.append(effective.alias(f"{name}-effective"))
    if numbers is not None:
        present = numbers.filter(here)
        mean = (weight * present).sum() / _or_none(weight.sum())
        spread = (weight * (present - mean) ** 2).sum() / _or_none(weight.sum())
        found.append((spread * effective / _or_none(effective - 1)).sqrt().alias(f"{name}-deviation"))
    return found


def _beside_count(measure: Measure, name: str, weight: pl.Expr) -> list[pl.Expr]:
    """Return how many rows a weighted count rests on, and how many equal ones these are worth."""
    here = pl.col(measure.column).is_not_null() if measure.column else pl.lit(True)
    counted = weight.filter(here)
    effective = counted.sum() ** 2 / _or_none((counted**2).sum())
    return [counted.len().cast(pl.Int64).alias(f"{name}-rows"), effective.alias(f"{name}-effective")]


def _or_none(whole: pl.Expr) -> pl.Expr:
    """Return a whole that parts are taken of: none rather than zero."""
    return pl.when(whole != 0).then(whole)
