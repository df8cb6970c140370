"""What a visual is: declared needs, a purpose, an options model, advice as data, and one draw function."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, Literal

import polars as pl
from pydantic import BaseModel, ConfigDict

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.drawing.scene import Scene
from ypsil.core.figures import Grain
from ypsil.core.style.house import HouseStyle

Purpose = Literal[
    "how much", "how it changes", "share of a whole", "who is biggest", "how it spreads", "what goes together",
    "what people answered", "what people say",
]  # fmt: skip
Use = Literal["any", "needed", "never"]
NativeKind = Literal[
    "columns", "bars", "stacked columns", "stacked bars", "shared columns", "shared bars", "histogram", "lines",
    "areas", "stacked areas", "pie", "ring", "dots", "bubbles", "columns and line", "web",
]  # fmt: skip
COMMON = "common practice, no source"
_ENOUGH_ROWS = 50_000
_HIGHEST_RATING = 10
MANY = math.inf


class Options(BaseModel):
    """The options of a visual; each subclass lists its own. What checks them is made when they are first checked."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)


@dataclass(frozen=True, slots=True)
class Box:
    """The room a visual is drawn in, in px; ``beside`` is the answer of all drawings that share one scale with it."""

    width: float
    height: float
    beside: Answer | None = None


@dataclass(frozen=True, slots=True)
class Facts:
    """What matters about an answer for choosing a visual.

    ``groups`` counts the different values of the first grouping column, ``series`` the split values (or the
    measures, where there are several and no split), ``values`` all measured values.
    """

    measures: int
    per: int
    split: bool
    groups: int
    series: int
    values: int
    time: bool
    grain: Grain | None
    ordered: bool
    words: bool
    each_row: bool
    classes: bool
    numbers: bool
    moments: bool
    share: bool
    percent: bool
    negative: bool
    zero: bool
    parts: bool
    rating: bool
    people: bool
    one_unit: bool
    marking: bool


@dataclass(frozen=True, slots=True)
class Needs:
    """What an answer must have. Ranges are from–to, both included.

    ``split_measures`` is how many measures a split answer may have; ``ordered`` tells that the groups must have an
    order, ``negative`` that negative values can be shown, ``parts`` that the values must be parts of one whole,
    ``moments`` that the values are dates, ``shares`` that they are percentages from 0 to 100, ``percentages`` any,
    ``ratings`` that they are means on a short scale, ``people`` that they count people or are shares of them,
    ``marking`` that words mark groups.
    """

    measures: tuple[float, float] = (1, 1)
    per: tuple[float, float] = (1, 1)
    split: Use = "never"
    series: tuple[float, float] = (1, 60)
    groups: tuple[float, float] = (1, 60)
    dates: Use = "any"
    words: Use = "any"
    each_row: Use = "never"
    classes: Use = "any"
    negative: bool = True
    parts: bool = False
    shares: bool = False
    percentages: bool = False
    ratings: bool = False
    people: bool = False
    one_unit: bool = True
    ordered: bool = False
    split_measures: int = 1
    moments: bool = False
    grain: Grain | None = None
    marking: bool = False
    values: tuple[float, float] = (1, MANY)


@dataclass(frozen=True, slots=True)
class Rule:
    """One piece of advice: where all of ``when`` holds, the visual suits so well (0 to 1), for this reason.

    A condition is a fact's name with a range (numbers) or a truth. The first rule that holds is taken; ``{groups}``
    and the other facts can stand in the reason.
    """

    score: float
    reason: str
    when: tuple[tuple[str, tuple[float, float] | bool], ...] = ()
    source: str = COMMON

    def holds(self, facts: Facts) -> bool:
        for name, wanted in self.when:
            value = getattr(facts, name)
            if isinstance(wanted, bool):
                if bool(value) is not wanted:
                    return False
            elif not wanted[0] <= value <= wanted[1]:
                return False
        return True


def rule(score: float, reason: str, /, source: str = COMMON, **when: tuple[float, float] | bool) -> Rule:
    return Rule(score, reason, tuple(when.items()), source)


@dataclass(frozen=True, slots=True)
class Fit:
    """Whether a visual suits an answer, how well (higher is better), and why in a few words."""

    fits: bool
    score: float
    reason: str


@dataclass(frozen=True, slots=True)
class Visual:
    """An entry of the registry. ``draw(answer, options, box, style)`` returns the scene.

    A drawing that says its own label (``is_titled`` is false) needs no title above it. ``native`` is the chart of
    office programs that shows the same, where there is one.
    """

    name: str
    label: str
    purposes: tuple[Purpose, ...]
    purpose: str
    needs: Needs
    options: type[Options]
    draw: Callable[[Answer, Any, Box, HouseStyle], Scene]
    advice: tuple[Rule, ...]
    is_titled: bool = True
    default_size: tuple[int, int] = (12, 42)  # columns of the page's grid, rows of 8 px
    native: NativeKind | None = None


def facts(answer: Answer) -> Facts:
    """Return what matters about an answer for choosing a visual."""
    per, split, measures = answer.of("per"), answer.of("split"), answer.of("measure")
    # Among very many single rows the first tell how many different ones there are.
    groups = group_count(answer, among=_ENOUGH_ROWS)
    columns = [answer.series(column) for column in measures]
    present = [column for column in columns if column.dtype.is_numeric() and column.null_count() < len(column)]
    lows = [float(column.min()) for column in present]  # type: ignore[arg-type]
    highs = [float(column.max()) for column in present]  # type: ignore[arg-type]
    first = per[0] if per else None
    return Facts(
        measures=len(measures),
        per=len(per),
        split=bool(split),
        groups=groups,
        series=answer.series(split[0]).n_unique() if split else len(measures),
        values=answer.height * len(measures),
        time=first is not None and first.kind == "date",
        grain=first.grain if first else None,
        ordered=first is not None and first.ordered,
        words=is_words(answer),
        each_row=answer.each_row,
        classes=first is not None and bool(first.edges),
        numbers=bool(present) and all(column.dtype.is_numeric() for column in columns),
        moments=bool(columns) and all(column.dtype in (pl.Date, pl.Datetime) for column in columns),
        share=is_percent(measures, lows, highs) and min(lows, default=0) >= 0 and max(highs, default=0) <= 1,
        percent=is_percent(measures, lows, highs),
        negative=min(lows, default=0) < 0,
        zero=bool(present) and min(lows) == max(highs) == 0,
        parts=all(column.adds_up for column in measures) and min(lows, default=0) >= 0 and max(highs, default=0) > 0,
        rating=_is_rating(measures, lows, highs),
        people=all(counts_people(answer, column) for column in measures),
        one_unit=len({column.unit for column in measures}) <= 1,
        marking=answer.exactness is not None and "0-elsewhere" in answer.exactness.columns,
    )


def counts_people(answer: Answer, measure: AnswerColumn) -> bool:
    """Tell whether a measure counts rows, or is a share of people with their number beside it."""
    return measure.counts or (measure.unit == "%" and answer.bases_of(measure) is not None)


def _is_rating(measures: Sequence[AnswerColumn], lows: Sequence[float], highs: Sequence[float]) -> bool:
    """Tell whether all measures are means on a scale from 0 or 1 to 10 at most."""
    plain = all(one.unit is None and not one.adds_up and one.kind == "number" for one in measures)
    return bool(lows) and plain and min(lows) >= 0 and 1 < max(highs) <= _HIGHEST_RATING


def is_percent(measures: Sequence[AnswerColumn], lows: Sequence[float], highs: Sequence[float]) -> bool:
    """Tell whether all measures are percentages: by their unit, or as ratios and means between 0 and 1 without one."""
    is_within = min(lows, default=0) >= 0 and max(highs, default=0) <= 1
    return bool(measures) and all(
        one.unit == "%" or (one.unit is None and not one.adds_up and one.kind == "number" and is_within)
        for one in measures
    )


def fit(entry: Visual, given: Facts) -> Fit:
    """Return how well a visual suits an answer with these facts."""
    reason = unmet(entry.needs, given)
    if reason:
        return Fit(False, 0.0, reason)
    found = next((one for one in entry.advice if one.holds(given)), None)
    if found is None:
        return Fit(True, 0.3, entry.purpose)
    return Fit(True, found.score, found.reason.format(**{name: _said(given, name) for name in Facts.__slots__}))


def _said(given: Facts, name: str) -> str:
    value = getattr(given, name)
    return f"{value:,}" if isinstance(value, int) and not isinstance(value, bool) else str(value)


def unmet(needs: Needs, given: Facts) -> str:
    """Return what an answer lacks, in words, or an empty string."""
    rules = (
        *_about_shape(needs, given),
        (needs.dates == "needed" and given.per > 0 and not given.time, "it needs periods of time"),
        (needs.dates == "never" and given.time, "it does not show periods of time"),
        (needs.marking and not given.marking, "it needs words that mark groups: compare them between groups"),
        (needs.words == "needed" and not given.words, "it needs the words of a text column"),
        (needs.classes == "needed" and not given.classes, "it needs numbers in classes"),
        (needs.each_row == "needed" and not given.each_row, "it shows single rows, and these are summed up"),
        (needs.each_row == "never" and given.each_row, "it shows groups, and these are single rows"),
        (given.groups > needs.groups[1], f"it can carry {needs.groups[1]} values, and there are {given.groups:,}"),
        (given.groups < needs.groups[0], f"it needs at least {needs.groups[0]} values"),
        (given.values > needs.values[1], f"it can carry {needs.values[1]:,} marks, and there are {given.values:,}"),
        (given.series > needs.series[1], f"it can carry {needs.series[1]} series, and there are {given.series:,}"),
        (given.series < needs.series[0], f"it needs at least {needs.series[0]} series to compare"),
        (needs.moments and not given.moments, "it needs dates as its values, such as the first day"),
        (not given.numbers and not needs.moments, "its values are not numbers"),
        (needs.grain is not None and given.grain != needs.grain, f"it needs one value a {needs.grain}"),
        (needs.one_unit and not given.one_unit, "its measures have different units"),
        (needs.ordered and not (given.ordered or given.time), "it needs groups in an order, such as months"),
        (not needs.negative and given.negative, "it shows amounts, and these include negative values"),
        (needs.parts and given.negative, "it shows parts of one whole, and these include negative values"),
        (needs.parts and given.zero, "it shows parts of one whole, and all of these are zero"),
        (needs.parts and not given.parts, "it needs parts of one whole, such as sums or counts"),
        (needs.shares and not given.share, "it needs a share, from 0% to 100%"),
        (needs.percentages and not given.percent, "it needs a percentage"),
        (needs.ratings and not given.rating, "it needs a mean rating, such as 4.2 of 5"),
        (needs.people and not given.people, "it counts people: it needs numbers of rows, or shares of respondents"),
    )
    return next((reason for unfit, reason in rules if unfit), "")


def _about_shape(needs: Needs, given: Facts) -> tuple[tuple[bool, str], ...]:
    least, most = needs.measures
    shows = f"it shows {_count(most)}, and there are {given.measures}"
    wanted = f"it needs {_count(least)}, and there is {given.measures}"
    one_value = "it shows one value, not one for each group"
    return (
        (given.measures < least, wanted if given.measures == 1 else "it needs a measure"),
        (given.measures > most, shows),
        (given.per < needs.per[0], _lacks_groups(needs)),
        (given.per > needs.per[1], one_value if not needs.per[1] else "it groups by one column only"),
        (given.split and needs.split == "never", "it cannot be split"),
        (given.split and given.measures > needs.split_measures, "with a split it shows one measure"),
        (not given.split and needs.split == "needed", "it needs a split, such as by kind"),
    )


def _count(measures: float) -> str:
    return "1 measure" if measures == 1 else f"{measures} measures"


def _lacks_groups(needs: Needs) -> str:
    if needs.per[0] > 1:
        return f"it needs {needs.per[0]} columns to group by"
    return "it needs something to compare, such as a month or a branch"


def is_over_time(answer: Answer) -> bool:
    """Tell whether an answer has one row a period."""
    per = answer.of("per")
    return bool(per) and per[0].kind == "date"


def is_words(answer: Answer) -> bool:
    per = answer.of("per")
    return bool(per) and per[0].is_words


def group_count(answer: Answer, *, among: int | None = None) -> int:
    """Return how many groups the first grouping column of an answer has, or has ``among`` so many first rows."""
    per = answer.of("per")
    if not per or (len(per) == 1 and not answer.of("split") and not answer.each_row):
        return answer.height
    cells = answer.series(per[0])
    return (cells if among is None else cells.head(among)).n_unique()
