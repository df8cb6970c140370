""" "What should the reader see?": fitting visuals for a purpose, asked of the report's own data."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import get_args

from ypsil.core.errors import YpsilError
from ypsil.core.questions import Filter, Measure, Per, Question, answer
from ypsil.core.questions.model import Answer
from ypsil.core.questions.wording import measure_name
from ypsil.core.report.compose import ReportTable
from ypsil.core.report.document import VisualTile
from ypsil.core.tables.model import Column
from ypsil.core.tables.profile import Profile
from ypsil.core.visuals import VISUALS, fit
from ypsil.core.visuals.base import Purpose

PURPOSES: tuple[Purpose, ...] = get_args(Purpose)
_MOST_QUESTIONS = 4
_READABLE_GROUPS = 60
_SCALE_VALUES = 11
_POSITIONS = ("latitude", "longitude", "lat", "lon", "lng")


@dataclass(frozen=True, slots=True)
class Suggestion:
    """A tile that could be added, its answer, and the reason for or against it."""

    tile: VisualTile
    answer: Answer
    fits: bool
    score: float
    reason: str


def suggest(purpose: Purpose, key: str, table: ReportTable, profile: Profile) -> list[Suggestion]:
    """Return tiles for a purpose, the best first, those that do not fit last."""
    found = []
    seen: set[object] = set()
    for rank, question in enumerate(_questions(purpose, profile)):
        try:
            given = answer(table.frame(), table.columns, question)
        except YpsilError:
            continue
        # The last twelve months of a short table are the whole of it.
        if (given.columns, given.rows) in seen:
            continue
        seen.add((given.columns, given.rows))
        for entry in VISUALS.values():
            if purpose in entry.purposes:
                fitness = fit(entry, given)
                tile = tile_for(key, question, entry.name)
                score = fitness.score - 0.03 * rank
                found.append(Suggestion(tile, given, fitness.fits, score, fitness.reason))
    return sorted(found, key=lambda one: (not one.fits, -one.score))


def tile_for(key: str, question: Question, visual: str) -> VisualTile:
    """Return a tile with the title (or, for a figure, the label) that the question suggests."""
    name = short_name(question.measures[0])
    if visual in ("kpi", "ring"):
        return VisualTile(table=key, question=question, visual=visual, options={"label": name})
    return VisualTile(table=key, question=question, visual=visual, title=title_for(question))


def short_name(measure: Measure) -> str:
    """Return a measure's name without the word total, which headings do not need."""
    if measure.stat == "sum" and measure.column and not measure.name:
        return measure.column
    if measure.stat == "share" and measure.column and measure.values == ("Yes",):
        return f"{measure.column}: Yes"
    return measure_name(measure)


def title_for(question: Question) -> str:
    """Return a heading for a question.

    >>> title_for(Question(measures=[Measure(stat="sum", column="Visits")], per=[Per(column="Day", by="month")]))
    'Visits per month'
    """
    if question.per and question.per[0].by == "word":
        return f"Words in {question.per[0].column}"
    title = " and ".join(short_name(measure) for measure in question.measures)
    if question.per:
        per = question.per[0]
        title += f" per {per.by if isinstance(per.by, str) else per.column}"
    return title + (f", by {question.split.column}" if question.split else "")


def _questions(purpose: Purpose, profile: Profile) -> list[Question]:
    makers = {
        "how much": _how_much,
        "how it changes": _how_it_changes,
        "share of a whole": _shares,
        "who is biggest": _who_is_biggest,
        "what people say": _what_people_say,
    }
    return list(makers[purpose](profile))[:_MOST_QUESTIONS]


def _measures(profile: Profile) -> list[Measure]:
    numbers = [column for column in profile.of("number") if column.name.lower() not in _POSITIONS]
    amounts = [_natural_measure(column, profile.rows) for column in numbers]
    return [*amounts[: _MOST_QUESTIONS - 1], Measure(stat="count")]


def _natural_measure(column: Column, rows: int) -> Measure:
    """Amounts are added up; ratings and other short scales, and shares, are averaged (common practice, no source)."""
    repeats = column.distinct <= _SCALE_VALUES and rows >= 4 * column.distinct
    scale = repeats or column.unit == "%"
    return Measure(stat="mean" if scale else "sum", column=column.name)


def _natural_per(column: Column, profile: Profile) -> Per:
    return Per(column=column.name, by=profile.grains.get(column.name, "month"))


def _how_much(profile: Profile) -> Iterable[Question]:
    dates = profile.of("date")
    per = (_natural_per(dates[0], profile),) if dates else ()
    for measure in _measures(profile):
        yield Question(measures=(measure,), per=per)


def _how_it_changes(profile: Profile) -> Iterable[Question]:
    for column in profile.of("date")[:1]:
        per = _natural_per(column, profile)
        measures = _measures(profile)
        yield Question(measures=(measures[0],), per=(per,))
        last_year = Filter(column=column.name, test="last", count=12, by="month")
        yield Question(measures=(measures[0],), per=(per,), where=(last_year,))
        for measure in measures[1:2]:
            yield Question(measures=(measure,), per=(per,))


def _shares(profile: Profile) -> Iterable[Question]:
    for column in [*profile.of("yesno"), *_named(profile)]:
        values = profile.values.get(column.name, ())[:1]
        if values:
            yield Question(measures=(Measure(stat="share", column=column.name, values=values),))


def _who_is_biggest(profile: Profile) -> Iterable[Question]:
    for column in _named(profile):
        yield Question(measures=(_measures(profile)[0],), per=(Per(column=column.name),))


def _named(profile: Profile) -> list[Column]:
    return [column for column in profile.of("category", "place", "list") if 1 < column.distinct <= _READABLE_GROUPS]


def _what_people_say(profile: Profile) -> Iterable[Question]:
    for column in profile.of("text"):
        for keep in (80, 15):
            yield Question(measures=(Measure(stat="count"),), per=(Per(column=column.name, by="word"),), keep=keep)
