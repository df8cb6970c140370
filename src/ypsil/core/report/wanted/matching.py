"""From what somebody says they want to the live figures that could be meant, the likeliest first."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from ypsil.core.answers import check
from ypsil.core.errors import YpsilError
from ypsil.core.figures import Grain
from ypsil.core.prose.model import LiveFigure, Words
from ypsil.core.prose.told import told
from ypsil.core.questions.model import Measure, Order, Per, Question, Stat
from ypsil.core.report.amounts import amounts_of, natural_measure
from ypsil.core.report.wanted.hearing import Heard, hear, newest_day
from ypsil.core.report.wanted.periods import Period, fixed_before, rule_for
from ypsil.core.tables.conditions import Filter
from ypsil.core.tables.model import Column
from ypsil.core.tables.profile import Profile

_MOST = 6
_UNHEARD, _ASIDE, _ASSUMED, _SLIP, _PART, _RANK = 0.15, 0.08, 0.015, 0.1, 0.03, 0.02
# Words that ask for a date of the data rather than for an amount.
_DATE_WANTED = re.compile(
    r"\b(as of|date of (?:the|its) data|(?:data|numbers|figures) (?:is |are )?from|up to when|how (?:new|old|recent)"
    r"|(?:newest|latest|last|first|earliest|oldest) (?:date|day|entry)|(?:last |when .*)(?:read|updated|taken in))\b",
    re.IGNORECASE,
)
_READ = re.compile(r"\b(read|updated|taken in)\b", re.IGNORECASE)
_FIRST_DAY = re.compile(r"\b(first|earliest|oldest)\b", re.IGNORECASE)
_TOTAL_NOT_SAID = "its total, as nothing else is said"
_MEAN_NOT_SAID = "its mean, as nothing else is said"

# What is shown of how words are understood, before anything is taken.
RULES = (
    "What: total, average, median, highest, lowest, number of, share of; without any of them amounts are added up.",
    "Of what: the name of a column, or a part of it. One that is spelled otherwise is found, and said.",
    "Which rows: a value, such as a branch; “except” before it leaves it out.",
    "When: this year, last month, the last 3 months, in March, in 2025, Q2 2025, since March, until 2024. “This” is "
    "the newest there is in the data, whatever day it is today.",
    "Who: best, top, most, worst, least, with a column of names: the name is said.",
    "Change: change in, growth, difference, “compared with the year before”, “since March”.",
    "A date of the data: as of, newest day, first day, last read.",
    "Words in place of a number: “whether visits rose or fell”, “whether visits are above 500”.",
)


@dataclass(frozen=True, slots=True)
class AtHand:
    """A table that wishes may be about."""

    uid: str
    name: str
    profile: Profile


@dataclass(frozen=True, slots=True)
class Understood:
    """A live figure that somebody may mean: what it is in a sentence, which words were taken for what, what was taken
    for granted, and which words nobody understood."""

    figure: LiveFigure
    table: str
    sentence: str
    heard: tuple[tuple[str, str], ...]
    assumed: tuple[str, ...]
    unheard: tuple[str, ...]
    score: float


def understood(text: str, tables: Sequence[AtHand], most: int = _MOST) -> list[Understood]:
    """Return the live figures that some words may mean, the likeliest first; none where they name nothing of any
    table."""
    found = sorted((one for table in tables for one in _in_table(text, table)), key=lambda one: -one.score)
    different = {one.figure.model_dump_json(): one for one in reversed(found)}
    return [one for one in found if different[one.figure.model_dump_json()] is one][:most]


@dataclass(frozen=True, slots=True)
class _Reading:
    figure: LiveFigure
    assumed: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class _Measured:
    measure: Measure
    assumed: tuple[str, ...] = ()
    whole: Measure | None = None


def _in_table(text: str, table: AtHand) -> Iterator[Understood]:
    heard = hear(text, table.profile, table.name)
    if not heard.named("number") and not heard.stat:
        yield from _dates(text, table)
    if not heard.names and heard.stat not in ("count", "distinct"):
        return
    fuzzy = sum(_SLIP for name in heard.names if name.slip)
    fuzzy += sum(_PART for name in heard.names if not name.is_whole and not name.slip)
    slips = tuple(
        f"“{heard.said(name)}” was read as {name.value or name.column.shown or name.column.name}"
        for name in heard.names
        if name.slip or (name.value and not name.is_whole)
    )
    for rank, reading in enumerate(_readings(heard, table)):
        if not _can_be_asked(reading.figure, table.profile):
            continue
        aside = tuple(_left_aside(heard, reading.figure))
        assumed = (*slips, *reading.assumed, *aside)
        doubts = _UNHEARD * len(heard.unheard) + _ASIDE * len(aside) + _ASSUMED * len(reading.assumed)
        score = 1 - doubts - fuzzy - _RANK * rank
        said = told(reading.figure)
        figure = reading.figure
        yield Understood(figure, table.name, said, tuple(heard.heard), assumed, tuple(heard.unheard), round(score, 3))


def _dates(text: str, table: AtHand) -> Iterator[Understood]:
    """Yield the first or the newest day of a table's data, and the day it was read, where words ask for such."""
    asked = _DATE_WANTED.search(text)
    if asked is None:
        return
    stat: Stat = "min" if _FIRST_DAY.search(text) else "max"
    named = "first" if stat == "min" else "newest"
    found = []
    for column in table.profile.of("date"):
        question = Question(measures=(Measure(stat=stat, column=column.name),))
        said = f"The {named} {column.shown or column.name} in the data"
        found.append((LiveFigure(table=table.uid, question=question), said))
    if stat == "max":
        read = LiveFigure(table=table.uid, question=Question(measures=(Measure(stat="count"),)), take="read")
        found.insert(0 if _READ.search(text) else len(found), (read, told(read)))
    for rank, (figure, said) in enumerate(found):
        if _can_be_asked(figure, table.profile):
            heard = ((asked[0], "a date"),)
            yield Understood(figure, table.name, said, heard, (), (), round(1 - _RANK * rank, 3))


def _left_aside(heard: Heard, figure: LiveFigure) -> Iterator[str]:
    """Say which columns were named and are not asked: a figure is one value, and nothing is dropped in silence."""
    asked = {column for question in figure.questions() for column in question.columns()}
    for name in heard.names:
        if name.column.name not in asked:
            yield f"“{heard.said(name)}” is left aside, as a figure is one value"


def _can_be_asked(figure: LiveFigure, profile: Profile) -> bool:
    try:
        for question in figure.questions():
            check(profile.columns, question)
    except YpsilError:
        return False
    return True


def _readings(heard: Heard, table: AtHand) -> Iterator[_Reading]:
    rules = tuple(_rules_of_values(heard))
    for measured in _measures(heard, table.profile):
        for reading in _with_periods(heard, table, measured, rules):
            yield _with_words(heard, reading)


def _with_words(heard: Heard, reading: _Reading) -> _Reading:
    if not heard.is_whether:
        return reading
    if heard.bound is None:
        return replace(reading, figure=reading.figure.model_copy(update={"words": Words()}))
    words = Words(above="above", level="level with", below="below", at=heard.bound)
    return replace(reading, figure=reading.figure.model_copy(update={"words": words}))


def _rules_of_values(heard: Heard) -> Iterator[Filter]:
    """Return the filters of the values that were named: of one column any of them, of several all."""
    if heard.stat == "share" and not heard.named("number"):
        return
    kept: dict[tuple[str, bool], list[str]] = {}
    for name in heard.values():
        kept.setdefault((name.column.name, heard.is_left_out(name)), []).append(name.value)
    for (column, is_out), values in kept.items():
        yield Filter(column=column, test="not_in" if is_out else "in", values=tuple(dict.fromkeys(values)))


def _measures(heard: Heard, profile: Profile) -> Iterator[_Measured]:
    """Return what could be measured, the likeliest first."""
    numbers = [name.column for name in heard.named("number")]
    if heard.is_per and len(numbers) > 1:
        above, below = (Measure(stat="sum", column=column.name) for column in numbers[:2])
        yield _Measured(Measure(ratio=(above, below)))
        return
    if heard.stat == "share":
        yield from _shares(heard, numbers, profile)
        return
    if not numbers:
        yield from _without_amount(heard, profile)
        return
    natural = natural_measure(numbers[0], profile)
    own = heard.stat if heard.stat not in ("", "count") else natural.stat
    not_said = _TOTAL_NOT_SAID if natural.stat == "sum" else _MEAN_NOT_SAID
    assumed = () if heard.stat not in ("", "count") else (not_said,)
    for column in numbers:
        yield _Measured(Measure(stat=own, column=column.name), assumed)
    for stat, said in _OTHER_STATS.items():
        if stat != own:
            yield _Measured(Measure(stat=stat, column=numbers[0].name), (f"{said}, as another way to read it",))


_OTHER_STATS: dict[Stat, str] = {
    "sum": "the total",
    "mean": "the mean",
    "max": "the highest value",
    "min": "the lowest value",
}


def _shares(heard: Heard, numbers: list[Column], profile: Profile) -> Iterator[_Measured]:
    values: dict[str, list[str]] = {}
    for name in heard.values():
        values.setdefault(name.column.name, []).append(name.value)
    if numbers and values:
        measure = Measure(stat="sum", column=numbers[0].name)
        yield _Measured(measure, whole=measure)
        return
    for column, named in values.items():
        yield _Measured(Measure(stat="share", column=column, values=tuple(named)))
    for name in heard.named("yesno"):
        assumed = (f"those who said yes to {name.column.shown or name.column.name}",)
        yield _Measured(Measure(stat="share", column=name.column.name, values=("Yes",)), assumed)
    if not values and not heard.named("yesno"):
        for number in numbers:
            yield _Measured(natural_measure(number, profile), ("the whole, as no part of it is named",))


def _without_amount(heard: Heard, profile: Profile) -> Iterator[_Measured]:
    groups = heard.named("category", "place", "list")
    if groups and (heard.stat == "distinct" or (heard.stat == "count" and not heard.picked)):
        yield _Measured(Measure(stat="distinct", column=groups[0].column.name))
    if heard.stat in ("count", "") and not (heard.picked and amounts_of(profile)):
        assumed = () if heard.stat else ("the number of rows, as no amount is named",)
        yield _Measured(Measure(stat="count"), assumed)
    for column in amounts_of(profile)[:3]:
        measure = natural_measure(column, profile)
        if heard.stat in ("sum", "mean", "median", "max", "min"):
            measure = Measure(stat=heard.stat, column=column.name)
        shown = column.shown or column.name
        yield _Measured(measure, (f"by {shown}, as no amount is named",))


def _with_periods(heard: Heard, table: AtHand, measured: _Measured, rules: tuple[Filter, ...]) -> Iterator[_Reading]:
    dates = [name.column for name in heard.named("date")] or table.profile.of("date")
    column = dates[0].name if dates else ""
    if (heard.change or heard.is_compared or (heard.is_whether and heard.bound is None)) and column:
        yield from _changes(heard, table, measured, rules, column)
        return
    if heard.periods and not column:
        return
    groups = heard.named("category", "place") if heard.picked else []
    back = next((period for period in heard.periods if period.back), None)
    periods = heard.periods
    if back is not None and (groups or measured.whole is not None):
        # Who is first in the period before the newest cannot be asked: it is asked of that period for good.
        periods, measured = _for_good(heard, table, measured)
    plain = Question(measures=(measured.measure,), where=(*rules, *_rules_of_periods(periods, column)))
    if groups:
        yield from _picked(heard, table, measured, plain, groups[0].column.name)
    elif back is not None and measured.whole is None:
        per = (Per(column=column, by=back.grain),)
        figure = LiveFigure(table=table.uid, question=plain.model_copy(update={"per": per}), pick="before_last")
        yield _Reading(figure, measured.assumed)
        if back.may_be_newest:
            newest = rule_for(column, replace(back, back=0))
            question = plain.model_copy(update={"where": (*plain.where, *([newest] if newest else []))})
            told_too = f"“{back.said}” as the newest {back.grain} there is"
            yield _Reading(LiveFigure(table=table.uid, question=question), (*measured.assumed, told_too))
    elif measured.whole is not None:
        others = tuple(rule for rule in plain.where if rule not in rules)
        whole = Question(measures=(measured.whole,), where=others)
        figure = LiveFigure(table=table.uid, question=plain, against=whole, compared="share")
        yield _Reading(figure, measured.assumed)
    else:
        yield _Reading(LiveFigure(table=table.uid, question=plain), measured.assumed)


def _for_good(heard: Heard, table: AtHand, measured: _Measured) -> tuple[list[Period], _Measured]:
    """Return the periods with those before the newest as the dates that they are now, and say so."""
    newest = newest_day(table.profile)
    fixed = [fixed_before(period, newest) if period.back and newest else period for period in heard.periods]
    told_too = tuple(f"“{one.said}” is {one.fixed}, and stays it" for one in fixed if one not in heard.periods)
    return fixed, replace(measured, assumed=(*measured.assumed, *told_too))


def _rules_of_periods(periods: Sequence[Period], column: str) -> Iterator[Filter]:
    fixed = [period for period in periods if period.fixed and not period.lead]
    if len(fixed) == 2:
        first, last = sorted(period.fixed for period in fixed)
        yield Filter(column=column, test="between", values=(first, last))
        periods = [period for period in periods if period not in fixed]
    for period in periods:
        rule = rule_for(column, period)
        if rule is not None:
            yield rule


def _picked(heard: Heard, table: AtHand, measured: _Measured, plain: Question, column: str) -> Iterator[_Reading]:
    """Return who is first, and how much that is; the value first where the amount is named before who it is of."""
    order = Order(by="value", descending=heard.picked == "most")
    question = plain.model_copy(update={"per": (Per(column=column),), "order": order, "keep": 1})
    name = _Reading(LiveFigure(table=table.uid, question=question, take="name"), measured.assumed)
    value = _Reading(LiveFigure(table=table.uid, question=question), measured.assumed)
    numbers = heard.named("number")
    is_value_first = bool(numbers) and numbers[0].start < heard.picked_at
    yield from (value, name) if is_value_first else (name, value)


_THEN = {"percent": "percent_change", "difference": "change", "times": "percent_change"}


def _changes(
    heard: Heard, table: AtHand, measured: _Measured, rules: tuple[Filter, ...], column: str
) -> Iterator[_Reading]:
    """Return how much something changed: between two periods that are named, or against the one before."""
    form = heard.change or "percent"
    plain = Question(measures=(measured.measure,), where=rules)
    fixed = sorted((period for period in heard.periods if period.fixed), key=lambda period: period.fixed)
    if len(fixed) > 1:
        yield _against(table, measured, plain, column, (fixed[0], fixed[-1]), form)
        return
    if fixed:
        newest = Period("", fixed[0].grain)
        assumed = (f"up to the newest {fixed[0].grain}",)
        yield _against(
            table, replace(measured, assumed=(*measured.assumed, *assumed)), plain, column, (fixed[0], newest), form
        )
        return
    then = _THEN[form]
    yield from _so_far(heard, table, measured, plain, column)
    for grain, is_year_before, taken in _steps(heard, table.profile, column):
        done = f"{then}_year" if is_year_before else then
        measure = measured.measure.model_copy(update={"then": done})
        question = Question(measures=(measure,), per=(Per(column=column, by=grain),), where=rules)
        yield _Reading(LiveFigure(table=table.uid, question=question, pick="last"), (*measured.assumed, *taken))


def _so_far(heard: Heard, table: AtHand, measured: _Measured, plain: Question, column: str) -> Iterator[_Reading]:
    """Where years are compared and the newest has not ended, it is compared with the same part of the one before."""
    natural: Grain = table.profile.grains.get(column, "month")
    years = [period for period in heard.periods if period.grain == "year" and not period.fixed]
    if not years or heard.change in ("difference", "times") or measured.measure.stat not in ("sum", "count"):
        return
    end = newest_day(table.profile)
    if end is None or natural not in ("month", "quarter") or _ends_year(end, natural):
        return
    question = plain.model_copy(update={"per": (Per(column=column, by=natural),)})
    told_too = f"{end.year} so far, against the same {natural}s of {end.year - 1}"
    figure = LiveFigure(table=table.uid, question=question, pick="year_so_far")
    yield _Reading(figure, (*measured.assumed, told_too))


def _ends_year(day: dt.date, grain: Grain) -> bool:
    """Tell whether the period of a day is the last of its year."""
    return day.month > (9 if grain == "quarter" else 11)


def _steps(heard: Heard, profile: Profile, column: str) -> Iterator[tuple[Grain, bool, tuple[str, ...]]]:
    """Return the periods that could be compared, whether with the same a year before, and what is taken for granted."""
    natural: Grain = profile.grains.get(column, "month")
    backs = [period.grain for period in heard.periods if period.back]
    newest = [period.grain for period in heard.periods if not period.back and not period.fixed]
    if newest and "year" in backs and newest[0] != "year":
        yield newest[0], True, ()
    elif newest or backs:
        grain = (newest or backs)[0]
        end = newest_day(profile)
        is_short = grain == "year" and end is not None and not _ends_year(end, natural)
        yield grain, False, ((f"the newest year goes to {end} only, the one before is whole",) if is_short else ())
        if grain == "year" and natural != "year":
            yield natural, True, (f"of the newest {natural} against the same a year before",)
    else:
        yield natural, False, (f"of the newest {natural} against the one before",)
        if natural != "year" and profile.years(column) > 1:
            yield natural, True, (f"of the newest {natural} against the same a year before",)
            yield "year", False, ("of the newest year against the one before",)


def _against(
    table: AtHand, measured: _Measured, plain: Question, column: str, periods: tuple[Period, Period], form: str
) -> _Reading:
    before, now = (plain.model_copy(update={"where": (*plain.where, *_exactly(column, period))}) for period in periods)
    figure = LiveFigure(table=table.uid, question=now, against=before, compared=form)
    return _Reading(figure, measured.assumed)


def _exactly(column: str, period: Period) -> list[Filter]:
    """Return the filter of a period alone, where a stretch that begins or ends with it was named."""
    rule = rule_for(column, replace(period, lead=""))
    return [] if rule is None else [rule]
