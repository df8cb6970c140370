"""Numbers in a text: what is one and what is not, its value and unit, what it counts, and what goes together."""

import json
import re
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ypsil.cli import main
from ypsil.core.numbers import found_in, numbers_in
from ypsil.core.visuals import VISUALS


def said(text):
    return [(one.value, one.unit) for one in numbers_in(text)]


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("Loans rose from 120 to 180 in May.", [(120, None), (180, None)]),
        ("Two thirds of the loans were renewed.", [(0.6667, "share")]),
        ("9 of 10 readers would come again.", [(0.9, "share")]),
        ("One in five pupils walks; one of them runs.", [(0.2, "share")]),
        ("8 out of 10 said yes, 1/3 of them twice.", [(0.8, "share"), (0.3333, "share")]),
        ("Half of the readers, a quarter of the staff.", [(0.5, "share"), (0.25, "share")]),
        ("¾ of the room was full for 2½ hours.", [(0.75, "share"), (2.5, "h")]),
        ("branches 14 minutes, bus 31", [(14, "min"), (31, "min")]),
        ("It cost £3.5m, or $1.2 million, or €20.", [(3_500_000, "£"), (1_200_000, "$"), (20, "€")]),
        ("The grant was 2 bn, the fee 50p.", [(2e9, None), (50, "p")]),
        ("41 per cent walked, 29 percent rode, 30% drove.", [(41, "%"), (29, "%"), (30, "%")]),
        ("It fell by 3.2 percentage points.", [(3.2, "percentage points")]),
        ("It was −4 °C, then minus 7 degrees.", [(-4, "°C"), (-7, "°")]),
        ("It takes 10–15 minutes.", [(10, "min"), (15, "min")]),
        ("Between 10 and 15 minutes.", [(10, "min"), (15, "min")]),
        ("1,204 visits, 12 500 loans, 1'000 events", [(1204, None), (12500, None), (1000, None)]),
        ("3.2m visits past a 5 m wall and a 100m sprint", [(3_200_000, None), (5, "m"), (100, "m")]),
        ("a dozen vans, a hundred chairs, half a million people", [(12, None), (100, None), (500_000, None)]),
        ("twenty-one branches, three hundred and sixty-five days", [(21, None), (365, "days")]),
        ("Visits were three times as many.", [(3, "times")]),
        ("Der Besuch stieg um 1.204 auf 12.500,5 und das ist viel mehr als zuvor.", [(1204, None), (12500.5, None)]),
        ("We counted 1987 visits.", [(1987, None)]),
    ],
)
def test_values_and_units(text, wanted):
    assert said(text) == wanted


@pytest.mark.parametrize(
    "text",
    [
        "We met on 3 May 2024 at 10:30, and again on 2024-05-12.",
        "In 2019 and in the 1990s all was quiet.",
        "From June 2020 until 12/06/2021 we were closed.",
        "See Section 3.2, page 12, Figure 4 and Table 2.",
        "Version 2.1 came after v1.9 and 3.0.1.",
        "Python 3.11 runs it.",
        "Call 020 7946 0958 or +44 20 7946 0000.",
        "Come to 12 High Street, Room 204.",
        "Write to a1@b2.org or look at http://x.org/12.",
        "ISBN 978-3-16-148410-0; ask 192.168.0.1.",
        "The score was 3-1 in the 2nd half.",
        "COVID-19 came, on A4 paper, by way of B12 and CO2.",
        "Year 7 and Group 2 were there 24/7.",
        "No one came on day one; one of us was late.",
        "1. Collect the seeds",
        "Half past nine, or a quarter to ten.",
        "The classic 1967 Longley data",
    ],
)
def test_what_is_no_number(text):
    assert said(text) == []


@pytest.mark.parametrize(
    ("text", "of"),
    [
        ("Two thirds of the loans were renewed.", ["the loans"]),
        ("9 of 10 readers would come again.", ["readers"]),
        ("There are 12 chapters and 340 pages.", ["chapters", "pages"]),
        ("Loans rose from 120 to 180 in May.", ["Loans", "Loans"]),
        ("The grant was 2 bn.", ["The grant"]),
        ("branches 14 minutes, bus 31", ["branches", "bus"]),
        ("Town has 41 %, hills 29 percent.", ["Town", "hills"]),
        ("It was 12 degrees.", [None]),
    ],
)
def test_what_they_count(text, of):
    assert [one.of for one in numbers_in(text)] == of


def grouped(text):
    return [(one.kind, [list(row) for row in one.rows]) for one in found_in(text).groups]


@pytest.mark.parametrize(
    ("text", "kind", "rows"),
    [
        ("Loans rose from 120 in April to 180 in May.", "change", [["April", 120], ["May", 180]]),
        ("Loans fell from 180 to 120.", "change", [["before", 180], ["after", 120]]),
        ("Branches took 14 minutes, the bus 31.", "comparison", [["Branches", 14], ["the bus", 31]]),
        (
            "Visits were 120 in January, 130 in February and 150 in March.", "series",
            [["January", 120], ["February", 130], ["March", 150]],
        ),
        (
            "41 per cent came on foot, 29 per cent by bus and 30 per cent by car.", "parts",
            [["came on foot", 41], ["by bus", 29], ["by car", 30]],
        ),
        ("Two thirds of the loans were renewed.", "single", [["the loans", 0.6667]]),
        ("1. Dig the bed\n2. Rake it\n3. Sow", "steps", [["1", "Dig the bed"], ["2", "Rake it"], ["3", "Sow"]]),
        (
            "First dig the bed, then rake it, finally sow the beans.", "steps",
            [["1", "dig the bed"], ["2", "rake it"], ["3", "sow the beans"]],
        ),
        (
            "In 2019 the first bed was dug. In 2020 a greenhouse was bought.", "dates",
            [["2019", "the first bed was dug"], ["2020", "a greenhouse was bought"]],
        ),
        ("Alder Lane: 1,204\nElmstow: 980", "comparison", [["Alder Lane", 1204], ["Elmstow", 980]]),
        ("2023: 12 visits\n2024: 15 visits\n2025: 19 visits", "series", [["2023", 12], ["2024", 15], ["2025", 19]]),
    ],
)  # fmt: skip
def test_what_goes_together(text, kind, rows):
    assert (kind, rows) in grouped(text)


def test_two_sentences_are_not_compared():
    text = "Two thirds of the loans were renewed, and 9 of 10 readers would come again."
    assert [kind for kind, _ in grouped(text)] == ["single", "single"]


def test_all_visuals_that_are_proposed_are_there():
    text = (
        "Loans rose from 120 to 180. Town 41 %, hills 29 %.\n\n1. Dig\n2. Sow\n\nIn 2019 a. In 2020 b.\n\nHalf of it."
    )
    for group in found_in(text).groups:
        assert group.visuals and set(group.visuals) <= set(VISUALS)


def test_hundreds_of_numbers_are_a_table():
    text = "\n".join(f"Branch {chr(65 + n % 26)}{chr(97 + n // 26)}: {n * 7} visits" for n in range(300))
    (group,) = found_in(text).groups
    assert group.kind == "comparison" and len(group.rows) == 300 and group.visuals[0] == "table"


@given(st.text(max_size=300))
def test_any_text_is_read(text):
    found = found_in(text)
    for one in found.numbers:
        assert text[one.start : one.end] == one.text
    assert all(one.end <= other.start for one, other in pairwise(found.numbers))


@given(st.integers(0, 10**12))
def test_a_whole_number_is_itself_however_it_is_grouped(number):
    for written in (f"{number:,} visits", f"{number} visits", f"{number:,}".replace(",", " ") + " visits"):
        assert said(f"They counted {written}.") == [(float(number), None)], written


def test_the_command_says_it_as_json(tmp_path, capsys):
    path = tmp_path / "notes.txt"
    path.write_text("Loans rose from 120 to 180 in May. See Section 3.2.", encoding="utf-8")
    assert not main(["numbers", str(path)])
    found = json.loads(capsys.readouterr().out)
    assert found["numbers"][0] == {"text": "120", "start": 16, "end": 19, "value": 120.0, "unit": None, "of": "Loans"}
    assert found["groups"][0]["kind"] == "change" and "column" in found["groups"][0]["visuals"]
    assert [one["kind"] for one in found["not_numbers"]] == ["section"]


def test_what_is_no_text_is_refused_in_one_line(tmp_path, capsys):
    path = tmp_path / "picture.txt"
    path.write_bytes(b"\x89PNG\x00\x00")
    assert main(["numbers", str(path)]) == 1
    assert re.fullmatch(r"ypsil: picture\.txt: this is not a text file; .*\n", capsys.readouterr().err)
    empty = tmp_path / "empty.txt"
    empty.write_text("")
    assert not main(["numbers", str(empty)])
    assert json.loads(capsys.readouterr().out) == {"numbers": [], "groups": [], "not_numbers": []}
