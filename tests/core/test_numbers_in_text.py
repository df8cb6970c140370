"""Numbers as people write them, from the tables of docs/formats/numbers.md, and written in every form and read back."""

import polars as pl
import pytest
from babel.numbers import format_currency, format_decimal
from hypothesis import given
from hypothesis import strategies as st

from tests.factories import codes, csv_table, rows_of_page
from ypsil.core.tables.numbers_in_text import parse_numbers


def read(*texts, decimal=None):
    return parse_numbers(pl.Series(texts), decimal=decimal).values.to_list()


@pytest.mark.parametrize(("written", "value", "unit"), rows_of_page("numbers.md", "Alone"))
def test_the_page_of_formats_is_kept(written, value, unit):
    found = parse_numbers(pl.Series([written]))
    assert found.values.to_list() == pytest.approx([float(value)], rel=1e-12)
    assert found.units == ((unit,) if unit else ())


@pytest.mark.parametrize(("written", "why"), rows_of_page("numbers.md", "No numbers"))
def test_what_the_page_calls_no_number_is_none(written, why):
    assert read(written) == [None], why


AMOUNTS = st.decimals(min_value=-(10**12), max_value=10**12, places=2, allow_nan=False, allow_infinity=False)
# Languages that group by commas, points, spaces, apostrophes and in pairs; patterns of Unicode CLDR, through Babel.
WRITERS = ["en", "de", "fr", "de_CH", "en_IN", "sv", "pl", "es", "pt", "nb"]


@given(st.lists(AMOUNTS, min_size=1, max_size=6), st.sampled_from(WRITERS))
def test_what_a_language_writes_is_read_back(amounts, language):
    written = [format_decimal(amount, locale=language, format=None) for amount in amounts]
    plain = [format_decimal(amount, locale=language, decimal_quantization=False) for amount in amounts]
    mark = format_decimal(0.5, locale=language)[1]
    for texts in (written, plain):
        rounded = [float(format_decimal(a, locale="en", group_separator=False)) for a in amounts]
        wanted = rounded if texts is written else [float(a) for a in amounts]
        assert read(*texts, decimal=mark) == pytest.approx(wanted, abs=0.005)


@given(st.lists(AMOUNTS, min_size=2, max_size=6), st.sampled_from(WRITERS), st.sampled_from(["GBP", "EUR", "USD"]))
def test_amounts_of_money_are_read_back_and_the_mark_is_found(amounts, language, currency):
    found = parse_numbers(pl.Series([format_currency(amount, currency, locale=language) for amount in amounts]))
    assert found.values.to_list() == pytest.approx([float(amount) for amount in amounts], abs=1e-9)
    assert len(found.units) == 1


@given(
    st.integers(-(10**9), 10**9),
    st.sampled_from(["{n}", "({p})", "{p}-", "-{p}", "−{p}", "£{n}", "{n} €", "(£{p})", "{n} km", "{n}%", "{n}‰"]),
)
def test_signs_and_units_are_read_back(number, form):
    is_negative = form.startswith(("(", "-", "−")) or form.endswith("-")
    size = abs(number)
    wanted = -size if is_negative else number
    scale = {"%": 100, "‰": 1000}.get(form[-1], 1)
    assert read(form.format(n=f"{number:,}", p=f"{size:,}")) == pytest.approx([wanted / scale], rel=1e-12)


@given(st.text(alphabet="0123456789.,' -+()%£€kmeE", max_size=12))
def test_no_text_breaks_the_reader(text):
    value = read(text)[0]
    assert value is None or value == value


def test_millions_with_commas_make_a_column_of_numbers():
    table = csv_table('Film,Gross\nA,"1,234,567"\nB,"$1,234,567.50"\nC,"55,100,282,358"\n')
    assert table.column("Gross").kind == "number" and table.frame["Gross"].to_list()[2] == 55_100_282_358


@pytest.mark.parametrize(
    ("rows", "wanted"),
    [
        ("1.204;3,5\n2.501;4,25\n", [1204, 2501]),  # the other column has decimal commas
        ("1,204;3,5\n2,501;4,25\n", [1.204, 2.501]),
        ("1.204;3.5\n2.501;4.25\n", [1.204, 2.501]),
        ("1.200;1\n950;2\n2.310;4\n", [1200, 950, 2310]),  # with decimals written out, it would be 950.000
    ],
)
def test_other_columns_show_what_a_mark_before_three_digits_means(rows, wanted):
    table = csv_table("Amount;Other\n" + rows)
    assert table.frame["Amount"].to_list() == pytest.approx(wanted)
    assert "decimal-mark-ambiguous" not in codes(table)


def test_a_point_that_may_part_thousands_is_asked_about():
    table = csv_table("Branch,Amount\nA,1.204\nB,2.501\n")
    found = next(one for one in table.remarks if one.code == "decimal-mark-ambiguous")
    assert found.state == "proposed"
    assert [offer.change["reading"]["decimals"]["Amount"] for offer in found.offers] == [".", ","]
    assert "decimal-mark-ambiguous" not in codes(csv_table("Branch,Amount\nA,1.204\nB,0.501\n"))


def test_amounts_in_cm_and_m_are_brought_to_one_and_kg_are_not():
    table = csv_table("Plant,Height\nA,120 cm\nB,1.2 m\nC,90 cm\n")
    assert (table.column("Height").unit, table.frame["Height"].to_list()) == ("cm", [120, 120, 90])
    assert "mixed-units" in codes(table)
    other = csv_table("Plant,Size\nA,120 cm\nB,1.2 kg\nC,90 cm\n")
    assert other.column("Size").kind == "category" and "mixed-units" in codes(other)
