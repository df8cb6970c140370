"""Every kind of file, and the remarks that change how a file is read."""

import io
import json
import random
import zipfile

import pandas as pd
import polars as pl
import pytest
import xlwt
from openpyxl import Workbook

from tests.factories import codes, csv_table, kinds
from ypsil.core.errors import UnreadableFile
from ypsil.core.tables.bundle import bundle
from ypsil.core.tables.read import ENDINGS, read_table, read_with_way
from ypsil.core.tables.reading import Reading, parse_reading
from ypsil.core.tables.remark_titles import TITLES, title_of
from ypsil.core.tables.spellings import alike

ROWS = [["Branch", "Visits"], ["Alder", 3], ["Elm", 4]]
AGREED_CODES = """encoding-guessed header-not-first header-two-rows merged-cells-filled blank-rows-dropped total-row
footnote-rows numbers-as-text decimal-comma percent-text currency mixed-kinds date-order-ambiguous date-order-inferred
missing-codes near-duplicate-values duplicate-rows duplicate-column-names months-as-columns identifier-column
ragged-rows
several-answers"""


def remark(table, code):
    return next(one for one in table.remarks if one.code == code)


def without(text, *keys, name="t.csv"):
    """Read a file with some repairs undone."""
    return read_table(text.encode(), name, reading=Reading(left=frozenset(keys)))


def xls():
    book = xlwt.Workbook()
    sheet = book.add_sheet("first")
    for row, cells in enumerate(ROWS):
        for column, cell in enumerate(cells):
            sheet.write(row, column, cell)
    buffer = io.BytesIO()
    book.save(buffer)
    return buffer.getvalue()


def ods():
    buffer = io.BytesIO()
    pd.DataFrame(ROWS[1:], columns=ROWS[0]).to_excel(buffer, engine="odf", index=False)
    return buffer.getvalue()


def parquet():
    buffer = io.BytesIO()
    pl.DataFrame({"Branch": ["Alder", "Elm"], "Visits": [3, 4]}).write_parquet(buffer)
    return buffer.getvalue()


RECORDS = [{"Branch": "Alder", "Visits": 3}, {"Branch": "Elm", "Visits": 4}]


@pytest.mark.parametrize(
    ("name", "data"),
    [
        ("t.xls", xls()),
        ("t.ods", ods()),
        ("t.parquet", parquet()),
        ("t.json", json.dumps(RECORDS).encode()),
        ("t.json", json.dumps({"count": 2, "rows": RECORDS}).encode()),
        ("t.json", json.dumps({"Branch": ["Alder", "Elm"], "Visits": [3, 4]}).encode()),
        ("t.json", json.dumps(ROWS).encode()),
        ("t.json", b'{"Branch": "Alder", "Visits": 3}\n{"Branch": "Elm", "Visits": 4}\n'),
        ("t.jsonl", b'{"Branch": "Alder", "Visits": 3}\n\n{"Branch": "Elm", "Visits": 4}'),
        ("t.psv", b"Branch|Visits\nAlder|3\nElm|4\n"),
        ("t.tsv", "Branch\tVisits\nAlder\t3\nElm\t4\n".encode("utf-16")),
    ],
)
def test_each_kind_of_file_gives_the_same_table(name, data):
    table = read_table(data, name)
    assert table.frame.rows() == [("Alder", 3), ("Elm", 4)]
    assert kinds(table) == {"Branch": "category", "Visits": "number"}


def test_records_may_be_nested_and_hold_lists():
    data = [
        {"who": {"name": "Ann", "age": 7}, "likes": ["a", "b"], "at": "2026-01-02"},
        {"who": {"name": "Bo"}, "x": {}},
    ]
    table = read_table(json.dumps(data).encode(), "t.json")
    assert kinds(table)["likes"] == "list"
    assert table.frame["who.name"].to_list() == ["Ann", "Bo"]
    assert table.frame["likes"].to_list() == [["a", "b"], None]
    assert table.frame["at"][0].isoformat() == "2026-01-02"


def test_parquet_keeps_what_a_table_can_hold():
    buffer = io.BytesIO()
    pl.DataFrame({"a": [1.5, None], "when": [pl.date(2026, 1, 2), None], "b": [True, None], "l": [["p"], []]}).select(
        pl.col("a", "b", "l"), pl.lit("2026-01-02 10:30:00").str.to_datetime().alias("when")
    ).write_parquet(buffer)
    table = read_table(buffer.getvalue(), "t.parquet")
    assert kinds(table) == {"a": "number", "b": "yesno", "l": "list", "when": "date"}
    assert table.frame["when"][0].isoformat() == "2026-01-02T10:30:00"


def test_files_of_one_shape_are_stacked_and_what_differs_is_said():
    data = bundle([("b.csv", b"A,B\n5,x\n"), ("a.csv", b"A,B\n1,y\n"), ("a.csv", b"A,C\n2,z\n")])
    table = read_table(data, "two.zip")
    assert table.frame.rows() == [("a (2).csv", 2, "z", None), ("a.csv", 1, None, "y"), ("b.csv", 5, None, "x")]
    assert "files-differ" in codes(table)
    with pytest.raises(UnreadableFile, match=r"others than those of a.csv, t.zip, b.csv"):
        read_table(bundle([("a.csv", b"A,B\n1,2\n"), ("b.csv", b"C,D\n1,2\n")]), "t.zip")
    with pytest.raises(UnreadableFile, match="within an archive"):
        read_table(bundle([("a.zip", bundle([("a.csv", b"A\n1\n")]))]), "t.zip")


def test_text_becomes_an_answer_a_line_or_a_paragraph_a_row():
    text = "Long hours\nin winter\n\nKind staff\r\n"
    lines = read_table(text.encode(), "t.txt", reading=Reading(text_rows="line"))
    assert lines.frame["Answer"].to_list() == ["Long hours", "in winter", "Kind staff"]
    paragraphs = read_table(text.encode(), "t.txt", reading=Reading(text_rows="paragraph"))
    assert paragraphs.frame["Answer"].to_list() == ["Long hours\nin winter", "Kind staff"]
    assert kinds(lines) == {"Answer": "text"}


def test_how_a_file_was_read_is_told_and_can_be_chosen():
    data = "Café;n\nZoë;1,5\nA;2,5\n".encode("cp1252")
    _, way = read_with_way(data, "t.csv")
    assert (way.encoding, way.separator) == ("cp1252", ";")
    table, way = read_with_way(data, "t.csv", reading=Reading(encoding="cp437", separator=","))
    assert (way.encoding, table.frame.width) == ("cp437", 2)
    with pytest.raises(UnreadableFile, match="encoding"):
        parse_reading({"encoding": "morse"})


def test_two_rows_of_names_are_joined_unless_that_is_undone():
    for text in ("Branch,2025,,2026,\n,Visits,Loans,Visits,Loans\nAlder,1,2,3,4\nElm,5,6,7,8\n",):
        table = csv_table(text)
        assert table.frame.columns == ["Branch", "2025 Visits", "2025 Loans", "2026 Visits", "2026 Loans"]
        assert remark(table, "header-two-rows").row == 1
        assert without(text, "header-two-rows").frame.columns[1] == "Visits"
    years = csv_table("Branch,Visits,,Loans,\n,2025,2026,2025,2026\nAlder,1,2,3,4\nElm,5,6,7,8\n")
    assert years.frame.columns == ["Branch", "Visits 2025", "Visits 2026", "Loans 2025", "Loans 2026"]
    assert "header-two-rows" not in codes(csv_table("Report,,May\nBranch,Visits,Cost\nAlder,1,2\nElm,3,4\n"))


def test_cells_merged_downwards_are_filled_as_the_workbook_says():
    book = Workbook()
    sheet = book.active
    for cells in (["Branch", "Month", "n"], ["Alder", "Jan", 1], [None, "Feb", 2], ["Elm", "Jan", 3], [None, "Feb", 4]):
        sheet.append(cells)
    sheet.merge_cells("A2:A3")
    sheet.merge_cells("A4:A5")
    buffer = io.BytesIO()
    book.save(buffer)
    table = read_table(buffer.getvalue(), "m.xlsx")
    assert table.frame["Branch"].to_list() == ["Alder", "Alder", "Elm", "Elm"]
    assert (remark(table, "merged-cells-filled").state, remark(table, "merged-cells-filled").count) == ("done", 2)
    left = read_table(buffer.getvalue(), "m.xlsx", reading=Reading(left=frozenset({"merged-cells-filled"})))
    assert left.frame["Branch"].null_count() == 2


def test_gaps_that_merged_cells_left_in_a_text_file_are_only_proposed():
    table = csv_table("Branch,Month,n\nAlder,Jan,1\n,Feb,2\nElm,Jan,3\n,Feb,4\n")
    found = remark(table, "merged-cells-filled")
    assert (found.state, found.row, found.count) == ("proposed", 3, 2)
    assert table.frame["Branch"].null_count() == 2
    assert found.offers[0].change == {"step": {"type": "fill_down", "columns": ["Branch"]}}


@pytest.mark.parametrize(
    ("text", "key", "changed"),
    [
        ("Title,\nA,B\n1,x\n", "header-not-first", lambda table: table.frame.columns[0] == "Title"),
        ("A,B\n1,x\n,\n2,y\n", "blank-rows-dropped", lambda table: table.rows == 3),
        ("A,B\nx,1\nTotal,1\n", "total-row", lambda table: table.rows == 2),
        ("A,B\nx,1\ny,2\nSource: us,\n", "footnote-rows", lambda table: table.rows == 3),
        ("A,B\nx,n/a\ny,2\nz,3\n", "missing-codes/B", lambda table: table.frame["B"][0] == "n/a"),
        ("A;B\nx;1,5\ny;2,5\n", "decimal-comma/B", lambda table: kinds(table)["B"] == "category"),
        ("A,B\nx,45%\ny,5%\n", "percent-text/B", lambda table: table.frame["B"][0] == "45%"),
        ("A,B\nx,£4\ny,£5\n", "currency/B", lambda table: table.frame["B"][0] == "£4"),
        ("A,B\nx,007\ny,008\n", "identifier-column/B", lambda table: table.frame["B"].to_list() == [7, 8]),
        ("A,Year\nx,2024\ny,2025\n", "periods-read/Year", lambda table: table.frame["Year"].to_list() == [2024, 2025]),
        ("A,Date\nx,46000\ny,46001\n", "serial-dates/Date", lambda table: table.frame["Date"][0] == 46000),
        ("A,B\n" + "x,p; q\ny,q\n" * 4, "several-answers/B", lambda table: table.frame["B"].to_list()[0] == "p; q"),
        ("A,B\n" + "".join(f"x,{n}\n" for n in range(19)) + "y,shut\n", "mixed-kinds/B",
         lambda table: table.frame["B"][19] == "shut"),
    ],
)  # fmt: skip
def test_each_repair_is_said_as_done_and_can_be_undone(text, key, changed):
    table = csv_table(text)
    found = next(one for one in table.remarks if one.key == key)
    assert found.state == "done"
    assert not changed(table)
    left = without(text, key)
    assert changed(left)
    assert key not in [one.key for one in left.remarks]


@pytest.mark.parametrize(
    ("cells", "form", "first", "second"),
    [
        (["Q1 2026", "Q2 2026"], "quarter", "2026-01-01", "2026-04-01"),
        (["2026-Q4", "2026 Q1"], "quarter", "2026-10-01", "2026-01-01"),
        (["1st quarter 2026", "2nd quarter of 2026"], "quarter", "2026-01-01", "2026-04-01"),
        (["Mar-26", "Apr-26"], "month", "2026-03-01", "2026-04-01"),
        (["03/2026", "04/2026"], "month", "2026-03-01", "2026-04-01"),
        (["März 2026", "avril 2026"], "month", "2026-03-01", "2026-04-01"),
        (["2026-W10", "2026W11"], "week", "2026-03-02", "2026-03-09"),
        (["KW 10 2026", "Week 11, 2026"], "week", "2026-03-02", "2026-03-09"),
        (["3rd March 2026", "Mon, 4 May 2026"], None, "2026-03-03", "2026-05-04"),
        (["13/02/26", "01/03/69"], None, "2026-02-13", "1969-03-01"),
        (["2026-03-02T10:30:00Z", "2026-03-02 11:00"], "moment", "2026-03-02T10:30:00", "2026-03-02T11:00:00"),
        (["02/13/2026 3:05 pm", "03/01/2026 9:00 am"], "moment", "2026-02-13T15:05:00", "2026-03-01T09:00:00"),
        (["14:30", "9:05 am"], "time", "14:30:00", "09:05:00"),
        (["12 am", "12 pm"], "time", "00:00:00", "12:00:00"),
    ],
)
def test_periods_and_times_are_read_as_people_write_them(cells, form, first, second):
    table = csv_table("When;n\n" + "".join(f"{cell};1\n" for cell in cells))
    column = table.column("When")
    assert (column.kind, column.form) == ("date", form)
    assert [value.isoformat() for value in table.frame["When"]] == [first, second]


@pytest.mark.parametrize("cells", [["2026-W54", "2026-W60"], ["31/02/2026", "30/02/2026"], ["25:00", "26:30"]])
def test_what_is_no_real_day_stays_as_it_is_written(cells):
    assert kinds(csv_table("When;n\n" + "".join(f"{cell};1\n" for cell in cells)))["When"] == "category"


def test_years_and_day_numbers_are_dates_only_where_the_name_says_so():
    assert kinds(csv_table("Year,n\n2024,1\n2025,2\n"))["Year"] == "date"
    assert kinds(csv_table("Visits,n\n2024,1\n2025,2\n"))["Visits"] == "number"
    # 46023 is 1 January 2026 in the 1900 date system (ECMA-376, part 1, 18.17.4.1; worked out by hand).
    assert csv_table("Date,n\n46023,1\n46024,2\n").frame["Date"][0].isoformat() == "2026-01-01"
    assert kinds(csv_table("Postcode,n\n01234,1\n56789,2\n"))["Postcode"] == "category"


def test_amounts_in_two_currencies_are_never_added_up():
    table = csv_table("P,Cost\na,£5\nb,€6\n")
    assert kinds(table)["Cost"] == "category"
    assert (remark(table, "currency").severity, remark(table, "currency").state) == ("problem", "noted")
    assert csv_table("P,Cost\na,GBP 5\nb,GBP 6\n").column("Cost").unit == "GBP"
    assert "alike" in remark(csv_table("P,Share\na,45%\nb,7\n"), "percent-text").message


def test_spellings_are_alike_by_case_marks_and_single_slips_only():
    counts = {"Alder Lane": 9, "ALDER-LANE": 2, "Alder Lnae": 1, "North": 5, "South": 5, "Year 5": 9, "Year 6": 1}
    assert alike(counts) == [["Alder Lane", "ALDER-LANE", "Alder Lnae"]]
    assert alike({f"v{n}": 1 for n in range(6000)}) == []


def test_a_column_that_arrives_under_another_name_takes_its_own_unless_both_are_there():
    reading = Reading(renames={"Visitors": "Visits"})
    assert read_table(b"A,Visitors\nx,1\n", "t.csv", reading=reading).frame.columns == ["A", "Visits"]
    assert read_table(b"Visits,Visitors\n1,2\n", "t.csv", reading=reading).frame.columns == ["Visits", "Visitors"]


def test_every_code_has_its_words():
    assert set(AGREED_CODES.split()) <= set(TITLES)
    assert title_of("currency/Cost") == "Amounts of money in Cost"


@pytest.mark.parametrize(
    ("name", "data", "message"),
    [
        ("t.json", b"5", "no list of records"),
        ("t.json", b'{"a": 1,}', "line 1, column 9"),
        ("t.json", b"[" * 100_000, "nested too deeply"),
        ("t.json", b'[{"a": 1}, 5]', "record 2"),
        ("t.jsonl", b'{"a": 1}\n{"a":\n', "line 2"),
        ("t.parquet", b"PAR1" + b"x" * 50, "Parquet file is broken"),
        ("t.xls", b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1" + b"x" * 600, "broken"),
        ("t.xlsx", b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1" + "EncryptedPackage".encode("utf-16-le"), "locked"),
        ("t.csv", b"PK\x03\x04" + b"x" * 50, "workbook under the name of a text file"),
        ("t.zip", b"PK\x03\x04 no", "broken"),
        ("t.ods", b"words", "not an ODS workbook"),
    ],
)
def test_bad_files_of_each_kind_are_refused_in_one_clear_line(name, data, message):
    with pytest.raises(UnreadableFile) as refusal:
        read_table(data, name)
    assert message in refusal.value.line()
    assert refusal.value.remedy


def test_an_archive_that_unpacks_to_too_much_is_refused():
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("a.csv", b"A,B\n" + b"1,2\n" * 20_000_000)
    with pytest.raises(UnreadableFile, match="unpack"):
        read_table(buffer.getvalue(), "bomb.zip")


@pytest.mark.parametrize("ending", [one for one in ENDINGS if one not in (".zip",)])
def test_random_bytes_under_any_name_never_break_the_reader(ending):
    chance = random.Random(7)
    for size in (1, 30, 400):
        try:
            read_table(chance.randbytes(size), f"t{ending}")
        except UnreadableFile as refusal:
            assert refusal.remedy


NOTICED = {
    "encoding-guessed": "Café,n\nZoë,1\n", "header-not-first": "Title,\nA,B\n1,x\n",
    "header-two-rows": "Branch,2025,,2026,\n,Visits,Loans,Visits,Loans\nAlder,1,2,3,4\nElm,5,6,7,8\n",
    "merged-cells-filled": "Branch,Month,n\nAlder,Jan,1\n,Feb,2\nElm,Jan,3\n,Feb,4\n",
    "blank-rows-dropped": "A,B\n1,x\n,\n2,y\n", "total-row": "A,B\nx,1\nTotal,1\n",
    "footnote-rows": "A,B\nx,1\ny,2\nSource: us,\n", "numbers-as-text": 'A,B\nx,"1,204"\n',
    "decimal-comma": "A;B\nx;1,5\n",
    "percent-text": "A,B\nx,45%\n", "currency": "A,B\nx,£4\n",
    "mixed-kinds": "A,B\n" + "".join(f"x,{n}\n" for n in range(19)) + "y,shut\n",
    "date-order-ambiguous": "Day,n\n01/02/2026,1\n", "date-order-inferred": "Day,n\n13/02/2026,1\n",
    "missing-codes": "A,B\nx,n/a\ny,2\n", "near-duplicate-values": "A,n\nElm,1\nelm,2\n",
    "duplicate-rows": "A,B\nx,1\nx,1\n",
    "duplicate-column-names": "A,A\nx,1\n", "months-as-columns": "A,Jan,Feb,Mar\nx,1,2,3\n",
    "identifier-column": "Code,n\n007,1\n",
    "ragged-rows": "A,B\n" + "1,2\n" * 250 + "1,2,3\n", "several-answers": "A,B\n" + "x,p; q\ny,q\n" * 4,
}  # fmt: skip


@pytest.mark.parametrize("code", AGREED_CODES.split())
def test_every_agreed_code_is_made(code):
    data = NOTICED[code].encode("cp1252" if code == "encoding-guessed" else "utf-8")
    assert code in codes(read_table(data, "t.csv"))
