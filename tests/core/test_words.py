"""Counting words."""

import pytest

from ypsil.core.errors import QuestionRefused
from ypsil.core.text import WordSettings, count_terms, tokenise
from ypsil.core.text.stopwords import languages, stop_word_set

ANSWERS = ["Longer opening hours!", "The opening hours, please", "Books. Opening hours are short", None, "  "]


def terms(**settings):
    return {term.term: (term.count, term.responses) for term in count_terms(ANSWERS, WordSettings(**settings)).terms}


def test_terms_come_in_descending_count_with_ties_in_alphabetical_order():
    found = count_terms(["b a", "a c b", "d"], WordSettings(keep_stop_words=True)).terms
    assert [term.term for term in found] == ["a", "b", "c", "d"]


def test_stop_words_are_left_out_and_blank_answers_do_not_count():
    found = count_terms(ANSWERS)
    assert found.responses == 3
    assert found.tokens == 12
    assert "the" not in {term.term for term in found.terms}
    assert terms()["hours"] == (3, 3)


def test_with_stop_words_kept_only_punctuation_goes():
    found = count_terms(["It is 5 o'clock, a fact."], WordSettings(keep_stop_words=True))
    assert {term.term for term in found.terms} == {"it", "is", "5", "o'clock", "a", "fact"}


def test_phrases_cross_neither_a_stop_nor_a_left_out_word():
    assert terms(phrase_length=2) == {"opening hours": (3, 3), "longer opening": (1, 1)}
    kept = terms(phrase_length=2, keep_stop_words=True)
    assert "books opening" not in kept
    assert kept["hours are"] == (1, 1)


def test_responses_count_an_answer_once_however_often_it_says_a_word():
    found = count_terms(["bus bus bus", "bus"], WordSettings(count="responses")).terms[0]
    assert (found.count, found.responses) == (4, 2)


def test_rare_terms_and_own_words_are_left_out():
    assert set(terms(min_count=2)) == {"opening", "hours"}
    assert "hours" not in terms(leave_out=("Hours",))


def test_merging_by_stem_shows_the_commonest_form_and_counts_an_answer_once():
    found = count_terms(["book books", "books", "booking"], WordSettings(merge="stem")).terms
    assert [(term.term, term.count, term.responses) for term in found] == [("books", 4, 3)]


def test_an_unknown_language_is_refused_with_those_that_are_known():
    with pytest.raises(QuestionRefused, match="choose one of"):
        stop_word_set("xx")
    assert {"en", "de", "cs", "no", "uk"} <= set(languages())


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("Cafe\u0301 CAFÉ", ["café", "café"]),
        ("Чай и книги", ["чай", "и", "книги"]),
        ("ספר טוב", ["ספר", "טוב"]),
        ("—–…!?", []),
        ("rock-'n'-roll", ["rock", "n", "roll"]),
        ("emoji 😀 stays out", ["emoji", "stays", "out"]),
    ],
)
def test_words_of_many_scripts(text, words):
    assert tokenise(text) == words
