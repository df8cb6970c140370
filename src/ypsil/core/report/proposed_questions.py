"""What could be asked of a table: questions for each purpose, by the kinds, names and sizes of its columns."""

from __future__ import annotations

from collections.abc import Iterable

from ypsil.core.questions import Filter, Measure, Order, Per, Question
from ypsil.core.questions.offered import classes_of
from ypsil.core.report.amounts import amounts_of, natural_measure
from ypsil.core.tables.model import Column
from ypsil.core.tables.profile import Profile
from ypsil.core.tables.shown_names import in_words
from ypsil.core.visuals.base import Purpose

# Where people are grouped by an answer, it has no more than so many values.
MOST_GROUPS_OF_PEOPLE = 12
_MOST_QUESTIONS = 5
_FEW_SPLITS = 6
_MOST_POINTS = 200_000
_READABLE_GROUPS = 60
_FEWEST_WEIGHTED = 12
_FEWEST_SPACES = 3
# Fewer than so many periods are shown whole.
_MANY_PERIODS = 60
_LOWS, _HIGHS = frozenset({"min", "low", "lowest", "minimum"}), frozenset({"max", "high", "highest", "maximum"})
# Amounts of which one is no more than so many times the other are read on one scale.
_ONE_SCALE = 20.0
_MOST_TOGETHER = 4


def questions_for(purpose: Purpose, profile: Profile) -> list[Question]:
    """Return what could be asked of a table for a purpose, what a reader learns most from first."""
    makers = {
        "how much": _how_much,
        "how it changes": _how_it_changes,
        "share of a whole": _shares,
        "who is biggest": _who_is_biggest,
        "how it spreads": _how_it_spreads,
        "what goes together": _what_goes_together,
        "what people say": _what_people_say,
    }
    return list(makers[purpose](profile))[:_MOST_QUESTIONS]


def _measures(profile: Profile) -> list[Measure]:
    amounts = [natural_measure(column, profile) for column in amounts_of(profile)]
    return [*amounts[: _MOST_QUESTIONS - 1], Measure(stat="count")]


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
        together = _kinds_of_one(profile)
        if together:
            yield Question(measures=together, per=(per,))
        splits = [Per(column=split.name) for split in _few(profile)[:1]]
        if splits and measures[0].stat == "mean" and profile.rows <= column.distinct * _few(profile)[0].distinct:
            # One row for each time and group: a mean over all hides what each of them did.
            yield Question(measures=(measures[0],), per=(per,), split=splits.pop())
        yield Question(measures=(measures[0],), per=(per,))
        for lows, highs in _ranges(profile):
            ends = tuple(Measure(stat="mean", column=name) for name in (highs, lows))
            yield Question(measures=ends, per=(per,))
        for split in splits:
            yield Question(measures=(measures[0],), per=(per,), split=split)
        last_year = Filter(column=column.name, test="last", count=12, by="month")
        where = (last_year,) if per.grain == "month" and _is_long(column, profile) else ()
        if where:
            yield Question(measures=(measures[0],), per=(per,), where=where)
        if per.grain not in (None, "weekday", "hour") and measures[0].stat in ("sum", "count"):
            change = measures[0].model_copy(update={"then": "change"})
            yield Question(measures=(change,), per=(per,), where=where)
        for measure in measures[1:2]:
            yield Question(measures=(measure,), per=(per,))


def _kinds_of_one(profile: Profile) -> tuple[Measure, ...]:
    """Return amounts that stand beside each other, a column each, where nothing else parts the rows: much the same in
    size, in one unit, and all added up."""
    added = [one for one in amounts_of(profile) if natural_measure(one, profile).stat == "sum"]
    if not added or profile.of("category", "place", "list", "yesno", "text"):
        return ()
    sizes = {
        name: max(map(abs, map(float, ends))) for name, ends in profile.ends.items() if profile.column(name) in added
    }
    first = sizes.get(added[0].name, 0.0)
    alike = [
        one.name
        for one in added
        if one.unit == added[0].unit
        and first <= _ONE_SCALE * sizes.get(one.name, 0.0)
        and sizes[one.name] <= _ONE_SCALE * first
    ]
    found = tuple(Measure(stat="sum", column=name) for name in alike[:_MOST_TOGETHER])
    return found if len(found) > 1 else ()


def _is_long(column: Column, profile: Profile) -> bool:
    """Tell whether the months of a column are more than can be looked at one by one."""
    return 12 * profile.years(column.name) > _MANY_PERIODS


def _ranges(profile: Profile) -> Iterable[tuple[str, str]]:
    """Return the pairs of columns that hold the lows and the highs of the same thing."""
    said = {column.name: in_words(column.name).lower().split() for column in profile.of("number")}
    for low, words in said.items():
        if set(words) & _LOWS:
            rest = [word for word in words if word not in _LOWS]
            for high, others in said.items():
                if set(others) & _HIGHS and [word for word in others if word not in _HIGHS] == rest:
                    yield low, high


def _shares(profile: Profile) -> Iterable[Question]:
    for column in profile.of("yesno")[:2]:
        yield Question(measures=(Measure(stat="share", column=column.name, values=("Yes",)),))
    named = _named(profile)
    measure = next((one for one in _measures(profile) if one.stat in ("sum", "count")), Measure(stat="count"))
    for column in sorted(named, key=lambda one: one.distinct)[:1]:
        yield Question(measures=(measure,), per=(Per(column=column.name),))
    if len(named) > 1:
        outer, inner = sorted(named[:2], key=lambda one: one.distinct)
        yield Question(measures=(measure,), per=(Per(column=outer.name), Per(column=inner.name)))
        if outer.distinct <= _FEW_SPLITS:
            yield Question(measures=(measure,), per=(Per(column=inner.name),), split=Per(column=outer.name))
    for column in [one for one in named if one.distinct <= MOST_GROUPS_OF_PEOPLE][:1]:
        values = profile.values.get(column.name, ())[:1]
        yield Question(measures=(Measure(stat="share", column=column.name, values=values),))


def _who_is_biggest(profile: Profile) -> Iterable[Question]:
    measure, *others = _measures(profile)
    for column in _named(profile)[:3]:
        yield Question(measures=(measure,), per=(Per(column=column.name),))
    for column in _named(profile)[:1]:
        yield Question(measures=(others[0] if others else measure,), per=(Per(column=column.name),))
    for column in _named(profile)[:1]:
        for split in _few(profile)[:1]:
            if split != column:
                yield Question(measures=(measure,), per=(Per(column=column.name),), split=Per(column=split.name))


def _how_it_spreads(profile: Profile) -> Iterable[Question]:
    numbers = amounts_of(profile)
    for column in numbers[:2]:
        classes = Per.model_validate({"column": column.name, "by": classes_of(column.name, profile)})
        yield Question(measures=(Measure(stat="count"),), per=(classes,))
    for column in numbers[:1]:
        for named in _named(profile)[:2]:
            each = Per(column=named.name, by="row")
            yield Question(measures=(Measure(stat="sum", column=column.name),), per=(each,))
    for column in _named(profile)[:1]:
        yield Question(measures=(Measure(stat="count"),), per=(Per(column=column.name),))


def _what_goes_together(profile: Profile) -> Iterable[Question]:
    numbers, named = amounts_of(profile), _named(profile)
    by = next(iter(named), next(iter(profile.columns), None))
    if len(numbers) > 1 and by is not None and profile.rows <= _MOST_POINTS:
        pair = tuple(Measure(stat="sum", column=column.name) for column in numbers[:2])
        yield Question(measures=pair, per=(Per(column=by.name, by="row"),))
        if named:
            yield Question(measures=pair, per=(Per(column=named[0].name),))
    for column in profile.of("date")[:1]:
        for split in named[:1]:
            measure = _measures(profile)[0]
            per = Per(column=column.name, by="quarter" if column.form is None else profile.grains.get(column.name))
            yield Question(measures=(measure,), per=(Per(column=split.name),), split=per)
    for split in _few(profile)[:1]:
        for column in [one for one in named if one != split][:1]:
            yield Question(
                measures=(_measures(profile)[0],), per=(Per(column=column.name),), split=Per(column=split.name)
            )


def _few(profile: Profile) -> list[Column]:
    """Columns with so few values that they can split an answer."""
    return [column for column in _named(profile) if column.distinct <= _FEW_SPLITS]


def _named(profile: Profile) -> list[Column]:
    return [column for column in profile.of("category", "place", "list") if 1 < column.distinct <= _READABLE_GROUPS]


def _what_people_say(profile: Profile) -> Iterable[Question]:
    counted = (Measure(stat="count"),)
    for column in _written(profile)[:2]:
        per = (Per(column=column.name, by="word"),)
        for keep in (80, 15):
            yield Question(measures=counted, per=per, keep=keep)
        for split in [*profile.of("yesno"), *_few(profile)][:1]:
            order = Order(by="keyness", descending=True)
            yield Question(measures=counted, per=per, split=Per(column=split.name), order=order)
        for date in profile.of("date")[:1]:
            split_by_time = _natural_per(date, profile)
            yield Question(measures=(Measure(stat="share"),), per=per, split=split_by_time)
    yield from _weighted_words(profile)


def _written(profile: Profile) -> list[Column]:
    """Return the columns of written answers; where there are none, those of short answers that are mostly sentences."""

    def is_said(value: str) -> bool:
        return value.count(" ") >= _FEWEST_SPACES

    def mostly_said(values: tuple[str, ...]) -> bool:
        return 2 * sum(map(is_said, values)) > len(values)

    return profile.of("text") or [
        column for column in profile.of("category") if mostly_said(profile.values.get(column.name, ()))
    ]


def _weighted_words(profile: Profile) -> Iterable[Question]:
    """Ask for words that come with a weight each, one a row."""
    for column in profile.of("category", "text", "place"):
        for amount in amounts_of(profile)[:1]:
            if column.distinct == profile.rows and column.distinct >= _FEWEST_WEIGHTED:
                yield Question(measures=(natural_measure(amount, profile),), per=(Per(column=column.name),), keep=80)
