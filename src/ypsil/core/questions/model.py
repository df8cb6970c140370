"""A question as data, which several engines could answer."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator
from typing import Any, Literal, cast, get_args

from pydantic import BaseModel, ConfigDict, Field, ValidationError, model_validator

from ypsil.core.errors import QuestionRefused
from ypsil.core.figures import Grain
from ypsil.core.tables.classes import MOST_CLASSES
from ypsil.core.tables.conditions import Filter
from ypsil.core.text.settings import WordSettings

Stat = Literal[
    "count", "distinct", "sum", "mean", "median", "min", "max", "first", "last", "std", "percentile", "share", "score",
    "recommendation",
]  # fmt: skip
STATS: tuple[Stat, ...] = get_args(Stat)
Then = Literal[
    "running_total", "change", "percent_change", "change_year", "percent_change_year", "moving_average", "index",
]  # fmt: skip
# Where rows have weights, these are not worked out.
UNWEIGHTED_STATS = frozenset({"median", "percentile", "std"})
NUMBER_STATS = frozenset({"sum", "mean", "median", "std", "percentile"})


class _Model(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class Measure(_Model):
    """A calculated amount: one statistic of a column, or the ratio of two.

    ``share`` with ``values`` is the share of rows, among those with a value in ``column``, that hold one
    of ``values``. Without ``values`` it is each group's part of the total: of a number column's sum, or
    of the count; ``within`` respondents it is the part of the people who gave any answer, so that several answers of
    one person add up to more than 100%.

    ``score`` is the mean place on a rating scale, from 1 for its lowest word (of numbers: their mean);
    ``recommendation`` is the share of 9 and 10 less the share of 0 to 6 on a scale from 0 to 10, in points (common
    practice, no source).
    """

    stat: Stat | None = None
    column: str | None = None
    values: tuple[str, ...] = ()
    p: float | None = Field(None, ge=0, le=100)
    ratio: tuple[Measure, Measure] | None = None
    name: str | None = None
    within: Literal["all", "split", "per", "respondents"] = Field(
        "all",
        description="what a share without values is a part of: everything, its split value, its group, or the people "
        "who answered",
    )
    of: Literal["answered", "asked"] = Field(
        "answered", description="what a share of values is taken of: those with a value, or all rows"
    )
    then: Then | None = None
    window: int | None = Field(None, ge=2, le=1000, description="periods of a moving average, 3 unless said")

    @model_validator(mode="after")
    def _whole(self) -> Measure:
        if (self.stat is None) == (self.ratio is None):
            raise ValueError("a measure has either “stat” or “ratio”")
        if self.stat not in (None, "count", "share") and self.column is None:
            raise ValueError(f"“{self.stat}” needs a “column”")
        if self.stat == "percentile" and self.p is None:
            raise ValueError("“percentile” needs “p”, from 0 to 100")
        if self.values and self.stat != "share":
            raise ValueError("only “share” takes “values”")
        if self.values and self.column is None:
            raise ValueError("“share” of “values” needs a “column”")
        if self.window is not None and self.then != "moving_average":
            raise ValueError("only “moving_average” takes a “window”")
        if self.within != "all" and (self.stat != "share" or self.values):
            raise ValueError("only a “share” without “values” is taken “within” something")
        if self.of != "answered" and not self.values:
            raise ValueError("only a “share” of “values” is taken “of” all that were asked")
        return self

    @property
    def is_part(self) -> bool:
        """Tell whether this is each group's part of a total."""
        return self.stat == "share" and not self.values and not self.is_of_respondents

    @property
    def is_of_respondents(self) -> bool:
        """Tell whether this is the part of the people who gave any answer."""
        return self.within == "respondents"

    @property
    def rests_on_values(self) -> bool:
        """Tell whether this says something about the rows that have a value, so that their number belongs to it."""
        return self.stat in ("mean", "score", "recommendation") or (self.stat == "share" and bool(self.values))

    def parts(self) -> Iterator[Measure]:
        """Yield the plain measures this one is made of."""
        if self.ratio is None:
            yield self
        else:
            for part in self.ratio:
                yield from part.parts()


class Bins(_Model):
    """So many classes of one width, from the lowest value to the highest."""

    bins: int = Field(ge=1, le=MOST_CLASSES)


class Width(_Model):
    """Classes between the multiples of a width."""

    width: float = Field(gt=0)


class Per(_Model):
    """What the answer has a row for: a column's values, its periods, its classes, the words in it, or each row.

    ``by: row`` gives one row of the answer for each row of the table, named by the column.
    """

    column: str
    by: Grain | Literal["word", "row"] | Bins | Width | None = None
    words: WordSettings | None = Field(None, description="how text becomes words, with by: word")
    gaps: Literal["zero", "open"] | None = Field(
        None, description="periods without rows: counted as zero, shown as missing, or (unless said) left out"
    )
    missing: Literal["shown"] | None = Field(
        None, description="rows without a value: a group of their own, or (unless said) left out and counted"
    )

    @property
    def grain(self) -> Grain | None:
        """The period it groups by, if it does."""
        return cast("Grain", self.by) if isinstance(self.by, str) and self.by not in ("word", "row") else None


class Order(_Model):
    """The order of groups; ``keyness`` puts the words first that mark each split value against all others."""

    by: Literal["value", "name", "natural", "given", "keyness"]
    descending: bool = False
    values: tuple[str, ...] = ()


class Stack(_Model):
    """Columns asked with the same answers, one below the other: each row of the table gives a row for each of them.

    ``name`` and ``value`` are the columns that the question then has: which column it was (without what all of their
    names begin with), and what stood there.
    """

    columns: tuple[str, ...] = Field(min_length=2, max_length=100)
    name: str = Field("Statement", min_length=1, max_length=100)
    value: str = Field("Answer", min_length=1, max_length=100)

    @model_validator(mode="after")
    def _apart(self) -> Stack:
        if self.name == self.value:
            raise ValueError("“name” and “value” are two columns")
        if len(set(self.columns)) < len(self.columns):
            raise ValueError("each of the “columns” is stacked once")
        return self


class Question(_Model):
    """Measures, per what, split by what, where, in which order, how many; of which columns below each other, with
    which weights, and down to which base."""

    measures: tuple[Measure, ...] = Field(min_length=1)
    per: tuple[Per, ...] = ()
    split: Per | None = None
    where: tuple[Filter, ...] = ()
    chosen: tuple[Filter, ...] = Field(
        (), description="what a reader chose on top of that; groups that such choices would give away are hidden, too"
    )
    order: Order | None = None
    keep: int | None = Field(None, ge=1)
    rest: str | None = Field(None, min_length=1)
    stack: Stack | None = None
    weight: str | None = Field(None, description="a number column that says how much each row counts")
    least_base: int | None = Field(
        None, ge=2, le=10_000, description="groups of fewer people are hidden, and what would give them away"
    )

    @property
    def each_row(self) -> bool:
        """Tell whether the answer has a row for each row of the table."""
        return any(per.by == "row" for per in self.per)

    @property
    def along(self) -> str | None:
        """The column that changes, averages and running totals go along; None where there are none."""
        if not self.per or self.per[0].by in ("word", "row") or not any(measure.then for measure in self.measures):
            return None
        return self.per[0].column

    @property
    def rules(self) -> tuple[Filter, ...]:
        """All filters, whoever set them."""
        return (*self.where, *self.chosen)

    @property
    def row_rules(self) -> tuple[Filter, ...]:
        """The filters that choose rows, before anything is worked out."""
        return tuple(rule for rule in self.rules if not self.cuts(rule))

    @property
    def shown_rules(self) -> tuple[Filter, ...]:
        """The filters that choose which periods are shown, once all of them are compared with each other."""
        return tuple(rule for rule in self.rules if self.cuts(rule))

    def cuts(self, rule: Filter) -> bool:
        """Tell whether a filter is about the periods that something goes along, so that it cuts what is shown and not
        what is compared with. Weekdays and hours come round again: a filter of days chooses rows there."""
        return rule.column == self.along and self.per[0].by not in ("weekday", "hour")

    @property
    def words(self) -> WordSettings | None:
        """How words are counted, for a question per word; None for any other."""
        per = next((per for per in self.per if per.by == "word"), None)
        return None if per is None else per.words or WordSettings()

    def columns(self) -> list[str]:
        """Return the names of the table's columns that the question needs, each once."""
        measured = [part.column for measure in self.measures for part in measure.parts()]
        grouped = [per.column for per in (*self.per, *([self.split] if self.split else []))]
        names = [*measured, *grouped, *(rule.column for rule in self.rules), self.weight]
        if self.stack:
            made = (self.stack.name, self.stack.value)
            names = [*self.stack.columns, *(name for name in names if name not in made)]
        return list(dict.fromkeys(name for name in names if name is not None))

    def digest(self) -> str:
        """Return a key that is the same for the same question."""
        return hashlib.sha256(self.model_dump_json(exclude_defaults=True).encode()).hexdigest()


def parse_question(data: Any) -> Question:
    """Turn JSON data into a Question; raises QuestionRefused naming the place that does not fit.

    >>> parse_question({"measures": [{"stat": "sum"}]})
    Traceback (most recent call last):
    ypsil.core.errors.QuestionRefused: “sum” needs a “column”, measures 1; see the question's description
    """
    try:
        return Question.model_validate(data)
    except ValidationError as problem:
        first = problem.errors()[0]
        place = " ".join(str(part + 1) if isinstance(part, int) else str(part) for part in first["loc"])
        message = str(first["msg"]).removeprefix("Value error, ")
        if first["type"] == "extra_forbidden":
            message = "there is no such setting"
        raise QuestionRefused(
            message[0].lower() + message[1:], where=place, remedy="see the question's description"
        ) from None
