"""A question as one English sentence, in parts: fixed text, and words that can be changed."""

from __future__ import annotations

from dataclasses import dataclass

from ypsil.core.questions.model import Measure, Per, Question
from ypsil.core.questions.wording import ROWS, measure_name, stat_word
from ypsil.core.tables.conditions import join_or, test_words
from ypsil.core.text import WordSettings


@dataclass(frozen=True, slots=True)
class Part:
    """A piece of the sentence; ``slot`` names what its word changes, and is empty for fixed text.

    ``value`` is an empty string for a word that is offered but not yet there.
    """

    text: str
    slot: str = ""
    offered: bool = False


def sentence(question: Question) -> str:
    """Return the question as a caption.

    >>> sentence(Question(measures=[Measure(stat="sum", column="Visits")], per=[Per(column="Day", by="month")]))
    'Total Visits per month of Day'
    """
    if question.words:
        return f"Number of {_counted(question.words)}" + "".join(part.text for part in _tail(question))
    head = ", ".join(
        measure_name(measure) if index == 0 else _lower_first(measure_name(measure))
        for index, measure in enumerate(question.measures)
    )
    return head + "".join(part.text for part in _tail(question))


def sentence_parts(question: Question) -> list[Part]:
    """Return the whole sentence that stands on a tile, without its last words, which name the visual."""
    parts = [Part("Show the ")]
    if question.words:
        return [*parts, Part("number of "), Part(_counted(question.words), "measure:0"), *_tail(question)]
    for index, measure in enumerate(question.measures):
        if index:
            parts.append(Part(" and the "))
        parts += _measure_parts(measure, index)
    return parts + _tail(question)


def _counted(words: WordSettings) -> str:
    """What is counted of a word: each use of it, or the answers that hold it."""
    return "uses" if words.count == "occurrences" else "answers"


def _measure_parts(measure: Measure, index: int) -> list[Part]:
    if measure.ratio:
        return [Part(measure_name(measure), f"measure:{index}")]
    stat = Part(stat_word(measure), f"stat:{index}")
    if measure.stat == "share":
        if measure.values:
            return [
                stat,
                Part(" of "),
                Part(measure.column or ROWS, f"measure:{index}"),
                Part(" that is "),
                Part(join_or(measure.values), f"values:{index}"),
            ]
        return [stat, Part(" of all "), Part(measure.column or ROWS, f"measure:{index}")]
    joint = Part(" ") if measure.stat == "distinct" else Part(" of ")
    return [stat, joint, Part(measure.column or ROWS, f"measure:{index}")]


def _tail(question: Question) -> list[Part]:
    parts: list[Part] = []
    for index, per in enumerate(question.per):
        parts.append(Part(" per " if index == 0 else " and "))
        parts += _per_parts(per, f"per:{index}", f"grain:{index}")
    if question.split:
        parts.append(Part(", split by "))
        parts += _per_parts(question.split, "split", "split-grain")
    for index, rule in enumerate(question.where):
        test, values = test_words(rule)
        parts += [
            Part(", where " if index == 0 else " and "),
            Part(rule.column, f"where:{index}"),
            Part(f" {test}"),
        ]
        if values:
            parts += [Part(" "), Part(values, f"where-values:{index}")]
    if question.order:
        parts += [Part(", "), Part(order_words(question), "order")]
    if question.keep is not None:
        rest = f", the rest as {question.rest}" if question.rest else ""
        parts += [Part(", "), Part(f"only the first {question.keep}{rest}", "keep")]
    return parts


def order_words(question: Question) -> str:
    order = question.order
    if order is None:
        return "in the usual order"
    if order.by == "value":
        return "highest first" if order.descending else "lowest first"
    if order.by == "name":
        return "from Z to A" if order.descending else "from A to Z"
    return "in the given order" if order.by == "given" else "in natural order"


def _per_parts(per: Per, slot: str, grain_slot: str) -> list[Part]:
    if per.by is None:
        return [Part(per.column, slot)]
    by = per.by if isinstance(per.by, str) else "class"
    joint = " in " if by == "word" else " of "
    return [Part(by, grain_slot), Part(joint), Part(per.column, slot)]


def _lower_first(text: str) -> str:
    return text[0].lower() + text[1:]
