"""Counting words."""

import re
from collections import Counter

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ypsil.core.errors import QuestionRefused
from ypsil.core.text.around import neighbours
from ypsil.core.text.count import count_terms
from ypsil.core.text.settings import WordSettings
from ypsil.core.text.stopwords import guess_language, languages, stop_word_set
from ypsil.core.text.tokens import tokenise

ANSWERS = ["Longer opening hours!", "The opening hours, please", "Books. Opening hours are short", None, "  "]


def terms(**settings):
    return {term.term: (term.count, term.responses) for term in count_terms(ANSWERS, WordSettings(**settings)).terms}


def test_terms_come_in_descending_count_with_ties_in_alphabetical_order():
    found = count_terms(["b a", "a c b", "d"], WordSettings(keep_stop_words=True, case="lower")).terms
    assert [term.term for term in found] == ["a", "b", "c", "d"]


def test_stop_words_are_left_out_and_blank_answers_do_not_count():
    found = count_terms(ANSWERS)
    assert found.responses == 3
    assert found.tokens == 12
    assert "the" not in {term.term for term in found.terms}
    assert terms()["hours"] == (3, 3)


def test_with_stop_words_kept_only_punctuation_goes():
    found = count_terms(["It is 5 o'clock, a fact."], WordSettings(keep_stop_words=True, case="lower"))
    assert {term.term for term in found.terms} == {"it", "is", "5", "o'clock", "a", "fact"}


def test_phrases_cross_neither_a_stop_nor_a_left_out_word():
    assert terms(phrase_length=2) == {"opening hours": (3, 3), "Longer opening": (1, 1)}
    kept = terms(phrase_length=2, keep_stop_words=True)
    assert "books opening" not in kept
    assert kept["hours are"] == (1, 1)


def test_words_are_spelt_as_most_people_wrote_them_within_their_sentences():
    # A capital that only begins an answer or a sentence tells nothing about the word.
    texts = ["Staff are kind", "Staff! Staff", "the staff", "Zu laut am Bahnhof", "Lärm am Bahnhof. Laut"]
    found = {term.term for term in count_terms(texts, WordSettings(keep_stop_words=True)).terms}
    assert {"staff", "Bahnhof", "laut", "Lärm"} <= found
    assert "staff" in {term.term for term in count_terms(["STAFF", "Staff", "staff", "the staff"]).terms}


def test_phrases_that_are_kept_together_are_spelt_as_their_words_are():
    texts = ["Am Bahnhof Nord ist es kalt", "der Bahnhof Nord", "Warten am Bahnhof Nord"]
    settings = {"language": "de", "together": ("bahnhof nord",)}
    assert count_terms(texts, WordSettings(**settings)).terms[0].term == "Bahnhof Nord"
    assert count_terms(texts, WordSettings(**settings, case="lower")).terms[0].term == "bahnhof nord"
    assert [one.term for one in neighbours(count_terms(texts, WordSettings(language="de")), "Nord")] == ["Bahnhof Nord"]


def test_words_that_are_capitalised_differently_can_be_counted_apart():
    texts = ["IT helps", "it helps us", "the US, us", "Helps book bus", "Colour color"]
    settings = {"case": "written", "keep_stop_words": True, "together": ("book bus",), "merges": {"color": "colour"}}
    found = {term.term: term.count for term in count_terms(texts, WordSettings(**settings)).terms}
    assert found == {
        "IT": 1, "it": 1, "helps": 2, "Helps": 1, "US": 1, "us": 2, "the": 1, "book bus": 1, "Colour": 1, "colour": 1,
    }  # fmt: skip
    pairs = {"case": "written", "phrase_length": 2, "keep_stop_words": True}
    assert {"IT helps", "it helps", "the US"} <= {term.term for term in count_terms(texts, WordSettings(**pairs)).terms}
    # Small words are small however they are capitalised, and so are one's own.
    found = count_terms(
        ["The THE bus Bus", "Tram tram"], WordSettings(case="written", language="en", leave_out=("tram",))
    )
    assert [term.term for term in found.terms] == ["Bus", "bus"]


def test_responses_count_an_answer_once_however_often_it_says_a_word():
    found = count_terms(["bus bus bus", "bus"], WordSettings(count="responses")).terms[0]
    assert (found.count, found.responses) == (4, 2)


def test_rare_terms_and_own_words_are_left_out():
    assert set(terms(min_count=2)) == {"opening", "hours"}
    assert "hours" not in terms(leave_out=("Hours",))


def test_merging_by_stem_shows_the_commonest_form_and_counts_an_answer_once():
    found = count_terms(["book books", "books", "booking"], WordSettings(merge="stem")).terms
    assert [(term.term, term.count, term.responses) for term in found] == [("books", 4, 3)]


def naive(texts, length):
    """Count phrases the plain way: clause by clause, word by word."""
    counted, holding = Counter(), Counter()
    for text in texts:
        clauses = [tokenise(clause) for clause in re.split(r"[.,!]", text)]
        found = [" ".join(words[at : at + length]) for words in clauses for at in range(len(words) - length + 1)]
        counted.update(found)
        holding.update(set(found))
    return {term: (count, holding[term]) for term, count in counted.items()}


@pytest.mark.parametrize("length", [1, 2, 3, 5])
@given(texts=st.lists(st.lists(st.sampled_from(["a", "B", "b", "cc", ".", ",", "d-e"]), max_size=12).map(" ".join)))
def test_phrases_are_counted_as_the_plain_way_does(length, texts):
    found = count_terms(texts, WordSettings(phrase_length=length, keep_stop_words=True, case="lower"))
    wanted = naive(texts, length)
    assert {term.term: (term.count, term.responses) for term in found.terms} == wanted
    assert [term.term for term in found.terms] == sorted(wanted, key=lambda term: (-wanted[term][0], term))
    assert found.size == len(wanted)
    assert found.names() == [term.term for term in found.terms]


def test_five_word_phrases_of_very_many_words_are_told_apart():
    texts = [" ".join(f"w{(at * step) % 9973}" for at in range(60)) for step in range(1, 400)]
    found = count_terms(texts, WordSettings(phrase_length=5, keep_stop_words=True))
    assert {term.term: (term.count, term.responses) for term in found.terms} == naive(texts, 5)


@pytest.mark.parametrize(
    ("settings", "wanted"),
    [
        ({}, {"book": 1, "bus": 3, "hours": 1, "opening": 1}),
        ({"case": "common"}, {"Book": 1, "Bus": 3, "hours": 1, "Opening": 1}),
        ({"case": "upper"}, {"BOOK": 1, "BUS": 3, "HOURS": 1, "OPENING": 1}),
        ({"case": "title"}, {"Book": 1, "Bus": 3, "Hours": 1, "Opening": 1}),
        ({"numbers": True}, {"24": 1, "book": 1, "bus": 3, "hours": 1, "opening": 1}),
        ({"keep": ("THE", "24")}, {"24": 1, "book": 1, "bus": 3, "hours": 1, "opening": 1, "the": 2}),
        ({"shortest": 5}, {"hours": 1, "opening": 1}),
        ({"max_terms": 1}, {"bus": 3}),
        ({"together": ("Book bus", "the bus")}, {"book bus": 1, "bus": 1, "hours": 1, "opening": 1, "the bus": 1}),
        ({"merges": {"book bus": "Mobile library"}}, {"bus": 2, "hours": 1, "mobile library": 1, "opening": 1}),
        ({"merges": {"book": "bus"}}, {"bus": 4, "hours": 1, "opening": 1}),
        ({"together": ("opening hours",), "leave_out": ("Opening hours",)}, {"book": 1, "bus": 3}),
        ({"phrase_length": 2, "leave_out": ("opening hours",)}, {"book bus": 1}),
        ({"phrase_length": 2, "merges": {"opening hours": "Times"}}, {"times": 1, "book bus": 1}),
        ({"phrase_length": 2, "merges": {"opening hours": "Times"}, "case": "common"}, {"Times": 1, "Book Bus": 1}),
        ({"phrase_length": 2, "merges": {"opening hours": "book bus"}}, {"book bus": 2}),
    ],
    ids=str,
)
def test_settings_of_what_is_counted(settings, wanted):
    texts = ["The Book Bus", "the Bus, a 24", "Bus. Opening hours"]
    settings = {"case": "lower"} | settings
    assert {term.term: term.count for term in count_terms(texts, WordSettings(**settings)).terms} == wanted


def test_a_phrase_that_is_kept_together_does_not_run_over_an_answer_or_itself():
    settings = WordSettings(together=("no no",), keep_stop_words=True)
    found = count_terms(["no no no", "no", "no, no"], settings)
    assert {term.term: term.count for term in found.terms} == {"no": 4, "no no": 1}


def test_phrases_are_found_by_themselves_grow_and_never_cross_a_stop():
    about = [f"word{at} thing{at * 7 % 50} other{at * 3 % 40}" for at in range(400)]
    said = ["The summer reading game was fun"] * 8 + ["summer reading game"] * 4 + ["reading in summer"] * 2
    found = count_terms(about + said + ["big. Bus"] * 20, WordSettings(find_phrases="sure"))
    assert [(phrase.text, phrase.count) for phrase in found.phrases] == [("summer reading game", 12)]
    assert found.phrases[0].likelihood > 10.83
    counted = {term.term: term.count for term in found.terms}
    assert (counted["summer reading game"], counted["summer"], counted["reading"]) == (12, 2, 2)
    assert "big bus" not in counted
    assert "game" not in counted


def test_rare_pairs_are_found_only_where_many_are_wanted():
    about = [f"word{at} thing{at * 7 % 50} other{at * 3 % 40}" for at in range(400)]
    texts = [*about, *["warm welcome"] * 3]
    assert count_terms(texts, WordSettings(find_phrases="sure")).phrases == ()
    many = count_terms(texts, WordSettings(find_phrases="many")).phrases
    assert "warm welcome" in {phrase.text for phrase in many}


def test_emoji_are_counted_with_their_skin_and_family():
    found = count_terms(["Great 👍🏽 👍🏽", "👍 👨‍👩‍👧"], WordSettings())
    assert {term.term: term.count for term in found.terms} == {"Great": 1, "👍🏽": 2, "👍": 1, "👨‍👩‍👧": 1}


@pytest.mark.parametrize("texts", [[], [None], ["", "  "], ["!!! ..."], ["the and of"]])
def test_nothing_to_count_is_an_empty_list(texts):
    found = count_terms(texts)
    assert found.terms == ()
    assert found.size == 0


@pytest.mark.parametrize(
    ("text", "language"),
    [
        ("The opening hours are too short for people who work, and I would like to see more books", "en"),
        ("Die Öffnungszeiten sind zu kurz für Leute, die arbeiten, und ich hätte gern mehr Bücher", "de"),
        ("Les heures d'ouverture sont trop courtes pour les gens qui travaillent", "fr"),
        ("Οι ώρες λειτουργίας είναι πολύ σύντομες για τους ανθρώπους που εργάζονται", "el"),
        ("Часы работы слишком короткие для тех, кто работает, и я хотел бы видеть больше книг", "ru"),
        ("warm rooms", None),
        ("", None),
    ],
)
def test_the_language_is_guessed_from_its_small_words_or_left_open(text, language):
    assert guess_language(tokenise(text)) == language


def test_there_are_stop_words_for_more_than_thirty_languages():
    assert len(languages()) >= 30
    assert all(len(stop_word_set(language)) >= 10 for language in languages())
    assert "και" in stop_word_set("el")


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
        ("one emoji 👍🏽 counts, © does not", ["one", "emoji", "👍🏽", "counts", "does", "not"]),
        ("हिन्दी में अच्छा है।", ["हिन्दी", "में", "अच्छा", "है"]),
        ("می‌خواهم کتاب", ["می‌خواهم", "کتاب"]),
    ],
)
def test_words_of_many_scripts(text, words):
    assert tokenise(text) == words
