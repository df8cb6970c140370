"""What a table offers: its columns with their values, their spread, and what that looks like."""

from __future__ import annotations

import math
from dataclasses import asdict, dataclass, field
from typing import Any

import numpy as np
import polars as pl

from ypsil.core.figures import Grain, decimals_kept, format_number
from ypsil.core.tables.convert import as_text
from ypsil.core.tables.model import Column, Kind
from ypsil.core.tables.side_by_side import for_each

_SHOWN_VALUES = 60
_TOP = 5
_BARS = 16
_SPREADS_OF_COLUMNS = 300
# The longest stretch of days that each period suits.
_GRAIN_OF_SPAN: tuple[tuple[float, Grain], ...] = ((62, "day"), (200, "week"), (366 * 12, "month"), (math.inf, "year"))


@dataclass(frozen=True, slots=True)
class Spread:
    """How a column's values lie: facts as words and values, the commonest values, and bars from low to high.

    ``bars`` are counts: of equal stretches of numbers and time, of lengths of text, or of the commonest values.
    """

    facts: tuple[tuple[str, str], ...]
    top: tuple[tuple[str, int], ...]
    bars: tuple[int, ...]

    def as_json(self) -> dict[str, Any]:
        return asdict(self)


@dataclass(frozen=True, slots=True)
class Profile:
    """A table's columns; for those with labels their values from the commonest down, for dates a fitting period.

    ``spreads`` tells how the values of each column lie (of the first few hundred columns), ``ends`` the lowest and
    highest value of numbers and dates (these as ISO 8601).
    """

    columns: tuple[Column, ...]
    values: dict[str, tuple[str, ...]]
    rows: int
    grains: dict[str, Grain]
    spreads: dict[str, Spread] = field(default_factory=dict)
    ends: dict[str, tuple[float | str, float | str]] = field(default_factory=dict)
    # Columns by kind and by name, put together once: tables may have thousands.
    _of: dict[Kind, list[Column]] = field(default_factory=dict, init=False, compare=False, repr=False)
    _named: dict[str, Column] = field(default_factory=dict, init=False, compare=False, repr=False)

    def looks_whole(self, name: str) -> bool:
        """Tell whether the lowest and the highest of a column's numbers are whole, as those of counts are."""
        ends = self.ends.get(name, ())
        return bool(ends) and all(isinstance(end, float) and end.is_integer() for end in ends)

    def has_times(self, name: str) -> bool:
        """Tell whether a column of dates says the time of day as well."""
        return any("T" in str(end) for end in self.ends.get(name, ()))

    def years(self, name: str) -> int:
        """Return how many calendar years a column of days touches; 0 for any other."""
        ends = [str(end)[:4] for end in self.ends.get(name, ())]
        return int(ends[1]) - int(ends[0]) + 1 if ends and all(end.isdigit() for end in ends) else 0

    def of(self, *kinds: Kind) -> list[Column]:
        """Return the columns of some kinds, in the order of the table."""
        if len(kinds) > 1:
            return [column for column in self.columns if column.kind in kinds] if self.has(*kinds) else []
        return list(self._by_kind().get(kinds[0], ())) if kinds else []

    def has(self, *kinds: Kind) -> bool:
        """Tell whether there is a column of one of some kinds."""
        return any(kind in self._by_kind() for kind in kinds)

    def _by_kind(self) -> dict[Kind, list[Column]]:
        if not self._of and self.columns:
            found: dict[Kind, list[Column]] = {}
            for column in self.columns:
                found.setdefault(column.kind, []).append(column)
            # At once: several may ask for it at the same time.
            self._of.update(found)
        return self._of

    def column(self, name: str | None) -> Column | None:
        if not self._named and self.columns:
            self._named.update({column.name: column for column in reversed(self.columns)})
        return self._named.get(name) if name is not None else None


def profile(frame: pl.DataFrame, columns: tuple[Column, ...]) -> Profile:
    """Return the profile of a frame; yes/no columns offer both words whether or not both occur."""
    values: dict[str, tuple[str, ...]] = {}
    spreads: dict[str, Spread] = {}

    grains: dict[str, Grain] = {}

    def one(column: Column) -> tuple[list[tuple[str, int]], Spread]:
        cells = frame[column.name]
        counted = _counted(cells, column) if column.kind != "text" else None
        common = _commonest(counted, column, _SHOWN_VALUES) if counted is not None else []
        if column.kind == "date" and counted is not None:
            grains[column.name] = natural_grain(counted["value"])
        return common, _spread(cells.drop_nulls(), column, counted, common)

    for column, (common, found) in zip(columns, for_each(one, columns, frame.height), strict=True):
        if column.kind == "yesno":
            values[column.name] = ("Yes", "No")
        elif column.kind in ("category", "place", "list"):
            values[column.name] = tuple(name for name, _ in common)
        if len(spreads) < _SPREADS_OF_COLUMNS:
            spreads[column.name] = found
    ends = {column.name: _ends(frame[column.name], column) for column in columns}
    return Profile(columns, values, frame.height, grains, spreads, {name: pair for name, pair in ends.items() if pair})


def _ends(cells: pl.Series, column: Column) -> tuple[float | str, float | str] | None:
    if column.kind not in ("number", "date") or cells.null_count() == len(cells):
        return None
    low, high = cells.min(), cells.max()
    if column.kind == "date":
        return (low.isoformat(), high.isoformat())  # type: ignore[union-attr]
    return (float(low), float(high)) if math.isfinite(float(low) + float(high)) else None  # type: ignore[arg-type]


def _counted(cells: pl.Series, column: Column) -> pl.DataFrame:
    """Return each ``value`` of a column, or each entry of its lists, and its ``count``."""
    flat = (cells.explode() if column.kind == "list" else cells).alias("value")
    return flat.drop_nulls().value_counts()


def _commonest(counted: pl.DataFrame, column: Column, most: int) -> list[tuple[str, int]]:
    if counted.height > most:
        border = counted["count"].top_k(most).min()
        counted = counted.filter(pl.col("count") >= border)
    top = counted.sort(["count", "value"], descending=[True, False]).head(most)
    names = as_text(top["value"], column.field) if column.kind != "list" else top["value"]
    return list(zip(names.to_list(), top["count"].to_list(), strict=True))


def _spread(present: pl.Series, column: Column, counted: pl.DataFrame | None, common: list[tuple[str, int]]) -> Spread:
    """Return how a column's values lie; ``counted`` are its different values, ``common`` the commonest of them."""
    if not len(present):
        return Spread((), (), ())
    if column.kind == "number":
        return Spread(_number_facts(present, column), tuple(common[:_TOP]), _histogram(present))
    if column.kind == "date":
        return Spread(_date_facts(present, column), tuple(common[:_TOP]), _histogram(present.to_physical()))
    if column.kind == "text":
        lengths = present.str.len_chars().to_numpy()
        facts = (
            ("shortest", f"{format_number(float(lengths.min()))} characters"),
            ("longest", f"{format_number(float(lengths.max()))} characters"),
        )
        return Spread(facts, (), _histogram(pl.Series(lengths)))
    labels = present.unique() if counted is None else counted["value"]
    bars = tuple(count for _, count in common[:_BARS])
    return Spread(_label_facts(present, labels, column), tuple(common[:_TOP]), bars)


def _number_facts(present: pl.Series, column: Column) -> tuple[tuple[str, str], ...]:
    numbers = present.cast(pl.Float64).to_numpy()
    low, middle, mean, high = (
        float(value) for value in (numbers.min(), np.median(numbers), numbers.mean(), numbers.max())
    )
    share = column.unit == "%"
    decimals = decimals_kept([round(value, 10) for value in (low, middle, high) if math.isfinite(value)])
    shown = max(0, decimals - 2 * share)
    of_mean = max(shown, 0 if abs(mean) >= 1000 else 1)
    unit = column.unit if share else None
    places = (("lowest", low, shown), ("median", middle, shown), ("mean", mean, of_mean), ("highest", high, shown))
    return tuple((name, format_number(value, decimals=decimals, unit=unit)) for name, value, decimals in places)


def _date_facts(present: pl.Series, column: Column) -> tuple[tuple[str, str], ...]:
    ends = as_text(pl.Series(present.name, [present.min(), present.max()], dtype=present.dtype), column.field)
    return (("first", str(ends[0])), ("last", str(ends[1])))


def _label_facts(present: pl.Series, labels: pl.Series, column: Column) -> tuple[tuple[str, str], ...]:
    if column.kind == "list":
        answers = float(present.list.len().mean() or 0)  # type: ignore[arg-type]
        return (("answers a cell", format_number(answers, decimals=1)),)
    if column.kind == "yesno":
        return (("yes", format_number(float(present.mean() or 0), decimals=0, unit="%")),)  # type: ignore[arg-type]
    lengths = labels.str.len_chars()
    ends = (labels.filter(lengths == end).min() for end in (lengths.min(), lengths.max()))
    shortest, longest = (str(label)[:40] for label in ends)
    return (("shortest", shortest), ("longest", longest))


def _histogram(values: pl.Series) -> tuple[int, ...]:
    """Return how many values lie in each of sixteen equal stretches from the lowest to the highest."""
    numbers = values.cast(pl.Float64).to_numpy()
    low, high = float(numbers.min()), float(numbers.max())
    if not math.isfinite(high - low) or high <= low:
        return (len(values),)
    place = np.minimum((numbers - low) * (_BARS / (high - low)), _BARS - 1).astype(np.int64)
    return tuple(int(count) for count in np.bincount(place, minlength=_BARS))


def natural_grain(dates: pl.Series) -> Grain:
    """Return the period that a column of dates is best summed up by.

    Dates that all start a year stand for years. Otherwise the length of time decides, so that between about
    ten and sixty periods are shown (common practice, no source).

    >>> import datetime as dt
    >>> natural_grain(pl.Series([dt.date(2020, 1, 1), dt.date(2021, 1, 1)]))
    'year'
    >>> natural_grain(pl.Series([dt.date(2026, 3, 2), dt.date(2026, 3, 30)]))
    'day'
    """
    if dates.dtype == pl.Time:
        return "hour"
    days = dates.drop_nulls().cast(pl.Date).unique()
    if len(days) < 2:
        return "month"
    if bool(((days.dt.month() == 1) & (days.dt.day() == 1)).all()):
        return "year"
    if bool((days.dt.day() == 1).all()):
        return "month"
    span = (days.max() - days.min()).days  # type: ignore[operator, union-attr]
    return next(grain for longest, grain in _GRAIN_OF_SPAN if span <= longest)
