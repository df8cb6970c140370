"""Questions per word of a text column: the words are the groups, counted in the answers that hold them."""

from __future__ import annotations

from dataclasses import dataclass, replace

import polars as pl

from ypsil.core.answers.compared_words import answer_compared
from ypsil.core.answers.model import Answer, AnswerColumn, answer_of_rows
from ypsil.core.errors import QuestionRefused
from ypsil.core.questions.model import Question
from ypsil.core.questions.sentence import sentence
from ypsil.core.questions.words_said import is_share_of_answers, language_name, quoted
from ypsil.core.tables.model import Column
from ypsil.core.text.count import Term, TermCounts, count_terms
from ypsil.core.text.settings import WordSettings
from ypsil.core.text.tokens import is_without_spaces

DEFAULT_TERMS = 100


@dataclass(frozen=True, slots=True)
class CountedWords:
    """The answers that a question is about, and the terms counted in them."""

    texts: list[str | None]
    found: TermCounts


def count_words(rows: pl.DataFrame, question: Question) -> CountedWords:
    """Count the terms of the rows that a question per word is about; raises QuestionRefused as ``count_terms`` does."""
    texts = rows[question.per[0].column].to_list()
    return CountedWords(texts, count_terms(texts, settings_of(question)))


def settings_of(question: Question) -> WordSettings:
    """Return how words are counted; a share of answers counts each answer once."""
    settings = question.words or WordSettings()
    return settings.model_copy(update={"count": "responses"}) if is_share_of_answers(question) else settings


def answer_words(rows: pl.DataFrame, known: dict[str, Column], question: Question) -> Answer:
    """Count the words of one text column; ``keep`` bounds how many (100 unless said).

    The base is the number of responses with anything in them. Raises QuestionRefused.
    """
    per = question.per[0]
    column = known[per.column]
    _check(column, question)
    settings = settings_of(question)
    found = count_words(rows, question).found
    by_responses = settings.count == "responses"
    measured = _measured(question, settings)
    if question.split:
        return answer_compared(found, rows, known, question, measured)
    shown = list(found.first(question.keep or DEFAULT_TERMS))
    order = question.order
    if order is not None and order.by == "name":
        shown.sort(key=lambda term: term.term, reverse=order.descending)
    elif order is not None and not order.descending:
        shown.reverse()
    is_share = is_share_of_answers(question)
    values = [
        term.responses / found.responses if is_share else term.responses if by_responses else term.count
        for term in shown
    ]
    answer = answer_of_rows(
        sentence(question),
        (AnswerColumn(f"Word in {column.name}", "category", "per", is_words=True), measured),
        [(term.term, value) for term, value in zip(shown, values, strict=True)],
        found.responses,
        tuple(_notes(found, settings, shown)),
    )
    if not shown and rows.height:
        return replace(answer, footnotes=(_nothing_left(found, settings, column.name),))
    if not is_share:
        return answer
    return replace(answer, bases=pl.DataFrame({"0": [found.responses] * len(shown)}))


def _measured(question: Question, settings: WordSettings) -> AnswerColumn:
    if is_share_of_answers(question):
        return AnswerColumn("Share of answers with it", "number", "measure", "%")
    name = "Answers with it" if settings.count == "responses" else "Times used"
    return AnswerColumn(name, "number", "measure")


def _check(column: Column, question: Question) -> None:
    counted = question.measures[0].stat == "count" or is_share_of_answers(question)
    if len(question.per) > 1 or len(question.measures) > 1 or not counted:
        raise QuestionRefused(
            "words can only be counted, and for one column at a time",
            remedy="measure the count, or the share of answers, per word of one text column",
        )
    if column.kind not in ("text", "category", "place"):
        raise QuestionRefused(
            f"“{column.name}” holds {column.kind}, not text", remedy="choose a column of written answers"
        )
    by = question.order.by if question.order else "value"
    if by in ("given", "natural"):
        raise QuestionRefused(f"words cannot be put in {by} order", remedy="order by value or name")
    if by == "keyness" and is_share_of_answers(question):
        raise QuestionRefused("words that mark a group are counted", remedy="measure the count")
    if by == "keyness" and not question.split:
        raise QuestionRefused("words mark a group only where they are split by one", remedy="split them by a column")


def _nothing_left(found: TermCounts, settings: WordSettings, name: str) -> str:
    """Say why no word is shown, and what would show some."""
    if not found.tokens:
        return f"Nothing is written in “{name}” here."
    reasons = [
        ("small words such as “the”", not settings.keep_stop_words),
        ("numbers", not settings.numbers),
        (f"words of fewer than {settings.shortest} letters", settings.shortest > 1),
        (f"those used fewer than {settings.min_count} times", settings.min_count > 1),
        ("your own words to leave out", bool(settings.leave_out)),
    ]
    left_out = [reason for reason, holds in reasons if holds]
    listed = ", ".join(left_out[:-1]) + (" and " if len(left_out) > 1 else "") + left_out[-1] if left_out else "all"
    words = "No word is" if found.tokens == 1 else f"None of the {found.tokens:,} words is"
    return f"{words} left once {listed} are out; change that in the sentence of this tile."


def _notes(found: TermCounts, settings: WordSettings, shown: list[Term]) -> list[str]:
    notes = []
    if settings.language is None and found.language != "en":
        notes.append(f"read as {language_name(found.language)}")
    rarer = found.size - len(shown)
    if rarer:
        notes.append(f"{rarer:,} rarer words are not shown")
    if found.phrases:
        notes.append("kept together: " + quoted([phrase.text for phrase in found.phrases]))
    if is_without_spaces(" ".join(term.term for term in shown)):
        notes.append("where no spaces part the words, each run of letters counts as one")
    return notes
