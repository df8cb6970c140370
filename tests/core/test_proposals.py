"""What is proposed of a table: what a reader would learn, judged by eye on open data sets and kept here as rules."""

import datetime as dt
import random

import pytest

from tests.factories import report_table
from ypsil.core.report.suggest import suggest
from ypsil.core.style import HouseStyle
from ypsil.core.tables.profile import profile
from ypsil.core.tables.read import read_table
from ypsil.core.visuals import Box, draw


def proposed(text, purpose):
    table = read_table(text.encode(), "t.csv")
    found = suggest(purpose, "t", report_table(table), profile(table.frame, table.columns))
    return [one for one in found if one.fits]


def weather(days=1_461):
    # In the shape of the daily weather of Seattle (NOAA, public domain), which the vega datasets carry.
    chance, start = random.Random(1), dt.date(2012, 1, 1)
    rows = ["date,precipitation,temp_max,temp_min,wind,weather"]
    for day in range(days):
        low = chance.gauss(8, 4)
        kind = chance.choice(["sun", "rain", "fog"])
        rain, wind = chance.random() * 20, chance.random()
        rows.append(f"{start + dt.timedelta(day)},{rain:.1f},{low + 8:.1f},{low:.1f},{wind:.1f},{kind}")
    return "\n".join(rows)


def questions(found):
    return [[(one.stat, one.column) for one in suggestion.tile.question.measures] for suggestion in found]


def test_what_is_measured_is_averaged_and_amounts_are_added_up():
    asked = [one for found in ("how much", "who is biggest") for one in questions(proposed(weather(), found))]
    told = {pair for measures in asked for pair in measures}
    assert ("sum", "precipitation") in told and ("mean", "temp_max") in told
    assert not {("sum", "temp_max"), ("sum", "temp_min"), ("sum", "wind")} & told


def test_the_highs_and_lows_of_one_thing_are_drawn_together():
    first = questions(proposed(weather(), "how it changes"))[:2]
    assert [("mean", "temp_max"), ("mean", "temp_min")] in first
    titles = [one.tile.title for one in proposed(weather(), "how it changes")]
    assert "Mean temp max and mean temp min per month" in titles


@pytest.mark.parametrize(("years", "is_cut"), [(2, False), (4, False), (9, True)])
def test_all_months_are_shown_while_they_can_be_looked_at(years, is_cut):
    rows = [f"{2015 + month // 12}-{month % 12 + 1:02}-01,{month % 7 + month}" for month in range(12 * years)]
    found = proposed("Month,Visits\n" + "\n".join(rows), "how it changes")
    assert found[0].answer.height == 12 * years
    cut = [one for one in found if one.tile.question.where and one.tile.question.measures[0].then is None]
    assert bool(cut) is is_cut
    assert all("last 12 months" in one.tile.title for one in found if one.tile.question.where)


def test_cards_that_differ_in_what_they_show_differ_in_words():
    for purpose in ("how it changes", "who is biggest", "share of a whole", "what goes together"):
        tiles = [one.tile for one in proposed(weather(), purpose)]
        said = [(one.visual, one.title, str(one.options)) for one in tiles]
        assert len(set(said)) == len(said), purpose


def test_one_period_is_no_change():
    found = proposed("Day,Visits\n" + "\n".join(f"2026-03-{day:02},{day}" for day in range(1, 15)), "how it changes")
    assert all(one.answer.height > 1 for one in found)
    assert not any("1 periods" in one.reason for one in found)


def test_a_name_that_few_rows_share_is_no_share_of_a_whole():
    rows = "\n".join(f"Name {number % 58},{number % 2},{number}" for number in range(63))
    found = proposed("last_name,gender,age\n" + rows, "share of a whole")
    assert not any(one.tile.question.measures[0].column == "last_name" for one in found)


def test_a_funnel_is_not_proposed_for_answers_that_are_no_stages():
    answers = [("Books", 90), ("Films", 60), ("Games", 30)] * 4
    text = "Favourite,Visits\n" + "\n".join(f"{name},{count}" for name, count in answers)
    assert "funnel" not in {one.tile.visual for one in proposed(text, "who is biggest")}
    text = text.replace("Books", "under 18").replace("Films", "18–24").replace("Games", "25–64")
    assert "funnel" in {one.tile.visual for one in proposed(text, "who is biggest")}, "these stand in an order"


def test_years_far_ahead_are_doubted():
    # Films of 1946 whose year was written with two digits.
    rows = [f"{1990 + number % 30}-05-01,{number}" for number in range(60)] + ["2068-03-01,1", "2070-04-01,2"] * 4
    table = read_table(("Released,Takings\n" + "\n".join(rows)).encode(), "films.csv")
    (remark,) = [one for one in table.remarks if one.code == "century-doubtful"]
    assert (remark.column, remark.count) == ("Released", 8)
    assert "2070" in remark.message and "1970" in remark.message


def test_an_axis_of_several_measures_is_not_called_after_one_of_them():
    found = next(one for one in proposed(weather(), "how it changes") if len(one.tile.question.measures) == 2)
    for visual in ("line", "column"):
        texts = [text.text for text in draw(visual, found.answer, {}, Box(600, 300), HouseStyle()).texts()]
        assert texts.count("Mean temp max") == 1, "at its line, or in the legend"


def monthly(columns, row, years=2):
    rows = [f"{2020 + month // 12}-{month % 12 + 1:02}-01,{row(month)}" for month in range(12 * years)]
    return f"Month,{columns}\n" + "\n".join(rows)


def test_columns_of_one_kind_are_drawn_together_over_time():
    # As the causes of death in the Crimean war (Nightingale, 1858; in the vega datasets) stand: a column each.
    text = monthly("Wounds,Other,Disease", lambda month: f"{1 + 5 * month},{2 + 4 * month},{210 - 9 * month}")
    first = proposed(text, "how it changes")[0]
    assert questions([first]) == [[("sum", "Wounds"), ("sum", "Other"), ("sum", "Disease")]]
    assert first.tile.title == "Wounds, Other and Disease per month" and first.tile.visual == "line"


def test_columns_of_other_sizes_or_of_groups_are_not():
    apart = monthly("Visits,Budget", lambda month: f"{20 + month},{90_000 + month}")
    grouped = monthly("Branch,Visits,Loans", lambda month: f"{'Elm' if month % 2 else 'Oak'},{20 + month},{30 + month}")
    for text in (apart, grouped):
        assert all(len(measures) == 1 for measures in questions(proposed(text, "how it changes")))


def test_a_mean_is_parted_by_groups_before_it_is_taken_over_all():
    # As the prices of five shares in one table (vega datasets, stocks): their mean is nobody's price.
    rows = [
        f"{2020 + month // 12}-{month % 12 + 1:02}-01,{name},{price + month}.{month % 9 + 1}"
        for month in range(24)
        for name, price in (("A", 10), ("B", 90), ("C", 400))
    ]
    first = proposed("Month,Share,Price\n" + "\n".join(rows), "how it changes")[0]
    assert first.tile.title == "Mean Price per month, by Share"


def test_a_mean_of_many_rows_a_day_comes_whole_first():
    rows = [f"2024-03-{at % 28 + 1:02},{'ABCD'[at % 4]},{at * 7 % 5 + 1}" for at in range(600)]
    first = proposed("Day,Age,Rating\n" + "\n".join(rows), "how it changes")[0]
    assert first.tile.title == "Mean Rating per day"


def test_places_in_the_calendar_are_no_amounts():
    text = "Year,Quarter,Sales\n" + "\n".join(f"{1990 + at // 4},{at % 4 + 1},{100 + 3 * at}" for at in range(60))
    for purpose in ("how it changes", "how it spreads", "how much"):
        assert all("Quarter" not in one.tile.title for one in proposed(text, purpose))


def test_points_are_not_said_to_be_by_what_they_show():
    text = "Height,Mass\n" + "\n".join(f"{150 + at}.5,{50 + at * 7 % 40}.25" for at in range(40))
    assert "Height and Mass" in {one.tile.title for one in proposed(text, "what goes together")}


def test_numbers_that_follow_each_other_count_rows_unless_they_are_called_an_amount():
    counted, called = (
        f"When,{name}\n" + "".join(f"2026-01-{n:02d},{n}\n" for n in range(1, 29)) for name in ("N", "Visits")
    )
    assert not any(("sum", "N") in one for one in questions(proposed(counted, "how it changes")))
    assert questions(proposed(called, "how it changes"))[0] == [("sum", "Visits")]
