"""Questions per word of a text column: the words are the groups, counted in the answers that hold them."""

from __future__ import annotations

import polars as pl

from ypsil.core.errors import QuestionRefused
from ypsil.core.questions.model import Answer, AnswerColumn, Question, answer_of_rows
from ypsil.core.questions.sentence import sentence
from ypsil.core.questions.written import quoted
from ypsil.core.tables.model import Column
from ypsil.core.text import WordSettings, count_terms
from ypsil.core.text.tokens import is_without_spaces

DEFAULT_TERMS = 100


def answer_words(rows: pl.DataFrame, known: dict[str, Column], question: Question) -> Answer:
    """Count the words of one text column; ``keep`` bounds how many (100 unless said).

    The base is the number of responses with anything in them.
    """
    per = question.per[0]
    column = known[per.column]
    counted = question.measures[0].stat == "count" and len(question.measures) == 1
    if len(question.per) > 1 or question.split or not counted:
        raise QuestionRefused(
            "words can only be counted, and for one column at a time",
            remedy="measure the count, per word of one text column, with no split",
        )
    if column.kind not in ("text", "category", "place"):
        raise QuestionRefused(
            f"“{column.name}” holds {column.kind}, not text", remedy="choose a column of written answers"
        )
    settings = per.words or WordSettings()
    found = count_terms(rows[column.name].to_list(), settings)
    order = question.order
    if order is not None and order.by in ("given", "natural"):
        raise QuestionRefused(f"words cannot be put in {order.by} order", remedy="order by value or name")
    shown = list(found.first(question.keep or DEFAULT_TERMS))
    if order is not None and order.by == "name":
        shown.sort(key=lambda term: term.term, reverse=order.descending)
    elif order is not None and not order.descending:
        shown.reverse()
    by_responses = settings.count == "responses"
    rarer = found.size - len(shown)
    notes = [f"{rarer:,} rarer words are not shown"] if rarer else []
    if found.phrases:
        notes.append("kept together: " + quoted([phrase.text for phrase in found.phrases]))
    if is_without_spaces(" ".join(term.term for term in shown)):
        notes.append("where no spaces part the words, each run of letters counts as one")
    return answer_of_rows(
        sentence(question),
        (
            AnswerColumn(f"Word in {column.name}", "category", "per"),
            AnswerColumn("Answers with it" if by_responses else "Times used", "number", "measure"),
        ),
        [(term.term, term.responses if by_responses else term.count) for term in shown],
        found.responses,
        tuple(notes),
    )
