"""Which columns of a table are questions of a survey, and of what kind (common practice, no source)."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import groupby
from typing import Literal

import polars as pl

from ypsil.core.tables.model import Column
from ypsil.core.tables.name_parts import own_parts, shared_name, shared_part
from ypsil.core.tables.natural_order import is_beside, scale_family, scale_places

ItemKind = Literal[
    "one answer", "several answers", "ticked columns", "rating", "recommendation", "ranking", "matrix", "number",
    "written",
]  # fmt: skip
# Kinds of column that are one kind of question.
_PLAIN: dict[str, tuple[ItemKind, tuple[str, ...]]] = {
    "list": ("several answers", ()),
    "text": ("written", ()),
    "yesno": ("one answer", ("Yes", "No")),
}
_YES_NO, _ONE_ZERO = ("Yes", "No"), ("1", "0")
_MOST_ANSWERS = 30
_FEWEST_TICKED = 3
_FEWEST_RANKED = 3
_FEWEST_ROWS = 5
# Labels of which more than this part are different name things; answers repeat.
_MOST_DIFFERENT = 0.6
# Highest values of rating scales in numbers, with their lowest.
_SCALES = ((1, 5), (1, 7), (0, 10), (1, 10))
_TEN = (0, 10)
_RECOMMEND = re.compile(r"(?i)recommend|empfehl|how likely")


@dataclass(frozen=True, slots=True)
class SurveyItem:
    """A question of a survey: its kind, the columns it stands in, and what these have in common as its name.

    ``answers`` are the answers in their order, lowest first, without those beside the scale (``beside``). Of ticked
    columns they are the tick and its lack, nothing where a lack is an empty cell. ``short`` are the columns' names
    without what they share.
    """

    kind: ItemKind
    name: str
    columns: tuple[str, ...]
    answers: tuple[str, ...] = ()
    beside: tuple[str, ...] = ()
    short: tuple[str, ...] = ()

    @property
    def said(self) -> str:
        """What the question is, in words."""
        ends = f" from {self.answers[0]} to {self.answers[-1]}" if len(self.answers) > 1 else ""
        return {
            "one answer": "one answer each",
            "several answers": "several answers each",
            "ticked columns": f"several answers, in {len(self.columns)} columns",
            "rating": f"a rating{ends}",
            "recommendation": "a rating from 0 to 10",
            "ranking": f"a ranking of {len(self.columns)}",
            "matrix": f"{len(self.columns)} ratings on one scale{ends}",
            "number": "numbers",
            "written": "written answers",
        }[self.kind]


def survey_items(frame: pl.DataFrame, columns: Sequence[Column]) -> tuple[SurveyItem, ...]:
    """Return the questions that a table's columns hold, in their order; columns of one kind together are one question.

    Dates, identifiers, names that hardly repeat, and columns with one value or none are no questions.
    """
    found: list[SurveyItem] = []
    rankings = _rankings(frame, columns)
    ranked = {name for item in rankings for name in item.columns}
    singles = [item for column in columns if column.name not in ranked and (item := _single(frame, column))]
    for alike, items in groupby(singles, key=_alike):
        together = list(items)
        joined = _joined(together) if alike is not None else None
        found += [joined] if joined else [one for item in together if (one := _alone(item))]
    found += rankings
    places = {column.name: place for place, column in enumerate(columns)}
    return tuple(sorted(found, key=lambda item: places[item.columns[0]]))


def _single(frame: pl.DataFrame, column: Column) -> SurveyItem | None:
    if column.distinct == 1 and column.missing and column.kind in ("category", "number", "yesno"):
        return SurveyItem("ticked columns", column.name, (column.name,))
    if column.kind == "number":
        return _of_numbers(frame[column.name], column)
    if column.kind in _PLAIN:
        kind, answers = _PLAIN[column.kind]
        return SurveyItem(kind, column.name, (column.name,), answers)
    if column.kind not in ("category", "place") or not 1 < column.distinct <= _MOST_ANSWERS:
        return None
    return _of_labels(frame[column.name], column)


def _of_labels(cells: pl.Series, column: Column) -> SurveyItem | None:
    names = (column.name,)
    labels = cells.drop_nulls().unique().to_list()
    beside = tuple(sorted(label for label in labels if is_beside(label)))
    places = scale_places(labels, column.order)
    if places and (column.order or scale_family(labels) is not None):
        return SurveyItem("rating", column.name, names, tuple(places), beside)
    if column.distinct > _MOST_DIFFERENT * cells.count():
        return None
    return SurveyItem("one answer", column.name, names, tuple(places or ()), beside)


def _of_numbers(cells: pl.Series, column: Column) -> SurveyItem | None:
    present = cells.drop_nulls()
    if not len(present) or column.unit is not None:
        return None
    low, high = float(present.min()), float(present.max())  # type: ignore[arg-type]
    if (low, high, column.distinct) == (0, 1, 2):
        return SurveyItem("ticked columns", column.name, (column.name,), _ONE_ZERO)
    is_whole = not present.dtype.is_float() or bool((present == present.round()).all())
    scale = next(((a, b) for a, b in _SCALES if a <= low and high <= b), None) if is_whole else None
    # Up to 7 from 0 may be days of a week or places: nothing shows a scale of ten.
    is_ten = scale is not None and scale[1] == _TEN[1] and high > _SCALES[1][1]
    if scale is None or (scale[1] == _TEN[1] and not is_ten) or column.distinct < 2 or len(present) < _FEWEST_ROWS:
        return SurveyItem("number", column.name, (column.name,))
    if _RECOMMEND.search(column.name) and is_ten:
        return SurveyItem("recommendation", column.name, (column.name,), tuple(str(place) for place in range(11)))
    return SurveyItem("rating", column.name, (column.name,), tuple(str(one) for one in range(scale[0], scale[1] + 1)))


def _alike(item: SurveyItem) -> object:
    """Return what neighbours must share to be one question; None for what stands alone."""
    if item.kind == "rating":
        family = scale_family(item.answers)
        return ("rating", item.answers if family is None else family)
    if item.kind == "ticked columns" or (item.kind == "one answer" and item.answers == _YES_NO):
        return ("ticked", shared_part(item.name), item.answers)
    return None


def _alone(item: SurveyItem) -> SurveyItem | None:
    """Return what a column is that stands alone: one value and gaps are no question, ones and zeros are numbers."""
    if item.kind != "ticked columns":
        return item
    return replace(item, kind="number", answers=()) if item.answers else None


def _joined(items: list[SurveyItem]) -> SurveyItem | None:
    """Return neighbouring questions as one: ratings on one scale as a matrix, ticked columns as several answers."""
    columns = tuple(item.columns[0] for item in items)
    if items[0].kind == "rating" and len(items) > 1:
        answers = max((item.answers for item in items), key=len)
        known = {answer for item in items for answer in item.answers}
        places = scale_places(sorted(known)) if not known <= set(answers) else None
        beside = tuple(sorted({label for item in items for label in item.beside}))
        return SurveyItem("matrix", shared_name(columns), columns, tuple(places or answers), beside, own_parts(columns))
    is_ticked = items[0].kind == "ticked columns" or items[0].answers == _YES_NO
    if is_ticked and len(items) >= _FEWEST_TICKED and shared_part(columns[0]):
        name, answers = shared_name(columns), items[0].answers
        return SurveyItem("ticked columns", name, columns, answers, short=own_parts(columns))
    return None


def _rankings(frame: pl.DataFrame, columns: Sequence[Column]) -> list[SurveyItem]:
    """Return the runs of neighbouring number columns whose rows are places from 1 on, each given once."""
    found = []
    for _, run in groupby(columns, key=lambda column: column.kind):
        names = [column.name for column in run if column.kind == "number"]
        if len(names) >= _FEWEST_RANKED and _are_places(frame.select(names)):
            found.append(SurveyItem("ranking", shared_name(names), tuple(names), short=own_parts(names)))
    return found


def _are_places(cells: pl.DataFrame) -> bool:
    whole = cells.drop_nulls()
    if whole.height < _FEWEST_ROWS:
        return False
    wanted = list(range(1, cells.width + 1))
    ordered = whole.select(pl.concat_list(pl.all().cast(pl.Float64)).list.sort().alias("places"))
    return bool((ordered["places"] == pl.Series([[float(one) for one in wanted]])).all())
