"""What of some tables is worth a place on a page, the most important first, each with the reason for it.

At most nine visuals, and nothing that another one says already. Which of a table's columns come first follows from what
they hold, never from where they stand (``worth``).
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from itertools import combinations
from typing import Literal

import polars as pl

from ypsil.core.draft.sentences import sentence_for
from ypsil.core.draft.subjects import Subject
from ypsil.core.draft.worth import by_worth
from ypsil.core.prose.model import Prose
from ypsil.core.questions import Measure
from ypsil.core.report.amounts import amounts
from ypsil.core.report.suggest import Suggestion, suggest
from ypsil.core.report.titles import names_in, short_name
from ypsil.core.tables.shown_names import in_words, said_in_words
from ypsil.core.tiles import VisualTile
from ypsil.core.visuals import VISUALS
from ypsil.core.visuals.base import Purpose

MOST_VISUALS = 9
MOST_FIGURES = 4
Part = Literal["figures", "trend", "leads", "share", "together", "spread", "answers", "said", "rows"]
# How much the answers of each person count is no answer.
_SAYS_WEIGHT = re.compile(r"\b(weights?|weighting|gewicht)\b", re.IGNORECASE)
_RELATED, _FEWEST_PAIRS, _MOST_PAIRS = 0.3, 10, 200_000
_MOST_INSTEAD = 4
_MOST_TRIED = 4
_FEWEST_SPREAD = 8
_PERIODS = ("year", "quarter", "month", "week", "day", "weekday", "hour")


@dataclass(frozen=True, slots=True)
class Piece:
    """A visual of a draft: what it is there for, its finding as a sentence with live figures where there is one, and
    why it was chosen."""

    part: Part
    subject: Subject
    tile: VisualTile
    says: Prose | None
    why: str


@dataclass(slots=True)
class Chooser:
    """One table on its way to a page; ``said`` is what visuals of any table say already."""

    subject: Subject
    said: set[object]
    is_grid: bool
    measures: list[Measure]
    _suggested: dict[tuple[Purpose, bool], list[Suggestion]] = field(default_factory=dict)

    @classmethod
    def of(cls, subject: Subject, said: set[object]) -> Chooser:
        """Return a table with the columns that a draft can show, the most worth showing first."""
        kept = [column for column in subject.profile.columns if not subject.why_not(column)]
        if subject.is_asked:
            kept = [column for column in kept if column.kind != "number" or not says_weight(column.name)]
        ranked = replace(subject, profile=by_worth(subject.profile, kept, subject.table.name))
        measures = [one.measure for one in amounts(ranked.profile) if one.measure is not None]
        return cls(ranked, said, _is_grid(ranked), measures)

    @property
    def counts(self) -> bool:
        """Whether rows are counted first: they are events or things, and nothing of them is added up."""
        return not self.is_grid and all(measure.stat != "sum" for measure in self.measures)

    def one(
        self, part: Part, purpose: Purpose, visuals: Sequence[str], why: str, *, counted: bool = False
    ) -> Iterator[Piece]:
        """Yield the best visual for a part, as ``best`` does; ``why`` is written with what the visual is about."""
        chosen = self.best(purpose, visuals, counted=counted)
        if chosen is not None:
            says = sentence_for(chosen.tile.question, self.subject)
            yield Piece(part, self.subject, chosen.tile, says, self._why(why, chosen))

    def best(self, purpose: Purpose, visuals: Sequence[str] = (), *, counted: bool = False) -> Suggestion | None:
        """Return the best visual for a purpose, of a question that nothing answers yet, which then is answered; None
        where there is none. Where rows are ``counted`` first, amounts of them come after their number."""
        found = [*(self._suggestions(purpose, True) if counted and self.counts else ()), *self._suggestions(purpose)]
        fresh = [one for one in found if not self.said & _says(one.tile)]
        meant = [one for name in visuals for one in fresh if one.tile.visual == name] if visuals else fresh
        chosen = next(iter(meant), None)
        if chosen is not None:
            self.said |= _says(chosen.tile)
        return chosen

    def _why(self, why: str, chosen: Suggestion) -> str:
        question = chosen.tile.question
        measure = question.measures[0]
        named = said_in_words(short_name(measure), names_in(question)) if measure.column else "the number of rows"
        return why.format(
            measure=named,
            measures=" and ".join(in_words(one.column) for one in question.measures if one.column),
            by=f" by {in_words(question.per[0].column)}" if question.per else "",
            per=in_words(question.per[0].column) if question.per else "",
            grain=question.per[0].grain if question.per and question.per[0].grain else "",
            groups=chosen.answer.height,
            reason=chosen.reason[:1].lower() + chosen.reason[1:],
        )

    def _suggestions(self, purpose: Purpose, without_amounts: bool = False) -> list[Suggestion]:
        key = (purpose, without_amounts)
        if key not in self._suggested:
            profile = self.subject.profile
            if without_amounts:
                profile = replace(profile, columns=tuple(one for one in profile.columns if one.kind != "number"))
            found = suggest(purpose, self.subject.key, self.subject.table, profile)
            self._suggested[key] = [one for one in found if one.fits and self._tells(one)]
        return self._suggested[key]

    def _tells(self, one: Suggestion) -> bool:
        """Tell whether an answer tells anything: not where all groups are alike, nor where the part of a group among
        others is as large as it has to be."""
        question = one.tile.question
        measure = question.measures[0]
        is_of_rows = measure.stat == "count" or (measure.stat == "share" and measure.column is None)
        if is_of_rows and self.is_grid and question.per and question.per[0].by in (None, *_PERIODS):
            return False
        column = self.subject.profile.column(measure.column)
        if measure.values and not question.per and column is not None and column.kind != "yesno" and not question.stack:
            return False
        if question.per and question.per[0].by is None and not question.split and one.answer.height > 1:
            values = one.answer.values(one.answer.of("measure")[0])
            return len(set(values)) > 1
        return True


def chosen(subjects: Sequence[Subject]) -> list[Piece]:
    """Return the visuals of a draft, the most important first; those of the first table come first."""
    said: set[object] = set()
    found: list[Piece] = []
    for subject in subjects:
        room = MOST_VISUALS - len(found)
        if room > 0:
            found += list(_of_one(Chooser.of(subject, said), room))[:room]
    return found


def instead_of(
    tile: VisualTile, shown: Sequence[VisualTile], subject: Subject
) -> list[tuple[Suggestion, Prose | None]]:
    """Return what could stand in the place of a visual with its finding, the best first: for the same purpose, and
    nothing that another of the visuals that are shown says already."""
    choose = Chooser.of(subject, {said for one in (tile, *shown) for said in _says(one)})
    purpose = VISUALS[tile.visual].purposes[0]
    found = [choose.best(purpose, counted=True) for _ in range(_MOST_INSTEAD)]
    return [(one, sentence_for(one.tile.question, choose.subject)) for one in found if one is not None]


def _of_one(choose: Chooser, room: int) -> Iterator[Piece]:
    """Yield what one table has to say, the most important first."""
    subject = choose.subject
    asked = subject.is_asked
    for _ in range(min(MOST_FIGURES, len(choose.measures), max(1, room - 3))):
        yield from choose.one("figures", "how much", ("kpi",), "A headline figure: {measure}, {reason}.")
    if asked:
        for _ in range(3):
            yield from choose.one("answers", "what people answered", (), "What people were asked: {reason}")
    yield from choose.one(
        "trend", "how it changes", ("line", "area", "column"), "There are dates: {measure} from {grain} to {grain}.",
        counted=True,
    )  # fmt: skip
    yield from choose.one(
        "leads", "who is biggest", ("bar", "ranked_list", "lollipop"),
        "{per} parts the rows into {groups}: who is first?", counted=True,
    )  # fmt: skip
    yield from choose.one(
        "share", "share of a whole", ("ring", "donut", "percent_grid", "share_bar", "stacked_bar"),
        "Parts of one whole: {measure}{by}.",
    )  # fmt: skip
    yield from choose.one("said", "what people say", ("cloud", "counted_words"), "People wrote it in their own words.")
    together = _relation(choose)
    if together is not None:
        said = f"{{measures}} go together (rank correlation {together:.2f}, Spearman)."
        yield from choose.one("together", "what goes together", ("scatter", "binned_scatter"), said)
    if subject.profile.rows >= _FEWEST_SPREAD:
        yield from choose.one("spread", "how it spreads", ("histogram", "box"), "How the values of {per} are spread.")
    yield from choose.one("rows", "who is biggest", ("table",), "For looking single values up.")


def _says(tile: VisualTile) -> set[object]:
    """Return what tells that two visuals say the same: the same amounts of the same groups, however they are drawn."""
    question = tile.question
    groups = tuple(
        sorted(f"{per.column}:{per.by}" for per in (*question.per, *([question.split] if question.split else [])))
    )
    # A part of all rows is their number, said otherwise.
    stats = ["count" if one.stat == "share" and one.column is None else one.stat for one in question.measures]
    measured = tuple(
        f"{stat}:{one.column}:{one.then}:{one.values}" for stat, one in zip(stats, question.measures, strict=True)
    )
    stacked = question.stack.columns if question.stack else ()
    if tile.visual == "kpi":
        return {(tile.table, "figure", measured)}
    return {(tile.table, measured, groups, stacked)}


def says_weight(name: str) -> bool:
    """Tell whether a name says that a number weighs answers, and is none itself.

    >>> says_weight("Weight"), says_weight("Birthweight")
    (True, False)
    """
    return bool(_SAYS_WEIGHT.search(name))


def _is_grid(subject: Subject) -> bool:
    """Tell whether a table has a row for each time and each group, or each two: how many rows a group has then says
    nothing."""
    dates, rows = subject.profile.of("date")[:1], subject.profile.rows
    groups = [one.name for one in subject.profile.of("category", "place") if 1 < one.distinct < rows][:_MOST_TRIED]
    frame = subject.table.frame()
    return any(
        frame.select(pl.struct(date.name, *some).n_unique()).item() == rows
        for date in dates
        for some in (*combinations(groups, 1), *combinations(groups, 2))
    )


def _relation(choose: Chooser) -> float | None:
    """Return Spearman's rank correlation of the two chief amounts of a table; None where they hardly go together."""
    profile = choose.subject.profile
    pair = [measure.column for measure in choose.measures[:2] if measure.column]
    if len(pair) < 2 or not _FEWEST_PAIRS <= profile.rows <= _MOST_PAIRS:
        return None
    both = choose.subject.table.frame().select(pair).drop_nulls()
    found = both.select(pl.corr(*pair, method="spearman")).item() if both.height >= _FEWEST_PAIRS else None
    return found if found is not None and abs(found) >= _RELATED else None
