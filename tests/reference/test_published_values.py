"""Values published elsewhere, each with its source."""

import datetime as dt
import json
from pathlib import Path

import pytest

from ypsil.core.drawing.colour import contrast_ratio, relative_luminance
from ypsil.core.drawing.ticks import nice_domain, ticks
from ypsil.core.figures import format_number, format_period
from ypsil.core.style import HouseStyle
from ypsil.core.text.count import count_terms
from ypsil.core.text.settings import WordSettings

# Made by d3-array 3.2.5 (ISC licence) under node: vendoring/d3_ticks.mjs.
D3 = json.loads((Path(__file__).parent / "d3_ticks.json").read_text())


@pytest.mark.parametrize("case", D3, ids=lambda case: f"{case['start']}-{case['stop']}-{case['count']}")
def test_ticks_and_nice_domains_are_those_of_d3(case):
    assert ticks(case["start"], case["stop"], case["count"]) == pytest.approx(case["ticks"])
    assert nice_domain(case["start"], case["stop"], case["count"]) == pytest.approx(case["nice"])


@pytest.mark.parametrize(
    ("first", "second", "ratio"),
    [
        # WCAG 2.2, definition of "contrast ratio": from 1 (commonly written 1:1) to 21 (21:1).
        ("#000000", "#ffffff", 21.0),
        ("#ffffff", "#ffffff", 1.0),
        # WCAG 2.2, Understanding 1.4.3: #777777 on white is 4.47:1 and fails, #767676 passes (at least 4.5:1).
        ("#777777", "#ffffff", 4.48),
        ("#767676", "#ffffff", 4.54),
        # WebAIM's worked article "Contrast and Color Accessibility": pure red 4:1, green 1.4:1, blue 8.6:1.
        ("#ff0000", "#ffffff", 4.0),
        ("#00ff00", "#ffffff", 1.37),
        ("#0000ff", "#ffffff", 8.59),
    ],
)
def test_contrast_follows_wcag(first, second, ratio):
    assert contrast_ratio(first, second) == pytest.approx(ratio, abs=0.01)
    assert contrast_ratio(second, first) == contrast_ratio(first, second)


def test_luminance_weights_are_those_of_wcag():
    # WCAG 2.2, "relative luminance": L = 0.2126 R + 0.7152 G + 0.0722 B.
    found = [relative_luminance(colour) for colour in ("#ff0000", "#00ff00", "#0000ff")]
    assert found == pytest.approx([0.2126, 0.7152, 0.0722])


def test_the_house_style_reads_well_untouched():
    # WCAG 2.2, 1.4.3 (text 4.5:1) and 1.4.11 (graphics 3:1).
    style = HouseStyle()
    for text in (style.ink, style.muted, style.rise, style.fall):
        assert contrast_ratio(text, style.paper) >= 4.5
    for colour in (*style.palette, style.accent):
        assert contrast_ratio(colour, style.paper) >= 3


@pytest.mark.parametrize(
    ("day", "week"),
    [
        # ISO 8601: week 1 is the week with the year's first Thursday. The days are common test cases from memory,
        # checked against Python's own date.isocalendar.
        ("2005-01-01", "2004-W53"),
        ("2005-12-31", "2005-W52"),
        ("2007-12-31", "2008-W01"),
        ("2010-01-03", "2009-W53"),
    ],
)
def test_weeks_are_those_of_iso_8601(day, week):
    assert format_period(dt.date.fromisoformat(day), "week") == week


@pytest.mark.parametrize(
    ("locale", "text"),
    # Unicode CLDR, number symbols of each locale (through Babel).
    [("en_GB", "1,234,567.5"), ("de_DE", "1.234.567,5"), ("sv_SE", "1\u00a0234\u00a0567,5")],
)
def test_numbers_follow_cldr(locale, text):
    assert format_number(1234567.5, decimals=1, locale=locale) == text


def test_words_of_a_public_domain_text():
    # Lewis Carroll, "Jabberwocky" (1871), first and last stanza are the same: each word twice. Counted by hand.
    stanza = (
        "'Twas brillig, and the slithy toves Did gyre and gimble in the wabe: "
        "All mimsy were the borogoves, And the mome raths outgrabe."
    )
    found = count_terms([stanza, stanza], WordSettings(keep_stop_words=True, case="lower"))
    counts = {term.term: term.count for term in found.terms}
    assert found.tokens == 46
    assert (counts["the"], counts["and"], counts["toves"], counts["twas"]) == (8, 6, 2, 2)
