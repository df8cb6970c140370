"""Findings as sentences with live figures: what a visual shows, said by the numbers themselves.

Each sentence is true whatever the numbers become: where something rises it says so, and where it falls afterwards, it
says that. A sentence of which a figure cannot be worked out is not written.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterator
from dataclasses import dataclass
from typing import Any

from ypsil.core.draft.subjects import Subject
from ypsil.core.errors import YpsilError
from ypsil.core.figures import DEFAULT_LOCALE
from ypsil.core.figures.capitals import lower_first
from ypsil.core.prose.model import Block, LiveFigure, Prose, Run, Shown, Words
from ypsil.core.prose.said import Said, say
from ypsil.core.questions.model import Measure, Order, Per, Question
from ypsil.core.report.titles import names_in, short_name
from ypsil.core.tables.conditions import Filter
from ypsil.core.tables.shown_names import in_words, said_in_words
from ypsil.core.tables.units import AMOUNTS_OF_MONEY

_LEVEL = 0.005
_ROSE = Words(above="rose by", level="hardly changed, by", below="fell by", within=_LEVEL)
_PART = Shown(places=0, sign="never")
_SHORT = Shown(form="short")
_LARGE = 1_000_000
_HIGHEST, _LOWEST = Order(by="value", descending=True), Order(by="value")
_OF_A_YEAR = ("month", "quarter", "week")

Part = str | LiveFigure


@dataclass(frozen=True, slots=True)
class _Says:
    """Makes live figures of one table."""

    subject: Subject

    def figure(self, question: Question, **told: Any) -> LiveFigure:
        return LiveFigure(table=self.subject.key, question=question, **told)

    def value(self, question: Question, **told: Any) -> LiveFigure:
        """Return a measured value, written short where it is large."""
        figure = self.figure(question, **told)
        said = self.said(figure)
        is_large = said.value is not None and abs(said.value) >= _LARGE
        return figure.model_copy(update={"shown": _SHORT}) if is_large else figure

    def said(self, figure: LiveFigure) -> Said:
        return say(figure, self.subject.table.answer, DEFAULT_LOCALE)


def sentence_for(question: Question, subject: Subject, said: Collection[Prose] = ()) -> Prose | None:
    """Return the finding in the answer to a question as a sentence, another than was ``said``; None where there is
    none to be said."""
    for made in _SENTENCES:
        for parts in made(question, _Says(subject)):
            says = _written(parts, subject)
            if says is not None and says not in said:
                return says
    return None


def span_of(subject: Subject) -> Prose | None:
    """Return how many rows a table has and which time they are of."""
    says = _Says(subject)
    parts: list[Part] = ["Rows: ", says.figure(Question(measures=(Measure(stat="count"),)))]
    for column in subject.profile.of("date")[:1]:
        ends = [says.figure(Question(measures=(Measure(stat=stat, column=column.name),))) for stat in ("min", "max")]
        parts += [", from ", ends[0], " to ", ends[1]]
    return _written(parts, subject)


def _written(parts: list[Part], subject: Subject) -> Prose | None:
    says = _Says(subject)
    runs = []
    for part in parts:
        if isinstance(part, LiveFigure):
            try:
                if says.said(part).problem:
                    return None
            except YpsilError:
                return None
        runs.append(Run(text=part) if isinstance(part, str) else Run(figure=part))
    return Prose(blocks=(Block(runs=tuple(runs)),))


def _named(measure: Measure, *, within: bool = False) -> str:
    """Return a measure as it is called in a sentence: at its beginning, or ``within`` it."""
    if measure.stat == "count":
        return "the number of rows" if within else "The number of rows"
    said = said_in_words(short_name(measure), names_in(Question(measures=(measure,))))
    return lower_first(said) if within and measure.stat != "sum" else said


def _single(question: Question) -> Measure | None:
    """Return the measure of a question about one plain statistic; None for any other."""
    measure = question.measures[0]
    is_plain = len(question.measures) == 1 and measure.ratio is None and measure.then is None
    return measure if is_plain and question.stack is None and not question.each_row else None


def _changed(question: Question, says: _Says) -> Iterator[list[Part]]:
    """What changes from period to period: against the same periods of the year before, else against the last."""
    if not (question.per and question.per[0].grain) or question.measures[0].ratio is not None:
        return
    per = question.per[0]
    if per.grain in ("weekday", "hour"):
        return
    measure = question.measures[0].model_copy(update={"then": None})
    asked = Question(measures=(measure,), per=(per,))
    name = _named(measure)
    if per.grain in _OF_A_YEAR and says.subject.profile.years(per.column) > 1:
        year = Question(measures=(measure,), per=(Per(column=per.column, by="year"),))
        more = says.figure(asked, pick="year_so_far", shown=_PART)
        yield [
            f"{name} ", more.model_copy(update={"words": _ROSE}), " ", more, " in ",
            says.figure(year, take="name", pick="last"), f", against the same {per.grain}s of the year before",
        ]  # fmt: skip
    pick = "before_last" if _is_cut_short(per, says.subject) else "last"
    change = Question(measures=(measure.model_copy(update={"then": "percent_change"}),), per=(per,))
    more = says.figure(change, pick=pick, shown=_PART)
    when = says.figure(asked, take="name", pick=pick)
    now = says.value(asked, pick=pick)
    on = " on " if per.grain == "day" else " in "
    yield [f"{name} ", more.model_copy(update={"words": _ROSE}), " ", more, " to ", now, on, when]
    peak = Question(measures=(measure,), per=(per,), order=_HIGHEST, keep=1)
    yield [f"{name} was highest{on}", says.figure(peak, take="name"), ": ", says.value(peak)]


def _is_cut_short(per: Per, subject: Subject) -> bool:
    """Tell whether the newest period is not whole: there are days of it, and not its last ones."""
    answer = subject.table.answer(Question(measures=(Measure(stat="count"),), per=(per,), order=Order(by="natural")))
    counts = [count for count in answer.values(answer.of("measure")[0]) if count]
    if len(counts) < 3 or max(counts[:-1]) < 2:
        return False
    before = sorted(counts[:-1])
    return bool(counts[-1] < 0.9 * before[len(before) // 2])


def _leads(question: Question, says: _Says) -> Iterator[list[Part]]:
    """Who is first among groups, and by what part of the whole."""
    measure = _single(question)
    if measure is None or len(question.per) != 1 or question.split is not None or question.per[0].by is not None:
        return
    per, where = question.per[0], question.where
    column = says.subject.profile.column(per.column)
    if column is None or column.kind == "number":
        # The name of a step of a scale is no name.
        return
    highest = Question(measures=(measure,), per=(Per(column=per.column),), order=_HIGHEST, keep=1, where=where)
    lowest = highest.model_copy(update={"order": _LOWEST})
    first, value = says.figure(highest, take="name"), says.value(highest)
    if measure.stat in ("sum", "count"):
        whole = Question(measures=(measure,), where=where)
        part = says.figure(highest, against=whole, compared="share", shown=Shown(places=0))
        if column.kind == "list":
            yield [first, " comes first, with ", value, f" of all {_all(measure)}"]
        else:
            yield [first, " leads with ", value, ", which is ", part, f" of all {_all(measure)}"]
    elif measure.stat in ("mean", "median", "score"):
        last = says.figure(lowest, take="name")
        name = f"the highest {_named(measure, within=True)}"
        yield [first, f" has {name}, ", value, "; ", last, " the lowest, ", says.value(lowest)]
    yield [first, f" comes first of “{in_words(per.column)}”, with ", value]


def _all(measure: Measure) -> str:
    if measure.stat == "count":
        return "rows"
    name = measure.column or ""
    # A name that people wrote stays as they wrote it: in some languages it has its capital everywhere.
    return said_in_words(f"all {name}", names_in(Question(measures=(measure,)))).removeprefix("all ")


def _share(question: Question, says: _Says) -> Iterator[list[Part]]:
    """Which part of those who answered gave an answer."""
    measure = _single(question)
    if measure is None or measure.stat != "share" or not measure.values or question.per or question.split:
        return
    answered = Filter(column=measure.column or "", test="not_empty")
    of = says.figure(Question(measures=(Measure(stat="count"),), where=(*question.where, answered)))
    name = in_words(measure.column or "")
    part = says.figure(question, shown=Shown(places=0))
    if measure.values == ("Yes",):
        yield [part, " of ", of, f" said yes: {name}" if name.endswith("?") else f" said yes to “{name}”"]
    else:
        yield [part, " of ", of, f" are “{', '.join(measure.values)}” ({name})"]


def _spread(question: Question, says: _Says) -> Iterator[list[Part]]:
    """Where the middle half of the values lies."""
    per = question.per[0] if question.per else None
    if per is None or per.by is None or isinstance(per.by, str):
        return
    name = in_words(per.column)
    quarter, half, three = (
        says.value(Question(measures=(Measure(stat="percentile", column=per.column, p=p),))) for p in (25, 50, 75)
    )
    yield [f"{name}: half of all lie between ", quarter, " and ", three, ", the middle is ", half]


def _together(question: Question, says: _Says) -> Iterator[list[Part]]:
    """How much one amount is where another is high, and where it is low."""
    if len(question.measures) != 2 or not question.each_row:
        return
    across, up = (measure.column or "" for measure in question.measures)
    border = _border(says.subject, across)
    if border is None:
        return

    def mean(test: str) -> LiveFigure:
        rule = Filter.model_validate({"column": across, "test": test, "values": [border]})
        return says.value(Question(measures=(Measure(stat="mean", column=up),), where=(rule,)))

    column = says.subject.profile.column(across)
    unit = (column.unit if column is not None else "") or ""
    written = f"{unit}{border:,.10g}" if unit in AMOUNTS_OF_MONEY else f"{border:,.10g} {unit}".rstrip(" %")
    yield [
        f"{in_words(up)} averages ", mean("at_least"), f" where {lower_first(in_words(across))} is above "
        f"{written}, and ", mean("at_most"), " where it is below",
    ]  # fmt: skip


def _border(subject: Subject, column: str) -> float | None:
    """Return a value near the middle of a column that no row has, as short as it can be."""
    cells = subject.table.frame()[column].drop_nulls()
    different = cells.unique().sort()
    if len(different) < 4:
        return None
    middle = float(cells.median())  # type: ignore[arg-type]
    at = min(max(1, int(different.search_sorted(middle))), len(different) - 1)
    low, high = float(different[at - 1]), float(different[at])
    for digits in range(1, 12):
        short = float(f"{(low + high) / 2:.{digits}g}")
        if low < short < high:
            return short
    return None


def _said_most(question: Question, says: _Says) -> Iterator[list[Part]]:
    """Which word people use most."""
    if not question.per or question.per[0].by != "word" or question.split:
        return
    measure = Measure(stat="count")
    most = Question(measures=(measure,), per=question.per[:1], order=_HIGHEST, keep=1, where=question.where)
    yield ["“", says.figure(most, take="name"), "” is said most often: ", says.figure(most), " times"]


_SENTENCES: tuple[Callable[[Question, _Says], Iterator[list[Part]]], ...] = (
    _changed, _share, _spread, _together, _said_most, _leads,
)  # fmt: skip
