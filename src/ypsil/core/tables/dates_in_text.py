"""Dates, periods and times as people write them; the order of day and month is decided from the whole column."""

from __future__ import annotations

import datetime as dt
import re
from calendar import monthrange
from dataclasses import dataclass
from functools import cache, lru_cache

import numpy as np
import polars as pl

from ypsil.core.figures import days_after
from ypsil.core.tables import calendar_names
from ypsil.core.tables.model import Form

_LANGUAGES = ("en", "de", "fr", "es", "it", "nl", "pt")
_YEAR = r"(?P<y>\d{4}|\d{2})"
_TIME = r"(?P<H>\d{1,2}):(?P<M>\d{2})(?::(?P<S>\d{2})(?:[.,]\d+)?)?(?: ?(?P<ap>[ap])\.?m\.?)?"
_MONTH_NAME = r"(?P<mon>\p{L}{3,}\.?)"
_WEEKDAY = r"(?:\p{L}{2,9}\.?,? )?"

# Tried in this order; the first that fits a text reads it.
_SHAPES: tuple[tuple[Form, str], ...] = (
    ("day", r"^(?P<y>\d{4})[-/.](?P<m>\d{1,2})[-/.](?P<d>\d{1,2})$"),
    ("moment", rf"^(?P<y>\d{{4}})[-/.](?P<m>\d{{1,2}})[-/.](?P<d>\d{{1,2}})[t ] ?{_TIME}(?:z|[+-]\d{{2}}:?\d{{2}})?$"),
    ("day", rf"^{_WEEKDAY}(?P<d>\d{{1,2}})(?:st|nd|rd|th|\.)?[ -]?(?:of )?{_MONTH_NAME}[ ,-]*{_YEAR}$"),
    ("day", rf"^{_WEEKDAY}{_MONTH_NAME} (?P<d>\d{{1,2}})(?:st|nd|rd|th)?,? (?P<y>\d{{4}})$"),
    ("quarter", r"^(?:q|quarter )(?P<q>[1-4])[ ,/'-]*(?P<y>\d{4})$"),
    ("quarter", r"^(?P<y>\d{4})[ /-]*q(?P<q>[1-4])$"),
    ("quarter", r"^(?P<q>[1-4])(?:q|(?:st|nd|rd|th) quarter,?)[ /-]*(?:of )?(?P<y>\d{4})$"),
    ("week", r"^(?P<y>\d{4})[- ]?w(?P<w>\d{2})(?:-?(?P<wd>[1-7]))?$"),
    ("week", r"^(?:w|wk|week|kw) ?(?P<w>\d{1,2})[ ,/-]*(?P<y>\d{4})$"),
    ("month", r"^(?P<y>\d{4})[-/.](?P<m>\d{1,2})$"),
    ("month", r"^(?P<m>\d{1,2})[-/.](?P<y>\d{4})$"),
    ("month", rf"^{_MONTH_NAME}[ ,'’/-]*{_YEAR}$"),
    ("month", rf"^(?P<y>\d{{4}})[ ,/-]*{_MONTH_NAME}$"),
)  # fmt: skip
_SLASHED = rf"^(?P<a>\d{{1,2}})[/.-](?P<b>\d{{1,2}})[/.-]{_YEAR}(?:,? {_TIME})?$"
_CLOCK = rf"^{_TIME}$|^(?P<H12>\d{{1,2}}) ?(?P<ap12>[ap])\.?m\.?$"
_YEAR_ALONE = r"^(1[5-9]|20|21)\d\d$"
_SAYS_YEAR = re.compile(r"(?i)(^|[\s_.-])(year|yr|fy|jahr|jaar|année|año|ano|anno|år|rok)e?s?$")
_JOINED_WORDS = re.compile(r"(?<=[a-zà-ÿ])(?=[A-ZÀ-Þ])")
_SAYS_DATE = re.compile(
    r"(?i)(^|[\s_-])(date|day|datum|month|week|fecha|when|on|time|timestamp|created|updated|modified|epoch)s?($|[\s_-])|date$"
)
# 20000 is in 1954, 60000 in 2064; day 0 is 30 December 1899 (ECMA-376, part 1, 18.17.4.1, the 1900 date system
# as it counts from March 1900 on).
_SERIAL_DAYS = (20_000, 60_000)
# From 1986 to 2100, counted from 1970 (POSIX.1-2017, 4.16); in thousandths of a second a thousand times that.
_EPOCH_SECONDS = (500_000_000, 4_102_444_800)
_SERIAL_ZERO = np.datetime64("1899-12-30")
_MOSTLY = 0.9


@dataclass(frozen=True, slots=True)
class ParsedDates:
    """Dates, moments or times of the texts, null where a text holds none.

    ``form`` is the finest way they were written. ``order`` tells how day and month were told apart: None when
    there was nothing to tell. ``serial`` says that they were a spreadsheet's day numbers, ``epoch`` that they were
    seconds from 1970 on.
    """

    values: pl.Series
    form: Form
    order: str | None = None  # "day-first", "month-first" or "ambiguous"
    serial: bool = False
    epoch: bool = False


@cache
def _months() -> dict[str, int]:
    names = {
        name.rstrip(".").casefold(): number
        for language in _LANGUAGES
        for width in ("abbreviated", "wide")
        for context in ("format", "stand-alone")
        for number, name in calendar_names.names("months", width, context, language).items()
    }
    return names | {"sept": 9}


def parse_dates(
    texts: pl.Series, counts: np.ndarray | None = None, *, name: str = "", day_first: bool | None = None
) -> ParsedDates | None:
    """Read different texts as dates, or return None when less than nine in ten rows can be read.

    ``counts`` weighs each text by its rows, ``name`` is the column's, ``day_first`` settles what the column
    does not show.

    >>> parse_dates(pl.Series(["13/02/2026", "01/03/2026"])).values.to_list()[1].isoformat()
    '2026-03-01'
    >>> parse_dates(pl.Series(["01/02/2026"])).order, parse_dates(pl.Series(["Branch"]))
    ('ambiguous', None)
    >>> found = parse_dates(pl.Series(["2026-W10", "Week 11, 2026"]))
    >>> found.form, [day.isoformat() for day in found.values]
    ('week', ['2026-03-02', '2026-03-09'])
    >>> parse_dates(pl.Series(["2:30 pm", "09:05"])).values.to_list()
    [datetime.time(14, 30), datetime.time(9, 5)]
    """
    if not len(texts) or not bool(texts.head(1000).str.contains(r"\d").any()):
        return None
    weights = counts if counts is not None else np.ones(len(texts), dtype=np.int64)
    plain = texts.str.to_lowercase().str.replace_all(r"\s+", " ")
    for reader in (_read_clock, _read_days):
        found = reader(plain, weights, day_first)
        if found is not None:
            return found
    return parse_bare_numbers(plain, weights, name)


def _enough(values: pl.Series, weights: np.ndarray) -> bool:
    return bool(weights[values.is_not_null().to_numpy()].sum() >= _MOSTLY * weights.sum())


def _read_clock(plain: pl.Series, weights: np.ndarray, _: bool | None) -> ParsedDates | None:
    if not _enough(plain.set(~plain.str.contains(_CLOCK), None), weights):
        return None
    parts = _groups(plain, _CLOCK)
    hour = _hour(parts["H"].fill_null(parts["H12"]), parts["ap"].fill_null(parts["ap12"]))
    text = pl.select(
        pl.format(
            "{}:{}:{}",
            hour.cast(pl.String).str.zfill(2),
            parts["M"].fill_null("00"),
            parts["S"].fill_null("00"),
        )
    ).to_series()
    times = text.str.to_time("%H:%M:%S", strict=False)
    return ParsedDates(times, "time") if _enough(times, weights) else None


def _read_days(plain: pl.Series, weights: np.ndarray, day_first: bool | None) -> ParsedDates | None:
    """Read every text by the first shape that fits it; a column may mix several."""
    values: pl.Series | None = None
    forms: list[Form] = []
    for form, shape in _SHAPES:
        fits = plain.str.contains(shape)
        if not fits.any():
            continue
        read = _build(_groups(plain, shape), fits)
        if read.count():
            values = _merged(values, read)
            forms.append(form)
        if read.count() == len(read):
            break
    order = None
    slashed = plain.str.contains(_SLASHED)
    if slashed.any():
        read, order, form = _read_slashed(_groups(plain, _SLASHED), slashed, weights, day_first)
        values = _merged(values, read)
        forms.append(form)
    if values is None or not _enough(values, weights):
        return None
    values, form = _shortest(values, _finest(forms))
    return ParsedDates(values, form, order)


def _merged(before: pl.Series | None, more: pl.Series) -> pl.Series:
    return more if before is None else before.zip_with(before.is_not_null(), more)


def _finest(forms: list[Form]) -> Form:
    fineness: tuple[Form, ...] = ("year", "quarter", "month", "week", "day", "moment")
    return max(forms, key=fineness.index)


def _shortest(moments: pl.Series, form: Form) -> tuple[pl.Series, Form]:
    """Return days where no text has a time of the day but midnight."""
    days = moments.dt.date()
    if not bool((days.cast(pl.Datetime) == moments).all()):
        return moments, form
    return days, "day" if form == "moment" else form


def _groups(texts: pl.Series, shape: str) -> dict[str, pl.Series]:
    found = texts.str.extract_groups(shape).struct.unnest()
    return {name: found[name] for name in found.columns}


def _build(parts: dict[str, pl.Series], fits: pl.Series, day_first: bool = True) -> pl.Series:
    """Return moments from the named parts of texts; null where they make no real day."""
    zeros = pl.Series(np.zeros(len(fits)), dtype=pl.Int32)

    def number(name: str, default: int) -> pl.Series:
        return parts[name].cast(pl.Int32, strict=False).fill_null(default) if name in parts else zeros + default

    year = _whole_year(parts["y"])
    if "w" in parts:
        moments = _monday_of_week(year, number("w", 1)).dt.offset_by("0d") + _days(number("wd", 1) - 1)
        same_year = moments.dt.iso_year() == year
        return moments.set(~(fits & same_year.fill_null(False)), None).cast(pl.Datetime)
    month = number("m", 1)
    if "q" in parts:
        month = number("q", 1) * 3 - 2
    if "mon" in parts:
        month = parts["mon"].str.strip_chars_end(".").replace_strict(_months(), default=None, return_dtype=pl.Int32)
    hour = _hour(parts["H"], parts["ap"]).fill_null(0) if "H" in parts else zeros
    stamp = pl.select(
        pl.format("{}-{}-{} {}:{}:{}", year, month, number("d", 1), hour, number("M", 0), number("S", 0))
    ).to_series()
    return stamp.set(~fits, None).str.to_datetime("%Y-%m-%d %H:%M:%S", strict=False)


def _whole_year(text: pl.Series) -> pl.Series:
    """Two figures stand for 1969 to 2068 (POSIX, strptime, %y)."""
    year = text.cast(pl.Int32, strict=False)
    short = text.str.len_chars() == 2
    return year + pl.select(pl.when(short & (year < 69)).then(2000).when(short).then(1900).otherwise(0)).to_series()


def _hour(text: pl.Series, half: pl.Series) -> pl.Series:
    hour = text.cast(pl.Int32, strict=False)
    twelve = pl.select(pl.when(half == "p").then(12).otherwise(0)).to_series().cast(pl.Int32)
    return hour.zip_with(half.is_null(), hour % 12 + twelve)


def _days(count: pl.Series) -> pl.Series:
    return pl.select(pl.duration(days=pl.lit(count))).to_series()


def _monday_of_week(year: pl.Series, week: pl.Series) -> pl.Series:
    """Week 1 is the week with 4 January in it (ISO 8601)."""
    fourth = pl.select(pl.date(pl.lit(year), 1, 4)).to_series()
    return fourth + _days(week * 7 - 6 - fourth.dt.weekday().cast(pl.Int32))


def _read_slashed(
    parts: dict[str, pl.Series], fits: pl.Series, weights: np.ndarray, day_first: bool | None
) -> tuple[pl.Series, str | None, Form]:
    by_day = _build({**parts, "d": parts["a"], "m": parts["b"]}, fits)
    by_month = _build({**parts, "d": parts["b"], "m": parts["a"]}, fits)
    days, months = (int(weights[read.is_not_null().to_numpy()].sum()) for read in (by_day, by_month))
    form: Form = "moment" if parts["H"].is_not_null().any() else "day"
    if day_first is not None:
        return (by_day if day_first else by_month), None, form
    if days == months:
        different = bool((by_day != by_month).any())
        return by_day, "ambiguous" if different else None, form
    return (by_day, "day-first", form) if days > months else (by_month, "month-first", form)


@lru_cache(maxsize=4096)
def period_of(text: str) -> tuple[dt.date, dt.date] | None:
    """Return the first and the last day of what a text names: a day, month, quarter, week or year.

    >>> [day.isoformat() for day in period_of("2026-02")], [day.isoformat() for day in period_of("1950")]
    (['2026-02-01', '2026-02-28'], ['1950-01-01', '1950-12-31'])
    >>> period_of("shut")
    """
    text = text.strip()
    if re.fullmatch(_YEAR_ALONE, text):
        return dt.date(int(text), 1, 1), dt.date(int(text), 12, 31)
    found = parse_dates(pl.Series([text]))
    if found is None or found.form == "time":
        return None
    start = found.values.cast(pl.Date)[0]
    if found.form == "week":
        return start, days_after(start, 6)
    if found.form in ("month", "quarter"):
        month = start.month + (2 if found.form == "quarter" else 0)
        return start, start.replace(month=month, day=monthrange(start.year, month)[1])
    return start, start


def says_year(name: str) -> bool:
    """Tell whether a column's name says that it holds years.

    >>> says_year("budgetYear"), says_year("Yearly visits")
    (True, False)
    """
    return _says(_SAYS_YEAR, name)


def says_date_or_year(name: str) -> bool:
    """Tell whether a column's name says that bare numbers in it are years or days.

    >>> says_date_or_year("Year"), says_date_or_year("Order date"), says_date_or_year("Visits")
    (True, True, False)
    >>> says_date_or_year("budgetYear"), says_date_or_year("startDate")
    (True, True)
    """
    return _says(_SAYS_YEAR, name) or _says(_SAYS_DATE, name)


def _says(what: re.Pattern[str], name: str) -> bool:
    """Tell whether a name's words say something; those of budgetYear are two."""
    return what.search(_JOINED_WORDS.sub(" ", name)) is not None


def parse_bare_numbers(plain: pl.Series, weights: np.ndarray, name: str) -> ParsedDates | None:
    """Years, days as 20260302 and serial days of a spreadsheet: read only where the column's name says so.

    >>> parse_bare_numbers(pl.Series(["46023"]), np.ones(1), "Date").values[0].isoformat()
    '2026-01-01'
    >>> parse_bare_numbers(pl.Series(["2024"]), np.ones(1), "Visits")
    """
    if _says(_SAYS_YEAR, name):
        # Programs that know no missing whole numbers write 1935.0.
        years = plain.str.replace(r"\.0+$", "")
        found = (years.set(~years.str.contains(_YEAR_ALONE), None) + "-01-01").str.to_date("%Y-%m-%d", strict=False)
        return ParsedDates(found, "year") if _enough(found, weights) else None
    if not _says(_SAYS_DATE, name):
        return None
    if bool(plain.str.contains(r"^(19|20)\d{6}$").all()):
        days = plain.str.to_date("%Y%m%d", strict=False)
        return ParsedDates(days, "day") if _enough(days, weights) else None
    numbers = plain.cast(pl.Float64, strict=False)
    return None if numbers.null_count() else _epoch(numbers) or _serial_days(numbers)


def _epoch(numbers: pl.Series) -> ParsedDates | None:
    """Read seconds, or thousandths of one, that were counted from 1970 on."""
    for unit in (1, 1_000):
        seconds = numbers / unit
        if bool(seconds.is_between(*_EPOCH_SECONDS).all()):
            moments = (seconds * 1e6).cast(pl.Int64).cast(pl.Datetime("us"))
            values, form = _shortest(moments, "moment")
            return ParsedDates(values, form, epoch=True)
    return None


def _serial_days(serial: pl.Series) -> ParsedDates | None:
    """Read the day numbers of a spreadsheet."""
    if not bool(serial.is_between(*_SERIAL_DAYS).all()):
        return None
    if bool((serial == serial.floor()).all()):
        return ParsedDates(pl.Series(_SERIAL_ZERO + serial.cast(pl.Int64).to_numpy()).cast(pl.Date), "day", serial=True)
    seconds = (serial * 86_400).round().cast(pl.Int64).to_numpy().astype("timedelta64[s]")
    return ParsedDates(
        pl.Series(_SERIAL_ZERO.astype("datetime64[us]") + seconds).cast(pl.Datetime), "moment", serial=True
    )
