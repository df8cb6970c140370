"""Words split by a group: which of them mark it, and how often each was used there."""

import math

import pytest
from scipy.stats import power_divergence

from tests.factories import ask, csv_table
from ypsil.core.errors import QuestionRefused
from ypsil.core.questions import parse_question
from ypsil.core.questions.offered import choices, offers
from ypsil.core.style import HouseStyle
from ypsil.core.tables.profile import profile
from ypsil.core.text.count import count_terms
from ypsil.core.text.settings import WordSettings
from ypsil.core.visuals import Box, draw

TEXTS = {
    "Yes": ["Kind staff and warm rooms", "Kind staff", "Warm rooms, kind people"] * 8,
    "No": ["Slow computers and cold rooms", "Slow lift"] * 6,
    "": ["Slow but kind"],
}
TABLE = "Again,Rating,Comment\n" + "\n".join(
    f'{again},{5 if again == "Yes" else 1},"{text}"' for again, texts in TEXTS.items() for text in texts
)
BY_WORD = {"measures": [{"stat": "count"}], "per": [{"column": "Comment", "by": "word"}]}
MARKING = {**BY_WORD, "split": {"column": "Again"}, "order": {"by": "keyness", "descending": True}}


def answered(question, text=TABLE):
    return ask(question, csv_table(text))


def test_each_group_has_the_words_that_mark_it_the_surest_first():
    found = answered(MARKING)
    marks = {again: [row[0] for row in found.rows if row[1] == again] for again in ("Yes", "No")}
    assert marks == {"Yes": ["kind", "staff", "warm"], "No": ["Slow", "cold", "computers", "lift"]}
    assert found.base == 36
    assert "1 row has no Again" in found.notes
    assert found.bases["0"].to_list() == [24] * 3 + [12] * 4


def test_what_marks_is_decided_by_the_likelihood_that_scipy_gives():
    found = {row[0].lower() for row in answered(MARKING).rows}
    counts = {again: count_terms(texts, WordSettings(language="en")) for again, texts in TEXTS.items() if again}
    # Every word that was written counts for the size of a text (Rayson and Garside 2000), small words too.
    sizes = {again: one.tokens for again, one in counts.items()}
    for word in ("kind", "staff", "slow", "cold", "rooms", "warm"):
        seen = [next((t.count for t in counts[again].terms if t.term.lower() == word), 0) for again in ("Yes", "No")]
        whole = sum(sizes.values())
        expected = [sum(seen) * sizes[again] / whole for again in ("Yes", "No")]
        likelihood = power_divergence(seen, expected, lambda_="log-likelihood").statistic
        assert (word in found) == (likelihood >= 6.63 and max(seen) >= 3), word


def test_in_another_order_the_commonest_words_are_counted_in_each_group():
    found = answered({**BY_WORD, "split": {"column": "Again"}, "keep": 2})
    assert found.rows == (("kind", "Yes", 24), ("kind", "No", 0), ("rooms", "Yes", 16), ("rooms", "No", 6))


def test_answers_are_counted_once_where_that_is_asked():
    twice = TABLE.replace("Slow lift", "Slow slow lift")
    by = {**MARKING, "per": [{"column": "Comment", "by": "word", "words": {"count": "responses"}}]}
    rows = {row[0]: row[2] for row in answered(by, twice).rows}
    assert rows["slow"] == 12
    assert {row[0]: row[2] for row in answered(MARKING, twice).rows}["slow"] == 18


def test_ratings_are_compared_low_against_high():
    found = answered({**MARKING, "split": {"column": "Rating", "by": {"bins": 2}}})
    assert {row[1] for row in found.rows} == {"1 to under 3", "3 to 5"}


def test_where_no_word_marks_a_group_it_is_said():
    same = "Again,Comment\n" + "Yes,Kind staff\nNo,Kind staff\n" * 20
    found = answered(MARKING, same)
    assert found.height == 0
    scene = draw("marking_words", found, {}, Box(600, 300), HouseStyle())
    assert "No word marks any group of Again" in scene.description


def test_very_many_groups_are_compared_for_the_first_twelve():
    many = "Again,Comment\n" + "\n".join(f"g{index % 15},only{index % 15} words here" for index in range(150))
    found = answered(MARKING, many)
    assert len({row[1] for row in found.rows}) == 12
    assert "3 more of Again are not compared" in found.notes


@pytest.mark.parametrize(
    ("question", "said"),
    [
        ({**BY_WORD, "order": {"by": "keyness"}}, "only where they are split"),
        ({"measures": [{"stat": "count"}], "per": [{"column": "Again"}], "order": {"by": "keyness"}}, "only words"),
    ],
)
def test_keyness_is_for_words_that_are_split(question, said):
    with pytest.raises(QuestionRefused, match=said):
        answered(question)


def test_the_sentence_offers_groups_to_compare_and_takes_them_back():
    table = csv_table(TABLE)
    known = profile(table.frame, table.columns)
    question = parse_question(BY_WORD)
    offer = next(one for one in offers(question, known) if one.text == "compared between …")
    labels = {choice.label: choice.question for choice in offer.choices}
    assert set(labels) == {"Again", "Rating", "Rating, low against high"}
    compared = labels["Again"]
    assert compared.order.by == "keyness"
    assert any(
        choice.label == "those that mark each of them" and choice.current
        for choice in choices(compared, "order", known)
    )
    alone = next(choice.question for choice in choices(compared, "split", known) if choice.question.split is None)
    assert alone == question
    assert not [one for one in offers(compared, known) if one.text == "compared between …"]


def test_the_drawing_tells_use_here_and_elsewhere_and_how_many_times():
    found = answered(MARKING)
    scene = draw("marking_words", found, {}, Box(700, 360), HouseStyle())
    words = [text.text for text in scene.texts()]
    assert {"Again: Yes", "Again: No", "kind", "Slow", "only here"} <= set(words)
    assert "24 answers" in words
    marks = [shape.title for shape in scene.shapes if getattr(shape, "title", "").startswith("kind")]
    assert marks == ["kind, Again: Yes: 100.0 in 100 answers (24), elsewhere 0.0"]
    without = draw("marking_words", found, {"times": False}, Box(700, 360), HouseStyle())
    assert "only here" not in [text.text for text in without.texts()]


def test_bars_are_as_long_as_the_use_in_a_hundred_answers():
    scene = draw("marking_words", answered(MARKING), {}, Box(700, 360), HouseStyle())
    bars = {
        shape.title.split(",")[0]: shape.width
        for shape in scene.shapes
        if getattr(shape, "title", "") and hasattr(shape, "width")
    }
    assert math.isclose(bars["cold"] / bars["Slow"], 0.5, rel_tol=0.01)
