"""Comparing versions, profiles of columns, and writing tables to files."""

import io
import json

import pandas as pd
import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st
from openpyxl import load_workbook

from tests.factories import csv_table
from ypsil.core.tables.compare import ChangedCell, compare
from ypsil.core.tables.model import Field
from ypsil.core.tables.profile import profile
from ypsil.core.tables.read import read_table
from ypsil.core.tables.rows import Rows
from ypsil.core.tables.write import TooLargeToWrite, write_table

JANUARY = "Month,Branch,Visits,Cost\n2026-01,Alder Lane,120,300\n2026-01,Dunmere,80,150\n"
FEBRUARY = JANUARY + "2026-02,Alder Lane,110,310\n2026-02,Dunmere,95,160\n"


def rows(text):
    return Rows.of_table(csv_table(text))


def test_rows_added_and_totals_are_told_by_the_key():
    found = compare(rows(JANUARY), rows(FEBRUARY))
    assert found.key == ("Month", "Branch")
    assert (found.added, found.gone, found.changed) == (2, 0, 0)
    assert [(total.column, total.before, total.after) for total in found.totals] == [
        ("Visits", 200, 405), ("Cost", 450, 920),
    ]  # fmt: skip


def test_changed_cells_are_shown_with_their_key():
    later = FEBRUARY.replace("Dunmere,80", "Dunmere,81").replace("2026-02,Dunmere,95,160\n", "")
    found = compare(rows(FEBRUARY), rows(later))
    assert (found.added, found.gone, found.changed) == (0, 1, 1)
    assert found.cells == (ChangedCell(("2026-01", "Dunmere"), "Visits", "80", "81"),)


def test_a_renamed_column_is_guessed_and_its_values_still_compared():
    found = compare(rows(FEBRUARY), rows(FEBRUARY.replace("Visits", "Visitors").replace(",95,", ",96,")))
    assert found.renamed == (("Visits", "Visitors"),)
    assert (found.columns_added, found.columns_gone, found.changed) == ((), (), 1)


def test_columns_that_come_and_go_and_kinds_that_change_are_told():
    found = compare(rows("A,B,Old\nx,1,2026-01-01\ny,2,2026-01-02\n"), rows("A,B,New\nx,one,7\ny,two,8\n"))
    assert (found.columns_added, found.columns_gone) == (("New",), ("Old",))
    assert found.kinds_changed == (("B", "number", "category"),)


def test_without_a_key_whole_rows_are_compared():
    found = compare(rows("A,B\nx,1\nx,1\ny,2\n"), rows("A,B\nx,1\nx,3\ny,2\ny,2\n"))
    assert found.key == ()
    assert (found.added, found.gone) == (2, 1)
    assert compare(rows(FEBRUARY), rows(FEBRUARY)).same


@given(st.lists(st.tuples(st.integers(0, 30), st.integers(0, 5)), max_size=30),
       st.lists(st.tuples(st.integers(0, 30), st.integers(0, 5)), max_size=30))  # fmt: skip
def test_the_comparison_agrees_with_pandas(first, second):
    def table(pairs):
        unique = dict(pairs)
        frame = pl.DataFrame(
            {"key": [f"k{key}" for key in unique], "n": list(unique.values())}, schema={"key": pl.String, "n": pl.Int64}
        )
        return Rows(frame, {"key": Field("category"), "n": Field("number")})

    before, after = table(first), table(second)
    old, new = (pd.DataFrame(one.frame.to_dict(as_series=False)) for one in (before, after))
    merged = old.merge(new, on="key", how="outer", indicator=True)
    both = merged[merged["_merge"] == "both"]
    found = compare(before, after)
    assert found.added == (merged["_merge"] == "right_only").sum()
    assert found.gone == (merged["_merge"] == "left_only").sum()
    assert found.changed == (both["n_x"] != both["n_y"]).sum()


def test_the_spread_of_a_column_agrees_with_pandas():
    lines = (f"{n * n},{n}%,2026-01-{n:02},{'w ' * n}x y z v\n" for n in range(1, 29))
    table = csv_table("Visits,Share,Day,Said\n" + "".join(lines))
    theirs = pd.Series(table.frame["Visits"].to_list()).describe()
    spreads = profile(table.frame, table.columns).spreads
    facts = dict(spreads["Visits"].facts)
    assert float(facts["lowest"]) == theirs["min"]
    assert float(facts["median"]) == theirs["50%"]
    assert facts["mean"] == f"{theirs['mean']:.1f}"
    assert sum(spreads["Visits"].bars) == 28
    assert dict(spreads["Share"].facts)["highest"] == "28.0%"
    assert spreads["Day"].facts == (("first", "2026-01-01"), ("last", "2026-01-28"))
    assert dict(spreads["Said"].facts)["shortest"] == "9 characters"


MIXED = '''Day,Opened,Branch,Visits,Share,Open,Comes for
2026-01-31,09:30,=Alder,120,45%,yes,Study; Events
2026-02-28,14:00,"Dun, ""mere""",80,5%,no,Events
2026-03-16,14:15,@cmd,,50%,,Study; Events
2026-03-17,14:15,-2+3,7,50%,no,Study; Events
2026-03-18,14:15,plain,7,50%,no,Events; Study
'''


def test_texts_that_a_spreadsheet_program_would_run_are_defused():
    made = write_table(rows(MIXED), "csv").decode()
    assert "'=Alder" in made
    assert "'@cmd" in made
    assert "'-2+3" in made
    assert '"Dun, ""mere"""' in made
    sheet = load_workbook(io.BytesIO(write_table(rows(MIXED), "xlsx"))).active
    assert [cell.value for cell in sheet["C"]][1] == "'=Alder"
    assert sheet["C2"].data_type == "s"
    assert sheet["E2"].number_format == "0.0%"


@pytest.mark.parametrize("ending", ["csv", "xlsx", "parquet", "json"])
def test_what_is_written_is_read_back(ending):
    before = rows(MIXED.replace("=Alder", "Alder").replace("@cmd", "cmd").replace("-2+3", "none at all"))
    table = read_table(write_table(before, ending), f"t.{ending}")
    back = Rows.of_table(table)
    assert back.names == before.names
    for name in ("Day", "Branch", "Visits", "Open", "Comes for"):
        assert back.frame[name].to_list() == before.frame[name].to_list(), name
    assert back.frame["Share"].to_list() == pytest.approx(before.frame["Share"].to_list())


def test_json_has_dates_in_iso_8601_and_lists_as_lists():
    first = json.loads(write_table(rows(MIXED), "json"))[0]
    assert first["Day"] == "2026-01-31"
    assert first["Comes for"] == ["Study", "Events"]


def test_too_many_rows_for_a_sheet_are_refused_with_another_way():
    many = Rows(pl.DataFrame({"n": pl.Series(range(1_100_000))}), {"n": Field("number")})
    with pytest.raises(TooLargeToWrite, match="CSV or Parquet"):
        write_table(many, "xlsx")


_cell = st.text(alphabet=st.characters(codec="utf-8", exclude_categories=["C", "Z"]), min_size=1, max_size=8)


@given(st.lists(st.tuples(_cell, st.integers(-(10**12), 10**12)), min_size=1, max_size=12),
       st.sampled_from(["csv", "xlsx", "json", "parquet"]))  # fmt: skip
def test_every_writer_and_reader_agree(pairs, ending):
    frame = pl.DataFrame({"Name": [f"x{name}x" for name, _ in pairs], "Number": [float(number) for _, number in pairs]})
    before = Rows(frame, {"Name": Field("category"), "Number": Field("number")})
    back = read_table(write_table(before, ending), f"t.{ending}").frame
    assert back["Number"].to_list() == frame["Number"].to_list()
    if back.schema["Name"] == pl.String:
        assert back["Name"].to_list() == frame["Name"].to_list()


@pytest.mark.parametrize("ending", ["csv", "xlsx", "parquet", "json"])
def test_infinity_is_written_as_missing(ending):
    frame = pl.DataFrame({"A": [1.5, float("inf"), float("nan"), -2.0], "B": ["a", "b", "c", "d"]})
    written = write_table(Rows(frame, {"A": Field("number"), "B": Field("category")}), ending)
    assert read_table(written, f"t.{ending}").frame["A"].to_list() == [1.5, None, None, -2.0]
