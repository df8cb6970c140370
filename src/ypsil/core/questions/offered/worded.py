"""Choices for how text becomes words: language, phrases, forms of a word, how they are written."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, get_args

from ypsil.core.figures import Grain
from ypsil.core.questions.model import Bins, Measure, Order, Per, Question, Stack
from ypsil.core.questions.offered.base import Blank, Choice, Offer, groupable, replaced, with_
from ypsil.core.questions.stacking import WRITTEN
from ypsil.core.questions.words_said import (
    case_words,
    found_words,
    language_name,
    least_words,
    length_word,
    merge_words,
    said_parts,
    shortest_words,
)
from ypsil.core.tables.profile import Profile
from ypsil.core.text.settings import Case, WordSettings
from ypsil.core.text.stems import LANGUAGES as STEMMED
from ypsil.core.text.stopwords import languages

_LEAST = (2, 3, 5)
_MOST_COMPARED = 12
_LONGEST_SHORTEST = 6
_PERIODS: tuple[Grain, ...] = ("month", "week", "year")


def _changed(question: Question, **changes: Any) -> Question:
    words = (question.words or WordSettings()).model_copy(update=changes)
    return with_(question, per=replaced(question.per, 0, question.per[0].model_copy(update={"words": words})))


def offers(question: Question, profile: Profile) -> list[Offer]:
    """Return what could be said about words and is not said yet."""
    words = question.words
    if words is None:
        return []
    said = {slot for _, _, slot in said_parts(words)}
    compared = [] if question.split else [Offer("compared between …", tuple(comparisons(question, profile)))]
    wanted = [
        ("in the language …", "words-language", language),
        ("with phrases …", "words-found", found),
        ("with forms of a word …", "words-merge", merge),
        ("with small words …", "words-stops", stops),
        ("with numbers …", "words-numbers", numbers),
        ("used at least …", "words-least", least),
        ("written …", "words-case", case),
        ("of so many letters …", "words-shortest", shortest),
        ("without the words …", "words-out", left_out),
        ("also the words …", "words-kept", kept),
        ("keeping together …", "words-together", together),
    ]
    beside = [] if question.stack else [Offer("and in the column …", tuple(also_in(question, profile)))]
    return (
        beside
        + compared
        + [
            Offer(text, tuple(one for one in maker(question, profile, 0) if not one.current))
            for text, slot, maker in wanted
            if slot not in said
        ]
    )


def about(question: Question, term: str, phrases: Sequence[str] = ()) -> list[Choice]:
    """Return what can be done with a term of the answer; ``phrases`` are some that it stands in."""
    words = question.words or WordSettings()
    name = Blank("as", "text", term, ("per", 0, "words", "merges", term))
    phrase = Blank("phrase", "text", term, ("per", 0, "words", "together", len(words.together)))
    found = [Choice("Leave it out", _changed(question, leave_out=(*words.leave_out, term)))]
    renamed = _changed(question, merges=words.merges | {term: term})
    found.append(Choice("Count it", renamed, blanks=(name,)))
    if words.phrase_length == 1:
        found += [
            Choice(f"Keep “{phrase}” together", _changed(question, together=(*words.together, phrase)))
            for phrase in phrases
        ]
        found.append(Choice("Keep together", _changed(question, together=(*words.together, term)), blanks=(phrase,)))
    return found


def merged(question: Question, rare: str, meant: str) -> Question:
    """Return the question with a term counted as another."""
    words = question.words or WordSettings()
    return _changed(question, merges=words.merges | {rare: meant})


def settled(question: Question) -> list[Choice]:
    """Return what was said about single terms, each to be taken back."""
    words = question.words or WordSettings()

    def without(items: tuple[str, ...], item: str) -> tuple[str, ...]:
        return tuple(one for one in items if one != item)

    left_out = [
        Choice(f"“{term}” is left out", _changed(question, leave_out=without(words.leave_out, term)))
        for term in words.leave_out
    ]
    together = [
        Choice(f"“{phrase}” is kept together", _changed(question, together=without(words.together, phrase)))
        for phrase in words.together
    ]
    merges = [
        Choice(
            f"“{variant}” is counted as “{name}”",
            _changed(question, merges={one: other for one, other in words.merges.items() if one != variant}),
        )
        for variant, name in words.merges.items()
    ]
    return [*left_out, *together, *merges]


def also_in(question: Question, profile: Profile) -> list[Choice]:
    """Return the columns whose words can be counted together with those of the question's own."""
    own = question.per[0].column
    taken = {column.name for column in profile.columns}
    name, value = (_free(wanted, taken) for wanted in ("Column", "Text"))
    others = [column for column in profile.columns if column.kind in WRITTEN and column.name != own]
    # What somebody wrote at length comes first.
    others.sort(key=lambda column: (column.kind != "text", -column.distinct))
    return [
        Choice(
            column.name,
            with_(
                question,
                stack=Stack(columns=(own, column.name), name=name, value=value),
                per=replaced(question.per, 0, question.per[0].model_copy(update={"column": value})),
            ),
        )
        for column in others[:_MOST_COMPARED]
    ]


def _free(wanted: str, taken: set[str]) -> str:
    return wanted if wanted not in taken else f"{wanted} (all)"


def comparisons(question: Question, profile: Profile) -> list[Choice]:
    """Return the columns whose groups the words can be compared between."""
    own = question.per[0].column
    few = {column.name for column in profile.columns if 2 <= column.distinct <= _MOST_COMPARED and column.name != own}
    named = [column.name for column in groupable(profile) if column.kind != "date" and column.name in few]
    ratings = [column.name for column in profile.of("number") if column.name in few]
    splits = [(name, Per(column=name)) for name in named]
    for name in ratings:
        splits += [(f"{name}, low against high", Per(column=name, by=Bins(bins=2))), (name, Per(column=name))]
    order = Order(by="keyness", descending=True)
    counted = (Measure(stat="count"),)
    marked = [
        Choice(label, with_(question, measures=counted, split=split, order=order, keep=None)) for label, split in splits
    ]
    return [*_over_time(question, profile), *marked]


def _over_time(question: Question, profile: Profile) -> list[Choice]:
    """Return the periods over which the commonest words can be followed: shares, for not all have as many answers."""
    share = (Measure(stat="share"),)
    found = []
    for column in profile.of("date"):
        usual = profile.grains.get(column.name, "month")
        for grain in dict.fromkeys((usual, *_PERIODS)):
            split = Per(column=column.name, by=grain)
            changed = with_(question, measures=share, split=split, order=None, keep=None)
            found.append(Choice(f"{grain}s of {column.name}", changed))
    return found


def length(question: Question, profile: Profile, index: int) -> list[Choice]:
    words = question.words or WordSettings()
    found = []
    for span in range(1, 6):
        # Phrases are found only among single words.
        changed = words.model_copy(update={"phrase_length": span} | ({"find_phrases": "no"} if span > 1 else {}))
        question_of_span = _changed(question, **changed.model_dump())
        found.append(Choice(length_word(changed), question_of_span, span == words.phrase_length))
    return found


def language(question: Question, profile: Profile, index: int) -> list[Choice]:
    words = question.words or WordSettings()
    named: list[tuple[str, str | None]] = sorted((language_name(code), code) for code in languages())
    return [
        Choice(
            name,
            _changed(question, language=code, merge=words.merge if code is None or code in STEMMED else "none"),
            code == words.language,
        )
        for name, code in [(language_name(None), None), *named]
    ]


def merge(question: Question, profile: Profile, index: int) -> list[Choice]:
    words = question.words or WordSettings()
    ways = ("none", "stem") if words.language is None or words.language in STEMMED else ("none",)
    return [Choice(merge_words(way), _changed(question, merge=way), words.merge == way) for way in ways]


def found(question: Question, profile: Profile, index: int) -> list[Choice]:
    words = question.words or WordSettings()
    if words.phrase_length > 1:
        return []
    return [
        Choice(found_words(way), _changed(question, find_phrases=way), words.find_phrases == way)
        for way in ("no", "sure", "many")
    ]


def stops(question: Question, profile: Profile, index: int) -> list[Choice]:
    words = question.words or WordSettings()
    return [
        Choice(label, _changed(question, keep_stop_words=kept), words.keep_stop_words == kept)
        for label, kept in (("without small words such as “the”", False), ("small words too", True))
    ]


def numbers(question: Question, profile: Profile, index: int) -> list[Choice]:
    words = question.words or WordSettings()
    return [
        Choice(label, _changed(question, numbers=kept), words.numbers == kept)
        for label, kept in (("without numbers", False), ("numbers too", True))
    ]


def least(question: Question, profile: Profile, index: int) -> list[Choice]:
    words = question.words or WordSettings()
    blank = Blank("at least", "number", str(words.min_count), ("per", 0, "words", "min_count"))
    ready = [
        Choice(least_words(count), _changed(question, min_count=count), words.min_count == count)
        for count in (1, *_LEAST)
    ]
    return [*ready, Choice("another number", _changed(question), blanks=(blank,))]


def case(question: Question, profile: Profile, index: int) -> list[Choice]:
    words = question.words or WordSettings()
    return [Choice(case_words(way), _changed(question, case=way), words.case == way) for way in get_args(Case)]


def shortest(question: Question, profile: Profile, index: int) -> list[Choice]:
    words = question.words or WordSettings()
    return [
        Choice(shortest_words(letters), _changed(question, shortest=letters), words.shortest == letters)
        for letters in range(1, _LONGEST_SHORTEST + 1)
    ]


def left_out(question: Question, profile: Profile, index: int) -> list[Choice]:
    return _own_words(question, "leave_out", "words to leave out")


def kept(question: Question, profile: Profile, index: int) -> list[Choice]:
    return _own_words(question, "keep", "words to count all the same")


def together(question: Question, profile: Profile, index: int) -> list[Choice]:
    words = question.words or WordSettings()
    return _own_words(question, "together", "phrases to keep together") if words.phrase_length == 1 else []


def _own_words(question: Question, field: str, label: str) -> list[Choice]:
    """Return the typed list of one's own words, and where there are some, that there are none."""
    given: tuple[str, ...] = getattr(question.words or WordSettings(), field)
    blank = Blank("parted by commas", "words", ", ".join(given), ("per", 0, "words", field))
    none = [Choice("none", _changed(question, **{field: ()}))] if given else []
    return [*none, Choice(label, _changed(question), blanks=(blank,))]
