"""Words split by a group: how often each was used there, or which of them mark a group against all others."""

from __future__ import annotations

from dataclasses import replace
from itertools import product
from typing import Any

import numpy as np
import polars as pl

from ypsil.core.answers.groups import Group, group_of
from ypsil.core.answers.model import Answer, AnswerColumn, answer_of_rows
from ypsil.core.answers.ordering import members_in_order
from ypsil.core.errors import QuestionRefused
from ypsil.core.questions.model import Question
from ypsil.core.questions.sentence import sentence
from ypsil.core.questions.words_said import is_share_of_answers
from ypsil.core.tables.model import Column
from ypsil.core.text.association import keyness
from ypsil.core.text.count import Labelled, TermCounts

MARKING_TERMS = 12
# Lines that can be told apart without a key.
LINES = 5
_MOST_GROUPS, _MOST_PERIODS = 12, 400
# Chance passes once in a hundred times (chi-square, 1 degree of freedom); a word of one person marks no group.
_LEAST_KEYNESS, _LEAST_COUNT = 6.63, 3
_PER = 100


def answer_compared(
    found: TermCounts, rows: pl.DataFrame, known: dict[str, Column], question: Question, measured: AnswerColumn
) -> Answer:
    """Answer a question per word that is split, of very many groups for the first twelve.

    Split by periods of time, it has for each period the words that are used most in all: a row for each of them, so
    that it is drawn like anything else that changes. Ordered by keyness, it has for each group the words that mark it:
    log-likelihood of 6.63 or more against all other groups (Rayson and Garside 2000), the surest first.
    """
    assert question.split is not None
    columns = (
        AnswerColumn(f"Word in {question.per[0].column}", "category", "per", is_words=True),
        AnswerColumn(question.split.column, "category", "split", ordered=True),
        measured,
    )
    if not rows.height:
        return answer_of_rows(sentence(question), columns, [], 0)
    if known[question.split.column].kind == "list":
        raise QuestionRefused(
            f"“{question.split.column}” holds several values a row, so that the same words would be on several sides",
            remedy="compare the words of groups that nobody is in twice",
        )
    group = group_of(question.split, known[question.split.column], rows, "split", "split")
    cells = rows.select(group.cells.alias("split") if isinstance(group.cells, pl.Expr) else group.cells).to_series()
    every = _members(cells, group)
    members = every[-_MOST_PERIODS:] if group.has_periods else every[:_MOST_GROUPS]
    numbers = {member: number for number, member in enumerate(members)}
    labels = np.array([numbers.get(cell, -1) for cell in cells.to_list()], dtype=np.int64)
    by_answers = measured.name != "Times used"
    labelled = found.by_labels(labels, len(members), by_answers=by_answers)
    lost = cells.null_count()
    notes = [f"{lost:,} row{'s have' if lost != 1 else ' has'} no {group.column.name}"] if lost else []
    if len(every) > len(members):
        notes.append(f"{len(every) - len(members):,} more of {group.column.name} are not compared")
    columns = (columns[0], replace(group.column, ordered=True), measured)
    base = int(labelled.answers.sum())
    if question.order is None or question.order.by != "keyness":
        return _counted(found, labelled, members, columns, question, base, tuple(notes))
    marking = _marking(found, labelled, members, question, by_answers=by_answers)
    shown = {row[1] for row in marking}
    notes += [f"no word marks {member}" for member in members if member not in shown] if marking else []
    if not marking:
        said = f"No word marks any group of {group.column.name}: all use much the same words."
        return replace(answer_of_rows(sentence(question), columns, [], base, tuple(notes)), footnotes=(said,))
    answer = answer_of_rows(sentence(question), columns, [row[:3] for row in marking], base, tuple(notes))
    beside = {"0": [row[3] for row in marking]}, {"0-elsewhere": [row[4] for row in marking]}
    return replace(answer, bases=pl.DataFrame(beside[0]), exactness=pl.DataFrame(beside[1]))


def _counted(
    found: TermCounts,
    labelled: Labelled,
    members: list[Any],
    columns: tuple[AnswerColumn, ...],
    question: Question,
    base: int,
    notes: tuple[str, ...],
) -> Answer:
    """Return a row for each word and group: periods come first, where there are some."""
    is_share, is_time = is_share_of_answers(question), columns[1].kind == "date"
    terms = found.names()[: question.keep or (LINES if is_time else MARKING_TERMS)]
    words, groups = range(len(terms)), range(len(members))
    pairs = [(word, group) for group in groups for word in words] if is_time else list(product(words, groups))
    values = [
        _share(int(labelled.counts[pair]), int(labelled.answers[pair[1]])) if is_share else int(labelled.counts[pair])
        for pair in pairs
    ]
    cells = [(terms[word], members[group]) for word, group in pairs]
    if is_time:
        columns = (replace(columns[1], role="per"), replace(columns[0], role="split"), columns[2])
        cells = [(member, term) for term, member in cells]
    rows = [(*cell, value) for cell, value in zip(cells, values, strict=True)]
    answer = answer_of_rows(sentence(question), columns, rows, base, notes)
    if not is_share:
        return answer
    return replace(answer, bases=pl.DataFrame({"0": [int(labelled.answers[group]) for _, group in pairs]}))


def _share(count: int, answers: int) -> float | None:
    return count / answers if answers else None


def _members(cells: pl.Series, group: Group) -> list[Any]:
    different = cells.drop_nulls().unique()
    if not len(different):
        return []
    sizes = cells.drop_nulls().value_counts().rename({cells.name: "split", "count": "measure0"})
    return members_in_order(different, group, None, False, lambda _: sizes)[0]


def _marking(
    found: TermCounts, labelled: Labelled, members: list[Any], question: Question, *, by_answers: bool
) -> list[tuple[str, Any, int, int, float]]:
    """Return the words that mark each group: the word, the group, its count and answers there, and how often in a
    hundred answers it stands elsewhere."""
    names = found.names()
    sizes = labelled.answers if by_answers else labelled.words
    totals = labelled.counts.sum(axis=1)
    rows = []
    for number, member in enumerate(members):
        here = labelled.counts[:, number]
        there = totals - here
        away = max(1, int(sizes.sum() - sizes[number]))
        sure = keyness(here, there, max(1, int(sizes[number])), away)
        order = np.lexsort((np.arange(len(names)), -sure))
        marks = [row for row in order.tolist() if sure[row] >= _LEAST_KEYNESS and here[row] >= _LEAST_COUNT]
        others = max(1, int(labelled.answers.sum() - labelled.answers[number]))
        rows += [
            (names[row], member, int(here[row]), int(labelled.answers[number]), float(_PER * there[row] / others))
            for row in marks[: question.keep or MARKING_TERMS]
        ]
    return rows
