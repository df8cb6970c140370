""" "What should the reader see?": fitting visuals for a purpose, asked of the report's own data."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, get_args

from ypsil.core.answers.model import Answer
from ypsil.core.errors import YpsilError
from ypsil.core.questions import Filter, Measure, Order, Per, Question
from ypsil.core.questions.model import Bins, Width
from ypsil.core.questions.offered import classes_of
from ypsil.core.questions.wording import lower_first, measure_name
from ypsil.core.survey import SurveyItem, survey_figures, survey_items
from ypsil.core.tables.model import Column
from ypsil.core.tables.name_parts import with_part
from ypsil.core.tables.profile import Profile
from ypsil.core.tables.shown_names import in_words, said_in_words
from ypsil.core.tiles import ReportTable, VisualTile
from ypsil.core.visuals import VISUALS, fit, ranked
from ypsil.core.visuals.base import Purpose

PURPOSES: tuple[Purpose, ...] = get_args(Purpose)
_MOST_QUESTIONS = 5
_TIMES = 2
_FEW_ROWS = 2_000
_FEW_SPLITS = 6
_MOST_POINTS = 200_000
_READABLE_GROUPS = 60
_SCALE_VALUES = 11
_FEWEST_WEIGHTED = 12
_FEWEST_SPACES = 3
_FEWEST_GROUPS, _MOST_SURVEY_GROUPS = 3, 12
_ASKED_FIRST = ("matrix", "rating", "several answers", "ticked columns", "recommendation", "ranking", "one answer")
_LONGEST_SURVEY = 300_000
# Kinds of survey question that other purposes show.
_NO_ANSWERS = ("written", "number")
# What is measured of a thing or at a moment has a mean, and no total (common practice, no source).
_MEASURED = frozenset({
    "acceleration", "age", "ages", "altitude", "average", "avg", "bmi", "density", "depth", "displacement",
    "duration", "elevation", "expect", "expectancy", "gallon", "gpa", "height", "heights", "high", "highest",
    "horsepower", "humidity", "index", "latitude", "length", "level", "longitude", "low", "lowest", "mass", "max",
    "maximum", "mean", "median", "min", "minimum", "mpg", "pct", "per", "percent", "percentage",
    "ph", "pressure", "price", "prices", "rate", "rates", "rating", "ratings", "ratio", "score", "scores", "share",
    "size", "speed", "temp", "temperature", "temperatures", "velocity", "weight", "width", "wind", "year", "yield",
})  # fmt: skip
_UNITS_OF_THINGS = frozenset({"%", "°C", "°F", "°", "km/h", "m/s", "mph", "mpg", "cm", "mm", "hPa", "dB", "ppm", "rpm"})
# Fewer than so many periods are shown whole.
_MANY_PERIODS = 60
# A drawing that suits so little is not proposed: it can still be chosen.
_LEAST_FITNESS = 0.08
_LOWS, _HIGHS = frozenset({"min", "low", "lowest", "minimum"}), frozenset({"max", "high", "highest", "maximum"})
# Places on the earth and in the calendar are no amounts.
_POSITIONS = ("latitude", "longitude", "lat", "lon", "lng", "quarter", "month", "week", "weekday", "day", "hour")
# Amounts of which one is no more than so many times the other are read on one scale.
_ONE_SCALE = 20.0
_MOST_TOGETHER = 4


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
    if purpose == "what people answered":
        return _answered(key, table, profile)
    found = []
    seen: set[object] = set()
    for rank, question in enumerate(_questions(purpose, profile)):
        try:
            given = table.answer(question)
        except YpsilError:
            continue
        # The last twelve months of a short table are the whole of it.
        key_of = (given.columns, str(given.rows) if given.height <= _FEW_ROWS else rank)
        if key_of in seen:
            continue
        seen.add(key_of)
        for entry, fitness in ranked(given):
            if purpose in entry.purposes and not (fitness.fits and fitness.score < _LEAST_FITNESS):
                tile = tile_for(key, question, entry.name)
                found.append(Suggestion(tile, given, fitness.fits, fitness.score - 0.03 * rank, fitness.reason))
    found.sort(key=lambda one: (not one.fits, -one.score))
    return _varied(found)


def _answered(key: str, table: ReportTable, profile: Profile) -> list[Suggestion]:
    """Return the figures that the questions of a survey call for: the first of each, then the second …"""
    if profile.rows > _LONGEST_SURVEY:
        return []
    items = [item for item in survey_items(table.frame(), profile.columns) if item.kind not in _NO_ANSWERS]
    groups = [item.name for item in items if item.kind == "one answer" and _can_group(item.name, profile)]
    found = []
    seen: set[object] = set()
    for rank, item in enumerate(sorted(items, key=lambda item: _rank_of(item, groups))):
        by = next((name for name in groups if name not in item.columns), None)
        for turn, figure in enumerate(survey_figures(item, by)):
            try:
                given = table.answer(figure.question)
            except YpsilError:
                continue
            # Where everybody answered, those asked are those who answered.
            shown = (item.name, figure.visual, given.rows if given.height <= _FEW_ROWS else turn)
            if shown in seen:
                continue
            seen.add(shown)
            tile = tile_of(key, figure.question, figure.visual, figure.options, figure.title)
            fitness = fit(VISUALS[figure.visual], given)
            shown_name = figure.title or figure.options.get("label", "")
            named = item.said if item.name in shown_name else f"“{item.name}”, {item.said}"
            reason = f"{named}: {figure.reason}" if fitness.fits else fitness.reason
            score = 1.0 - 0.1 * turn - 0.01 * rank
            found.append(Suggestion(tile, given, fitness.fits, score, reason))
    return sorted(found, key=lambda one: (not one.fits, -one.score))


def _rank_of(item: SurveyItem, groups: list[str]) -> int:
    """Return how early a question is shown: what was asked about comes before what people are grouped by."""
    if item.name in groups:
        return len(_ASKED_FIRST)
    return _ASKED_FIRST.index(item.kind) if item.kind in _ASKED_FIRST else len(_ASKED_FIRST) - 1


def _can_group(name: str, profile: Profile) -> bool:
    column = profile.column(name)
    return column is not None and _FEWEST_GROUPS <= column.distinct <= _MOST_SURVEY_GROUPS


def _varied(found: list[Suggestion]) -> list[Suggestion]:
    """Leave out what shows more of the same: a visual comes twice at most, and once where it does not fit."""
    counted: dict[str, int] = {}
    kept = []
    for one in found:
        times = counted.get(one.tile.visual, 0)
        if times < (_TIMES if one.fits else 1):
            kept.append(one)
        counted[one.tile.visual] = times + 1
    return kept


def tile_of(key: str, question: Question, visual: str, options: dict[str, Any], title: str) -> VisualTile:
    """Return a tile that is given its options, with its title where the visual does not say its own label."""
    return VisualTile(
        table=key,
        question=question,
        visual=visual,
        options=options,
        title=title if VISUALS[visual].is_titled else "",
    )


def tile_for(key: str, question: Question, visual: str) -> VisualTile:
    """Return a tile with the title (or, for a figure, the label) that the question suggests."""
    entry = VISUALS[visual]
    names = names_in(question)
    if entry.is_titled:
        title = said_in_words(title_for(question), names)
        return VisualTile(table=key, question=question, visual=visual, title=title)
    has_label = "label" in entry.options.model_fields
    options = {"label": said_in_words(short_name(question.measures[0]), names)} if has_label else {}
    return VisualTile(table=key, question=question, visual=visual, options=options)


def names_in(question: Question) -> dict[str, str]:
    """Return the columns that a question names, where readers see another name: in words, without the unit."""
    return {name: in_words(name) for name in question.columns() if in_words(name) != name}


def short_name(measure: Measure) -> str:
    """Return a measure's name without the word total, which headings do not need."""
    if measure.stat == "sum" and measure.column and not measure.name and measure.then is None:
        return measure.column
    if measure.stat == "share" and measure.column and measure.values == ("Yes",):
        return with_part(measure.column, "Yes")
    return measure_name(measure)


def _listed(names: list[str]) -> str:
    return " and ".join([", ".join(names[:-1]), names[-1]] if len(names) > 1 else names)


def title_for(question: Question) -> str:
    """Return a heading for a question.

    >>> title_for(Question(measures=[Measure(stat="sum", column="Visits")], per=[Per(column="Day", by="month")]))
    'Visits per month'
    """
    if question.per and question.per[0].by == "word":
        over = " over time" if question.split and question.split.grain else ""
        return f"Words in {question.per[0].column}{over}"
    first, *rest = question.measures
    others = (short_name(one) if one.stat == "sum" or one.name else lower_first(short_name(one)) for one in rest)
    title = _listed([short_name(first), *others])
    if question.each_row:
        measured = [measure.column or "" for measure in question.measures]
        by = question.split.column if question.split else question.per[0].column
        return _listed(measured) + (f" by {by}" if by not in measured else "")
    if question.per:
        per = question.per[0]
        if isinstance(per.by, Bins | Width):
            return f"How {per.column} spreads" if question.measures[0].stat == "count" else f"{title} by {per.column}"
        title += f" per {per.by if isinstance(per.by, str) else per.column}"
    title += f", by {question.split.column}" if question.split else ""
    # What is left out is said: two headings of the same words would hide that they differ.
    return title + "".join(
        f", last {one.count} {one.by}s" for one in question.where if one.test == "last" and one.count
    )


def _questions(purpose: Purpose, profile: Profile) -> list[Question]:
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
    amounts = [_natural_measure(column, profile.rows) for column in _amounts(profile)]
    return [*amounts[: _MOST_QUESTIONS - 1], Measure(stat="count")]


def _natural_measure(column: Column, rows: int) -> Measure:
    """Amounts are added up; ratings and other short scales, shares, and what is measured of things (a temperature, an
    age, a length) are averaged (common practice, no source)."""
    repeats = column.distinct <= _SCALE_VALUES and rows >= 4 * column.distinct
    words = set(in_words(column.name).lower().split())
    is_measured = bool(words & _MEASURED) or column.unit in _UNITS_OF_THINGS
    return Measure(stat="mean" if repeats or is_measured else "sum", column=column.name)


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
    added = [one for one in _amounts(profile) if _natural_measure(one, profile.rows).stat == "sum"]
    if profile.of("category", "place", "list", "yesno", "text") or len(added) < _TIMES:
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
    for column in [one for one in named if one.distinct <= _MOST_SURVEY_GROUPS][:1]:
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
    numbers = _amounts(profile)
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
    numbers, named = _amounts(profile), _named(profile)
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


def _amounts(profile: Profile) -> list[Column]:
    return [column for column in profile.of("number") if column.name.lower() not in _POSITIONS]


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
        for amount in _amounts(profile)[:1]:
            if column.distinct == profile.rows and column.distinct >= _FEWEST_WEIGHTED:
                yield Question(
                    measures=(_natural_measure(amount, profile.rows),), per=(Per(column=column.name),), keep=80
                )
