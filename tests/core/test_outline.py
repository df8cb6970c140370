"""A whole text as an outline: headings, paragraphs, and what each shows best."""

import pytest

from tests.core.test_drafts import subject
from ypsil.core.draft import draft
from ypsil.core.numbers import found_in, outlined
from ypsil.core.numbers.outline import MOST_PARAGRAPHS
from ypsil.core.report import ReportBody

REPORT = """# Libraries in spring 2026

Visits
Visits rose from 14,260 in August 2025 to 16,521 in August 2026. Children made 48 per cent of them, adults 44 per cent
and groups 8 per cent.

How people come

41 per cent came on foot, 29 per cent by bus and 30 per cent by car. We counted 1,012 people.

First show your card. Then choose up to 12 books. Finally bring them back.

In 1901 the first library opened. In 1950 it moved. In 2019 the new wing was built.

Thanks to all who helped.

- Market Square: 37,018
- Cobble Street: 25,610
"""


def test_headings_paragraphs_and_the_best_of_each():
    found = outlined(REPORT)
    assert [one.heading for one in found] == ["Libraries in spring 2026", "Visits", "How people come", "", "", "", ""]
    best = [one.groups[0].kind if one.groups else "" for one in found]
    assert best == ["", "parts", "parts", "steps", "dates", "", "comparison"]
    assert [group.kind for group in found[1].groups] == ["parts", "change"], "every number is shown, the best first"
    assert found[0].text == "" and found[5].text == "Thanks to all who helped."


def test_without_empty_lines_each_line_is_a_paragraph_and_lists_stay_whole():
    found = outlined("Loans\nLoans were 120 in May.\n- May: 120\n- June: 140\nThat is all.")
    assert [one.text for one in found] == ["Loans were 120 in May.", "- May: 120\n- June: 140", "That is all."]
    assert found[0].heading == "Loans" and len(found[1].groups[0].rows) == 2


@pytest.mark.parametrize(
    "line", ["It rained.", "What now?", "- one item", "Then 41 per cent came", "a " * 13, "x" * 91, "so, and"]
)
def test_what_is_no_heading(line):
    first = outlined(f"{line}\n\nA paragraph stands here.")[0]
    assert first.heading == ("" if line != "so, and" else "so, and")


@pytest.mark.parametrize("text", ["", " \n \r\n ", "\n\n\n"])
def test_nothing_is_nothing(text):
    assert outlined(text) == []


def test_a_long_text_ends_somewhere_and_odd_ones_are_read():
    assert len(outlined("Loans were 120.\n\n" * 300)) == MOST_PARAGRAPHS
    assert outlined("Only a heading")[0].heading == "Only a heading"
    assert outlined("שלום עולם.\n\nעוד שורה אחת.")[1].text == "עוד שורה אחת."


def groups(text):
    return [(group.kind, group.rows) for group in found_in(text).groups]


@pytest.mark.parametrize(
    ("text", "names"),
    [
        ("In May loans rose from 120 to 180.", ["before", "May"]),
        ("Loans rose from 120 to 180 in May.", ["before", "May"]),
        ("Loans rose from 120 in April to 180 in May.", ["April", "May"]),
        ("Visits fell from 2,000 in 2019 to 1,200.", ["2019", "after"]),
    ],
)
def test_a_time_belongs_to_the_end_of_a_change_that_it_is_said_of(text, names):
    ((kind, rows),) = groups(text)
    assert (kind, [name for name, _ in rows]) == ("change", names)


def test_steps_are_told_by_sentences_too():
    text = "First collect the leaves. Then dry them for 3 days. Finally, press them."
    steps = [rows for kind, rows in groups(text) if kind == "steps"]
    assert steps == [(("1", "Collect the leaves"), ("2", "Dry them for 3 days"), ("3", "Press them"))]
    assert not any(kind == "steps" for kind, _ in groups("First it rained. We went home. Then it stopped."))


# As it stands in statsmodels (data of Cobb 1978 and of the STAR program): lines broken to a width, without any mark.
BROKEN = """Nile

This dataset contains measurements on the annual flow of
the Nile as measured at Ashwan for 100 years from 1871-1970.
There is an apparent changepoint near 1898.

Star98

This data is on the California education policy and outcomes (STAR program
results for 1998.  The data measured standardized testing by the California
Department of Education that required evaluation of 2nd - 11th grade students
"""
# As it stands in scikit-learn: rules, marks and a table of letters.
MARKED = """Breast cancer wisconsin (diagnostic) dataset
--------------------------------------------

**Data Set Characteristics:**

:Number of Instances: 569

===================================== ====== ======
                                        Min    Max
===================================== ====== ======
radius (mean):                        6.981  28.11
texture (mean):                       9.71   39.28
perimeter (mean):                     43.79  188.5
===================================== ====== ======
"""


def test_lines_that_were_broken_to_a_width_are_one_paragraph():
    nile, star = outlined(BROKEN)
    assert (nile.heading, star.heading) == ("Nile", "Star98")
    assert nile.text.startswith("This dataset contains measurements on the annual flow of the Nile as measured")
    assert star.text.count("\n") == 0 and star.text.endswith("grade students")
    (alone,) = outlined(BROKEN.split("\n\n")[1])
    assert alone.heading == "" and alone.text.count("\n") == 0


def test_rules_and_marks_say_nothing_and_a_table_of_letters_is_compared_by_its_columns():
    found = outlined(MARKED)
    said = " ".join(f"{one.heading} {one.text}" for one in found)
    assert "==" not in said and "--" not in said and "**" not in said
    assert found[0].heading == "Breast cancer wisconsin (diagnostic) dataset"
    table = [group.rows for group in found[-1].groups if group.kind == "comparison"]
    assert [name for name, _ in table[0]] == ["radius (mean)", "texture (mean)", "perimeter (mean)"]
    assert [[value for _, value in rows] for rows in table] == [[6.981, 9.71, 43.79], [28.11, 39.28, 188.5]]


def test_what_was_highest_once_is_no_headline_where_more_is_found():
    rows = "Day,Race,Age\n" + "".join(
        f"{1992 + n % 2}-{1 + n % 12:02d}-{1 + n % 28:02d},{'AB'[n % 2]},{20 + n * 7 % 31}\n" for n in range(60)
    )
    about = subject(rows)
    headline = draft([about], ReportBody(title="T")).body.bands[0].tiles[1].plain
    assert "was highest" not in headline
