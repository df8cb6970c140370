"""Live figures: what they say, checked against pandas on an open data set, and what becomes of a text with them."""

import json

import polars as pl
import pytest
from vega_datasets import data

from ypsil.core.document import read_document
from ypsil.core.drawing.scene import Text
from ypsil.core.figures import Grain
from ypsil.core.prose import LiveFigure, Shown, Words
from ypsil.core.questions.model import Measure, Order, Per, Question
from ypsil.core.render import compose
from ypsil.core.render.page import UPDATED
from ypsil.core.report import ReportBody
from ypsil.core.report.needs import unmet_needs
from ypsil.core.report.nodes import document_of, report_of
from ypsil.core.style import HouseStyle
from ypsil.core.tables.conditions import Filter
from ypsil.core.tables.model import Column
from ypsil.core.tables.read import read_table
from ypsil.core.tiles import ReportTable
from ypsil.core.tiles.context import Context
from ypsil.core.tiles.written import figure_said

# Daily weather in Seattle, 2012 to 2015 (NOAA, in vega_datasets).
WEATHER = data.seattle_weather()
RAIN, WARMTH = "precipitation", "temp_max"


def table_of(frame, name="weather"):
    read = read_table(frame.to_csv(index=False).encode(), f"{name}.csv")
    return ReportTable(name, read.columns, lambda: read.frame, f"{name}-{len(frame)}", name)


SEATTLE = table_of(WEATHER)
ALL = {"weather": SEATTLE}


def asks(stat="sum", column=RAIN, *, then=None, by: Grain | None = None, per=None, **more):
    groups = (Per(column="date", by=by),) if by else (Per(column=per),) if per else ()
    return Question(measures=(Measure(stat=stat, column=column, then=then),), per=groups, **more)


def said(question, tables=ALL, filters=(), locale="en", **more):
    figure = LiveFigure(table="weather", question=question, **more)
    return figure_said(figure, Context(tables=tables, filters=filters, locale=locale))


class TestWhatTheySay:
    @pytest.mark.parametrize("stat", ["sum", "mean", "median", "max", "min"])
    def test_one_value_is_that_of_pandas(self, stat):
        assert said(asks(stat)).value == pytest.approx(getattr(WEATHER[RAIN], stat)())

    def test_the_newest_year_and_the_one_before(self):
        years = WEATHER.groupby(WEATHER["date"].dt.year)[RAIN].sum()
        assert said(asks(by="year"), pick="last").value == pytest.approx(years.iloc[-1])
        assert said(asks(by="year"), pick="before_last").value == pytest.approx(years.iloc[-2])

    def test_a_change_of_the_newest_month_against_the_same_a_year_before(self):
        months = WEATHER.set_index("date")[RAIN].resample("MS").sum()
        found = said(asks(then="percent_change_year", by="month"), pick="last")
        assert found.value == pytest.approx(months.iloc[-1] / months.iloc[-13] - 1)

    def test_who_is_first_is_said_by_name(self):
        means = WEATHER.groupby("weather")[WARMTH].mean()
        question = asks("mean", WARMTH, per="weather", order=Order(by="value", descending=True), keep=1)
        assert said(question, take="name").text == means.idxmax()

    @pytest.mark.parametrize(
        ("compared", "expected"),
        [
            ("difference", lambda now, then: now - then),
            ("percent", lambda now, then: now / then - 1),
            ("times", lambda now, then: now / then),
            ("share", lambda now, then: now / then),
        ],
    )
    def test_two_values_compared(self, compared, expected):
        wet = {year: WEATHER[WEATHER["date"].dt.year == year][RAIN].sum() for year in (2012, 2015)}
        now, then = (asks(where=(Filter(column="date", test="in", values=(str(year),)),)) for year in (2015, 2012))
        assert said(now, against=then, compared=compared).value == pytest.approx(expected(wet[2015], wet[2012]))

    def test_a_year_that_has_not_ended_is_compared_with_the_same_months_of_the_one_before(self):
        short = WEATHER[WEATHER["date"] < "2015-08-01"]
        tables = {"weather": table_of(short)}
        year, month = short["date"].dt.year, short["date"].dt.month
        now, then = (short[(year == one) & (month < 8)][RAIN].sum() for one in (2015, 2014))
        assert said(asks(by="month"), tables, pick="year_so_far").value == pytest.approx(now / then - 1)

    def test_filters_of_the_page_apply(self):
        found = said(asks(), filters=(Filter(column="weather", test="in", values=("rain",)),))
        assert found.value == pytest.approx(WEATHER[WEATHER["weather"] == "rain"][RAIN].sum())

    @pytest.mark.parametrize(
        ("shown", "text"),
        [(Shown(), "4,426"), (Shown(places=1), "4,426.0"), (Shown(sign="always"), "+4,426")],
    )
    def test_how_it_is_written(self, shown, text):
        assert WEATHER[RAIN].sum() == pytest.approx(4426.0)
        assert said(asks(), shown=shown).text == text

    def test_it_is_written_in_the_locale_of_the_report(self):
        assert said(asks(), locale="de").text == "4.426"

    def test_words_follow_the_sign_and_the_threshold(self):
        change = asks(then="percent_change", by="year")
        years = WEATHER.groupby(WEATHER["date"].dt.year)[RAIN].sum()
        word = "rose" if years.iloc[-1] > years.iloc[-2] else "fell"
        assert said(change, pick="last", words=Words()).text == word
        target = Words(above="above target", below="below target", at=4000)
        assert said(asks(), words=target).text == "above target"
        assert said(asks(), words=target.model_copy(update={"at": 5000})).text == "below target"
        assert said(asks(), words=target.model_copy(update={"at": 4400, "within": 100})).text == "stayed level"


class TestWhatCannotBeWorkedOut:
    HAIL = (Filter(column="weather", test="in", values=("hail",)),)

    @pytest.mark.parametrize(
        ("question", "why"),
        [(asks(column="gone"), "gone"), (asks("mean", where=HAIL), "no value"), (asks(where=HAIL), "no value")],
    )
    def test_it_says_why(self, question, why):
        found = said(question)
        assert why in found.problem and found.text == "not known"

    def test_a_table_that_is_gone(self):
        assert "no longer there" in said(asks(), tables={}).problem

    def test_nothing_to_compare_with(self):
        assert "no value" in said(asks(), against=asks(where=self.HAIL)).problem
        zero = asks("min", where=(Filter(column="weather", test="in", values=("rain",)),))
        assert "is nothing" in said(asks(), against=zero).problem


def report(*runs, **more):
    text = {"blocks": [{"runs": list(runs)}]}
    tile = {"id": "t1", "type": "text", "role": "body", "text": text}
    return ReportBody.model_validate({"title": "R", "bands": [{"id": "b1", "tiles": [tile]}], **more})


def live(question=None, **more):
    return {"figure": LiveFigure(table="weather", question=question or asks(), **more).model_dump(mode="json")}


def drawn(page):
    return " ".join(shape.text for shape in page.tiles()[0].scene.shapes if isinstance(shape, Text))


class TestInATextOfAReport:
    def test_it_follows_other_data(self):
        body = report({"text": "Rain: "}, live(), {"text": " mm"})
        assert "".join(drawn(compose(body, ALL)).split()) == "Rain:4,426mm"
        half = WEATHER[WEATHER["date"] < "2014-01-01"]
        expected = f"{half[RAIN].sum():,.0f}"
        assert expected in drawn(compose(body, {"weather": table_of(half)}))

    def test_a_text_with_a_figure_that_is_missing_is_not_shown_to_readers(self):
        body = report({"text": "Rain: "}, live(asks(column="gone")))
        mine, theirs = compose(body, ALL), compose(body, ALL, for_readers=True)
        assert "not known" in drawn(mine) and "cannot be worked out" in mine.tiles()[0].drawn.problem
        assert drawn(theirs) == UPDATED and "gone" not in repr(theirs.tiles()[0].scene)

    def test_a_longer_value_makes_its_tile_grow(self):
        few, many = ({"text": "word " * count} for count in (1, 60))
        heights = [compose(report(one, live()), ALL).tiles()[0].place.height for one in (few, many)]
        assert heights[1] > heights[0]

    def test_the_table_is_a_source_of_the_report_also_where_no_chart_asks_it(self):
        body = report(live())
        assert body.tables() == ["weather"]
        gone = tuple(column for column in SEATTLE.columns if column.name != RAIN)
        assert [need.tile_id for need in unmet_needs(body, "weather", gone)] == ["t1"]
        assert unmet_needs(body, "weather", SEATTLE.columns) == []

    def test_its_table_keeps_its_slot_in_the_document(self):
        document = document_of(report(live()), None)
        content = json.loads(json.dumps(document.nodes["t1"].content).replace('"table": "weather"', '"table": "s1"'))
        nodes = document.nodes | {"t1": document.nodes["t1"].model_copy(update={"content": content})}
        slotted = document.model_copy(update={"sources": {"s1": "weather"}, "nodes": nodes})
        opened = report_of(read_document(slotted.model_dump(mode="json")), HouseStyle())
        assert opened.tables() == ["weather"]
        kept = document_of(opened, slotted)
        assert (kept.sources, kept.nodes["t1"].content["text"]) == ({"s1": "weather"}, content["text"])


def test_figures_of_a_table_that_is_read_but_once():
    calls = []
    columns = (Column("Visits", "number"),)

    def frame():
        calls.append(1)
        return pl.DataFrame({"Visits": [1.0, 2.0]})

    question = Question(measures=(Measure(stat="sum", column="Visits"),))
    for _ in range(3):
        tables = {"weather": ReportTable("weather", columns, frame, "once", "s")}
        assert said(question, tables).value == 3
    assert len(calls) == 1
