"""Numbers on drawings: short, never alike where they differ, never vanished; whole where somebody looks closer."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.factories import csv_table
from ypsil.core.answers import answer
from ypsil.core.answers.model import AnswerColumn
from ypsil.core.figures import format_number, in_full
from ypsil.core.questions import parse_question
from ypsil.core.style import HouseStyle
from ypsil.core.visuals import Box, draw
from ypsil.core.visuals.shared.summary import mark_texts, value_texts

AMOUNT, SHARE = AnswerColumn("Amount", "number", "measure"), AnswerColumn("Share", "number", "measure", "%")


def test_ten_small_unequal_numbers_are_ten_texts():
    values = [0.001 * (1 + place / 7) for place in range(10)]
    texts = value_texts(values, AMOUNT)
    assert len(set(texts)) == 10 and "0.00" not in texts


@pytest.mark.parametrize(("value", "text"), [(0.001, "0.0010"), (-0.0001, "−0.00010"), (-0.0, "0"), (0.0, "0")])
def test_one_small_number_does_not_vanish_and_zero_has_no_minus(value, text):
    assert format_number(value) == text
    assert format_number(-0.001, decimals=2) == "0.00"


@pytest.mark.parametrize(("locale", "first"), [("en_US", "$55.1B"), ("de_DE", "55,1 Mrd. $"), ("fr_FR", "55,1 Md $")])
def test_long_numbers_are_short_by_the_locale_and_whole_on_demand(locale, first):
    """Short forms of Unicode CLDR, through Babel."""
    gross = AnswerColumn("Gross", "number", "measure", "$", locale=locale)
    found = mark_texts([55_100_282_358, 912_000_000], gross)
    assert found[0].replace("\xa0", " ") == first
    assert in_full(found[0]) == value_texts([55_100_282_358], gross)[0]


FINITE = st.floats(-1e14, 1e14, allow_nan=False).filter(lambda value: value == 0 or abs(value) > 1e-6)


@given(st.lists(FINITE, min_size=1, max_size=12))
def test_no_number_vanishes_or_is_longer_than_seven_digits(values):
    for value, text in zip(values, mark_texts(values, AMOUNT), strict=True):
        digits = [one for one in text if one.isdigit()]
        assert (value == 0) == (not any(one != "0" for one in digits))
        whole = text.partition(".")[0]
        assert sum(one.isdigit() for one in whole) <= 6
        assert not (text.startswith("−") and value >= 0)


@given(st.lists(st.integers(-10_000, 10_000), min_size=2, max_size=12, unique=True))
def test_different_numbers_of_up_to_five_digits_are_different_texts(values):
    scaled = [value / 100 for value in values]
    assert len(set(value_texts(scaled, AMOUNT))) == len(values)


def test_shares_that_differ_are_told_apart_and_near_the_ends_they_are_not_there_yet():
    assert value_texts([0.4123, 0.4137], SHARE) == ["41.2%", "41.4%"]
    assert value_texts([0.0004, 0.9996, 1.0, 0.0], SHARE) == ["0.04%", "99.96%", "100%", "0%"]


def test_a_change_of_shares_is_in_points():
    table = csv_table("Year,Yes\n2024-01-01,yes\n2024-02-01,no\n2025-01-01,yes\n2025-02-01,yes\n")
    measure = {"stat": "share", "column": "Yes", "values": ["Yes"], "then": "change"}
    question = {"measures": [measure], "per": [{"column": "Year", "by": "year"}]}
    found = answer(table.frame, table.columns, parse_question(question))
    assert found.rows[1][1] == 0.5
    assert value_texts([0.5], found.of("measure")[0]) == ["50\xa0pts"]
    assert value_texts([0.5, 0.0012], found.of("measure")[0]) == ["50.0\xa0pts", "0.1\xa0pts"]


def test_marks_are_short_and_tell_their_number_in_full():
    table = csv_table("Film,Gross\nA,55100282358\nB,912000000\n")
    question = {"measures": [{"stat": "sum", "column": "Gross"}], "per": [{"column": "Film"}]}
    scene = draw("bar", answer(table.frame, table.columns, parse_question(question)), {}, Box(500, 200), HouseStyle())
    assert "55.1B" in [text.text for text in scene.texts()]
    assert any("55,100,282,358" in shape.title for shape in scene.shapes)
    assert "55.1B" in scene.description
