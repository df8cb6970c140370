"""A question as one English sentence, in parts: fixed text, and words that can be changed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ypsil.core.figures.capitals import lower_first
from ypsil.core.questions.model import Measure, Per, Question
from ypsil.core.questions.wording import (
    ROWS,
    classes_words,
    joint,
    measure_name,
    spoken,
    stat_word,
    then_words,
    whole_words,
)
from ypsil.core.questions.words_said import is_share_of_answers, length_word, said_parts
from ypsil.core.tables.conditions import join_or, test_words
from ypsil.core.tables.name_parts import own_parts, shared_part
from ypsil.core.text.settings import WordSettings


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
        counted = _counted(question, question.words)
        head = counted if is_share_of_answers(question) else f"number of {counted}"
        return head[0].upper() + head[1:] + "".join(part.text for part in _tail(question))
    said = [_said(measure, question) for measure in question.measures]
    # Names that are the table's or the author's own keep their capitals.
    own = [question.each_row or bool(measure.name) for measure in question.measures]
    rest = [name if is_own else lower_first(name) for name, is_own in zip(said[1:], own[1:], strict=True)]
    return ", ".join([said[0], *rest]) + "".join(part.text for part in _tail(question))


def _said(measure: Measure, question: Question) -> str:
    """Return a measure's name; a ratio with a name of its own says what it divides, so that nobody takes it for a
    mean of ratios."""
    name = measure_name(measure, question)
    if measure.is_part and measure.within == "per" and not measure.name:
        # What they are parts of stands behind: in each month, in each branch.
        name = measure_name(measure.model_copy(update={"within": "all"})).replace(" of all ", " of ", 1)
    if measure.ratio and not measure.name and measure.then is None:
        above, below = (measure_name(part) for part in measure.ratio)
        return f"{above} divided by {lower_first(below)}"
    if measure.ratio and measure.name:
        above, below = (lower_first(measure_name(part)) for part in measure.ratio)
        done = f"{then_words(measure, question)} " if measure.then else ""
        return f"{name} ({done}{above} divided by {below})"
    return name


def sentence_parts(question: Question) -> list[Part]:
    """Return the whole sentence that stands on a tile, without its last words, which name the visual."""
    parts = [Part("Show the ")]
    if question.words:
        lead = [] if is_share_of_answers(question) else [Part("number of ")]
        return [*parts, *lead, Part(_counted(question, question.words), "measure:0"), *_tail(question)]
    for index, measure in enumerate(question.measures):
        if index:
            parts.append(Part(" and the "))
        parts += _measure_parts(question, measure, index)
    return parts + _tail(question)


def _counted(question: Question, words: WordSettings) -> str:
    """What is counted of a word: each use of it, the answers that hold it, or their share."""
    if is_share_of_answers(question):
        return "share of answers"
    return "uses" if words.count == "occurrences" else "answers"


def _measure_parts(question: Question, measure: Measure, index: int) -> list[Part]:
    if measure.then is None:
        return _plain_parts(question, measure, index)
    done = Part(then_words(measure, question), f"then:{index}")
    if measure.then == "running_total" and measure.stat in ("sum", "count"):
        return [done, Part(" "), Part(spoken(measure.column), f"measure:{index}")]
    return [done, Part(" the "), *_plain_parts(question, measure, index)]


def _plain_parts(question: Question, measure: Measure, index: int) -> list[Part]:
    if measure.ratio:
        above, below = measure.ratio
        return [
            *_ratio_part(above, f"above:{index}"),
            Part(" divided by the "),
            *_ratio_part(below, f"below:{index}"),
        ]
    stat = Part("value" if question.each_row else stat_word(measure), f"stat:{index}")
    if measure.stat == "share":
        if measure.values:
            return [
                stat,
                Part(" of "),
                Part(spoken(measure.column), f"measure:{index}"),
                Part(" that is "),
                Part(join_or(measure.values), f"values:{index}"),
                *([Part(" among "), Part("all asked", f"of:{index}")] if measure.of == "asked" else []),
            ]
        what, whole = spoken(measure.column), whole_words(measure, question)
        if measure.is_of_respondents:
            return [stat, Part(" of "), Part(whole, f"within:{index}")]
        before, _, after = whole.partition(what)
        # What the rows are parts of stands behind: in each month, in each branch.
        after = "" if measure.within == "per" else after
        parts = [stat, Part(" of "), Part(before.strip(), f"within:{index}"), Part(" "), Part(what, f"measure:{index}")]
        return [*parts, Part(after)] if after else parts
    return [stat, Part(_joint(measure)), Part(spoken(measure.column), f"measure:{index}")]


def _ratio_part(measure: Measure, slot: str) -> list[Part]:
    if measure.column is None:
        return [Part("number of "), Part(ROWS, slot)]
    return [Part(f"{stat_word(measure)}{_joint(measure)}"), Part(spoken(measure.column), slot)]


def _joint(measure: Measure) -> str:
    return joint(measure) if measure.stat == "count" else " of "


def _tail(question: Question) -> list[Part]:
    parts: list[Part] = []
    for index, per in enumerate(question.per):
        within = any(measure.is_part and measure.within == "per" for measure in question.measures)
        parts.append(Part(" and " if index else " in each " if within else " per "))
        parts += _per_parts(per, f"per:{index}", f"grain:{index}")
    if question.split:
        parts.append(Part(", split by "))
        parts += _per_parts(question.split, "split", "split-grain")
    if question.stack:
        stem, own = shared_part(question.stack.columns[0]), own_parts(question.stack.columns)
        named = f"{stem}: " if stem and own != question.stack.columns else ""
        parts += [Part(", of the columns "), Part(named + join_and(own), "stack")]
    parts += _where_parts(question)
    if question.order:
        parts += [Part(", "), Part(order_words(question), "order")]
    if question.keep is not None:
        rest = f", the rest as {question.rest}" if question.rest else ""
        parts += [Part(", "), Part(f"only the first {question.keep}{_kept(question)}{rest}", "keep")]
    if question.weight:
        parts += [Part(", weighted by "), Part(question.weight, "weight")]
    if question.least_base:
        parts += [Part(", without "), Part(f"groups of fewer than {question.least_base}", "least")]
    return parts


def _kept(question: Question) -> str:
    """Return of what the first ones are kept: with a split, more rows than that are shown."""
    if question.words:
        return " words" if question.keep != 1 else " word"
    if question.each_row or not question.per:
        return ""
    first = question.per[0]
    if first.grain:
        return f" {first.grain}s" if question.keep != 1 else f" {first.grain}"
    return f" of {spoken(first.column)}"


def _where_parts(question: Question) -> list[Part]:
    """Filters that choose rows come first; those that only choose which periods are shown say so."""
    parts: list[Part] = []
    for lead, cuts in ((", where ", False), (", shown where ", True)):
        for index, rule in enumerate(question.rules):
            if question.cuts(rule) != cuts:
                continue
            test, values = test_words(rule)
            # What readers chose is not for the author to change.
            at = str(index) if index < len(question.where) else ""
            parts += [
                Part(lead),
                Part(spoken(rule.column), at and f"where:{at}"),
                Part(" "),
                Part(test, at and f"where-test:{at}"),
            ]
            parts += [Part(" "), Part(values, at and f"where-values:{at}")] if values else []
            lead = " and "
    return parts


_MOST_NAMED = 4


def join_and(names: Sequence[str]) -> str:
    """Return names as a list; of many columns the first few and how many they are.

    >>> join_and(["Staff", "Stock"]), join_and("ABCDEF")
    ('Staff and Stock', 'A, B, C and 3 more')
    """
    shown = list(names) if len(names) <= _MOST_NAMED else [*names[: _MOST_NAMED - 1], f"{len(names) - 3} more"]
    return ", ".join(shown[:-1]) + " and " + shown[-1]


def order_words(question: Question) -> str:
    order = question.order
    if order is None:
        return "in the usual order"
    if order.by == "value":
        return "highest first" if order.descending else "lowest first"
    if order.by == "keyness":
        return "those that mark each of them"
    if order.by == "name":
        return "from Z to A" if order.descending else "from A to Z"
    return "in the given order" if order.by == "given" else "in natural order"


def _per_parts(per: Per, slot: str, grain_slot: str) -> list[Part]:
    if per.by is None:
        there = [Part(" (also "), Part("those without one", f"missing-{slot}"), Part(")")] if per.missing else []
        return [Part(spoken(per.column), slot), *there]
    if per.by == "row":
        return [Part("row", grain_slot), Part(", named by "), Part(spoken(per.column), slot)]
    if per.by == "word":
        words = per.words or WordSettings()
        parts = [Part(length_word(words), "words-length"), Part(" in "), Part(spoken(per.column), slot)]
        for lead, text, own_slot in said_parts(words):
            parts += [Part(lead), *([Part(text, own_slot)] if text else [])]
        return parts
    by = per.by if isinstance(per.by, str) else "class"
    parts = [Part(by, grain_slot), Part(" of "), Part(spoken(per.column), slot)]
    if not isinstance(per.by, str):
        parts += [Part(" "), Part(classes_words(per), f"classes-{grain_slot}")]
    if per.gaps:
        said = "counted as zero" if per.gaps == "zero" else "left open"
        parts += [Part(f" ({per.by}s without rows "), Part(said, f"gaps-{grain_slot}"), Part(")")]
    return parts
