"""From a term to the answers it came from, and what can be settled about it."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ypsil.core.questions import parse_question
from ypsil.core.questions.offered import worded
from ypsil.core.text.around import likely_slips, neighbours
from ypsil.core.text.contexts import contexts_of
from ypsil.core.text.count import count_terms
from ypsil.core.text.settings import WordSettings

SAID = [
    "The opening hours are too short.",
    "Longer opening hours, please! Opening hours matter",
    None,
    "Open on Sunday",
    "I can’t come in the hours you open",
    "🙂 Opening  HOURS (of the book bus)",
]


def shown(contexts):
    return ["".join(f"[{one.text}]" if one.is_term else one.text for one in context.pieces) for context in contexts]


def test_each_answer_with_the_term_is_shown_once_with_every_use_marked():
    found = count_terms(SAID, WordSettings(together=("opening hours",)))
    lines = shown(contexts_of(SAID, found, "opening hours"))
    assert sorted(lines) == [
        "Longer [opening hours], please! [Opening hours] matter",
        "The [opening hours] are too short.",
        "🙂 [Opening  HOURS] (of the book bus)",
    ]


@pytest.mark.parametrize(
    ("by", "wanted"), [("after", ["x a", "z b", "y c"]), ("before", ["x a", "y c", "z b"])], ids=["after", "before"]
)
def test_answers_are_sorted_by_the_words_around_the_term(by, wanted):
    texts = ["z word b", "x word a", "y word c"]
    found = count_terms(texts, WordSettings(keep_stop_words=True, shortest=1))
    lines = contexts_of(texts, found, "word", by=by)
    assert [texts[one.answer].replace("word ", "") for one in lines] == wanted


def test_only_so_many_are_written_out():
    texts = [f"word {letter}" for letter in "dcba"]
    found = count_terms(texts, WordSettings(shortest=1))
    assert shown(contexts_of(texts, found, "word", most=2)) == ["[word] a", "[word] b"]


def test_forms_and_merged_words_are_found_as_they_were_written():
    texts = ["Books!", "a good book", "two mags", "nothing"]
    found = count_terms(texts, WordSettings(merge="stem", merges={"mags": "book"}))
    assert sorted(shown(contexts_of(texts, found, "book"))) == ["[Books]!", "a good [book]", "two [mags]"]


def test_a_term_that_is_not_counted_has_no_answers():
    assert contexts_of(SAID, count_terms(SAID), "the") == []


ODD = ["ab", "AB", "ab-c", "é", "e\u0301", "’", ".", "&", " - ", "12"]


@given(
    texts=st.lists(
        st.lists(st.sampled_from(["ab", "AB", "ab-c", "é", "e\u0301", "’", ".", "&", " - ", "12"])).map("".join)
    ),
    span=st.integers(1, 3),
)
def test_pieces_make_the_text_again_and_are_as_many_as_the_count(texts, span):
    found = count_terms(texts, WordSettings(phrase_length=span, keep_stop_words=True))
    for term in found.terms:
        contexts = contexts_of(texts, found, term.term)
        assert len(contexts) == term.responses
        assert all("".join(piece.text for piece in one.pieces) == texts[one.answer] for one in contexts)
        marked = [piece for one in contexts for piece in one.pieces if piece.is_term]
        # Phrases that overlap are marked as one; single words never do.
        assert span > 1 or len(marked) == term.count


def test_neighbours_are_phrases_of_the_term_and_no_small_words():
    texts = ["the opening hours", "opening hours of today", "long opening hours", "hours, opening"]
    assert [(one.term, one.count) for one in neighbours(count_terms(texts), "hours")] == [("opening hours", 3)]
    assert neighbours(count_terms(texts), "nowhere") == []


def test_rare_spellings_near_a_frequent_word_are_proposed_and_forms_of_a_word_are_not():
    texts = ["library staff"] * 12 + ["libary", "librarys", "libraries", "libraryst", "Starf", "staffs", "poetry"]
    proposed = {(one.rare.term, one.meant.term) for one in likely_slips(count_terms(texts))}
    assert proposed == {("libary", "library"), ("Starf", "staff")}
    apart = count_terms(["library Staff staff staff staff staff staff staff"], WordSettings(case="written"))
    assert likely_slips(apart) == []


def test_long_words_may_have_two_slips_and_frequent_ones_none():
    texts = ["accommodation"] * 10 + ["acomodation", "stairs"] + ["stars"] * 3
    assert [(one.rare.term, one.meant.term) for one in likely_slips(count_terms(texts))] == [
        ("acomodation", "accommodation")
    ]


@pytest.mark.parametrize(
    ("texts", "language", "first"),
    [
        (["Das ist ein schöner Raum", "Die Leute sind nett und der Raum ist warm"], "de", "Raum"),
        (["The room is warm and the people are kind", "a warm room"], "en", "room"),
        (["xq zv"], "en", "xq"),
    ],
)
def test_the_language_is_guessed_where_none_is_given(texts, language, first):
    found = count_terms(texts)
    assert (found.language, found.terms[0].term) == (language, first)
    assert count_terms(texts, WordSettings(language="fr")).language == "fr"


def test_forms_are_not_merged_where_the_guessed_language_has_no_stems():
    texts = ["to jest dom i to nie jest szkoła", "nie ma tego w domu, ale jest tak jak było"] * 3
    assert count_terms(texts, WordSettings(merge="stem")).language == "pl"


def test_leaving_a_word_out_takes_its_forms_with_it_where_they_are_one():
    texts = ["book books", "books and rooms"]
    assert [one.term for one in count_terms(texts, WordSettings(leave_out=("book",))).terms] == ["books", "rooms"]
    merged = WordSettings(leave_out=("book",), merge="stem")
    assert [one.term for one in count_terms(texts, merged).terms] == ["rooms"]


def test_a_new_name_holds_for_all_forms_and_for_names_given_before():
    texts = ["color colors", "colour", "shade"]
    forms = WordSettings(merge="stem", merges={"color": "hue"})
    assert ("hue", 2) in [(one.term, one.count) for one in count_terms(texts, forms).terms]
    chain = WordSettings(merges={"colour": "hue", "color": "colour", "hue": "tint"})
    assert ("tint", 2) in [(one.term, one.count) for one in count_terms(texts, chain).terms]
    circle = WordSettings(merges={"color": "colour", "colour": "color"})
    assert count_terms(texts, circle).terms, "names that go round in a circle end somewhere"


QUESTION = parse_question({"measures": [{"stat": "count"}], "per": [{"column": "Comment", "by": "word"}]})


def by_label(choices):
    return {choice.label: choice for choice in choices}


def test_what_can_be_done_with_a_term_is_an_ordinary_change_of_the_question():
    about = by_label(worded.about(QUESTION, "hours", ["opening hours"]))
    assert about["Leave it out"].question.words.leave_out == ("hours",)
    assert about["Keep “opening hours” together"].question.words.together == ("opening hours",)
    assert about["Count it"].blanks[0].path == ("per", 0, "words", "merges", "hours")
    assert about["Keep together"].blanks[0].path == ("per", 0, "words", "together", 0)
    phrases = QUESTION.model_copy(
        update={"per": (QUESTION.per[0].model_copy(update={"words": WordSettings(phrase_length=2)}),)}
    )
    assert "Keep together" not in by_label(worded.about(phrases, "opening hours"))


def test_each_thing_that_was_settled_can_be_taken_back():
    settings = {"leave_out": ["thing", "etc"], "together": ["book bus"], "merges": {"libary": "library"}}
    question = parse_question(
        {"measures": [{"stat": "count"}], "per": [{"column": "C", "by": "word", "words": settings}]}
    )
    back = by_label(worded.settled(question))
    assert back["“thing” is left out"].question.words.leave_out == ("etc",)
    assert back["“book bus” is kept together"].question.words.together == ()
    assert back["“libary” is counted as “library”"].question.words.merges == {}
    assert len(back) == 4
    assert worded.merged(question, "staf", "staff").words.merges == {"libary": "library", "staf": "staff"}
