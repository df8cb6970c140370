"""What a drawing leaves out is said below it; what stands there can be read: names, keys, scales, ends of lines."""

import pytest

from tests.core.drawing_lint import beyond, equal_labels, lines_through_texts, names_left_out, over_each_other
from tests.factories import ask, csv_table, total
from ypsil.core.drawing import Line, Path, Rect, Scene, Text
from ypsil.core.style import HouseStyle
from ypsil.core.visuals import Box, draw

STYLE = HouseStyle()
MONTHS = [{"column": "Day", "by": "month"}]
NAMES = [{"column": "Name"}]


def named(count, value=lambda place: place + 1):
    return csv_table("Name;Visits\n" + "".join(f"Branch {place};{value(place)}\n" for place in range(count)))


def drawn(name, question, table, width=560, height=340, **options):
    return draw(name, ask(question, table), options, Box(width, height), STYLE)


def said(scene):
    return [text.text for text in scene.texts()]


def word(x, y, text, weight=400):
    return Text(x, y, text, STYLE.body(13, bold=weight == 700), STYLE.ink)


class TestTheLintItself:
    def test_finds_texts_over_each_other_and_beyond(self):
        scene = Scene(100, 40, (word(5, 20, "one"), word(10, 20, "other"), word(90, 20, "outside")))
        assert over_each_other(scene) == ["“one” over “other”"]
        assert beyond(scene) == ["“outside” beyond the drawing"]

    def test_finds_a_strong_line_through_a_text_unless_a_sheet_lies_between(self):
        line, text = Line(0, 16, 100, 16, STYLE.ink), word(5, 20, "one")
        sheet = Rect(0, 8, 60, 14, STYLE.paper)
        assert lines_through_texts(Scene(100, 40, (line, text))) == ["a line through “one”"]
        assert not lines_through_texts(Scene(100, 40, (line, sheet, text)))
        assert not lines_through_texts(Scene(100, 40, (Line(0, 16, 100, 16, STYLE.grid), text)))

    def test_finds_names_left_out_without_a_word(self):
        answer = ask(total(per=NAMES), named(2))
        assert names_left_out(Scene(100, 40, (word(0, 20, "Branch 0"),)), answer) == ["“Branch 1” is named nowhere"]
        assert not names_left_out(Scene(100, 40, (word(0, 20, "1 name has no room here"),)), answer)

    def test_finds_one_label_for_unequal_values(self):
        answer = ask(total(per=NAMES), named(2, lambda place: (4.6, 5.3)[place]))
        bold = (word(0, 20, "5", 700), word(40, 20, "5", 700))
        assert equal_labels(Scene(100, 40, bold), answer) == ["“5” stands 2 times for 2 unequal values"]
        equal = ask(total(per=NAMES), named(2, lambda place: 5))
        assert not equal_labels(Scene(100, 40, bold), equal)


@pytest.mark.parametrize(
    "name", ["bar", "treemap", "scatter", "bubble", "lollipop", "icicle", "heat_table", "dot_plot"]
)
def test_names_without_room_are_counted_below_the_drawing_and_in_its_description(name):
    rows = "".join(f"Branch {place};{1 + place % 3};{1 + place % 2};{'ab'[place % 2]}\n" for place in range(38))
    table = csv_table("Name;Visits;Cost;Kind\n" + rows)
    sums = [{"stat": "sum", "column": "Visits"}, {"stat": "sum", "column": "Cost"}, {"stat": "count"}]
    measures = {"scatter": sums[:2], "bubble": sums}.get(name, sums[:1])
    question = {"measures": measures, "per": NAMES}
    if name in ("heat_table", "dot_plot"):
        question["split"] = {"column": "Kind"}
    scene = drawn(name, question, table, 300, 240)
    notes = [text for text in said(scene) if "no room here" in text]
    assert len(notes) == 1
    texts = " ".join(f"{text.text}, {text.title}," for text in scene.texts())
    shown = {one for one in (f"Branch {place}" for place in range(38)) if f"{one}," in texts or f"{one} " in texts}
    assert len(shown) == 38 - int(notes[0].split()[0])
    assert notes[0] in scene.description


def test_groups_with_one_of_two_values_are_said_not_to_be_drawn():
    table = csv_table("Name,Kind,Visits\nx,a,1\nx,b,2\ny,a,3\n")
    scene = drawn("slope", total(per=NAMES, split={"column": "Kind"}), table)
    assert "1 is not drawn for want of a value." in said(scene)


def test_a_part_of_the_groups_is_not_taken_for_the_whole():
    scene = drawn("pie", total(per=NAMES, keep=3), named(9))
    assert "The whole is the groups that are shown; the others are left out." in " ".join(said(scene))
    whole = drawn("pie", total(per=NAMES, keep=3, rest="Other"), named(9))
    assert "The whole" not in " ".join(said(whole))


def test_the_line_of_a_cumulative_ranking_starts_at_the_top_of_its_first_column():
    scene = drawn("pareto", total(per=NAMES), named(6))
    columns = [shape for shape in scene.shapes if isinstance(shape, Rect) and shape.title]
    line = next(shape for shape in scene.shapes if isinstance(shape, Path) and shape.stroke != "none")
    first = float(line.d.removeprefix("M").split("L")[0].split()[1])
    assert first == pytest.approx(min(column.y for column in columns), abs=0.1)


def test_columns_of_a_heat_table_are_all_named_and_shades_have_a_key_where_numbers_do_not_fit():
    rows = "".join(f"r{row};Variety number {column};{row * column}\n" for row in range(4) for column in range(12))
    question = {"measures": [{"stat": "sum", "column": "V"}], "per": [{"column": "R"}], "split": {"column": "C"}}
    scene = drawn("heat_table", question, csv_table("R;C;V\n" + rows))
    turned = [text for text in scene.texts() if text.angle == -90]
    assert [text.title for text in turned] == [f"Variety number {column}" for column in range(12)]
    assert "Total V" not in said(scene)
    small = drawn("heat_table", question, csv_table("R;C;V\n" + rows), values_on_marks=False)
    assert {"Total V", "0", "33"} <= set(said(small))


def test_small_charts_say_once_what_all_of_them_say_and_keep_one_scale():
    rows = "".join(f"{name};k{kind};{kind + place + 1}\n" for kind in range(6) for place, name in enumerate("xyz"))
    table = csv_table("Name;Kind;Visits\n" + rows)
    question = total(per=NAMES, split={"column": "Kind"})
    scene = drawn("multiples", question, table, chart="bars")
    rows_of_charts = len({text.y for text in scene.texts() if text.text.startswith("k")})
    assert said(scene).count("x") == rows_of_charts < 6
    widths = {shape.title: shape.width for shape in scene.shapes if isinstance(shape, Rect) and shape.title}
    assert all(one == pytest.approx(other * 3 / 4, abs=0.2) for one, other in [(widths["x, 3"], widths["y, 4"])])


def test_a_missing_last_value_has_no_dot_and_the_last_one_there_says_when_it_was():
    rows = "".join(f"2026-{month:02d}-05,{'' if month == 6 else month % 3}\n" for month in range(1, 7))
    table = csv_table("Day,Visits\n" + rows)
    small = drawn("sparkline", total(per=MONTHS), table, 300, 100)
    assert "May 2026" in said(small)
    kpi = drawn("kpi", total(per=MONTHS), table)
    assert not [shape for shape in kpi.shapes if isinstance(shape, Rect) and shape.radius == 3.5]
    assert kpi.description.startswith("Total Visits, Jun 2026: no value.")


def test_axes_of_counts_name_whole_numbers_only():
    scene = drawn("column", {"measures": [{"stat": "count"}], "per": NAMES}, named(4))
    assert [text for text in said(scene) if text.replace(".", "").isdigit()] == ["0", "1", "1", "1", "1", "1"]


def test_descriptions_count_who_shares_the_highest_and_lowest_value():
    shared = drawn("bar", total(per=NAMES), named(5, lambda place: (1, 9, 9, 9, 2)[place])).description
    assert "and 2 others, 9." in shared
    assert shared.endswith("Lowest: Branch 0, 1.")
    assert drawn("bar", total(per=NAMES), named(3, lambda place: 4)).description.endswith("All of them are 4.")


def test_names_at_dots_are_inside_or_beside_and_never_over_another():
    rows = "".join(f"n{place};{place % 6};{place // 6}\n" for place in range(30))
    sums = [{"stat": "sum", "column": "X"}, {"stat": "sum", "column": "Y"}]
    scene = drawn("scatter", {"measures": sums, "per": NAMES}, csv_table("Name;X;Y\n" + rows))
    names = [text for text in scene.texts() if text.text.startswith("n")]
    assert len(names) > 25
    assert f"{30 - len(names)} names have no room here." in said(scene)
    assert not over_each_other(scene)
    bare = drawn("scatter", {"measures": sums, "per": NAMES}, csv_table("Name;X;Y\n" + rows), names="nothing")
    assert not [text for text in bare.texts() if text.text.startswith("n")]
