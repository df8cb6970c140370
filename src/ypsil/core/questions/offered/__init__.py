"""What each word of a sentence can be changed to, and the words that can be added to it.

A choice carries the whole question that it leads to, so that a screen only has to send it back.
"""

from __future__ import annotations

from collections.abc import Callable

from ypsil.core.questions.model import Question
from ypsil.core.questions.offered import filtered, grouped, measured, surveyed, worded
from ypsil.core.questions.offered.base import Blank, Choice, Offer, classes_of, has_periods
from ypsil.core.tables.profile import Profile

__all__ = ["Blank", "Choice", "Offer", "choices", "classes_of", "offers"]

_MAKERS: dict[str, Callable[[Question, Profile, int], list[Choice]]] = {
    "stat": measured.stat,
    "measure": measured.measure,
    "above": measured.above,
    "below": measured.below,
    "within": measured.within,
    "values": measured.values,
    "then": measured.then,
    "per": grouped.per,
    "grain": grouped.grain,
    "classes-grain": grouped.classes,
    "gaps-grain": grouped.gaps,
    "split": grouped.split,
    "split-grain": grouped.split_grain,
    "order": grouped.order,
    "keep": grouped.keep,
    "where": filtered.where,
    "where-test": filtered.test,
    "where-values": filtered.where_values,
    "of": surveyed.of,
    "missing-per": surveyed.missing,
    "stack": surveyed.stack,
    "weight": surveyed.weight,
    "least": surveyed.least,
    "words-length": worded.length,
    "words-language": worded.language,
    "words-merge": worded.merge,
    "words-found": worded.found,
    "words-stops": worded.stops,
    "words-numbers": worded.numbers,
    "words-least": worded.least,
    "words-case": worded.case,
    "words-shortest": worded.shortest,
    "words-out": worded.left_out,
    "words-kept": worded.kept,
    "words-together": worded.together,
}


def choices(question: Question, slot: str, profile: Profile) -> list[Choice]:
    """Return what fits a slot of ``sentence_parts(question)``; an unknown slot has none."""
    name, _, index = slot.partition(":")
    maker = _MAKERS.get(name)
    return maker(question, surveyed.with_stacked(profile, question), int(index or 0)) if maker else []


def offers(question: Question, profile: Profile) -> list[Offer]:
    """Return the parts that the sentence could have and does not, leaving out those with nothing to choose."""
    profile = surveyed.with_stacked(profile, question)
    found = []
    if not question.words:
        found.append(Offer("and the …", tuple(measured.another(question, profile))))
        if question.per and question.measures[0].then is None:
            found.append(Offer("as a running total, change …", tuple(measured.then(question, profile, 0)[1:])))
    found += _of_groups(question, profile)
    found.append(Offer("where …", tuple(filtered.new_filters(question, profile))))
    if question.per and question.order is None:
        found.append(Offer("in the order …", tuple(grouped.order(question, profile, 0)[1:])))
    if question.per and question.keep is None and not grouped.is_time(question, profile):
        found.append(Offer("only the first …", tuple(grouped.keep(question, profile, 0)[1:])))
    found += surveyed.offers(question, profile)
    found += worded.offers(question, profile)
    return [offer for offer in found if offer.choices]


def _of_groups(question: Question, profile: Profile) -> list[Offer]:
    if not question.per:
        single = grouped.each_row(question, profile)
        return [Offer("per …", (*grouped.per(question, profile, 0)[1:], *single))]
    if question.words:
        return []
    found = []
    if len(question.per) == 1 and not question.each_row:
        found.append(Offer("and per …", tuple(grouped.per(question, profile, 1))))
    if question.split is None:
        found.append(Offer("split by …", tuple(grouped.split(question, profile, 0)[1:])))
    if has_periods(question.per[0]) and question.per[0].gaps is None:
        found.append(Offer("with gaps …", tuple(grouped.gaps(question, profile, 0)[1:])))
    return found
