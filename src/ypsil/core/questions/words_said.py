"""How text becomes words, as parts of the sentence: what is said, and where it can be changed."""

from __future__ import annotations

from collections.abc import Sequence

from babel import Locale

from ypsil.core.questions.model import Question
from ypsil.core.text.settings import WordSettings

_LENGTHS = {1: "word", 2: "two-word phrase", 3: "three-word phrase", 4: "four-word phrase", 5: "five-word phrase"}
_FOUND = {
    "no": "no phrases kept together",
    "sure": "sure phrases kept together",
    "many": "likely phrases kept together",
}
_CASES = {
    "common": "as most people wrote them",
    "written": "as each is capitalised, counted apart",
    "lower": "in small letters",
    "upper": "in capitals",
    "title": "with capital first letters",
}
_MOST_QUOTED = 3


def is_share_of_answers(question: Question) -> bool:
    """Tell whether a question per word asks in how many of a hundred answers each stands."""
    measure = question.measures[0]
    return measure.stat == "share" and measure.column is None and not measure.values


def length_word(words: WordSettings) -> str:
    """Return what is counted: words, or phrases of so many."""
    return _LENGTHS[words.phrase_length]


def language_name(code: str | None) -> str:
    """Return a language's English name.

    >>> language_name("de")
    'German'
    """
    if code is None:
        return "the language it is written in"
    return str(Locale("en").languages.get(code, code))


def merge_words(merge: str) -> str:
    return "all forms of a word as one" if merge == "stem" else "each form by itself"


def found_words(finding: str) -> str:
    return _FOUND[finding]


def case_words(case: str) -> str:
    return _CASES[case]


def least_words(count: int) -> str:
    return f"at least {count} times" if count > 1 else "however rare"


def shortest_words(letters: int) -> str:
    return f"of {letters} letters or more" if letters > 1 else "however short"


def said_parts(words: WordSettings) -> list[tuple[str, str, str]]:
    """Return what differs from the usual: what leads to it, the words, and the slot they are changed in."""
    usual = WordSettings()
    slots = (
        ("language", ", in ", language_name(words.language), "words-language"),
        ("keep_stop_words", ", with ", "small words too", "words-stops"),
        ("merge", ", ", merge_words(words.merge), "words-merge"),
        ("find_phrases", ", with ", found_words(words.find_phrases), "words-found"),
        ("numbers", ", with ", "numbers too", "words-numbers"),
        ("min_count", ", used ", least_words(words.min_count), "words-least"),
        ("case", ", written ", case_words(words.case), "words-case"),
        ("shortest", ", ", shortest_words(words.shortest), "words-shortest"),
    )
    parts = [(lead, text, slot) for field, lead, text, slot in slots if getattr(words, field) != getattr(usual, field)]
    own = (
        (", without ", words.leave_out, "words-out"),
        (", also ", words.keep, "words-kept"),
        (", keeping together ", words.together, "words-together"),
        (", taking others for ", tuple(dict.fromkeys(words.merges.values())), ""),
    )
    parts += [
        (lead, quoted(named), slot) if slot else (lead + quoted(named), "", "") for lead, named, slot in own if named
    ]
    return parts


def quoted(words: Sequence[str]) -> str:
    """Return words in quotes, of many the first few.

    >>> quoted(["book", "bus"]), quoted(list("abcde"))
    ('“book” and “bus”', '“a”, “b”, “c” and 2 more')
    """
    shown = [f"“{word}”" for word in words[:_MOST_QUOTED]]
    if len(words) > _MOST_QUOTED:
        return ", ".join(shown) + f" and {len(words) - _MOST_QUOTED} more"
    return " and ".join([", ".join(shown[:-1]), shown[-1]]) if len(shown) > 1 else shown[0]
