"""Answers: how a question about a frame is worked out, with polars today."""

from ypsil.core.answers.answer import answer, check
from ypsil.core.answers.model import Answer, AnswerColumn, answer_of_rows

__all__ = ["Answer", "AnswerColumn", "answer", "answer_of_rows", "check"]
