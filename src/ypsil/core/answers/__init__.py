"""Answers: how a question about a frame is worked out, with polars today."""

from typing import TYPE_CHECKING, Any

from ypsil.core.answers.model import Answer, AnswerColumn, answer_of_rows

if TYPE_CHECKING:
    from ypsil.core.answers.answering import answer, check

__all__ = ["Answer", "AnswerColumn", "answer", "answer_of_rows", "check"]


def __getattr__(name: str) -> Any:
    # Whoever has an answer already, such as words that were counted, needs nothing of what works one out.
    if name not in ("answer", "check"):
        raise AttributeError(name)
    from ypsil.core.answers import answering

    return getattr(answering, name)
