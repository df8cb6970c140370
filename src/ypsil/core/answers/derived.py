"""What is worked out from an answer's own rows: parts of a total, and changes from row to row.

Rows are in order; ``others`` are the keys whose every combination is a series of its own (the split, and all
groups but the first). Periods without rows have been filled in, so that the row before is the period before.
"""

from __future__ import annotations

import datetime as dt

import polars as pl

from ypsil.core.answers.groups import Group
from ypsil.core.errors import QuestionRefused
from ypsil.core.figures import Grain, year_before
from ypsil.core.questions.model import Measure
from ypsil.core.questions.wording import DEFAULT_WINDOW

_ADDED_UP = ("sum", "count")


def check_then(measure: Measure, grouped: int, grain: Grain | None) -> None:
    """Raise QuestionRefused when what is to be done with a measure has no meaning for it."""
    if measure.then is None:
        return
    if not grouped:
        raise QuestionRefused(
            f"“{measure.then}” needs something to go along, such as months", remedy="say per what it is asked"
        )
    if measure.then in ("change_year", "percent_change_year") and grain not in (
        "year",
        "quarter",
        "month",
        "week",
        "day",
    ):
        raise QuestionRefused(f"“{measure.then}” needs periods of a calendar", remedy="ask it per month, say")
    if measure.then == "running_total" and not (measure.stat in _ADDED_UP or measure.is_part):
        raise QuestionRefused("only sums, counts and parts of a total can be added up", remedy="choose another measure")
    if any(part.then for part in measure.parts() if part is not measure):
        raise QuestionRefused("“then” belongs to the ratio, not to its parts", remedy="move it")


def part_of_total(name: str, measure: Measure, group_keys: list[str]) -> pl.Expr:
    """Return each row's part of everything, of its split value, or of its group."""
    if measure.within == "split":
        whole = pl.col(name).sum().over("split") if "split" in group_keys else pl.col(name).sum()
    elif measure.within == "per":
        keys = [key for key in group_keys if key != "split"]
        whole = pl.col(name).sum().over(keys) if keys else pl.col(name).sum()
    else:
        whole = pl.col(name).sum()
    return pl.when(whole != 0).then(pl.col(name) / whole).alias(name)


def worked_out(frame: pl.DataFrame, name: str, measure: Measure, first: Group, others: list[str]) -> pl.DataFrame:
    """Return the frame with one measure's values replaced by what ``measure.then`` makes of them.

    A percentage change is taken of the size of the value before; there is none from zero or across a change of
    sign. A moving average is that of the last ``window`` rows, missing until there are so many; one of a ratio
    divides the sums of both, and is no mean of ratios. An index is 100 at the first value of each series.
    """
    value = pl.col(name)
    if measure.then == "moving_average":
        window = measure.window or DEFAULT_WINDOW
        if measure.ratio:
            above, below = (pl.col(f"{name}-{part}").rolling_sum(window) for part in ("above", "below"))
            averaged: pl.Expr = pl.when(below != 0).then(above / below)
        else:
            averaged = value.cast(pl.Float64).rolling_mean(window)
        return frame.with_columns(_over(averaged, others).alias(name))
    if measure.then == "running_total":
        return frame.with_columns(_over(value.cum_sum(), others).alias(name))
    if measure.then == "index":
        start = _over(value.drop_nulls().first(), others)
        return frame.with_columns(pl.when(start != 0).then(value / start * 100).alias(name))
    if measure.then in ("change_year", "percent_change_year"):
        frame = _with_year_before(frame, name, first, others)
        before = pl.col("year-before")
    else:
        frame = frame.with_columns(_over(value.shift(1), others).alias("year-before"))
        before = pl.col("year-before")
    if measure.then in ("change", "change_year"):
        changed: pl.Expr = value - before
    else:
        changed = pl.when((before != 0) & (before * value >= 0)).then((value - before) / before.abs())
    return frame.with_columns(changed.alias(name)).drop("year-before")


def _over(expression: pl.Expr, others: list[str]) -> pl.Expr:
    return expression.over(others) if others else expression


def _with_year_before(frame: pl.DataFrame, name: str, first: Group, others: list[str]) -> pl.DataFrame:
    grain = first.column.grain or "day"
    days: list[dt.date] = frame[first.key].unique().to_list()
    earlier = pl.DataFrame(
        {first.key: days, "earlier": [year_before(day, grain) for day in days]},
        schema={first.key: pl.Date, "earlier": pl.Date},
    )
    values = frame.select(pl.col(first.key).alias("earlier"), *others, pl.col(name).alias("year-before"))
    found = frame.join(earlier, on=first.key, how="left", maintain_order="left")
    return found.join(values, on=["earlier", *others], how="left", maintain_order="left").drop("earlier")
