"""Dates as people write them, from the tables of docs/formats/dates.md, and written in every form and read back."""

import datetime as dt
import json
from pathlib import Path

import polars as pl
import pytest
from babel.dates import format_date
from hypothesis import given
from hypothesis import strategies as st

from tests.factories import rows_of_page
from ypsil.core.tables import calendar_names
from ypsil.core.tables.dates_in_text import parse_dates, period_of


@pytest.mark.parametrize(("written", "first", "form"), rows_of_page("dates.md", "Days and periods"))
def test_the_page_of_formats_is_kept(written, first, form):
    found = parse_dates(pl.Series([written]))
    assert (found.values.cast(pl.Date)[0].isoformat(), found.form) == (first, form)


@pytest.mark.parametrize(("written", "why"), rows_of_page("dates.md", "No dates"))
def test_what_the_page_calls_no_date_is_none(written, why):
    assert parse_dates(pl.Series([written])) is None, why


DAYS = st.dates(dt.date(1970, 1, 1), dt.date(2068, 12, 31))
LANGUAGES = ["en_GB", "en_US", "de", "fr", "es", "it", "nl", "pt"]


@given(st.lists(DAYS, min_size=1, max_size=6), st.sampled_from(LANGUAGES))
def test_what_a_language_writes_out_is_read_back(days, language):
    """Patterns of Unicode CLDR, through Babel, with the month as a word."""
    pattern = "MMMM d, y" if language == "en_US" else "d MMMM y"
    written = [format_date(day, pattern, locale=language) for day in days]
    assert parse_dates(pl.Series(written)).values.to_list() == days


@given(st.lists(DAYS, min_size=1, max_size=6), st.sampled_from(["%Y-%m-%d", "%Y/%m/%d", "%d %b %Y", "%d-%b-%y"]))
def test_what_programs_write_is_read_back(days, pattern):
    assert parse_dates(pl.Series([day.strftime(pattern) for day in days])).values.to_list() == days


@given(st.lists(DAYS, min_size=1, max_size=6), st.booleans())
def test_days_and_months_are_told_apart_by_the_column_where_one_day_shows_it(days, day_first):
    shown = [*days, dt.date(2026, 1, 31)]
    pattern = "%d/%m/%Y" if day_first else "%m/%d/%Y"
    assert parse_dates(pl.Series([day.strftime(pattern) for day in shown])).values.to_list() == shown


@given(DAYS)
def test_a_period_holds_its_days_and_the_next_one_begins_after_it(day):
    for text in (
        f"{day:%Y}",
        f"{day:%Y-%m}",
        f"{day.year}-Q{(day.month + 2) // 3}",
        f"{day:%G-W%V}",
        f"{day:%Y-%m-%d}",
    ):
        first, last = period_of(text)
        assert first <= day <= last


def test_the_names_of_days_and_months_are_those_of_cldr():
    # Unicode CLDR, through Babel; the kept copy is written by python -m ypsil.core.tables.calendar_names.
    assert json.loads(Path(calendar_names.__file__).with_suffix(".json").read_text()) == calendar_names.from_cldr()
