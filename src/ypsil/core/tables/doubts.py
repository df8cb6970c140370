"""Values that can hardly be, said once the columns are understood: nobody wants them in a mean.

The thresholds are common practice, no source. Nothing is changed here: what can be done is offered.
"""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Iterator, Sequence
from itertools import permutations

import polars as pl

from ypsil.core.figures import days_after
from ypsil.core.tables.convert import as_text
from ypsil.core.tables.kinds import says_identifier
from ypsil.core.tables.model import Column, Offer, Remark

_FEWEST_ROWS = 10
_FEW = 0.05
_SAMPLE = 10_000
_YEARS_OFF = 60
_YEARS_AHEAD = 20
_MOST_DATES = 6
# Numbers that stand for “no answer” in survey files: nines, and small ones below zero.
_NINES = (99, 999, 9_999, 99_999, 999_999, 9_999_999, 99_999_999)
_BELOW_ZERO = (-1, -2, -7, -8, -9, -77, -88, -99, -777, -888, -999, -9_999, -99_999)
_FAR = 3.0
# A total may lack a little of what its parts add up to.
_ABOUT = 0.8
_MOST_LABELS = 2_000
_TOTAL = re.compile(
    r"(?i)^\s*(all|total|overall|sum of|gesamt|insgesamt|alle|ensemble|toutes?|tous|todos|todas|totale)\b"
)
_CODE_NAME = re.compile(
    r"(?i)(^|[\s_-])(code|fips|naics|isco|sic|nuts|ward|route|line|district|zone|room|no|number|num)$"
)
_LEAST_DIGITS = 4


def doubts_of(
    frame: pl.DataFrame, columns: Sequence[Column], rows: pl.Series, today: dt.date | None = None
) -> list[Remark]:
    """Return what is hard to believe about a table's values; ``rows`` are its rows' numbers in the file."""
    found: list[Remark] = []
    if frame.height < _FEWEST_ROWS:
        return found
    by_name = {column.name: column for column in columns}
    for column in columns:
        cells = frame[column.name]
        checks = _CHECKS.get(column.kind, ())
        found += [remark for check in checks for remark in check(cells, column, rows)]
    dates = [name for name, column in by_name.items() if column.kind == "date" and column.form != "time"]
    for name in dates:
        found += _far_dates(frame[name], by_name[name], rows, today or dt.date.today())
        found += _other_century(frame[name], by_name[name], rows, today or dt.date.today())
    if len(dates) <= _MOST_DATES:
        found += _turned_round(frame, dates, rows)
    found += _totals_among(frame, columns, rows)
    return found


def _remark(
    code: str, message: str, cells: pl.Series, marked: pl.Series, rows: pl.Series, offers: tuple[Offer, ...] = ()
) -> Remark:
    first = int(rows.filter(marked)[0])
    state = "proposed" if offers else "noted"
    return Remark(code, "warning", message, cells.name, first, int(marked.sum()), state, offers)  # type: ignore[arg-type]


def _named(values: Sequence[str]) -> str:
    said = ", ".join(f"“{value}”" for value in values[:3])
    return said + (f" and {len(values) - 3} more" if len(values) > 3 else "")


def _stand(values: Sequence[str]) -> str:
    return "stands" if len(values) == 1 else "stand"


def _made_missing(column: Column, texts: Sequence[str]) -> Offer:
    swaps = [{"old": text, "new": ""} for text in texts]
    step = {"type": "replace_values", "column": column.name, "swaps": swaps[:500]}
    return Offer("Count them as missing", {"step": step})


def _sentinels(cells: pl.Series, column: Column, rows: pl.Series) -> Iterator[Remark]:
    """999 among ages, −99 among temperatures above zero: alone at the end, far from all others."""
    if column.unit == "%" or not cells.dtype.is_numeric():
        return
    marks = [mark for mark in (cells.max(), cells.min()) if mark in _NINES or mark in _BELOW_ZERO]
    if not marks:
        return
    cells = cells.cast(pl.Float64)
    candidates = [float(mark) for mark in (*_NINES, *_BELOW_ZERO)]
    others = cells.filter(~cells.is_in(candidates)).drop_nulls()
    if len(others) < _FEWEST_ROWS:
        return
    low, high = float(others.min()), float(others.max())  # type: ignore[arg-type]
    wrong = [float(mark) for mark in _NINES if high > 0 and mark > _FAR * high]
    wrong += [float(mark) for mark in _BELOW_ZERO if low >= 0]
    marked = cells.is_in(wrong).fill_null(False)
    if not marked.any() or marked.sum() > 0.5 * len(cells):
        return
    texts = as_text(cells.filter(marked).unique().sort(), column.field).to_list()
    message = f"{_named(texts)} {_stand(texts)} far from all other values, as signs for no answer do."
    yield _remark("sentinel-values", message, cells, marked, rows, (_made_missing(column, texts),))


def _coded_groups(cells: pl.Series, column: Column, rows: pl.Series) -> Iterator[Remark]:
    """A column of nothing but 1 and 2, or 0 and 1, names two groups."""
    if column.distinct != 2 or column.unit or not cells.dtype.is_integer():
        return
    values = cells.drop_nulls().unique().sort().to_list()
    if values not in ([1, 2], [0, 1]):
        return
    kind = "category" if values == [1, 2] else "yesno"
    label = "Read them as groups" if kind == "category" else "Read them as yes and no"
    offer = Offer(label, {"step": {"type": "change_kind", "column": column.name, "kind": kind}})
    message = f"Nothing but {values[0]} and {values[1]} stands here: codes for two groups are not to be added up."
    yield Remark("coded-groups", "info", message, column.name, None, 1, "proposed", (offer,))


def _codes(cells: pl.Series, column: Column, rows: pl.Series) -> Iterator[Remark]:
    """Whole numbers of one length that hardly repeat, or whose column is called a code, name things."""
    present = len(cells) - column.missing
    if not cells.dtype.is_integer() or column.unit or present < _FEWEST_ROWS:
        return
    low, high = (int(str(end or 0)) for end in (cells.min(), cells.max()))
    same_length = low > 0 and len(str(low)) == len(str(high))
    called = _CODE_NAME.search(column.name) is not None
    unique = column.distinct >= 0.99 * present and same_length and len(str(low)) >= _LEAST_DIGITS
    if not (unique and present >= 2 * _FEWEST_ROWS and _one_after_another(cells)) and not (called and same_length):
        return
    offer = Offer("Keep them as labels", {"step": {"type": "change_kind", "column": column.name, "kind": "category"}})
    message = "These whole numbers look like names of things (all of one length); they are read as amounts."
    yield Remark("codes-as-numbers", "info", message, column.name, None, 1, "proposed", (offer,))


def _one_after_another(cells: pl.Series) -> bool:
    """Tell whether most numbers are the next one after another: amounts are not, running numbers are."""
    ordered = cells.drop_nulls().sort()
    return bool(((ordered.diff() == 1).sum() or 0) >= 0.8 * (len(ordered) - 1))


def _repeated_identifiers(cells: pl.Series, column: Column, rows: pl.Series) -> Iterator[Remark]:
    """Where nearly every identifier stands once, one that stands twice is a slip or a row too many."""
    present = len(cells) - column.missing
    if not says_identifier(column.name) or not 0.9 * present <= column.distinct < present:
        return
    marked = cells.is_duplicated() & cells.is_not_null()
    texts = as_text(cells.filter(marked).unique(maintain_order=True), column.field).to_list()
    message = f"{_named(texts)} {_stand(texts)} in more than one row, where all others stand in one."
    yield _remark("identifier-repeated", message, cells, marked, rows)


_CHECKS = {
    "number": (_sentinels, _coded_groups, _codes, _repeated_identifiers),
    "category": (_repeated_identifiers,),
    "text": (_repeated_identifiers,),
}


def _far_dates(cells: pl.Series, column: Column, rows: pl.Series, today: dt.date) -> Iterator[Remark]:
    """A few dates a century off, or after today where nearly all others are before it."""
    days = cells.cast(pl.Date)
    some = days.drop_nulls()
    some = (some.sample(_SAMPLE, seed=1) if len(some) > _SAMPLE else some).sort()
    if len(some) < _FEWEST_ROWS:
        return
    first, last = some[int(0.05 * len(some))], some[int(0.95 * (len(some) - 1))]
    reach = _YEARS_OFF * 365
    far = (days < days_after(first, -reach)) | (days > days_after(last, reach))
    late = (days > today) if last <= today else pl.repeat(False, len(days), eager=True)
    marked = (far | late).fill_null(False)
    if not marked.any() or marked.sum() > _FEW * len(days) + 1:
        return
    texts = as_text(cells.filter(marked).unique(maintain_order=True), column.field).to_list()
    lie = f"lie in {first.year}" if first.year == last.year else f"go from {first.year} to {last.year}"
    message = f"{_named(texts)} can hardly be: the other dates {lie}."
    yield _remark("dates-out-of-range", message, cells, marked, rows, (_made_missing(column, texts),))


def _other_century(cells: pl.Series, column: Column, rows: pl.Series, today: dt.date) -> Iterator[Remark]:
    """Dates that lie so far ahead that a year of two digits was taken for one of this century."""
    days = cells.cast(pl.Date)
    ahead = (days > days_after(today, _YEARS_AHEAD * 365)).fill_null(False)
    past = (days <= today).fill_null(False)
    if not ahead.any() or not past.any() or ahead.sum() >= past.sum():
        return
    latest = days.filter(ahead).max()
    assert isinstance(latest, dt.date)
    message = (
        f"Dates go up to {latest.year}, more than {_YEARS_AHEAD} years ahead. Years written with two digits may belong "
        f"to the century before: {latest.year - 100}."
    )
    yield _remark("century-doubtful", message, cells, ahead, rows)


def _turned_round(frame: pl.DataFrame, dates: Sequence[str], rows: pl.Series) -> Iterator[Remark]:
    """A death before a birth: of two dates of which one comes first in nearly every row, it does not in a few."""
    for first, second in permutations(dates, 2):
        before, after = frame[first].cast(pl.Date), frame[second].cast(pl.Date)
        both = int((before.is_not_null() & after.is_not_null()).sum())
        wrong = (after < before).fill_null(False)
        apart = int((after > before).sum() or 0)
        if both >= _FEWEST_ROWS and wrong.any() and wrong.sum() <= _FEW * both + 1 and apart >= 0.9 * both:
            count = int(wrong.sum())
            where = "1 row" if count == 1 else f"{count:,} rows"
            message = f"“{second}” lies before “{first}” in {where}; everywhere else it comes after it."
            yield _remark("dates-turned-round", message, frame[second], wrong, rows)


def _totals_among(frame: pl.DataFrame, columns: Sequence[Column], rows: pl.Series) -> Iterator[Remark]:
    """A group called all or total that holds about as much as all others together, or more, is their sum.

    One false number must not hide it, so the middle values of the groups may say so as well as their sums.
    """
    numbers = [column.name for column in columns if column.kind == "number" and column.unit != "%"][:8]
    for column in columns:
        if column.kind not in ("category", "place") or not 3 <= column.distinct <= _MOST_LABELS or not numbers:
            continue
        labels = frame[column.name].drop_nulls().unique().sort()
        totals = [label for label in labels.to_list() if _TOTAL.match(label)]
        if not totals or len(totals) > max(1, 0.2 * len(labels)):
            continue
        ways = (pl.col(numbers).sum(), pl.col(numbers).median())
        if not any(_holds_all(frame, column.name, totals, amounts) for amounts in ways):
            continue
        marked = frame[column.name].is_in(totals).fill_null(False)
        step = {"type": "keep_rows", "where": [{"column": column.name, "test": "not_in", "values": totals}]}
        stands = f"{_named(totals)} {_stand(totals)} among the others"
        message = f"{stands}, as the sum of them: added up together, all counts twice."
        offers = (Offer("Leave it out", {"step": step}),)
        yield _remark("total-among-values", message, frame[column.name], marked, rows, offers)


def _holds_all(frame: pl.DataFrame, name: str, totals: Sequence[str], amounts: pl.Expr) -> bool:
    """Tell whether the largest of the groups named as totals holds, in some column, what the others add up to."""
    found = frame.group_by(name).agg(amounts)
    is_total = pl.col(name).is_in(totals)
    whole = found.filter(is_total).drop(name).max().row(0)
    others = found.filter(~is_total & pl.col(name).is_not_null()).drop(name).sum().row(0)
    return any(one is not None and 0 < _ABOUT * rest <= one for one, rest in zip(whole, others, strict=True))
