"""What a question can say beyond one measure for each group: changes, parts, classes, gaps, orders, single rows."""

import datetime as dt

import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.factories import ask, csv_table, total
from ypsil.core.answers import answer
from ypsil.core.answers.groups import group_of
from ypsil.core.questions import parse_question, sentence
from ypsil.core.questions.model import Per
from ypsil.core.questions.offered import choices, offers
from ypsil.core.questions.sentence import sentence_parts
from ypsil.core.tables import Column
from ypsil.core.tables.natural_order import natural_order
from ypsil.core.tables.profile import profile

GAPPED = """Day,Branch,Visits,Cost
2025-01-10,Alder Lane,100,200
2025-02-10,Alder Lane,150,150
2025-04-10,Alder Lane,300,450
2026-01-10,Alder Lane,130,260
2025-01-20,Book bus,10,40
2025-02-20,Book bus,0,10
2026-01-20,Book bus,20,30
"""


def asked(measure, *, per=None, table=GAPPED, **more):
    per = per or [{"column": "Day", "by": "month"}]
    return ask({"measures": [measure], "per": per, **more}, csv_table(table))


def column(answer, place=-1):
    return [row[place] for row in answer.rows]


def visits(**more):
    return {"stat": "sum", "column": "Visits", **more}


@pytest.mark.parametrize("grain", ["year", "quarter", "month", "week", "day"])
@given(days=st.lists(st.none() | st.dates() | st.dates(dt.date(2025, 1, 1), dt.date(2025, 3, 1)), max_size=60))
def test_a_period_starts_where_polars_cuts(grain, days):
    cells = pl.Series("Day", days, dtype=pl.Date)
    found = group_of(
        Per(column="Day", by=grain), Column("Day", "date", None, 0, 0), pl.DataFrame([cells]), "per", "per0"
    )
    length = {"year": "1y", "quarter": "1q", "month": "1mo", "week": "1w", "day": "1d"}[grain]
    assert found.cells.to_list() == cells.dt.truncate(length).to_list()


def test_a_change_is_from_the_period_before_not_from_the_row_before():
    found = asked(visits(then="change"))
    assert column(found, 0) == [dt.date(2025, 1, 1), dt.date(2025, 2, 1), dt.date(2025, 4, 1), dt.date(2026, 1, 1)]
    assert column(found) == [None, 40, None, None]


def test_a_year_before_is_the_same_month_a_year_before():
    assert column(asked(visits(then="change_year"))) == [None, None, None, 40]
    percent = asked(visits(then="percent_change_year"))
    assert column(percent)[-1] == pytest.approx(40 / 110)
    assert percent.columns[-1].unit == "%"


def test_there_is_no_percentage_change_from_zero():
    found = asked(visits(then="percent_change"), split={"column": "Branch"})
    by_branch = {(row[1], row[0].isoformat()[:7]): row[2] for row in found.rows}
    assert by_branch["Book bus", "2025-02"] == -1
    assert by_branch["Alder Lane", "2025-02"] == pytest.approx(0.5)
    assert by_branch["Book bus", "2026-01"] is None


def test_running_totals_and_indexes_start_anew_for_each_split():
    running = asked(visits(then="running_total"), split={"column": "Branch"})
    ends = {row[1]: row[2] for row in running.rows}
    assert ends == {"Alder Lane": 680, "Book bus": 30}
    index = asked(visits(then="index"), split={"column": "Branch"})
    assert {row[2] for row in index.rows if row[0] == dt.date(2025, 1, 1)} == {100.0}


def test_a_moving_average_of_a_ratio_divides_sums():
    ratio = {
        "ratio": [{"stat": "sum", "column": "Cost"}, {"stat": "sum", "column": "Visits"}],
        "then": "moving_average",
        "window": 2,
    }
    assert column(asked(ratio))[1] == pytest.approx((240 + 160) / (110 + 150))


def test_periods_without_rows_are_left_out_or_zero_or_open():
    assert len(asked(visits()).rows) == 4
    zero = asked(visits(), per=[{"column": "Day", "by": "month", "gaps": "zero"}])
    assert len(zero.rows) == 13
    assert column(zero)[2] == 0
    assert "9 periods without rows count as zero" in zero.notes
    open_ = asked(visits(), per=[{"column": "Day", "by": "month", "gaps": "open"}])
    assert column(open_)[2] is None
    mean = asked({"stat": "mean", "column": "Cost"}, per=[{"column": "Day", "by": "month", "gaps": "zero"}])
    assert column(mean)[2] is None, "the mean of nothing is not zero"
    days = asked({"stat": "count"}, per=[{"column": "Day", "by": "weekday", "gaps": "zero"}])
    assert column(days, 0) == [1, 2, 3, 4, 5, 6, 7]


def test_a_share_is_of_everything_or_of_its_split_or_of_its_group():
    def shares(within):
        measure = {"stat": "share", "column": "Visits", "within": within}
        found = asked(measure, per=[{"column": "Day", "by": "year"}], split={"column": "Branch"})
        return {(row[0].year, row[1]): row[2] for row in found.rows}

    assert shares("all")[2026, "Book bus"] == pytest.approx(20 / 710)
    assert shares("split")[2026, "Book bus"] == pytest.approx(20 / 30)
    assert shares("per")[2026, "Book bus"] == pytest.approx(20 / 150)


def test_parts_of_nothing_are_missing():
    found = asked({"stat": "share", "column": "Visits"}, per=[{"column": "Branch"}], table="Branch,Visits\na,0\nb,0\n")
    assert column(found) == [None, None]


def test_classes_hold_their_lower_border_and_empty_ones_are_there():
    found = asked({"stat": "count"}, per=[{"column": "Visits", "by": {"width": 100}}])
    assert found.rows == (
        ("0 to under 100", 3),
        ("100 to under 200", 3),
        ("200 to under 300", 0),
        ("300 to under 400", 1),
    )
    assert found.columns[0].edges == (0, 100, 200, 300, 400)
    same = asked({"stat": "count"}, per=[{"column": "Cost", "by": {"bins": 1}}], table="Cost\n5\n5\n")
    assert column(same) == [2]
    split = asked({"stat": "count"}, per=[{"column": "Visits", "by": {"bins": 2}}], split={"column": "Branch"})
    assert len(split.rows) == 4
    means = asked({"stat": "mean", "column": "Cost"}, per=[{"column": "Visits", "by": {"width": 100}}])
    assert column(means)[2] is None


@pytest.mark.parametrize(
    ("labels", "ordered"),
    [
        (["Wednesday", "Monday", "Sunday"], ["Monday", "Wednesday", "Sunday"]),
        (["März", "Januar", "Dezember"], ["Januar", "März", "Dezember"]),
        (["Agree", "Strongly disagree", "Neutral"], ["Strongly disagree", "Neutral", "Agree"]),
        (["XL", "S", "M"], ["S", "M", "XL"]),
        (["25 to 64", "65 and over", "Under 25"], ["Under 25", "25 to 64", "65 and over"]),
        (["Grade 10", "Grade 2"], ["Grade 2", "Grade 10"]),
        (["good", "Don't know", "poor"], ["poor", "good", "Don't know"]),
        (["Alder Lane", "Book bus"], None),
        (["May", "June", "Alder"], None),
        (["2nd Street", "Book 3"], None),
        (["007", "012"], None),
    ],
)
def test_natural_orders_are_found_by_themselves(labels, ordered):
    assert natural_order(labels) == ordered


def test_ratings_stand_in_their_order_unless_only_the_first_are_kept():
    text = "Rating\n" + "good\n" * 3 + "poor\n" * 2 + "excellent\n"
    asked_count = {"measures": [{"stat": "count"}], "per": [{"column": "Rating"}]}
    found = ask(asked_count, csv_table(text))
    assert column(found, 0) == ["poor", "good", "excellent"]
    assert found.columns[0].ordered
    top = ask({**asked_count, "keep": 2}, csv_table(text))
    assert column(top, 0) == ["good", "poor"]
    turned = ask({**asked_count, "order": {"by": "natural", "descending": True}}, csv_table(text))
    assert column(turned, 0) == ["excellent", "good", "poor"]


def test_classes_that_are_not_kept_stay_away():
    fullest = ask(
        {
            "measures": [{"stat": "count"}],
            "per": [{"column": "Cost", "by": {"width": 10}}],
            "keep": 2,
            "order": {"by": "value", "descending": True},
        },
        csv_table("Cost\n1\n2\n3\n15\n17\n42\n"),
    )
    assert column(fullest) == [3, 2]


def test_the_sum_of_no_rows_is_missing_and_not_zero():
    nobody = [{"column": "Branch", "test": "in", "values": ["Nowhere"]}]
    assert ask({"measures": [visits()], "where": nobody}).rows == ((None,),)


def test_single_rows_are_not_summed_up():
    per = [{"column": "Branch", "by": "row"}]
    found = ask({"measures": [visits(), {"stat": "mean", "column": "Cost"}], "per": per}, csv_table(GAPPED))
    assert found.rows[:2] == (("Alder Lane", 100, 200), ("Alder Lane", 150, 150))
    assert found.base == 7
    first = ask({"measures": [visits()], "per": per, "keep": 2, "order": {"by": "value", "descending": True}})
    assert column(first) == [310, 300]
    assert "3 more rows are not shown" in first.notes
    assert "1 row has no value" in first.notes


@pytest.mark.parametrize(
    ("question", "said"),
    [
        (total(per=[{"column": "Cost", "by": {"bins": 8}}]), "Total Visits per class of Cost (in 8 classes)"),
        (
            {"measures": [visits(then="change")], "per": [{"column": "Day", "by": "month"}]},
            "Change from the month before in total Visits per month of Day",
        ),
        (
            {"measures": [visits(then="running_total")], "per": [{"column": "Day", "by": "week"}]},
            "Running total of Visits per week of Day",
        ),
        (
            {"measures": [visits(then="moving_average", window=6)], "per": [{"column": "Day", "by": "day"}]},
            "Moving average of total Visits over 6 days per day of Day",
        ),
        (
            {"measures": [visits(then="index")], "per": [{"column": "Day", "by": "year"}]},
            "Total Visits as an index (first year = 100) per year of Day",
        ),
        (
            {
                "measures": [
                    {
                        "ratio": [{"stat": "sum", "column": "Cost"}, {"stat": "sum", "column": "Visits"}],
                        "name": "Cost per visit",
                    }
                ]
            },
            "Cost per visit (total Cost divided by total Visits)",
        ),
        (
            {
                "measures": [{"stat": "share", "within": "split"}],
                "per": [{"column": "Kind"}],
                "split": {"column": "Branch"},
            },
            "Share of the rows of each Branch per Kind, split by Branch",
        ),
        (
            total(per=[{"column": "Day", "by": "month", "gaps": "zero"}]),
            "Total Visits per month of Day (months without rows counted as zero)",
        ),
        (
            {"measures": [visits()], "per": [{"column": "Branch", "by": "row"}]},
            "Visits per row, named by Branch",
        ),
    ],
)
def test_every_question_reads_as_english(question, said):
    parsed = parse_question(question)
    assert sentence(parsed) == said
    assert "  " not in "".join(part.text for part in sentence_parts(parsed))


def test_a_typed_value_has_its_place_in_the_question():
    table = csv_table()
    question = parse_question(total(where=[{"column": "Visits", "test": "at_least", "values": [100]}]))
    found = choices(question, "where-values:0", profile(table.frame, table.columns))
    (blank,) = found[0].blanks
    assert (blank.kind, blank.value, blank.path) == ("number", "100", ("where", 0, "values", 0))
    dumped = found[0].question.model_dump(mode="json")
    for key in blank.path:
        dumped = dumped[key]
    assert dumped == 100


COMMENTS = csv_table(
    "Comment\n" + "The book bus is kind. Warm book bus reading corner delights\nKind staff at 24 desks\n" * 8
)
PER_WORD = {"measures": [{"stat": "count"}], "per": [{"column": "Comment", "by": "word"}]}


def test_every_word_about_words_can_be_chosen_is_said_and_is_answered():
    known = profile(COMMENTS.frame, COMMENTS.columns)
    question = parse_question(PER_WORD)
    slots = [part.slot for part in sentence_parts(question) if part.slot.startswith("words-")]
    assert slots == ["words-length"]
    chosen = [choice for slot in slots for choice in choices(question, slot, known)]
    chosen += [choice for offer in offers(question, known) for choice in offer.choices if choice.question.words]
    said = {}
    for choice in chosen:
        said[choice.label] = sentence(choice.question)
        assert answer(COMMENTS.frame, COMMENTS.columns, choice.question).height > 0
        for part in sentence_parts(choice.question):
            if part.slot.startswith("words-"):
                assert any(one.current for one in choices(choice.question, part.slot, known)), part.slot
    assert said["two-word phrase"] == "Number of uses per two-word phrase in Comment"
    assert said["German"].endswith("per word in Comment, in German")
    assert said["sure phrases kept together"].endswith("with sure phrases kept together")
    assert said["at least 3 times"].endswith("used at least 3 times")
    assert said["in small letters"].endswith("written in small letters")
    assert said["as each is capitalised, counted apart"].endswith("written as each is capitalised, counted apart")


def test_own_words_are_said_and_found_phrases_noted():
    words = {"leave_out": ["warm"], "together": ["kind staff"], "merges": {"desks": "desk"}, "find_phrases": "many"}
    question = parse_question({**PER_WORD, "per": [{"column": "Comment", "by": "word", "words": words}]})
    said = sentence(question)
    assert said.endswith(
        "with likely phrases kept together, without “warm”, keeping together “kind staff”, taking others for “desk”"
    )
    found = answer(COMMENTS.frame, COMMENTS.columns, question)
    assert {"kind staff", "desk"} <= {row[0] for row in found.rows}
    assert "warm" not in {row[0] for row in found.rows}


def test_words_without_spaces_are_counted_as_runs_and_that_is_said():
    found = ask(
        PER_WORD,
        csv_table(
            "Comment\n" + "図書館はとても静かです。また来たいと思います\nとても良い図書館でした。ありがとう\n" * 3
        ),
    )
    assert any("each run of letters counts as one" in note for note in found.notes)
