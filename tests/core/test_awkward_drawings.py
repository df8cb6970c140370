"""Every visual on data that was not made for it: a drawing that stays in its box, or a sentence that says why not."""

import xml.etree.ElementTree as ET
from itertools import pairwise

import pytest

from tests.core.drawing_lint import (
    beyond,
    equal_labels,
    lines_through_texts,
    long_numbers,
    names_left_out,
    over_each_other,
)
from tests.core.test_visuals import GOOD, OF_WORDS, STYLE
from tests.factories import ask, csv_table, total
from ypsil.core.drawing import scene_to_svg
from ypsil.core.visuals import VISUALS, Box, draw

HEAD = "Branch;Day;Visits;Cost;Kind;Open;Comment\n"
LONG = "The very long and winding name of a reading room in the east wing of the old town hall " * 3


def rows(*cells):
    return HEAD + "".join(
        f"{branch};{day};{visits};{cost};{kind};yes;{branch}\n" for branch, day, visits, cost, kind in cells
    )


AWKWARD = {
    "negative": rows(*((f"b{i % 4}", f"2026-0{i % 3 + 1}-05", -i * 3 % 7 - 4, i - 5, "ab"[i % 2]) for i in range(12))),
    "zeros": rows(*((f"b{i % 4}", f"2026-0{i % 3 + 1}-05", 0, 0, "ab"[i % 2]) for i in range(12))),
    "one row": rows(("b", "2026-01-05", 7, 3, "a")),
    "one category": rows(*(("b", f"2026-01-{i + 1:02d}", i, i * 2, "a") for i in range(9))),
    "missing values": rows(
        *(
            (f"b{i % 3}", f"2026-0{i % 4 + 1}-05", "" if i % 2 else i, "" if i % 3 else i, "ab"[i % 2])
            for i in range(12)
        )
    ),
    "400 categories": rows(*((f"b{i}", f"2026-01-{i % 28 + 1:02d}", i * 7 % 90, i, "ab"[i % 2]) for i in range(400))),
    "60 series": rows(*((f"b{i % 5}", f"2026-0{i % 3 + 1}-05", i, i, f"k{i % 60}") for i in range(300))),
    "300 letters": rows(
        *((LONG + str(i), f"2026-0{i % 3 + 1}-05", i + 1, 9 - i, LONG + "ab"[i % 2]) for i in range(6))
    ),
    "right to left": rows(*((f"ספרייה {i % 3}", f"2026-0{i % 3 + 1}-05", i + 1, i, "אב"[i % 2]) for i in range(8))),
    "emoji": rows(*((f"📚 {i % 3}", f"2026-0{i % 3 + 1}-05", i + 1, i, "🙂🙁"[i % 2]) for i in range(8))),
    "huge and tiny": rows(
        ("a", "2026-01-05", 1e15, 1e-9, "a"), ("b", "2026-02-05", 1, 5e-9, "b"), ("c", "2026-03-05", 1e9, 1e9, "a")
    ),
    "far apart": rows(("a", "1700-01-05", 5, 1, "a"), ("b", "2026-02-05", 1, 5, "b"), ("c", "2026-03-05", 2, 2, "a")),
}


@pytest.mark.parametrize("kind", AWKWARD)
@pytest.mark.parametrize("name", VISUALS)
def test_awkward_data_is_drawn_or_refused_in_words(name, kind):
    answer = ask(GOOD[name], csv_table(AWKWARD[kind]))
    for box in (Box(358, 270), Box(760, 360)):
        scene = draw(name, answer, {}, box, STYLE)
        assert scene.description
        ET.fromstring(scene_to_svg(scene))
        if name not in OF_WORDS and not scene.refusal:
            # Words of clouds interlock; they have tests of their own. A table is there to look numbers up in full.
            assert not over_each_other(scene) + beyond(scene) + lines_through_texts(scene)
            # A part of a part is one part by its purpose.
            assert name == "part_of_part" or not names_left_out(scene, answer)
            assert not equal_labels(scene, answer)
            assert name == "table" or not long_numbers(scene)


def test_the_names_of_lines_stay_inside_and_apart_and_say_how_many_have_none():
    table = "Day,Kind,Visits\n" + "".join(
        f"2026-{month:02d}-05,k{kind},{990 + kind // 10}\n" for month in (1, 2) for kind in range(60)
    )
    question = total(per=[{"column": "Day", "by": "month"}], split={"column": "Kind"})
    scene = draw("line", ask(question, csv_table(table)), {}, Box(500, 300), STYLE)
    names = [shown for shown in scene.texts() if shown.font.weight == 700]
    assert len(names) == 6
    assert names[-1].text == "55 others"
    assert all(shown.font.size <= shown.y <= scene.height for shown in names)
    assert all(below.y - above.y >= below.font.size for above, below in pairwise(names))


@pytest.mark.parametrize(
    ("values", "reason"),
    [((5, -3), "include negative values"), ((0, 0), "all of these are zero")],
)
def test_what_is_no_part_of_a_whole_is_said_plainly(values, reason):
    table = csv_table("Name,Visits\n" + "".join(f"n{place},{value}\n" for place, value in enumerate(values)))
    scene = draw("pie", ask(total(per=[{"column": "Name"}]), table), {}, Box(500, 300), STYLE)
    assert reason in " ".join(text.text for text in scene.texts())


def test_too_many_groups_are_advised_to_be_kept_to_the_largest():
    table = csv_table("Name,Visits\n" + "".join(f"n{place},{place + 1}\n" for place in range(400)))
    scene = draw("column", ask(total(per=[{"column": "Name"}]), table), {}, Box(900, 300), STYLE)
    assert "keep the 20 largest" in " ".join(text.text for text in scene.texts())
