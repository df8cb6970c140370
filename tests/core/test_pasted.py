"""What people paste: cells or answers, and the question above them."""

import pytest

from tests.factories import csv_table
from ypsil.core.tables.pasted import has_heading, what_is_pasted
from ypsil.core.tables.read import read_table
from ypsil.core.tables.reading import Reading

LINES = [
    "Longer hours on Saturdays, please", "The staff are lovely", "More books for teenagers, and more graphic novels",
    "Warmer rooms in winter", "Nothing, it is fine", "A quieter corner; the tables by the door are loud",
]  # fmt: skip
ANSWERS = "\n".join(LINES[index % 6] for index in range(120))
CELLS = "Branch\tVisits\tKind\nAlder Lane\t12\tAdult\nElmstow\t7\tChild\nDunmere\t\tAdult"


@pytest.mark.parametrize(
    ("text", "found"),
    [
        (CELLS, "cells"),
        (CELLS.replace("\t", ";"), "cells"),
        (CELLS.replace("\t", ","), "cells"),
        ("Visits\n12\n7\n1,204\n31", "cells"),
        ("Day\n2026-01-01\n2026-01-02\n2026-01-03", "cells"),
        ("Name\tSaid\nA\tLong hours, kind staff, and so on and on, in one long sentence\nB\tNothing", "cells"),
        (ANSWERS, "line"),
        ("What could be better?\n" + ANSWERS, "line"),
        ("Alder Lane\nElmstow\nDunmere", "line"),
        ("Yes, please\nNo, thanks\nYes, gladly\nNo, never", "cells"),
        ("I came, I saw.\nI liked it, mostly.\nI left, glad.", "line"),
        ("One answer\nof two lines\n\nAnother\n\nA third", "paragraph"),
        ("One\n\nTwo\n\nThree", "line"),
        ("نعم، أحب المكتبة\nلا شيء\nالهدوء", "line"),
        ("only this", "line"),
    ],
)  # fmt: skip
def test_cells_are_told_from_answers(text, found):
    assert what_is_pasted(text) == found
    assert what_is_pasted(text.replace("\n", "\r\n") + "\r\n") == found


@pytest.mark.parametrize(
    ("answers", "found"),
    [
        (["What could be better?", *LINES], True),
        (["Comment", *(f"{line}, and so I would say to everybody" for line in LINES)], True),
        (["Comment", *LINES], False),
        (LINES, False),
        (["Staff", "Books", "Hours"], False),
        (["Why?", "Who?", "When?", "Where?"], False),
        (["More books.", *LINES], False),
        (["What?", "Yes"], False),
    ],
)
def test_a_first_line_is_a_heading_only_where_it_clearly_is_one(answers, found):
    assert has_heading(answers) is found


def read(text, **reading):
    return read_table(text.encode(), "pasted.txt", reading=Reading(text_rows="line", **reading))


def test_no_answer_becomes_a_name_and_the_question_does():
    plain = read(ANSWERS)
    assert (plain.rows, plain.frame.columns) == (120, ["Answer"])
    asked = read("What could be better?\n" + ANSWERS)
    assert (asked.rows, asked.frame.columns) == (120, ["What could be better?"])
    undone = read("What could be better?\n" + ANSWERS, left=frozenset({"question-above"}))
    assert (undone.rows, undone.frame.columns) == (121, ["Answer"])
    named = read(ANSWERS, renames={"Answer": "What did you miss?"})
    assert named.frame.columns == ["What did you miss?"]


def test_how_text_was_read_is_said_and_turned_with_one_press():
    said = {remark.code: remark for remark in read(ANSWERS).remarks}["answers-read"]
    assert said.message == "Each line was read as an answer: 120 answers."
    assert [offer.change["reading"]["text_rows"] for offer in said.offers] == ["paragraph", None]
    one = csv_table("Comment\n" + ANSWERS.replace(",", "").replace(";", ""))
    assert "one-column" not in {remark.code for remark in csv_table("A,B\n1,2\n").remarks}
    assert one.frame.width == 1
