"""Which live figure is meant by some words: the rules, checked with pandas on open data sets."""

import datetime as dt
from dataclasses import replace

import pytest
from vega_datasets import data

from ypsil.core.prose import Prose
from ypsil.core.report.wanted import RULES, AtHand, typed_numbers, understood, with_figure
from ypsil.core.tables.profile import profile
from ypsil.core.tables.read import read_table
from ypsil.core.tiles import ReportTable
from ypsil.core.tiles.context import Context
from ypsil.core.tiles.written import figure_said

WEATHER = data.seattle_weather()  # NOAA, in vega_datasets
CARS = data.cars()  # StatLib, in vega_datasets
YEAR, MONTH = WEATHER["date"].dt.year, WEATHER["date"].dt.month


def at_hand(frame, name):
    read = read_table(frame.to_csv(index=False).encode(), f"{name}.csv")
    table = ReportTable(name, read.columns, lambda: read.frame, f"wanted-{name}-{len(frame)}", name)
    return AtHand(name, name, profile(read.frame, read.columns)), table


SEATTLE, CAR_TABLE = at_hand(WEATHER, "weather"), at_hand(CARS, "cars")
TABLES = {"weather": SEATTLE[1], "cars": CAR_TABLE[1]}


def best(text, *tables):
    found = understood(text, [one for one, _ in tables or (SEATTLE, CAR_TABLE)])
    return found[0] if found else None


def value(found):
    return figure_said(found.figure, Context(tables=TABLES)).value


def name(found):
    return figure_said(found.figure, Context(tables=TABLES)).text


RAIN, WARM = WEATHER["precipitation"], WEATHER["temp_max"]


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("total precipitation", RAIN.sum()),
        ("precipitation", RAIN.sum()),
        ("average wind", WEATHER["wind"].mean()),
        ("highest temp max", WARM.max()),
        ("the lowest temp_min in 2013", WEATHER[YEAR == 2013]["temp_min"].min()),
        ("total precipitation this year", RAIN[YEAR == 2015].sum()),
        ("precipitation last year", RAIN[YEAR == 2014].sum()),
        ("precipitation in March 2014", RAIN[(YEAR == 2014) & (MONTH == 3)].sum()),
        ("precipitation in March", RAIN[(YEAR == 2015) & (MONTH == 3)].sum()),
        ("precipitation in the last 3 months", RAIN[(YEAR == 2015) & (MONTH > 9)].sum()),
        ("precipitation in Q2 2013", RAIN[(YEAR == 2013) & MONTH.between(4, 6)].sum()),
        ("precipitation since 2014", RAIN[YEAR >= 2014].sum()),
        ("precipitation from 2013 to 2014", RAIN[YEAR.between(2013, 2014)].sum()),
        ("precipitation when it is snow", RAIN[WEATHER["weather"] == "snow"].sum()),
        ("precipitation except rain", RAIN[WEATHER["weather"] != "rain"].sum()),
        ("change in precipitation between 2012 and 2015", RAIN[YEAR == 2015].sum() / RAIN[YEAR == 2012].sum() - 1),
        ("precipitation in 2015 compared with 2012", RAIN[YEAR == 2015].sum() / RAIN[YEAR == 2012].sum() - 1),
        ("growth in precipitation over the year before", RAIN[YEAR == 2015].sum() / RAIN[YEAR == 2014].sum() - 1),
        ("how much more precipitation since 2012", RAIN[YEAR == 2015].sum() - RAIN[YEAR == 2012].sum()),
        ("share of precipitation when it is snow", RAIN[WEATHER["weather"] == "snow"].sum() / RAIN.sum()),
        ("number of cars from Japan", (CARS["Origin"] == "Japan").sum()),
        ("how many rows of cars", len(CARS)),
        ("average horsepower in Europe", CARS[CARS["Origin"] == "Europe"]["Horsepower"].mean()),
        ("median weight", CARS["Weight_in_lbs"].median()),
        ("how many different origins", CARS["Origin"].nunique()),
        ("share of Japan", (CARS["Origin"] == "Japan").mean()),
    ],
)
def test_words_are_understood_as_pandas_would_work_it_out(text, expected):
    found = best(text)
    assert found is not None and found.unheard == ()
    assert value(found) == pytest.approx(expected), found.sentence


def test_who_is_first_is_a_name_and_how_much_that_is_a_value():
    means = CARS.groupby("Origin")["Horsepower"].mean()
    assert name(best("the origin with the highest average horsepower")) == means.idxmax()
    assert name(best("origin with the lowest average horsepower")) == means.idxmin()
    assert value(best("average horsepower of the best origin")) == pytest.approx(means.max())


def test_words_in_place_of_a_number():
    rose = RAIN[YEAR == 2015].sum() > RAIN[YEAR == 2014].sum()
    assert name(best("whether precipitation rose or fell over the year before")) == ("rose" if rose else "fell")
    assert name(best("whether total precipitation is above 5000")) == "below"


def test_slips_are_understood_and_said():
    found = best("total precipitaton")
    assert value(found) == pytest.approx(RAIN.sum())
    assert any("“precipitaton” was read as" in one for one in found.assumed)


def test_what_is_taken_for_granted_and_what_is_not_understood_is_said():
    found = best("precipitation in Tacoma")
    assert found.unheard == ("tacoma",) and any("as nothing else is said" in one for one in found.assumed)
    assert ("precipitation", "the column precipitation") in found.heard


def test_what_is_named_and_not_asked_is_said():
    found = best("total horsepower per origin")
    assert value(found) == pytest.approx(CARS["Horsepower"].sum())
    assert found.assumed == ("“origin” is left aside, as a figure is one value",)
    assert best("average horsepower in Europe").assumed == ()


def test_nothing_is_guessed_where_nothing_is_named():
    assert understood("the meaning of life", [SEATTLE[0], CAR_TABLE[0]]) == []
    assert understood("", [SEATTLE[0]]) == [] and understood("%%% 12", [SEATTLE[0]]) == []


def test_the_next_best_are_offered_each_once():
    found = understood("precipitation", [SEATTLE[0]])
    sentences = [one.sentence for one in found]
    assert len(sentences) > 2 and len(set(sentences)) == len(sentences)
    assert [one.score for one in found] == sorted((one.score for one in found), reverse=True)


def test_a_year_that_has_not_ended_is_said_to_be_short():
    short = at_hand(
        WEATHER[WEATHER["date"] < "2015-08-01"].assign(date=lambda frame: frame["date"].dt.strftime("%Y-%m")), "short"
    )
    first, second = understood("precipitation this year compared with last year", [short[0]])[:2]
    assert first.figure.pick == "year_so_far" and any("2015 so far" in one for one in first.assumed)
    assert any("the newest year goes to 2015-07" in one for one in second.assumed)


def test_long_and_odd_wishes_end_soon():
    for text in ("x " * 5_000, "last " * 200, "since since since march", "per per per", "q9 2", "between and", "best"):
        understood(text, [SEATTLE[0], CAR_TABLE[0]])


def test_the_rules_are_told():
    assert len(RULES) >= 5 and all(rule.endswith((".", "“.")) for rule in RULES)


class TestNumbersTypedByHand:
    def offers(self, text, locale="en", *tables):
        return typed_numbers(Prose.of(text), list(tables or (SEATTLE, CAR_TABLE)), locale)

    def test_a_number_that_the_data_gives_is_offered_as_what_it_is(self):
        first, *_ = self.offers("In all 4,426 mm of rain fell.")
        assert (first.text, first.sentence) == ("4,426", "Total precipitation")
        text = with_figure(Prose.of("In all 4,426 mm of rain fell."), first)
        assert text.plain(("4,426",)) == "In all 4,426 mm of rain fell."
        assert figure_said(next(text.figures()), Context(tables=TABLES)).text == "4,426"

    def test_a_fall_typed_without_its_sign_stays_so(self):
        fall = RAIN[YEAR == 2015].sum() / RAIN[YEAR == 2014].sum() - 1
        typed = f"{abs(fall) * 100:.1f}%"
        found = [one for one in self.offers(f"Rain changed by {typed}.") if "Percentage change" in one.sentence]
        assert found and figure_said(found[0].figure, Context(tables=TABLES)).text == typed

    @pytest.mark.parametrize(
        "text", ["In 2015 it rained", "12 of 40", "no number", "call 01632 960 001", "version 4.426.1"]
    )
    def test_years_small_numbers_and_what_is_none_are_left_alone(self, text):
        assert self.offers(text) == []

    def test_numbers_are_read_as_the_report_writes_them(self):
        assert [one.text for one in self.offers("In all 4.426 mm.", "de")][:1] == ["4.426"]

    def test_looks_stay(self):
        prose = Prose.model_validate({"blocks": [{"runs": [{"text": "all 4,426 mm", "looks": ["bold"]}]}]})
        made = with_figure(prose, typed_numbers(prose, [SEATTLE], "en")[0])
        assert [run.looks for run in made.runs()] == [("bold",)] * 3


@pytest.mark.parametrize(
    ("wish", "stat", "said"),
    [("the newest day", "max", "31 Dec 2015"), ("data from the first day on: first day", "min", "1 Jan 2012")],
)
def test_a_date_of_the_data_is_asked_for_in_words(wish, stat, said):
    found = understood(wish, [SEATTLE[0]])[0].figure
    assert found.question.measures[0].stat == stat and found.question.measures[0].column == "date"
    context = Context(tables={found.table: SEATTLE[1]})
    assert figure_said(found, context).text == said


@pytest.mark.parametrize(
    "wish", ["precipitation on the last day", "total precipitation on the first day", "number of days"]
)
def test_words_that_name_an_amount_ask_for_that_and_for_no_date(wish):
    figure = understood(wish, [SEATTLE[0]])[0].figure
    assert figure.take == "value" and figure.question.measures[0].stat in ("sum", "count")


def test_when_it_was_read_is_told_first_where_that_is_asked():
    assert understood("last read", [SEATTLE[0]])[0].figure.take == "read"


def test_as_of_may_mean_the_day_the_table_was_read():
    read = next(one.figure for one in understood("as of", [SEATTLE[0]]) if one.figure.take == "read")
    table = replace(SEATTLE[1], read=dt.date(2026, 9, 3))
    assert figure_said(read, Context(tables={read.table: table})).text == "3 Sept 2026"
    assert figure_said(read, Context(tables={read.table: SEATTLE[1]})).problem
