"""Reading files: what is understood, what is said about it, and what is refused."""

import io
import zipfile

import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.factories import codes, csv_table, kinds, workbook_bytes
from ypsil.core.errors import UnreadableFile
from ypsil.core.tables import frame_from_blob, frame_to_blob
from ypsil.core.tables.read import read_table, table_name


def remark(table, code):
    return next(one for one in table.remarks if one.code == code)


def test_a_tidy_table_gives_its_kinds_and_no_remarks():
    table = csv_table()
    assert kinds(table) == {
        "Day": "date", "Branch": "category", "Kind": "category", "Visits": "number", "Cost": "number",
        "Open": "yesno", "Comment": "text",
    }  # fmt: skip
    assert codes(table) == []
    assert table.rows == 6
    assert table.column("Visits").missing == 1


def test_a_title_above_the_header_is_left_out_and_said_with_the_row():
    table = csv_table("Brackenshire visits,,\n\nBranch,Visits,Cost\nAlder Lane,3,4\nDunmere,5,6\n")
    assert list(kinds(table)) == ["Branch", "Visits", "Cost"]
    found = remark(table, "header-not-first")
    assert (found.row, found.severity) == (3, "info")
    assert "Brackenshire visits" in found.message


def test_a_first_row_of_numbers_is_data_and_said():
    table = csv_table("2024,5\n2025,6\n2026,7\n")
    assert table.frame["Column 2"].to_list() == [5, 6, 7]
    assert remark(table, "no-header").severity == "warning"
    assert list(kinds(csv_table("Year,2024,2025\nVisits,1,2\n"))) == ["Year", "2024", "2025"]


def test_one_huge_cell_is_no_trouble():
    table = csv_table("Comment\n" + "x" * 400_000 + "\nshort\n")
    assert table.frame["Comment"].str.len_chars().to_list() == [400_000, 5]


def test_a_total_row_is_left_out_so_that_nothing_counts_twice():
    table = csv_table("Branch,Visits\nAlder Lane,3\nDunmere,5\nTotal,8\n")
    assert table.frame["Visits"].sum() == 8
    assert remark(table, "total-row").row == 4


def test_a_branch_whose_name_only_begins_like_a_total_stays():
    assert csv_table("Branch,Visits\nTotally Books,3\nDunmere,5\n").rows == 2


def test_notes_under_the_table_are_left_out():
    table = csv_table("Branch,Visits\nAlder Lane,3\nDunmere,5\nSource: our own counters,\n")
    assert table.rows == 2
    assert remark(table, "footnote-rows").row == 4


def test_blank_rows_inside_are_said_and_blank_rows_at_the_end_are_not():
    assert remark(csv_table("A,B\n1,2\n,\n3,4\n"), "blank-rows-dropped").row == 3
    assert codes(csv_table("A,B\n1,2\n3,4\n,\n")) == []


@pytest.mark.parametrize(
    ("cells", "numbers"),
    [
        (["1,204", "37"], [1204, 37]),
        (["1.234,5", "300,25"], [1234.5, 300.25]),
        (["(300)", "12"], [-300, 12]),
        (["£1,200", "£3.50"], [1200, 3.5]),
        (["45%", "7 %"], [0.45, 0.07]),
        (["−3", "1 204"], [-3, 1204]),
        (["1e3", ".5"], [1000, 0.5]),
    ],
)
def test_numbers_are_read_as_people_write_them(cells, numbers):
    table = csv_table("Name;Amount\n" + "\n".join(f"x{index};{cell}" for index, cell in enumerate(cells)))
    assert table.frame["Amount"].to_list() == pytest.approx(numbers)


def test_signs_become_the_unit_and_are_said():
    money = csv_table("Branch;Cost\nAlder;£1,200\nDunmere;£20\n")
    assert money.column("Cost").unit == "£"
    assert {"currency", "numbers-as-text"} <= set(codes(money))
    shares = csv_table("Branch;Share\nAlder;45%\nDunmere;5%\n")
    assert shares.column("Share").unit == "%"
    assert "percent-text" in codes(shares)
    assert csv_table("Branch,Cost (€)\nAlder,12\nDunmere,5\n").column("Cost (€)").unit == "€"


def test_a_decimal_comma_is_decided_from_the_whole_column():
    table = csv_table("Branch;Cost\nAlder;1,234\nDunmere;2,5\n")
    assert table.frame["Cost"].to_list() == [1.234, 2.5]
    assert "decimal-comma" in codes(table)


def test_missing_codes_are_counted_with_the_first_row():
    found = remark(csv_table("Branch,Visits\nAlder,3\nDunmere,n/a\nElm,-\nFen,5\n"), "missing-codes")
    assert (found.row, found.count, found.column) == (3, 2, "Visits")


def test_a_few_words_among_numbers_are_a_problem_that_is_listed():
    rows = "".join(f"b{index},{index}\n" for index in range(20))
    found = remark(csv_table("Branch,Visits\n" + rows + "closed,shut\n"), "mixed-kinds")
    assert found.severity == "problem"
    assert "shut" in found.message


def test_numbers_with_leading_zeros_name_things():
    table = csv_table("Code,Visits\n007,3\n012,5\n")
    assert kinds(table)["Code"] == "category"
    assert table.frame["Code"].to_list() == ["007", "012"]
    assert "identifier-column" in codes(table)
    phones = csv_table("Who;Call\na;0123 456\nb;(0123) 457\nc;+44 123 458\n")
    assert phones.frame["Call"].to_list() == ["0123 456", "(0123) 457", "+44 123 458"]
    assert kinds(csv_table("Who;Phone\na;123 456\nb;123 457\n"))["Phone"] == "category"
    assert csv_table("Who;Visits\na;1 204\nb;37\n").frame["Visits"].to_list() == [1204, 37]
    assert csv_table("Who;Change\na;(300)\nb;12\n").frame["Change"].to_list() == [-300, 12]


@pytest.mark.parametrize(
    ("cells", "code", "first"),
    [
        (["13/02/2026", "01/03/2026"], "date-order-inferred", "2026-02-13"),
        (["02/13/2026", "03/01/2026"], "date-order-inferred", "2026-02-13"),
        (["01/02/2026", "03/04/2026"], "date-order-ambiguous", "2026-02-01"),
    ],
)
def test_the_order_of_day_and_month_is_decided_from_the_column(cells, code, first):
    table = csv_table("Day,Visits\n" + "".join(f"{cell},1\n" for cell in cells))
    assert table.frame["Day"][0].isoformat() == first
    assert code in codes(table)


@pytest.mark.parametrize(
    "cell", ["2026-03-02", "2 March 2026", "2 Mar 2026", "02.03.2026", "Mar 2, 2026", "Mar 2 2026", "2026/3/2"]
)
def test_common_ways_of_writing_a_date_are_read(cell):
    table = csv_table(f"Day;Visits\n{cell};1\n{cell};2\n")
    assert table.frame["Day"][0].isoformat() == "2026-03-02"


def test_months_are_read_as_their_first_day():
    assert csv_table("Month,Visits\nMarch 2026,1\nApril 2026,2\n").frame["Month"][1].isoformat() == "2026-04-01"


def test_several_answers_in_a_cell_become_a_list():
    rows = "".join(f"{index},Study; Events\n{index},Events\n" for index in range(6))
    table = csv_table("Person,Comes for\n" + rows)
    assert kinds(table)["Comes for"] == "list"
    assert table.frame["Comes for"][0].to_list() == ["Study", "Events"]


def test_spellings_of_one_thing_are_proposed_not_changed():
    table = csv_table("Branch,Visits\nAlder Lane,1\nalder lane,2\nDunmere,3\n")
    assert "near-duplicate-values" in codes(table)
    assert table.column("Branch").distinct == 3


def test_repeated_names_and_rows_are_said():
    table = csv_table("Branch,Visits,Visits\nAlder,1,2\nAlder,1,2\n")
    assert [column.name for column in table.columns] == ["Branch", "Visits", "Visits (2)"]
    assert {"duplicate-column-names", "duplicate-rows"} <= set(codes(table))


def test_long_rows_keep_their_cells_and_are_said():
    table = csv_table("A,B\n" + "1,2\n" * 250 + "1,2,3\n")
    assert remark(table, "ragged-rows").row == 252
    assert table.frame.width == 3


@pytest.mark.parametrize(
    "data",
    [
        "Café,n\nZoë,1\n".encode("cp1252"),
        "Café,n\nZoë,1\n".encode("utf-16"),
        b"\xef\xbb\xbf" + "Café,n\nZoë,1\n".encode(),
    ],
)
def test_encodings_are_detected(data):
    table = read_table(data, "names.csv")
    assert table.frame.columns == ["Café", "n"]
    assert table.frame["Café"][0] == "Zoë"


def test_a_workbook_keeps_types_and_says_which_numbers_were_text():
    data = workbook_bytes(
        ["Visits of the year"], [], ["Branch", "Visits"], ["Alder", 3], ["Dunmere", "1,204"], ["Elm", "n/a"]
    )
    table = read_table(data, "visits.xlsx")
    assert table.frame["Visits"].to_list() == [3, 1204, None]
    assert {"header-not-first", "numbers-as-text", "missing-codes"} <= set(codes(table))
    assert remark(table, "numbers-as-text").row == 5
    assert table.sheets == ("visits",)


def test_rfc_4180_quotes_line_ends_and_commas_in_cells():
    # RFC 4180, section 2, rules 5 to 7.
    table = csv_table('Name,Said\r\n"Ann","She said ""yes"""\r\n"Bob","two\r\nlines, and a comma"\r\n')
    assert table.frame["Said"].to_list() == ['She said "yes"', "two\r\nlines, and a comma"]


@pytest.mark.parametrize(
    ("data", "name", "message"),
    [
        (b"", "a.csv", "empty"),
        (b"  \n \n", "a.csv", "empty"),
        (b"Branch,Visits\n", "a.csv", "no rows"),
        (b"\x00\x01\x02" * 50, "a.csv", "not a text file"),
        (b"%PDF-1.7", "a.pdf", "files of this kind are not read"),
        (b"PK\x03\x04 not a zip", "a.xlsx", "broken"),
        (b"words", "a.xlsx", "not an XLSX"),
        (b'A,B\n1,"never closed\n2,3\n', "a.csv", "never closed, a.csv, line 2"),
        ((",".join(f"c{n}" for n in range(2500)) + "\n").encode(), "a.csv", "2,500 columns"),
    ],
)
def test_what_cannot_be_read_is_refused_with_a_reason_and_a_remedy(data, name, message):
    with pytest.raises(UnreadableFile) as refusal:
        read_table(data, name)
    assert message in refusal.value.line()
    assert refusal.value.remedy


def test_a_workbook_that_unpacks_to_too_much_is_refused():
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("xl/worksheets/sheet1.xml", b"0" * (80 * 1024 * 1024))
    with pytest.raises(UnreadableFile, match="unpack"):
        read_table(buffer.getvalue(), "bomb.xlsx")


def test_a_sheet_that_is_not_there_is_refused_with_the_ones_that_are():
    with pytest.raises(UnreadableFile, match="choose one of: visits"):
        read_table(workbook_bytes(["A"], [1]), "a.xlsx", sheet="costs")


def test_progress_is_told_and_can_end_the_reading():
    parts: list[float] = []
    read_table(b"A,B\n1,2\n", "a.csv", progress=parts.append)
    assert parts == sorted(parts)
    with pytest.raises(KeyboardInterrupt):
        read_table(b"A,B\n1,2\n", "a.csv", progress=lambda part: (_ for _ in ()).throw(KeyboardInterrupt))


@pytest.mark.parametrize(
    ("file", "name"),
    [("visits_2026-03.xlsx", "visits"), ("Readers survey (2).csv", "Readers survey"), ("2026.csv", "2026")],
)
def test_a_table_is_named_after_its_file(file, name):
    assert table_name(file) == name


@given(
    st.lists(
        st.tuples(st.integers(-(10**9), 10**9), st.text(alphabet="abcé ,;\"'", min_size=1, max_size=8)), min_size=2
    )
)
def test_whatever_is_written_as_csv_is_read_back(rows):
    frame = pl.DataFrame({"Number": [number for number, _ in rows], "Name": ["x" + name + "x" for _, name in rows]})
    table = read_table(frame.write_csv().encode(), "rows.csv")
    assert table.frame["Number"].to_list() == frame["Number"].to_list()
    assert frame_from_blob(frame_to_blob(table.frame)).equals(table.frame)


@given(st.binary(max_size=400), st.sampled_from(["a.csv", "a.xlsx", "a.txt", "a.bin"]))
def test_any_bytes_give_a_table_or_a_clear_refusal(data, name):
    try:
        assert read_table(data, name).rows > 0
    except UnreadableFile as refusal:
        assert refusal.remedy
