"""Every visual on data that was not made for it: a drawing that stays in its box, or a sentence that says why not."""

import xml.etree.ElementTree as ET

import pytest

from tests.core.test_visuals import GOOD, STYLE
from tests.factories import ask, csv_table
from ypsil.core.drawing import scene_to_svg, text_width
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
        for text in scene.texts():
            width = text_width(text.text, text.font)
            left = {"start": text.x, "middle": text.x - width / 2, "end": text.x - width}[text.anchor]
            assert left >= -2, text.text
            assert left + width <= box.width + 2, text.text
