"""Steps: each does what its sentence says, says what it did, and is passed over with a reason where it cannot."""

import datetime as dt

import pandas as pd
import polars as pl
import pytest

from tests.factories import csv_table
from ypsil.core.tables.recipe import Recipe, parse_recipe, replay
from ypsil.core.tables.rows import Rows
from ypsil.core.tables.steps import STEPS, Context, StepRefused

BRANCHES = """Branch,Month,Kind,Visits,Cost,Comes for
Alder Lane,2026-01-05,Adult,120,£300,Study; Events
Alder Lane,2026-02-05,Child,80,£150,Events
alder lane,2026-02-19,Child,80,£150,Events
Dunmere,2026-01-12,Adult,40,£90,Study; Events
Dunmere,2026-02-16,Adult,,£95,
"""
OTHER = "Name,Population,Open\nAlder Lane,1200,yes\nMarket Square,9000,yes\nDunmere,400,no\nDunmere,401,no\n"


def context():
    return Context(lambda uid: (uid, Rows.of_table(csv_table(OTHER))), dt.date(2026, 4, 1))


def run(*steps, text=BRANCHES):
    recipe = parse_recipe({"steps": list(steps)})
    return replay(Rows.of_table(csv_table(text)), recipe.steps, context())[-1]


def rows(result):
    return result.rows.frame.rows()


def test_a_column_is_renamed_and_keeps_its_kind_and_unit():
    result = run({"type": "rename", "column": "Cost", "to": "  Spent  "})
    assert result.rows.names[4] == "Spent"
    assert result.rows.fields["Spent"].unit == "£"


def test_values_that_do_not_fit_a_new_kind_are_listed_and_missing():
    result = run({"type": "change_kind", "column": "Branch", "kind": "number"})
    assert result.rows.frame["Branch"].null_count() == 5
    assert "“Alder Lane”" in result.notes[0]
    again = run({"type": "change_kind", "column": "Visits", "kind": "category"},
                {"type": "change_kind", "column": "Visits", "kind": "number"})  # fmt: skip
    assert again.rows.frame["Visits"].to_list() == [120, 80, 80, 40, None]


def test_columns_are_kept_and_dropped():
    assert run({"type": "keep_columns", "columns": ["Visits", "Branch"]}).rows.names == ["Visits", "Branch"]
    assert run({"type": "drop_columns", "columns": ["Visits", "Cost"]}).rows.names == [
        "Branch", "Month", "Kind", "Comes for",
    ]  # fmt: skip


def test_rows_are_kept_by_conditions_and_by_a_calculation():
    adults = {"column": "Kind", "test": "in", "values": ["Adult"]}
    many = {"column": "Visits", "test": "at_least", "values": [100]}
    assert run({"type": "keep_rows", "where": [adults, many]}).rows.frame.height == 1
    assert run({"type": "keep_rows", "where": [adults, many], "any_of": True}).rows.frame.height == 3
    result = run({"type": "keep_rows", "calculation": "Cost / Visits < 2"})
    assert result.rows.frame["Visits"].to_list() == [80, 80]
    assert result.notes == ("3 rows left out, 2 rows kept",)
    recent = {"column": "Month", "test": "last", "count": 1, "by": "month"}
    assert run({"type": "keep_rows", "where": [recent]}).rows.frame.height == 3


def test_gaps_are_filled_from_above():
    result = run({"type": "fill_down", "columns": ["A"]}, text="A,B\nx,1\n,2\ny,3\n,4\n")
    assert result.rows.frame["A"].to_list() == ["x", "x", "y", "y"]
    assert result.notes == ("2 gaps filled",)


def test_values_are_replaced_whole_within_and_in_numbers():
    whole = run({"type": "replace_values", "column": "Kind", "swaps": [{"old": "Child", "new": "Young"}]})
    assert whole.rows.frame["Kind"].to_list() == ["Adult", "Young", "Young", "Adult", "Adult"]
    within = run(
        {"type": "replace_values", "column": "Branch", "swaps": [{"old": "Lane", "new": "Road"}], "within": True}
    )
    assert within.rows.frame["Branch"][0] == "Alder Road"
    number = run({"type": "replace_values", "column": "Visits", "swaps": [{"old": "80", "new": ""}]})
    assert number.rows.frame["Visits"].to_list() == [120, None, None, 40, None]
    assert (
        "does not fit"
        in run({"type": "replace_values", "column": "Visits", "swaps": [{"old": "80", "new": "many"}]}).problem
    )


def test_spellings_proposed_by_the_reader_are_merged():
    table = csv_table(BRANCHES)
    remark = next(one for one in table.remarks if one.code == "near-duplicate-values")
    result = run(remark.offers[0].change["step"])
    assert result.rows.frame["Branch"].unique().sort().to_list() == ["Alder Lane", "Dunmere"]


def test_a_column_is_split_by_a_separator_and_by_a_pattern():
    text = 'Name,n\n"Lane, Alder, Upper",1\n"Square, Market",2\nDunmere,3\n'
    result = run({"type": "split_column", "column": "Name", "separator": ", ", "into": ["Last", "First"]}, text=text)
    assert result.rows.frame.select("Last", "First").rows() == [
        ("Lane", "Alder, Upper"), ("Square", "Market"), ("Dunmere", None),
    ]  # fmt: skip
    assert result.notes == ("1 have more parts; the last column holds the rest",)
    step = {"type": "split_column", "column": "Code", "pattern": r"([A-Z]+)(\d+)", "into": ["Letters", "Digits"]}
    assert run(step, text="Code,n\nAB12,1\nC3,2\nx,3\n").rows.frame.select("Letters", "Digits").rows() == [
        ("AB", "12"), ("C", "3"), (None, None),
    ]  # fmt: skip
    assert "cannot be read" in run({**step, "pattern": "([A-Z"}, text="Code,n\nAB12,1\nC3,2\n").problem
    assert "groups" in run({**step, "pattern": "[A-Z]"}, text="Code,n\nAB12,1\nC3,2\n").problem


def test_columns_are_joined_as_they_are_written():
    result = run(
        {"type": "combine_columns", "columns": ["Branch", "Visits", "Month"], "separator": ": ", "into": "Name"}
    )
    assert result.rows.frame["Name"][0] == "Alder Lane: 120: 2026-01-05"
    assert result.rows.frame["Name"][4] == "Dunmere: 2026-02-16"


# H. Wickham, "Tidy data", Journal of Statistical Software 59(10), 2014, tables 5(a) and 5(b).
RAW = "row,a,b,c\nA,1,4,7\nB,2,5,8\nC,3,6,9\n"
MOLTEN = {("A", "a", 1), ("B", "a", 2), ("C", "a", 3), ("A", "b", 4), ("B", "b", 5), ("C", "b", 6), ("A", "c", 7),
          ("B", "c", 8), ("C", "c", 9)}  # fmt: skip
MELT = {"type": "columns_into_rows", "columns": ["a", "b", "c"], "name": "column", "value": "value"}


def test_columns_into_rows_gives_the_molten_table_of_the_paper_and_back():
    assert set(rows(run(MELT, text=RAW))) == MOLTEN
    back = run(MELT, {"type": "rows_into_columns", "names": "column", "values": "value", "stat": "sum"}, text=RAW)
    assert rows(back) == [("A", 1, 4, 7), ("B", 2, 5, 8), ("C", 3, 6, 9)]


def test_columns_into_rows_agrees_with_pandas():
    frame = csv_table(RAW).frame
    theirs = pd.DataFrame(frame.to_dict(as_series=False)).melt("row", var_name="column", value_name="value")
    assert set(rows(run(MELT, text=RAW))) == set(theirs.itertuples(index=False, name=None))


def test_month_columns_become_dates_in_order():
    text = "Branch,Jan 2026,Feb 2026,Mar 2026\nAlder,1,2,3\nDunmere,4,,6\n"
    remark = next(one for one in csv_table(text).remarks if one.code == "months-as-columns")
    result = run(remark.offers[0].change["step"], text=text)
    assert result.rows.fields["Month"].kind == "date"
    assert rows(result)[3:5] == [("Dunmere", dt.date(2026, 1, 1), 4), ("Dunmere", dt.date(2026, 2, 1), None)]


@pytest.mark.parametrize("stat", ["sum", "mean", "min", "max", "count"])
def test_rows_into_columns_agrees_with_pandas(stat):
    frame = csv_table(BRANCHES).frame
    result = run(
        {"type": "keep_columns", "columns": ["Branch", "Kind", "Visits"]},
        {"type": "rows_into_columns", "names": "Kind", "values": "Visits", "stat": stat},
    )
    theirs = pd.DataFrame(frame.select("Branch", "Kind", "Visits").to_dict(as_series=False)).pivot_table(
        index="Branch", columns="Kind", values="Visits", aggfunc=stat, sort=False
    )
    for branch, adult, child in rows(result):
        for kind, ours in (("Adult", adult), ("Child", child)):
            other = theirs.loc[branch, kind]
            assert (ours is None and pd.isna(other)) or ours == pytest.approx(other)


def test_a_table_is_swapped_and_swapped_back():
    swap = {"type": "transpose", "names": "row"}
    result = run(swap, text=RAW)
    assert rows(result) == [("a", 1, 2, 3), ("b", 4, 5, 6), ("c", 7, 8, 9)]
    assert rows(run(swap, swap, text=RAW)) == rows(run({"type": "sort", "by": [{"column": "row"}]}, text=RAW))


def test_a_column_is_calculated_with_its_unit_and_gaps_are_said():
    result = run({"type": "calculate", "name": "Cost per visit", "calculation": "Cost / Visits"})
    assert result.rows.frame["Cost per visit"].to_list()[:2] == [2.5, 1.875]
    assert result.rows.fields["Cost per visit"].unit == "£"
    assert result.notes == ("1 row without a result: something it needs is missing",)
    assert run({"type": "calculate", "name": "One", "calculation": "1"}).rows.frame["One"].to_list() == [1] * 5


def test_numbers_and_dates_fall_into_classes():
    fifty = run({"type": "classes", "column": "Visits", "width": 50, "into": "Size"})
    assert fifty.rows.frame["Size"].to_list() == [
        "100 to under 150", "50 to under 100", "50 to under 100", "0 to under 50", None,
    ]  # fmt: skip
    borders = run({"type": "classes", "column": "Visits", "borders": [100, 50], "into": "Size"})
    assert borders.rows.frame["Size"].to_list()[:2] == ["100 and over", "50 to under 100"]
    month = run({"type": "classes", "column": "Month", "period": "month", "into": "Month"})
    assert month.rows.frame["Month"][1] == dt.date(2026, 2, 1)
    assert month.rows.fields["Month"].form == "month"


def test_each_answer_gets_its_row():
    result = run({"type": "row_per_answer", "column": "Comes for"},
                 text="P,Comes for\n" + "1,Study; Events\n2,Events\n3,\n" * 4)  # fmt: skip
    assert result.rows.frame.height == 16
    assert result.rows.frame["Comes for"].to_list()[:4] == ["Study", "Events", "Events", None]


def test_duplicates_go_and_the_first_stays():
    result = run({"type": "remove_duplicates", "columns": ["Branch"]})
    assert result.rows.frame["Month"].to_list() == [dt.date(2026, 1, 5), dt.date(2026, 2, 19), dt.date(2026, 1, 12)]
    assert result.notes == ("2 rows removed",)


def test_rows_are_sorted_and_the_first_or_last_taken():
    result = run({"type": "sort", "by": [{"column": "Visits", "descending": True}, {"column": "Month"}]})
    assert result.rows.frame["Visits"].to_list() == [120, 80, 80, 40, None]
    assert run({"type": "take", "count": 2}).rows.frame["Visits"].to_list() == [120, 80]
    assert run({"type": "take", "count": 2, "end": "last"}).rows.frame["Visits"].to_list() == [40, None]


LOOK_UP = {
    "type": "look_up", "table": "branches", "key": [{"here": "Branch", "there": "Name"}], "columns": ["Population"],
}  # fmt: skip


def test_texts_are_sorted_without_regard_to_capitals():
    result = run({"type": "sort", "by": [{"column": "Branch"}]}, text="Branch,n\nelm,1\nDunmere,2\nAlder,3\n")
    assert result.rows.frame["Branch"].to_list() == ["Alder", "Dunmere", "elm"]


def test_columns_are_looked_up_and_keys_without_or_with_several_rows_are_counted():
    result = run(LOOK_UP)
    assert result.rows.frame["Population"].to_list() == [1200, 1200, None, 400, 400]
    assert result.notes == (
        "4 rows found their key", "1 row did not: “alder lane”",
        "1 keys stand more than once in “branches”; the first row was taken",
    )  # fmt: skip


def test_looking_up_agrees_with_a_pandas_merge():
    left = pd.DataFrame(csv_table(BRANCHES).frame.drop("Comes for").to_dict(as_series=False))
    right = pd.DataFrame(csv_table(OTHER).frame.to_dict(as_series=False)).drop_duplicates("Name")
    merged = left.merge(right, left_on="Branch", right_on="Name", how="left")["Population"]
    ours = run(LOOK_UP).rows.frame["Population"].to_list()
    assert [value if value is not None else -1 for value in ours] == merged.fillna(-1).astype(int).tolist()


def test_another_table_is_stacked_and_what_differs_is_said():
    result = run({"type": "rename", "column": "Branch", "to": "Name"}, {"type": "stack_table", "table": "branches"})
    assert result.rows.frame.height == 9
    assert result.rows.frame["Population"].to_list()[-1] == 401
    assert "“Population” is not in 1 of 2; it is missing there." in result.notes


def test_a_cell_is_corrected_by_key_or_row_and_says_when_it_no_longer_applies():
    key = {"Branch": "Dunmere", "Month": "2026-02-16"}
    step = {"type": "correct_cell", "column": "Visits", "value": "44", "was": None, "key": key}
    assert run(step).rows.frame["Visits"].to_list() == [120, 80, 80, 40, 44]
    by_row = {"type": "correct_cell", "column": "Cost", "value": "£91", "was": "90", "row": 4}
    assert run(by_row).rows.frame["Cost"].to_list()[3] == 91
    assert run({**by_row, "was": "89"}).notes == ("No longer applies: the file now says “90”",)
    assert run({**step, "key": {"Branch": "Elm"}}).notes == ("No longer applies: no row has Branch “Elm”",)
    assert run({**step, "key": {"Branch": "Dunmere"}}).notes[0].startswith("No longer applies: 2 rows have")
    assert "does not fit" in run({**by_row, "value": "lots"}).problem


def test_a_step_that_cannot_be_applied_is_passed_over_and_says_why():
    recipe = parse_recipe({"steps": [
        {"type": "rename", "column": "Vists", "to": "V"},
        {"type": "drop_columns", "columns": ["Cost"]},
    ]})  # fmt: skip
    first, second = replay(Rows.of_table(csv_table(BRANCHES)), recipe.steps)
    assert "did you mean “Visits”?" in first.problem
    assert second.rows.names == ["Branch", "Month", "Kind", "Visits", "Comes for"]


def test_a_step_switched_off_changes_nothing():
    assert "Cost" in run({"type": "drop_columns", "columns": ["Cost"], "on": False}).rows.names


@pytest.mark.parametrize(
    ("step", "message"),
    [
        ({"type": "rename", "column": "Branch", "to": "Visits"}, "already"),
        ({"type": "drop_columns", "columns": ["Branch", "Month", "Kind", "Visits", "Cost", "Comes for"]}, "no column"),
        ({"type": "classes", "column": "Branch", "width": 1, "into": "x"}, "holds category"),
        ({"type": "classes", "column": "Visits", "width": 0.001, "into": "x"}, "more than 200"),
        ({"type": "transpose", "names": "Branch"}, "more than once"),
        ({"type": "sort", "by": [{"column": "Comes for"}]}, "no order"),
        ({"type": "keep_rows", "calculation": "Visits"}, "yes or no"),
        ({"type": "keep_rows", "where": [{"column": "Kind", "test": "at_least", "values": [3]}]}, "at_least"),
        ({"type": "calculate", "name": "x", "calculation": "Visits +"}, "ends too early"),
        ({"type": "look_up", "table": "b", "key": [{"here": "Branch", "there": "Nam"}], "columns": ["Open"]}, "in “b”"),
        ({"type": "rows_into_columns", "names": "Kind", "values": "Kind"}, "one column"),
        ({"type": "row_per_answer", "column": "Kind"}, "no lists"),
    ],
)  # fmt: skip
def test_what_does_not_fit_is_refused_with_a_reason(step, message):
    result = run(step, text=BRANCHES + BRANCHES.split("\n", 1)[1] * 3)
    assert message in result.problem


@pytest.mark.parametrize(
    "data", [{"steps": [{"type": "fly"}]}, {"steps": [{"type": "take", "count": 0}]}, {"stepz": []}, [], None]
)
def test_a_recipe_that_cannot_be_understood_is_refused(data):
    with pytest.raises(StepRefused) as refusal:
        parse_recipe(data)
    assert refusal.value.remedy


def test_every_step_has_its_words_and_reads_as_a_sentence():
    made = [
        {"type": "rename", "column": "A", "to": "B"}, {"type": "take", "count": 3}, LOOK_UP, MELT,
        {"type": "sort", "by": [{"column": "Visits"}]}, {"type": "transpose", "names": "A"},
    ]  # fmt: skip
    sentences = [step.sentence() for step in parse_recipe({"steps": made}).steps]
    assert sentences[0] == "Rename “A” to “B”"
    assert sentences[2] == "Look up “Population” from the table “branches” by “Branch” = “Name”"
    assert all(step.title and step.purpose for step in STEPS)
    assert len({step.title for step in STEPS}) == len(STEPS) == 27


def test_recipes_that_give_the_same_rows_have_one_digest():
    step = {"type": "take", "count": 3}
    one, other = parse_recipe({"steps": [step]}), parse_recipe({"steps": [{**step, "origin": "total-row"}]})
    assert one.digest() == other.digest() != Recipe().digest()
    assert parse_recipe({"steps": [{**step, "on": False}]}).digest() == Recipe().digest()


def test_no_rows_and_one_column_are_no_trouble_to_any_step():
    empty = Rows.of_table(csv_table(BRANCHES)).with_frame(csv_table(BRANCHES).frame.clear())
    steps = parse_recipe({"steps": [
        {"type": "fill_down", "columns": ["Branch"]}, {"type": "sort", "by": [{"column": "Visits"}]},
        {"type": "change_kind", "column": "Visits", "kind": "category"},
        {"type": "order_values", "column": "Branch", "values": ["Elm", "Alder"]},
        {"type": "row_per_answer", "column": "Comes for"},
        {"type": "remove_duplicates"}, {"type": "calculate", "name": "x", "calculation": "Cost * 2"},
        {"type": "classes", "column": "Cost", "width": 5, "into": "c"},
        {"type": "split_column", "column": "Branch", "separator": " ", "into": ["a", "b"]},
        {"type": "columns_into_rows", "columns": ["a", "b"], "name": "n", "value": "v"},
        {"type": "rows_into_columns", "names": "n", "values": "Cost", "stat": "sum"},
    ]}).steps  # fmt: skip
    results = replay(empty, steps, context())
    assert [result.problem for result in results] == [""] * len(steps)
    assert isinstance(results[-1].rows.frame, pl.DataFrame)
