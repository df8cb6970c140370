"""Overuse: words and phrases that a text repeats, how often and how closely."""

import itertools
import re

from hypothesis import given
from hypothesis import strategies as st

from ypsil.core.text.repeats import repeats

WORDS = ("tree", "river", "stone", "cloud")


def found(*texts, **more):
    return {one.term: (one.count, one.apart, one.closest) for one in repeats(texts, **more)}


def test_words_need_three_uses_and_phrases_two():
    assert found("A stone by a river. The river runs.") == {}
    assert found("A river by a stone. The river runs, and rivers rise.") == {"river": (3, 3, 2)}
    assert found("We opened the garden gate. Nobody closed the garden gate.")["the garden gate"] == (2, 2, 2)


def test_a_part_of_a_repeated_phrase_is_not_told_twice():
    told = found("The opening hours are short.", "Longer opening hours!", "Opening hours, opening hours.")
    assert told == {"opening hours": (4, 0, 0)}


def test_phrases_of_small_words_alone_do_not_count():
    assert found("It is what it is, and what it is we know.") == {}


@given(st.lists(st.sampled_from(WORDS), min_size=3, max_size=40))
def test_gaps_are_the_words_between(words):
    for term, (count, _, closest) in found(" ".join(words), language="en", most=100).items():
        if " " in term:
            continue
        places = [place for place, word in enumerate(words) if re.fullmatch(term, word)]
        assert count == len(places)
        assert closest == min(after - before - 1 for before, after in itertools.pairwise(places))


def test_nothing_written_repeats_nothing():
    assert repeats([None, "", "  "]) == []
    assert repeats([]) == []
