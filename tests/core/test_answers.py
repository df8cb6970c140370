"""Questions and their answers."""

import datetime as dt

import pytest

from tests.factories import ask, csv_table, total
from ypsil.core.errors import MissingColumns, QuestionRefused
from ypsil.core.questions import parse_question, sentence
from ypsil.core.questions.offered import choices, offers
from ypsil.core.questions.sentence import sentence_parts
from ypsil.core.tables.profile import profile


def test_one_number_for_the_whole_table():
    found = ask(total())
    assert found.rows == ((850,),)
    assert found.base == 5, "one of six rows has no visits"
    assert found.notes == ("1 row has no Visits",)


def test_per_month_in_the_order_of_time():
    found = ask(total(per=[{"column": "Day", "by": "month"}]))
    assert found.rows == ((dt.date(2026, 1, 1), 200), (dt.date(2026, 2, 1), 300), (dt.date(2026, 3, 1), 350))
    assert found.columns[0].grain == "month"


def test_groups_come_highest_first_unless_asked_otherwise():
    assert [row[0] for row in ask(total(per=[{"column": "Branch"}])).rows] == [
        "Market Square",
        "Alder Lane",
        "Book bus",
    ]
    by_name = ask(total(per=[{"column": "Branch"}], order={"by": "name"}))
    assert [row[0] for row in by_name.rows] == ["Alder Lane", "Book bus", "Market Square"]
    given = ask(total(per=[{"column": "Branch"}], order={"by": "given", "values": ["Book bus"]}))
    assert next(row[0] for row in given.rows) == "Book bus"


def test_what_is_not_kept_stands_together_as_the_rest():
    found = ask(total(per=[{"column": "Branch"}], keep=1, rest="Other"))
    assert found.rows == (("Market Square", 610), ("Other", 240))
    assert "2 of Branch stand together as Other" in found.notes


def test_what_is_not_kept_and_has_no_name_is_said():
    found = ask(total(per=[{"column": "Branch"}], keep=2))
    assert len(found.rows) == 2
    assert "1 more of Branch are not shown" in found.notes


def test_the_mean_of_the_rest_is_its_own_mean_not_a_mean_of_means():
    question = {
        "measures": [{"stat": "mean", "column": "Cost"}],
        "per": [{"column": "Branch"}],
        "keep": 1,
        "rest": "Other",
    }
    assert ask(question).rows[1] == ("Other", pytest.approx((300 + 150 + 90) / 3))


def test_a_ratio_divides_sums_and_never_averages_ratios():
    ratio = {
        "ratio": [{"stat": "sum", "column": "Cost"}, {"stat": "sum", "column": "Visits"}],
        "name": "Cost per visit",
    }
    found = ask({"measures": [ratio], "per": [{"column": "Branch"}], "order": {"by": "name"}})
    assert found.rows[0] == ("Alder Lane", pytest.approx(450 / 200))


def test_a_ratio_over_nothing_is_missing_not_infinite():
    ratio = {"ratio": [{"stat": "sum", "column": "Cost"}, {"stat": "sum", "column": "Visits"}]}
    where = [{"column": "Kind", "test": "in", "values": ["nobody"]}]
    assert ask({"measures": [ratio], "where": where}).rows == ((None,),)


def test_a_share_rests_on_those_who_answered():
    table = csv_table("Recommend\n" + "yes\n" * 6 + "no\n" * 3 + "n/a\n")
    found = ask({"measures": [{"stat": "share", "column": "Recommend", "values": ["Yes"]}]}, table)
    assert found.rows[0][0] == pytest.approx(6 / 9)
    assert found.base == 9
    assert found.columns[0].unit == "%"


def test_shares_of_the_total_add_up_to_one():
    found = ask({"measures": [{"stat": "share", "column": "Visits"}], "per": [{"column": "Branch"}]})
    assert sum(row[1] for row in found.rows) == pytest.approx(1)
    assert found.rows[0][1] == pytest.approx(610 / 850)


def test_lists_count_each_answer_and_keep_people_as_the_base():
    table = csv_table("N,Comes for\n" + "1,Study; Events\n2,Study\n" * 5)
    found = ask({"measures": [{"stat": "count"}], "per": [{"column": "Comes for"}]}, table)
    assert dict(found.rows) == {"Study": 10, "Events": 5}
    assert found.base == 10


@pytest.mark.parametrize(
    ("rule", "rows"),
    [
        ({"column": "Kind", "test": "in", "values": ["Adult"]}, 4),
        ({"column": "Kind", "test": "not_in", "values": ["Adult"]}, 2),
        ({"column": "Visits", "test": "at_least", "value": 120}, 3),
        ({"column": "Visits", "test": "at_most", "values": [80]}, 2),
        ({"column": "Visits", "test": "between", "values": [80, 300]}, 3),
        ({"column": "Day", "test": "between", "values": ["2026-02-01", "2026-02-16"]}, 2),
        ({"column": "Comment", "test": "contains", "values": ["KIND"]}, 2),
        ({"column": "Comment", "test": "empty"}, 1),
        ({"column": "Visits", "test": "not_empty"}, 5),
        ({"column": "Open", "test": "in", "values": ["No"]}, 2),
        ({"column": "Open", "test": "in", "values": [True]}, 4),
        ({"column": "Day", "test": "last", "count": 2, "by": "month"}, 4),
        ({"column": "Day", "test": "last", "values": {"count": 1, "by": "month"}}, 2),
        ({"column": "Day", "test": "last", "count": 1, "by": "quarter"}, 6),
        ({"column": "Day", "test": "last", "count": 1, "by": "week"}, 1),
    ],
)
def test_filters_keep_the_rows_they_name(rule, rows):
    assert ask({"measures": [{"stat": "count"}], "where": [rule]}).rows == ((rows,),)


@pytest.mark.parametrize(
    ("question", "message"),
    [
        (total("Visitors"), "no column “Visitors”"),
        (total("Branch"), "needs a number column"),
        (total(per=[{"column": "Branch", "by": "month"}]), "cannot be grouped by month"),
        ({"measures": [{"stat": "sum", "column": "Visits", "then": "index"}]}, "needs something to go along"),
        (
            {"measures": [{"stat": "sum", "column": "Visits", "then": "change_year"}], "per": [{"column": "Kind"}]},
            "needs periods of a calendar",
        ),
        (
            {"measures": [{"stat": "mean", "column": "Cost", "then": "running_total"}], "per": [{"column": "Kind"}]},
            "only sums, counts and parts",
        ),
        (total(per=[{"column": "Branch", "by": {"bins": 5}}]), "has no classes of numbers"),
        (total(per=[{"column": "Visits", "by": {"width": 0.01}}]), "more than 200 classes"),
        (total(per=[{"column": "Branch"}], split={"column": "Comment", "by": "word"}), "is not split by word"),
        ({"measures": [{"stat": "count"}], "per": [{"column": "Branch", "by": "row"}]}, "no meaning for a single row"),
        (total(where=[{"column": "Visits", "test": "contains", "values": ["1"]}]), "needs a text column"),
        (total(where=[{"column": "Day", "test": "at_least", "values": ["soon"]}]), "does not fit the date column"),
        (total(per=[{"column": "Day", "by": "month"}], keep=1, rest="Other"), "needs named groups"),
    ],
)
def test_what_cannot_be_answered_is_refused_by_name(question, message):
    with pytest.raises(QuestionRefused, match=message.replace("(", r"\(")):
        ask(question)


@pytest.mark.parametrize(
    ("data", "place"),
    [
        ({}, "measures"),
        ({"measures": []}, "measures"),
        ({"measures": [{"stat": "sum"}]}, "measures 1"),
        ({"measures": [{"stat": "percentile", "column": "Visits"}]}, "measures 1"),
        (total(colour="red"), "colour"),
        (total(keep=0), "keep"),
        ([1], ""),
    ],
)
def test_a_malformed_question_is_refused_with_its_place(data, place):
    with pytest.raises(QuestionRefused) as refusal:
        parse_question(data)
    assert refusal.value.where == place


def test_missing_columns_are_all_named():
    with pytest.raises(MissingColumns) as refusal:
        ask(total("Visitors", per=[{"column": "Site"}]))
    assert refusal.value.columns == ["Visitors", "Site"]


def test_the_sentence_says_the_whole_question():
    question = parse_question(
        total(
            per=[{"column": "Day", "by": "month"}],
            split={"column": "Branch"},
            where=[{"column": "Kind", "test": "in", "values": ["Adult", "Child"]}],
            order={"by": "value", "descending": True},
            keep=10,
        )
    )
    assert sentence(question) == (
        "Total Visits per month of Day, split by Branch, where Kind is Adult or Child, highest first, "
        "only the first 10 months"
    )
    spoken = "".join(part.text for part in sentence_parts(question))
    assert spoken.startswith("Show the total of Visits per month of Day, split by Branch")


QUESTIONS = [
    total(per=[{"column": "Day", "by": "month"}], split={"column": "Kind"}),
    total(per=[{"column": "Branch"}], where=[{"column": "Kind", "test": "in", "values": ["Adult"]}], keep=3),
    {"measures": [{"stat": "share", "column": "Open", "values": ["Yes"]}]},
    {"measures": [{"stat": "count"}], "per": [{"column": "Comment", "by": "word"}], "keep": 20},
    {
        "measures": [{"stat": "distinct", "column": "Branch"}],
        "where": [{"column": "Day", "test": "last", "count": 3, "by": "month"}],
    },
    {
        "measures": [
            {"stat": "sum", "column": "Visits", "then": "moving_average", "window": 3},
            {"ratio": [{"stat": "sum", "column": "Cost"}, {"stat": "sum", "column": "Visits"}]},
        ],
        "per": [{"column": "Day", "by": "month", "gaps": "zero"}],
        "split": {"column": "Branch"},
        "where": [{"column": "Cost", "test": "between", "values": [10, 900]}],
    },
    {
        "measures": [{"stat": "share", "within": "split"}],
        "per": [{"column": "Cost", "by": {"width": 100}}],
        "split": {"column": "Kind"},
    },
    {"measures": [{"stat": "sum", "column": "Visits"}], "per": [{"column": "Branch", "by": "row"}]},
    {
        "measures": [{"stat": "count", "then": "running_total"}],
        "per": [{"column": "Cost", "by": {"width": 100}}, {"column": "Kind"}],
    },
]


@pytest.mark.parametrize("data", QUESTIONS)
def test_every_word_leads_only_to_questions_that_the_table_can_answer(data):
    table = csv_table()
    known = profile(table.frame, table.columns)
    question = parse_question(data)
    found = [choice for part in sentence_parts(question) if part.slot for choice in choices(question, part.slot, known)]
    found += [choice for offer in offers(question, known) for choice in offer.choices]
    assert found
    for choice in found:
        ask(choice.question.model_dump(mode="json"), table)


@pytest.mark.parametrize("data", QUESTIONS)
def test_every_word_of_a_sentence_marks_what_it_says_now(data):
    table = csv_table()
    question = parse_question(data)
    for part in sentence_parts(question):
        if part.slot and not part.slot.startswith("where:"):
            found = choices(question, part.slot, profile(table.frame, table.columns))
            assert any(choice.current for choice in found), part


def test_words_of_a_column_are_counted_with_the_answers_as_base():
    question = {"measures": [{"stat": "count"}], "per": [{"column": "Comment", "by": "word"}], "keep": 3}
    found = ask(question)
    assert found.base == 5
    assert found.rows[0] == ("staff", 3)
    assert "rarer words" in found.notes[0]


def test_the_sentence_of_words_says_what_is_counted():
    question = parse_question(
        {"measures": [{"stat": "count"}], "per": [{"column": "Comment", "by": "word"}], "keep": 20}
    )
    assert sentence(question) == "Number of uses per word in Comment, only the first 20 words"
    table = csv_table()
    uses, answers, share = choices(question, "measure:0", profile(table.frame, table.columns))
    assert (uses.current, answers.current, share.current) == (True, False, False)
    assert sentence(answers.question).startswith("Number of answers per word")
    assert sentence(share.question) == "Share of answers per word in Comment, only the first 20 words"


def test_words_refuse_what_they_cannot_carry():
    with pytest.raises(QuestionRefused, match="only be counted"):
        ask({"measures": [{"stat": "sum", "column": "Visits"}], "per": [{"column": "Comment", "by": "word"}]})
    with pytest.raises(QuestionRefused, match="not text"):
        ask({"measures": [{"stat": "count"}], "per": [{"column": "Visits", "by": "word"}]})


def test_several_answers_of_one_row_are_one_value_where_each_row_is_shown():
    likes = ["a; b", "b", "a; c", "a; b", "c; b"] * 6
    table = csv_table("Who,Likes,N\n" + "".join(f"p{place},{one},{place}\n" for place, one in enumerate(likes)))
    each = {"measures": [{"stat": "sum", "column": "N"}], "per": [{"column": "Who", "by": "row"}]}
    found = ask(each | {"split": {"column": "Likes"}}, table)
    assert found.height == len(likes)
    assert found.of("split")[0].members == ("a, b", "a, c", "b", "c, b")
