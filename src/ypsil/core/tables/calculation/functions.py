"""The functions of calculations: what each takes, gives and means."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import polars as pl

Type = Literal["number", "text", "date", "time", "yesno", "list", "missing"]
ANY: tuple[Type, ...] = ("number", "text", "date", "time", "yesno", "list", "missing")
_START = {"year": "1y", "quarter": "1q", "month": "1mo", "week": "1w", "day": "1d"}


@dataclass(frozen=True, slots=True)
class Function:
    """A function: the types of its parts (the last repeats where ``many``), its result, and how it is computed.

    ``needed`` is how many parts must be there. ``gives`` of None means the type of the first part.
    ``keeps_unit`` says that the result has its parts' unit.
    """

    name: str
    parts: tuple[tuple[Type, ...], ...]
    gives: Type | None
    build: Callable[..., pl.Expr]
    needed: int = -1
    many: bool = False
    keeps_unit: bool = False
    says: str = ""
    example: str = ""

    @property
    def fewest(self) -> int:
        return len(self.parts) if self.needed < 0 else self.needed


_N: tuple[Type, ...] = ("number",)
_T: tuple[Type, ...] = ("text",)
_D: tuple[Type, ...] = ("date",)


def _round(value: pl.Expr, digits: pl.Expr | None = None) -> pl.Expr:
    """Round half away from zero, also to tens (-1) and hundreds (-2), as commerce does (DIN 1333)."""
    factor = pl.lit(10.0).pow(digits) if digits is not None else pl.lit(1.0)
    scaled = value * factor
    # A hair upwards, so that 1.005, which a computer holds as 1.00499…, is rounded as it is written.
    return (scaled.abs() * (1 + 1e-14) + 0.5).floor() * scaled.sign() / factor


def _over(expression: pl.Expr, groups: tuple[pl.Expr, ...]) -> pl.Expr:
    return expression.over(list(groups)) if groups else expression


def _part(value: pl.Expr, first: pl.Expr, count: pl.Expr | None = None) -> pl.Expr:
    return value.str.slice((first - 1).cast(pl.Int64), None if count is None else count.cast(pl.Int64))


def _before(value: pl.Expr, mark: pl.Expr) -> pl.Expr:
    place = value.str.find(mark, literal=True)
    return pl.when(place.is_null()).then(value).otherwise(value.str.split(mark).list.first())


def _after(value: pl.Expr, mark: pl.Expr) -> pl.Expr:
    # The mark is found by its bytes; what follows starts behind them.
    rest = value.str.split(mark).list.slice(1).list.join(mark)
    return pl.when(value.str.contains(mark, literal=True)).then(rest)


def _number(value: pl.Expr) -> pl.Expr:
    return value.str.replace_all(r"[,\s£$€¥%]", "").cast(pl.Float64, strict=False)


def _date_of(*parts: pl.Expr) -> pl.Expr:
    if len(parts) == 1:
        return parts[0].str.to_date("%Y-%m-%d", strict=False)
    year, month, day = (part.cast(pl.Int64) for part in parts)
    return pl.format("{}-{}-{}", year, month, day).str.to_date("%Y-%m-%d", strict=False)


def _days_between(first: pl.Expr, second: pl.Expr) -> pl.Expr:
    return (second.cast(pl.Date) - first.cast(pl.Date)).dt.total_days().cast(pl.Float64)


def _months_between(first: pl.Expr, second: pl.Expr) -> pl.Expr:
    """Return whole months: from 31 January to 28 February is none yet."""
    months = (
        (second.dt.year() - first.dt.year()) * 12 + second.dt.month().cast(pl.Int32) - first.dt.month().cast(pl.Int32)
    )
    short = (months > 0) & (second.dt.day() < first.dt.day())
    long = (months < 0) & (second.dt.day() > first.dt.day())
    return (months - short.cast(pl.Int32) + long.cast(pl.Int32)).cast(pl.Float64)


def _add(unit: str) -> Callable[[pl.Expr, pl.Expr], pl.Expr]:
    def build(value: pl.Expr, count: pl.Expr) -> pl.Expr:
        return value.dt.offset_by(pl.format("{}" + unit, count.cast(pl.Int64)))

    return build


def _start_of(period: str) -> Callable[[pl.Expr], pl.Expr]:
    return lambda value: value.dt.truncate(_START[period]).cast(pl.Date)


def _figure(name: str) -> Callable[[pl.Expr], pl.Expr]:
    return lambda value: getattr(value.dt, name)().cast(pl.Float64)


def _contains(value: pl.Expr, wanted: pl.Expr) -> pl.Expr:
    return value.str.to_lowercase().str.contains(wanted.str.to_lowercase(), literal=True)


def _rank(value: pl.Expr, *groups: pl.Expr) -> pl.Expr:
    return _over(value.rank("min", descending=True).cast(pl.Float64), groups)


FUNCTIONS: dict[str, Function] = {
    function.name: function
    for function in (
        Function("round", (_N, _N), "number", _round, 1, False, True,
                 says="rounded, with so many decimals", example="round(Cost, 1)"),
        Function("round_down", (_N,), "number", lambda x: x.floor(), -1, False, True,
                 says="the whole number below", example="round_down(Cost)"),
        Function("round_up", (_N,), "number", lambda x: x.ceil(), -1, False, True,
                 says="the whole number above", example="round_up(Cost)"),
        Function("abs", (_N,), "number", lambda x: x.abs(), -1, False, True,
                 says="without its sign", example="abs(Change)"),
        Function("least", (_N, _N), "number", lambda *x: pl.min_horizontal(*x), 2, True, True,
                 says="the smallest of several", example="least(Visits, 500)"),
        Function("greatest", (_N, _N), "number", lambda *x: pl.max_horizontal(*x), 2, True, True,
                 says="the largest of several", example="greatest(Visits, 0)"),
        Function("remainder", (_N, _N), "number", lambda x, y: pl.when(y != 0).then(x % y),
                 says="what is left after dividing", example="remainder(Visits, 7)"),
        Function("root", (_N,), "number", lambda x: pl.when(x >= 0).then(x.sqrt()),
                 says="the square root", example="root(Area)"),
        Function("log", (_N,), "number", lambda x: pl.when(x > 0).then(x.log()),
                 says="the natural logarithm", example="log(Visits)"),
        Function("number", (_T,), "number", _number,
                 says="a text read as a number", example="number(before(Size, ' '))"),
        Function("first_present", (ANY, ANY), None, lambda *x: pl.coalesce(*x), 2, True, True,
                 says="the first that is not missing", example="first_present(Visits, 0)"),
        Function("total", (_N, ANY), "number", lambda x, *g: _over(x.sum(), g), 1, True, True,
                 says="the sum of the column, or of each group", example="Visits / total(Visits, Branch)"),
        Function("average", (_N, ANY), "number", lambda x, *g: _over(x.mean(), g), 1, True, True,
                 says="the mean of the column, or of each group", example="Visits - average(Visits)"),
        Function("smallest", (_N, ANY), "number", lambda x, *g: _over(x.min(), g), 1, True, True,
                 says="the smallest of the column, or of each group", example="smallest(Visits, Branch)"),
        Function("largest", (_N, ANY), "number", lambda x, *g: _over(x.max(), g), 1, True, True,
                 says="the largest of the column, or of each group", example="largest(Visits, Branch)"),
        Function("rank", (_N, ANY), "number", _rank, 1, True,
                 says="1 for the largest, in all or in each group", example="rank(Visits, Month)"),
        Function("running_total", (_N, ANY), "number", lambda x, *g: _over(x.cum_sum(), g), 1, True, True,
                 says="the sum up to this row", example="running_total(Visits, Branch)"),
        Function("row_above", (ANY, ANY), None, lambda x, *g: _over(x.shift(1), g), 1, True, True,
                 says="the value one row above", example="Visits - row_above(Visits, Branch)"),
        Function("row_number", (), "number", lambda: pl.int_range(1, pl.len() + 1).cast(pl.Float64),
                 says="1 for the first row", example="row_number()"),
        Function("text", (ANY,), "text", lambda x: x,
                 says="as text", example="text(Visits)"),
        Function("length", (_T,), "number", lambda x: x.str.len_chars().cast(pl.Float64),
                 says="how many characters", example="length(Comment)"),
        Function("lower", (_T,), "text", lambda x: x.str.to_lowercase(),
                 says="in small letters", example="lower(Branch)"),
        Function("upper", (_T,), "text", lambda x: x.str.to_uppercase(),
                 says="in capital letters", example="upper(Code)"),
        Function("title", (_T,), "text", lambda x: x.str.to_titlecase(),
                 says="each word with a capital", example="title(Branch)"),
        Function("trim", (_T,), "text", lambda x: x.str.replace_all(r"\s+", " ").str.strip_chars(),
                 says="without needless spaces", example="trim(Name)"),
        Function("left", (_T, _N), "text", lambda x, n: x.str.head(n.cast(pl.Int64)),
                 says="the first characters", example="left(Code, 2)"),
        Function("right", (_T, _N), "text", lambda x, n: x.str.tail(n.cast(pl.Int64)),
                 says="the last characters", example="right(Code, 2)"),
        Function("part", (_T, _N, _N), "text", _part, 2,
                 says="some characters, from the first wanted on", example="part(Code, 3, 2)"),
        Function("before", (_T, _T), "text", _before,
                 says="what stands before a mark", example="before(Name, ',')"),
        Function("after", (_T, _T), "text", _after,
                 says="what stands after a mark", example="after(Name, ', ')"),
        Function("replace", (_T, _T, _T), "text", lambda x, old, new: x.str.replace_all(old, new, literal=True),
                 says="one text put in place of another", example="replace(Branch, 'St.', 'Saint')"),
        Function("contains", (_T, _T), "yesno", _contains,
                 says="whether a text holds another; capitals do not matter", example="contains(Comment, 'hours')"),
        Function("starts_with", (_T, _T), "yesno", lambda x, y: x.str.starts_with(y),
                 says="whether a text begins so", example="starts_with(Code, 'A')"),
        Function("ends_with", (_T, _T), "yesno", lambda x, y: x.str.ends_with(y),
                 says="whether a text ends so", example="ends_with(Code, 'Z')"),
        Function("holds", (("list",), _T), "yesno", lambda x, y: x.list.contains(y),
                 says="whether a list has an answer in it", example="holds(\"Comes for\", 'Study')"),
        Function("answers", (("list",),), "number", lambda x: x.list.len().cast(pl.Float64),
                 says="how many answers a list has", example="answers(\"Comes for\")"),
        Function("date", (("number", "text"), _N, _N), "date", _date_of, 1,
                 says="a date from year, month and day, or from a text", example="date(2026, 3, 31)"),
        Function("today", (), "date", lambda: pl.lit(None, dtype=pl.Date),
                 says="the day the table is prepared", example="days_between(Day, today())"),
        Function("year", (_D,), "number", _figure("year"),
                 says="the year of a date", example="year(Day)"),
        Function("quarter", (_D,), "number", _figure("quarter"),
                 says="the quarter, 1 to 4", example="quarter(Day)"),
        Function("month", (_D,), "number", _figure("month"),
                 says="the month, 1 to 12", example="month(Day)"),
        Function("week", (_D,), "number", _figure("week"),
                 says="the week, 1 to 53 (ISO 8601)", example="week(Day)"),
        Function("weekday", (_D,), "number", _figure("weekday"),
                 says="1 for Monday to 7 for Sunday (ISO 8601)", example="weekday(Day)"),
        Function("day", (_D,), "number", _figure("day"),
                 says="the day of the month", example="day(Day)"),
        Function("hour", (("date", "time"),), "number", _figure("hour"),
                 says="the hour, 0 to 23", example="hour(Opened)"),
        Function("start_of_year", (_D,), "date", _start_of("year"),
                 says="the first day of its year", example="start_of_year(Day)"),
        Function("start_of_quarter", (_D,), "date", _start_of("quarter"),
                 says="the first day of its quarter", example="start_of_quarter(Day)"),
        Function("start_of_month", (_D,), "date", _start_of("month"),
                 says="the first day of its month", example="start_of_month(Day)"),
        Function("start_of_week", (_D,), "date", _start_of("week"),
                 says="the Monday of its week", example="start_of_week(Day)"),
        Function("days_between", (_D, _D), "number", _days_between,
                 says="days from one date to another", example="days_between(Opened, Closed)"),
        Function("months_between", (_D, _D), "number", _months_between,
                 says="whole months from one date to another", example="months_between(Joined, Left)"),
        Function("add_days", (_D, _N), "date", _add("d"),
                 says="a date so many days later", example="add_days(Day, 14)"),
        Function("add_months", (_D, _N), "date", _add("mo"),
                 says="a date so many months later", example="add_months(Day, 1)"),
    )
}  # fmt: skip
