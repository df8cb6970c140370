"""Choices for what is measured: statistics, columns, ratios, shares, and what is done along the periods."""

from __future__ import annotations

from collections.abc import Iterable

from ypsil.core.questions.model import NUMBER_STATS, UNWEIGHTED_STATS, Measure, Question, Stat
from ypsil.core.questions.offered.base import (
    Choice,
    has_order,
    has_periods,
    labelled,
    replaced,
    toggles,
    with_,
    with_measure,
)
from ypsil.core.questions.wording import STAT_WORDS, then_words, whole_words
from ypsil.core.questions.words_said import is_share_of_answers
from ypsil.core.tables.conditions import value_word
from ypsil.core.tables.model import Column
from ypsil.core.tables.natural_order import scale_family
from ypsil.core.tables.profile import Profile
from ypsil.core.text.settings import WordSettings

_STATS_OF_NUMBERS: tuple[Stat, ...] = ("sum", "mean", "median", "min", "max", "std")
_PERCENTILES = (10, 25, 75, 90)
_WINDOWS = (3, 6, 12)
_HIGHEST_RATING = 10


def _choices(question: Question, index: int, options: Iterable[tuple[str, Measure]]) -> list[Choice]:
    present = question.measures[index]
    return [Choice(label, with_measure(question, index, measure), measure == present) for label, measure in options]


def stat(question: Question, profile: Profile, index: int) -> list[Choice]:
    present = question.measures[index]
    options = _stats_for(present, question, profile)
    if question.weight:
        options = [(label, one) for label, one in options if one.stat not in UNWEIGHTED_STATS]
    return _choices(question, index, _fitting(question, present, options))


def _fitting(
    question: Question, present: Measure, options: Iterable[tuple[str, Measure]]
) -> Iterable[tuple[str, Measure]]:
    """Carry over what is done along the periods, where it still has a meaning."""
    for label, measure in options:
        keeps = present.then and (
            present.then != "running_total" or measure.stat in ("sum", "count") or measure.is_part
        )
        yield label, measure.model_copy(update={"then": present.then, "window": present.window}) if keeps else measure


def _stats_for(present: Measure, question: Question, profile: Profile) -> list[tuple[str, Measure]]:
    column = profile.column(present.column)
    numbers = profile.of("number")
    number = column if column is not None and column.kind == "number" else next(iter(numbers), None)
    if question.each_row:
        return [("value", Measure(stat="sum", column=number.name))] if number else []
    options: list[tuple[str, Measure]] = []
    if number is not None:
        options += [(STAT_WORDS[one], Measure(stat=one, column=number.name)) for one in _STATS_OF_NUMBERS]
        options += [(f"{p}th percentile", Measure(stat="percentile", column=number.name, p=p)) for p in _PERCENTILES]
    options.append(("number of rows", Measure(stat="count")))
    named = labelled(profile)
    label = column if column is not None and column in named else next(iter(named), None)
    if label is not None:
        options.append(("number of different", Measure(stat="distinct", column=label.name)))
        options.append(("share that is …", share_of(label, profile)))
    options += _of_scales(column, profile)
    if question.per:
        part = present if present.is_part else Measure(stat="share", column=number.name if number else None)
        options.append(("share of all …", part))
        respondents = Measure(stat="share", within="respondents")
        options.append(("share of respondents", present if present.is_of_respondents else respondents))
    if len(numbers) > 1:
        below = next(one for one in numbers if one != number)
        ratio = (Measure(stat="sum", column=number.name if number else None), Measure(stat="sum", column=below.name))
        options.append(("… divided by …", Measure(ratio=ratio)))
    return options


def _of_scales(present: Column | None, profile: Profile) -> Iterable[tuple[str, Measure]]:
    """Return the scores of rating scales: of the column that is asked about, else of the first one."""
    ratings = [column for column in profile.columns if is_scale(column, profile)]
    chosen = present if present in ratings else next(iter(ratings), None)
    if chosen is not None:
        yield STAT_WORDS["score"], Measure(stat="score", column=chosen.name)
    tens = [column for column in ratings if _goes_to_ten(column, profile)]
    chosen = present if present in tens else next(iter(tens), None)
    if chosen is not None:
        yield STAT_WORDS["recommendation"], Measure(stat="recommendation", column=chosen.name)


def is_scale(column: Column, profile: Profile) -> bool:
    """Tell whether a column holds ratings: words in an order, or whole numbers up to 10."""
    if column.kind == "number":
        low, high = profile.ends.get(column.name, (-1.0, -1.0))
        if not isinstance(low, float) or not isinstance(high, float) or column.unit is not None:
            return False
        return 0 <= low < high <= _HIGHEST_RATING and column.distinct <= _HIGHEST_RATING + 1
    values = profile.values.get(column.name, ())
    return column.kind == "category" and bool(column.order or scale_family(values) is not None)


def _goes_to_ten(column: Column, profile: Profile) -> bool:
    high = profile.ends.get(column.name, (0.0, 0.0))[1]
    return column.kind == "number" and isinstance(high, float) and high > _HIGHEST_RATING - 3


def share_of(column: Column, profile: Profile) -> Measure:
    return Measure(stat="share", column=column.name, values=profile.values[column.name][:1])


def measure(question: Question, profile: Profile, index: int) -> list[Choice]:
    if question.words:
        return _counted_words(question, question.words)
    present = question.measures[index]
    found = _choices(question, index, _columns_for(present, profile))
    return [*found, without(question, index)] if len(question.measures) > 1 else found


def _columns_for(present: Measure, profile: Profile) -> list[tuple[str, Measure]]:
    if present.stat == "share" and present.values:
        return [(column.name, share_of(column, profile)) for column in labelled(profile)]
    if present.stat == "count" or present.is_part:
        fitting = profile.columns if present.stat == "count" else profile.of("number")
        rows = present.model_copy(update={"column": None})
        return [("rows", rows), *((one.name, rows.model_copy(update={"column": one.name})) for one in fitting)]
    if present.stat in ("score", "recommendation"):
        fitting = [column for column in profile.columns if is_scale(column, profile)]
        if present.stat == "recommendation":
            fitting = [column for column in fitting if _goes_to_ten(column, profile)]
        return [(one.name, present.model_copy(update={"column": one.name, "name": None})) for one in fitting]
    needs_numbers = present.stat in NUMBER_STATS or present.stat in ("min", "max")
    columns = profile.of("number") if needs_numbers else list(profile.columns)
    return [(one.name, present.model_copy(update={"column": one.name, "name": None})) for one in columns]


def without(question: Question, index: int) -> Choice:
    rest = tuple(one for place, one in enumerate(question.measures) if place != index)
    return Choice("take this measure away", with_(question, measures=rest))


def another(question: Question, profile: Profile) -> list[Choice]:
    """Return measures to ask for besides those there are, all of single rows where these are shown."""
    numbers = [Measure(stat="sum", column=column.name) for column in profile.of("number")]
    means = [Measure(stat="mean", column=column.name) for column in profile.of("number")]
    fitting = numbers if question.each_row else [*numbers, *means, Measure(stat="count")]
    found = []
    for one in fitting:
        if one not in question.measures:
            label = f"the {STAT_WORDS[one.stat or 'count']} of {one.column or 'rows'}"
            found.append(Choice(label, with_(question, measures=(*question.measures, one))))
    return found


def above(question: Question, profile: Profile, index: int) -> list[Choice]:
    return _ratio(question, profile, index, 0)


def below(question: Question, profile: Profile, index: int) -> list[Choice]:
    return _ratio(question, profile, index, 1)


def _ratio(question: Question, profile: Profile, index: int, side: int) -> list[Choice]:
    present = question.measures[index]
    if present.ratio is None:
        return []
    parts = [Measure(stat="sum", column=column.name) for column in profile.of("number")]
    if not question.each_row:
        parts.append(Measure(stat="count"))
    found = []
    for part in parts:
        pair = (part, present.ratio[1]) if side == 0 else (present.ratio[0], part)
        changed = present.model_copy(update={"ratio": pair, "name": None})
        label = f"total of {part.column}" if part.column else "number of rows"
        found.append(Choice(label, with_measure(question, index, changed), part == present.ratio[side]))
    alone = Measure(stat="sum", column=present.ratio[side].column) if present.ratio[side].column else parts[0]
    found.append(Choice("not divided", with_measure(question, index, alone)))
    return found


def within(question: Question, profile: Profile, index: int) -> list[Choice]:
    present = question.measures[index]
    wholes = ["all", *(["split", "per"] if question.split else []), *(["respondents"] if question.per else [])]
    options = [present.model_copy(update={"within": whole}) for whole in wholes]
    return [Choice(whole_words(one, question), with_measure(question, index, one), one == present) for one in options]


def values(question: Question, profile: Profile, index: int) -> list[Choice]:
    present = question.measures[index]
    return [
        Choice(
            value_word(value),
            with_measure(question, index, present.model_copy(update={"values": toggled})),
            value in present.values,
        )
        for value, toggled in toggles(present.values, profile.values.get(present.column or "", ()))
    ]


def then(question: Question, profile: Profile, index: int) -> list[Choice]:
    """Return what can be done with a measure along the answer, the plain values first."""
    present = question.measures[index]
    found = [Choice("the values themselves", with_measure(question, index, _done(present, None)), not present.then)]
    for one in _possible_thens(question, present, profile):
        label = then_words(one, question).removesuffix(" in").removesuffix(" of")
        found.append(Choice(label, with_measure(question, index, one), one == present))
    return found


def _done(measure: Measure, kind: str | None, window: int | None = None) -> Measure:
    return measure.model_copy(update={"then": kind, "window": window})


def _possible_thens(question: Question, present: Measure, profile: Profile) -> Iterable[Measure]:
    if not question.per or question.each_row or not has_order(question.per[0], profile):
        return
    if present.stat in ("sum", "count") or present.is_part:
        yield _done(present, "running_total")
    if not has_periods(question.per[0]):
        return
    yield _done(present, "change")
    yield _done(present, "percent_change")
    yield _done(present, "change_year")
    yield _done(present, "percent_change_year")
    for window in _WINDOWS:
        yield _done(present, "moving_average", window)
    yield _done(present, "index")


def _counted_words(question: Question, words: WordSettings) -> list[Choice]:
    """Uses of a word, answers that hold it, or their share of all answers."""
    is_share = is_share_of_answers(question)

    def changed(count: str, measure: Measure) -> Question:
        per = question.per[0].model_copy(update={"words": words.model_copy(update={"count": count})})
        return with_(question, measures=(measure,), per=replaced(question.per, 0, per))

    counted = Measure(stat="count")
    found = [
        Choice(label, changed(count, counted), words.count == count and not is_share)
        for label, count in (("uses", "occurrences"), ("answers", "responses"))
    ]
    if question.order is not None and question.order.by == "keyness":
        return found
    return [*found, Choice("share of answers", changed("responses", Measure(stat="share")), is_share)]
