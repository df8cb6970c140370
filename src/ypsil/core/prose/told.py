"""Live figures in words: what each of them is."""

from __future__ import annotations

from ypsil.core.figures.capitals import lower_first
from ypsil.core.prose.model import LiveFigure
from ypsil.core.questions.model import Question
from ypsil.core.questions.sentence import sentence
from ypsil.core.questions.wording import spoken

_COMPARED = {
    "difference": "less",
    "percent": "as a change in per cent from",
    "times": "divided by",
    "share": "as a share of",
}


def told(figure: LiveFigure) -> str:
    """Return a live figure as a sentence, as it is shown before it is taken.

    >>> from ypsil.core.questions.model import Measure, Order, Per
    >>> loans = Measure(stat="sum", column="Loans")
    >>> told(LiveFigure(table="t", question=Question(measures=(loans,))))
    'Total Loans'
    >>> highest = Order(by="value", descending=True)
    >>> best = Question(measures=(loans,), per=(Per(column="Branch"),), order=highest, keep=1)
    >>> told(LiveFigure(table="t", question=best, take="name"))
    'The Branch with the highest total Loans'
    """
    asked = figure.question
    if figure.take == "read":
        return "The day on which the table was read"
    if figure.against is not None:
        return f"{sentence(asked)}, {_COMPARED[figure.compared]} {lower_first(sentence(figure.against))}"
    if asked.keep == 1 and asked.order is not None and asked.order.by == "value":
        return _of_the_first(figure, "highest" if asked.order.descending else "lowest")
    if figure.pick == "year_so_far":
        same = f"the same {_group(asked)}s of the year before"
        alone = sentence(asked.model_copy(update={"per": ()}))
        return f"{alone}, of the newest year so far, as a change in per cent from {same}"
    said = sentence(asked)
    if not asked.per:
        return said
    named = f"The name of the {_group(asked)}: {lower_first(said)}" if figure.take == "name" else said
    return f"{named}: {_WHICH[figure.pick].format(_group(asked))}"


_WHICH = {"first": "of the first {}", "last": "of the newest {}", "before_last": "of the {} before the newest"}


def _of_the_first(figure: LiveFigure, end: str) -> str:
    asked = figure.question
    alone = asked.model_copy(update={"per": (), "order": None, "keep": None})
    said = lower_first(sentence(alone))
    if figure.take == "name":
        return f"The {_group(asked)} with the {end} {said}"
    return f"The {end} {said} of any {_group(asked)}"


def _group(question: Question) -> str:
    per = question.per[0]
    return per.grain or spoken(per.column)
