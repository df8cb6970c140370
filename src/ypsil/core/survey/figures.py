"""The figures that each kind of survey question calls for, ready to be asked and drawn.

What is right for which kind is common practice, no source; that shares rest on those who answered, and that the
answers of several-answer questions are taken of people, is how survey reports are read.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import Any

from ypsil.core.questions.model import Measure, Order, Per, Question, Stack
from ypsil.core.survey.recognise import SurveyItem
from ypsil.core.tables.conditions import Filter
from ypsil.core.tables.name_parts import with_part

_TOP = 2
_COUNT = Measure(stat="count")
_OF_PEOPLE = Measure(stat="share", within="respondents", name="Share of respondents")


@dataclass(frozen=True, slots=True)
class SurveyFigure:
    """One figure: the question, the visual that shows it with its options, and why in a few words."""

    question: Question
    visual: str
    reason: str
    options: dict[str, Any] = field(default_factory=dict)
    title: str = ""


def survey_figures(item: SurveyItem, by: str | None = None) -> tuple[SurveyFigure, ...]:
    """Return the figures for a question of a survey, the most telling first; ``by`` is a column of groups."""
    return tuple(_MAKERS[item.kind](item, by))


def _of_scale(item: SurveyItem, column: str) -> tuple[Filter, ...]:
    """Leave out the answers beside the scale: who does not know is neither for nor against."""
    return (Filter(column=column, test="not_in", values=item.beside),) if item.beside else ()


def _ends(item: SurveyItem) -> dict[str, Any]:
    """Return the ends of a rating scale as settings: on a piece of it, small differences look large."""
    numbers = [float(answer) for answer in item.answers if answer.isdigit()]
    return {"lowest": min(numbers, default=1.0), "highest": max(numbers, default=float(len(item.answers)))}


def _one_answer(item: SurveyItem, by: str | None) -> Iterator[SurveyFigure]:
    column = item.columns[0]
    if item.answers == ("Yes", "No"):
        yes = Measure(stat="share", column=column, values=("Yes",))
        label = {"label": with_part(column, "Yes")}
        yield SurveyFigure(Question(measures=(yes,)), "ring", "the share that said yes, of those who answered", label)
        yield SurveyFigure(Question(measures=(yes,)), "icon_row", "so many in ten said yes", label)
        if by:
            question = Question(measures=(yes,), per=(Per(column=by),), least_base=10)
            yield SurveyFigure(question, "percent_bar", f"the share that said yes, by {by}", label)
        return
    parts = Measure(stat="share", within="all")
    question = Question(measures=(parts,), per=(Per(column=column),))
    yield SurveyFigure(question, "bar", "shares of those who answered, the highest first", title=column)
    yield SurveyFigure(
        Question(measures=(_COUNT,), per=(Per(column=column),)), "share_strip", "all answers in one strip",
        {"label": column},
    )  # fmt: skip
    asked = Question(measures=(parts,), per=(Per(column=column, missing="shown"),))
    yield SurveyFigure(asked, "bar", "shares of all that were asked, with those who gave no answer", title=column)
    yield from _across(column, by, ())


def _several(item: SurveyItem, by: str | None) -> Iterator[SurveyFigure]:
    column = item.columns[0]
    highest = Order(by="value", descending=True)
    question = Question(measures=(_OF_PEOPLE,), per=(Per(column=column),), order=highest)
    yield SurveyFigure(question, "bar", "shares of people; several answers add up to more than 100%", title=column)
    yield SurveyFigure(question, "ranked_list", "what most people named, in order", title=column)
    if by:
        split = Question(measures=(_OF_PEOPLE,), per=(Per(column=by),), split=Per(column=column), least_base=10)
        yield SurveyFigure(split, "cross_table", f"shares of people, by {by}", title=f"{column} by {by}")


def _ticked(item: SurveyItem, by: str | None) -> Iterator[SurveyFigure]:
    stack = Stack(columns=item.columns, name="Answer", value="Ticked")
    highest = Order(by="value", descending=True)
    if item.answers:
        yes = Measure(stat="share", column="Ticked", values=item.answers[:1], name="Share of respondents")
        question = Question(measures=(yes,), per=(Per(column="Answer"),), order=highest, stack=stack)
    else:
        # An empty cell is no tick: who ticked anything is a respondent.
        there = (Filter(column="Ticked", test="not_empty"),)
        question = Question(
            measures=(_OF_PEOPLE,), per=(Per(column="Answer"),), order=highest, stack=stack, where=there
        )
    yield SurveyFigure(question, "bar", "shares of people; several answers add up to more than 100%", title=item.name)
    yield SurveyFigure(question, "ranked_list", "what most people ticked, in order", title=item.name)


def _rating(item: SurveyItem, by: str | None) -> Iterator[SurveyFigure]:
    column = item.columns[0]
    where = _of_scale(item, column)
    counted = Question(measures=(_COUNT,), per=(Per(column=column),), where=where)
    yield SurveyFigure(counted, "share_strip", "all steps of the scale in one strip, in order", {"label": column})
    top = Measure(stat="share", column=column, values=item.answers[-_TOP:])
    label = with_part(column, " or ".join(item.answers[-_TOP:]))
    yield SurveyFigure(
        Question(measures=(top,), where=where), "ring", "the share of the two best answers", {"label": label}
    )
    score = Measure(stat="score", column=column)
    out_of = len(item.answers) if not item.answers[-1].isdigit() else int(item.answers[-1])
    if out_of <= 10:
        stars = {"label": with_part(column, "mean"), "out_of": max(3, out_of)}
        yield SurveyFigure(Question(measures=(score,)), "stars", "the mean of the scale, as stars", stars)
    if by:
        split = Question(
            measures=(_COUNT,), per=(Per(column=by),), split=Per(column=column), where=where, least_base=10
        )
        yield SurveyFigure(split, "diverging_bar", f"for and against, by {by}", title=f"{column} by {by}")
    yield from _across(column, by, where)


def _recommendation(item: SurveyItem, by: str | None) -> Iterator[SurveyFigure]:
    column = item.columns[0]
    score = Question(measures=(Measure(stat="recommendation", column=column),))
    label = {"label": "Recommendation score"}
    yield SurveyFigure(score, "kpi", "the share of 9 and 10 less the share of 0 to 6", label)
    if by:
        question = score.model_copy(update={"per": (Per(column=by),), "least_base": 10})
        yield SurveyFigure(question, "bar", f"the score by {by}", title=f"Recommendation score by {by}")
    counted = Question(measures=(_COUNT,), per=(Per(column=column),))
    yield SurveyFigure(counted, "column", "all answers from 0 to 10", title=column)


def _matrix(item: SurveyItem, by: str | None) -> Iterator[SurveyFigure]:
    stack = Stack(columns=item.columns)
    where = _of_scale(item, stack.value)
    steps = Question(
        measures=(_COUNT,), per=(Per(column=stack.name),), split=Per(column=stack.value), where=where, stack=stack
    )
    yield SurveyFigure(steps, "diverging_bar", "all statements on one scale, centred on its middle", title=item.name)
    score = Question(
        measures=(Measure(stat="score", column=stack.value),), per=(Per(column=stack.name),),
        order=Order(by="value", descending=True), stack=stack,
    )  # fmt: skip
    yield SurveyFigure(
        score, "dot_plot", "the mean of each statement on the whole scale, the best first", _ends(item),
        with_part(item.name, "means"),
    )  # fmt: skip
    top = Measure(stat="share", column=stack.value, values=item.answers[-_TOP:])
    best = Question(measures=(top,), per=(Per(column=stack.name),), where=where, stack=stack,
                    order=Order(by="value", descending=True))  # fmt: skip
    yield SurveyFigure(
        best, "bar", "the share of the two best answers to each", title=with_part(item.name, "the best answers")
    )
    yield SurveyFigure(steps, "heat_table", "how often each answer was given to each", title=item.name)


def _ranking(item: SurveyItem, by: str | None) -> Iterator[SurveyFigure]:
    stack = Stack(columns=item.columns, name="Item", value="Place")
    mean = Question(measures=(Measure(stat="mean", column="Place", name="Mean place"),), per=(Per(column="Item"),),
                    order=Order(by="value"), stack=stack)  # fmt: skip
    places = {"lowest": 1.0, "highest": float(len(item.columns))}
    yield SurveyFigure(
        mean, "dot_plot", "the mean place of each, the best first", places, with_part(item.name, "mean places")
    )
    first = Measure(stat="share", column="Place", values=("1",), name="Share that ranked it first")
    highest = Order(by="value", descending=True)
    question = Question(measures=(first,), per=(Per(column="Item"),), order=highest, stack=stack)
    yield SurveyFigure(question, "bar", "how many ranked each first", title=with_part(item.name, "ranked first"))


def _number(item: SurveyItem, by: str | None) -> Iterator[SurveyFigure]:
    column = item.columns[0]
    mean = Question(measures=(Measure(stat="mean", column=column),))
    yield SurveyFigure(mean, "kpi", "the mean of those who answered", {"label": f"Mean {column}"})
    spread = Question(measures=(_COUNT,), per=(Per.model_validate({"column": column, "by": {"bins": 10}}),))
    yield SurveyFigure(spread, "histogram", "how the answers spread", title=column)


def _written(item: SurveyItem, by: str | None) -> Iterator[SurveyFigure]:
    column = item.columns[0]
    words = Question(measures=(_COUNT,), per=(Per(column=column, by="word"),), keep=60)
    yield SurveyFigure(words, "cloud", "the words people use most")


def _across(column: str, by: str | None, where: tuple[Filter, ...]) -> Iterator[SurveyFigure]:
    """Return the cross-table of answers by groups."""
    if by:
        question = Question(
            measures=(_COUNT,), per=(Per(column=by),), split=Per(column=column), where=where, least_base=10
        )
        reason = f"answers by {by}, with the differences that are more than chance"
        yield SurveyFigure(question, "cross_table", reason, title=f"{column} by {by}")


_MAKERS: dict[str, Callable[[SurveyItem, str | None], Iterator[SurveyFigure]]] = {
    "one answer": _one_answer,
    "several answers": _several,
    "ticked columns": _ticked,
    "rating": _rating,
    "recommendation": _recommendation,
    "matrix": _matrix,
    "ranking": _ranking,
    "number": _number,
    "written": _written,
}
