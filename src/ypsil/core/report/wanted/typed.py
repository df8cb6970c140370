"""Numbers that somebody typed by hand and that a table gives: they are offered as live figures."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from babel.numbers import NumberFormatError, parse_decimal

from ypsil.core.answers.model import Answer
from ypsil.core.errors import YpsilError
from ypsil.core.prose.model import Block, LiveFigure, Prose, Run, Shown
from ypsil.core.prose.told import told
from ypsil.core.questions.model import Measure, Per, Question, Stat, Then
from ypsil.core.report.amounts import amounts_of, natural_measure
from ypsil.core.report.wanted.matching import AtHand
from ypsil.core.tables.conditions import Filter
from ypsil.core.tiles.asked_table import ReportTable

_NUMBER = re.compile(r"(?<![\w.,])[-−]?\d+(?:[.,'’\u00a0\u202f]\d+)*(?:\s?%)?(?![\w]|[.,]\d)")
_MOST_COLUMNS, _MOST_GROUPS, _MOST_NUMBERS = 10, 12, 40
_STATS: tuple[Stat, ...] = ("sum", "mean", "max", "min")
_THENS: tuple[Then, ...] = ("percent_change", "percent_change_year", "change")
_YEARS = range(1900, 2101)
_LEAST_DIGITS = 3
_MOST_OFFERS = 2


@dataclass(frozen=True, slots=True)
class Typed:
    """A number in a text and a live figure that says the same: where it stands (block, run, letters), and what the
    figure is."""

    text: str
    block: int
    run: int
    start: int
    end: int
    figure: LiveFigure
    sentence: str
    table: str


@dataclass(frozen=True, slots=True)
class _Known:
    figure: LiveFigure
    value: float
    is_share: bool


def typed_numbers(prose: Prose, tables: Sequence[tuple[AtHand, ReportTable]], locale: str) -> list[Typed]:
    """Return the numbers of a text that a table gives as well, each with at most two figures that could be meant."""
    found = list(_numbers(prose, locale))[:_MOST_NUMBERS]
    if not found:
        return []
    offered: list[Typed] = []
    for at_hand, table in tables:
        known = list(_known(at_hand, table))
        for place, text, value, places, is_share in found:
            exact = places + 2 if is_share else places
            same = (one for one in known if one.is_share == is_share and _says(one.value, value, exact))
            for one, _ in zip(same, range(_MOST_OFFERS), strict=False):
                figure = one.figure.model_copy(update={"shown": _as_typed(text, places, is_share)})
                offered.append(Typed(text, *place, figure, told(figure), at_hand.name))
    return sorted(offered, key=lambda one: (one.block, one.run, one.start))


def with_figure(prose: Prose, typed: Typed) -> Prose:
    """Return a text in which a typed number is its live figure, in the look that it had."""
    block = prose.blocks[typed.block]
    run = block.runs[typed.run]
    parts = (
        run.model_copy(update={"text": run.text[: typed.start]}),
        Run(figure=typed.figure, looks=run.looks, colour=run.colour, link=run.link),
        run.model_copy(update={"text": run.text[typed.end :]}),
    )
    runs = (*block.runs[: typed.run], *parts, *block.runs[typed.run + 1 :])
    changed = Block(kind=block.kind, level=block.level, runs=runs)
    return Prose(blocks=(*prose.blocks[: typed.block], changed, *prose.blocks[typed.block + 1 :]))


_Place = tuple[int, int, int, int]


def _numbers(prose: Prose, locale: str) -> Iterator[tuple[_Place, str, float, int, bool]]:
    """Yield the numbers of a text: where each stands, its letters, its value, its decimals, whether it is a share.
    Years and numbers of few digits say too little."""
    for block_at, block in enumerate(prose.blocks):
        for run_at, run in enumerate(block.runs):
            for match in _NUMBER.finditer(run.text):
                read = _read(match[0], locale)
                if read is not None:
                    yield (block_at, run_at, match.start(), match.end()), match[0], *read


def _read(text: str, locale: str) -> tuple[float, int, bool] | None:
    is_share = text.endswith("%")
    plain = text.rstrip("% \u00a0\u202f").replace("−", "-")
    try:
        value = parse_decimal(plain.replace("\u202f", "\u00a0"), locale=locale, strict=False)
    except NumberFormatError:
        return None
    digits = sum(letter.isdigit() for letter in plain)
    is_year = plain.isdigit() and len(plain) == 4 and int(plain) in _YEARS
    is_code = plain[0] == "0" and plain.isdigit()
    if is_year or is_code or (digits < _LEAST_DIGITS and not (is_share and digits > 1)):
        return None
    exponent = value.as_tuple().exponent
    places = max(0, -exponent) if isinstance(exponent, int) else 0
    return float(value) / (100 if is_share else 1), places, is_share


def _says(value: float, typed: float, places: int) -> bool:
    """Tell whether a value rounds to what was typed; a fall may be typed without its sign."""
    close = 0.5 * 10.0**-places * (1 + 1e-9)
    return abs(value - typed) <= close or abs(-value - typed) <= close


def _as_typed(text: str, places: int, is_share: bool) -> Shown:
    is_signed = text[0] in "-−"
    return Shown(places=places, sign="usual" if is_signed else "never", has_unit=is_share)


def _known(at_hand: AtHand, table: ReportTable) -> Iterator[_Known]:
    """Yield what a table gives: its amounts as a whole, in its newest periods and by groups, and how they changed."""
    profile = at_hand.profile
    columns = amounts_of(profile)[:_MOST_COLUMNS]
    natural = tuple(natural_measure(column, profile) for column in columns)
    counted = Measure(stat="count")
    plain = (Measure(stat=stat, column=one.name) for one in columns for stat in _STATS)
    every = dict.fromkeys((*natural, counted, *plain))
    yield from _asked(at_hand, table, Question(measures=tuple(every)))
    date = next(iter(profile.of("date")), None)
    if date is not None:
        grain = profile.grains.get(date.name, "month")
        for by in dict.fromkeys((grain, "year")):
            newest = Filter(column=date.name, test="last", count=1, by=by)
            yield from _asked(at_hand, table, Question(measures=tuple(every), where=(newest,)))
            per = (Per(column=date.name, by=by),)
            yield from _asked(at_hand, table, Question(measures=(*natural, counted), per=per), pick="before_last")
            for then in _THENS:
                changed = tuple(one.model_copy(update={"then": then}) for one in (*natural, counted))
                yield from _asked(at_hand, table, Question(measures=changed, per=per), pick="last")
    for group in profile.of("category", "place", "yesno"):
        if not 1 < group.distinct <= _MOST_GROUPS:
            continue
        for value in profile.values.get(group.name, ())[:_MOST_GROUPS]:
            rule = Filter(column=group.name, test="in", values=(value,))
            yield from _asked(at_hand, table, Question(measures=(*natural, counted), where=(rule,)))
            share = Measure(stat="share", column=group.name, values=(value,))
            yield from _asked(at_hand, table, Question(measures=(share,)))


_Pick = Literal["first", "last", "before_last"]
_ROW_OF: dict[_Pick, int] = {"first": 0, "last": -1, "before_last": -2}


def _asked(at_hand: AtHand, table: ReportTable, question: Question, pick: _Pick = "first") -> Iterator[_Known]:
    """Ask several measures at once, and yield a figure for each; what cannot be asked gives none."""
    try:
        answer: Answer = table.answer(question)
    except YpsilError:
        return
    row = _ROW_OF[pick]
    if answer.height < (row + 1 if row >= 0 else -row):
        return
    for measure, column in zip(question.measures, answer.of("measure"), strict=True):
        value = answer.values(column)[row]
        if isinstance(value, int | float) and math.isfinite(value):
            alone = question.model_copy(update={"measures": (measure,)})
            figure = LiveFigure(table=at_hand.uid, question=alone, pick=pick)
            yield _Known(figure, float(value), column.unit == "%")
