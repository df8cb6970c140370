"""Questions: what a tile asks of a table, the sentence it reads as, and the answer it gets."""

from ypsil.core.questions.answer import answer, check
from ypsil.core.questions.model import (
    Answer,
    AnswerColumn,
    Measure,
    Order,
    Per,
    Question,
    answer_of_rows,
    parse_question,
)
from ypsil.core.questions.sentence import sentence
from ypsil.core.tables.conditions import Filter

__all__ = [
    "Answer",
    "AnswerColumn",
    "Filter",
    "Measure",
    "Order",
    "Per",
    "Question",
    "answer",
    "answer_of_rows",
    "check",
    "parse_question",
    "sentence",
]
