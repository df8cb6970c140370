"""What each visual's marks say: lengths, areas, places and colours follow the values."""

import itertools
import math
import re

import pytest

from tests.factories import ask, csv_table
from ypsil.core.drawing import Line, Path, Rect, Text, scene_to_svg
from ypsil.core.drawing.measure import text_width
from ypsil.core.errors import DrawingRefused
from ypsil.core.style import HouseStyle
from ypsil.core.style.palettes import PALETTES
from ypsil.core.visuals import VISUALS, Box, draw

STYLE = HouseStyle()
BOX = Box(600, 360)
TEXT = "Branch;Kind;Visits;Cost\nA;x;10;5\nA;y;30;1\nB;x;20;9\nB;y;20;4\nC;x;0;2\nC;y;40;3\n"
SUM = {"stat": "sum", "column": "Visits"}
SPLIT = {"measures": [SUM], "per": [{"column": "Branch"}], "split": {"column": "Kind"}, "order": {"by": "name"}}
PLAIN = {"measures": [SUM], "per": [{"column": "Branch"}], "order": {"by": "name"}}


def marks(name, question, kind=Rect, *, text=TEXT, box=BOX, **options):
    scene = draw(name, ask(question, csv_table(text)), options, box, STYLE)
    return {shape.title: shape for shape in scene.shapes if isinstance(shape, kind) and shape.title}


def test_stacked_columns_stand_upon_each_other():
    found = marks("stacked_column", SPLIT)
    below, above = found["A, y, 30, 75% of A"], found["A, x, 10, 25% of A"]
    first, second = sorted((below, above), key=lambda mark: -mark.y)
    assert first.y == pytest.approx(second.y + second.height + 1, abs=0.1)
    assert (below.height + 1) / (above.height + 1) == pytest.approx(3)


def test_columns_of_100_percent_all_reach_the_same_height():
    found = marks("share_column", SPLIT)
    tops = {name[0]: min(mark.y for title, mark in found.items() if title.startswith(name[0])) for name in found}
    assert len({round(top, 1) for top in tops.values()}) == 1
    assert "B, x, 50%" in found


def test_stacked_bars_start_where_the_one_before_ends():
    found = marks("stacked_bar", SPLIT)
    x, y = sorted((found["B, x, 20, 50% of B"], found["B, y, 20, 50% of B"]), key=lambda mark: mark.x)
    assert y.x == pytest.approx(x.x + x.width + 1)


def test_lollipops_reach_as_far_as_their_values():
    found = marks("lollipop", PLAIN)
    at = {title[0]: mark.x + mark.width / 2 for title, mark in found.items()}
    assert at["A"] == pytest.approx(at["B"]) == pytest.approx(at["C"])


def test_dumbbells_join_their_two_values():
    scene = draw("dumbbell", ask(SPLIT, csv_table(TEXT)), {}, BOX, STYLE)
    joints = [shape for shape in scene.shapes if isinstance(shape, Line) and shape.stroke == STYLE.quiet]
    assert sorted(abs(round(line.x2 - line.x1)) for line in joints)[0] == 0, "B has twice the same"
    assert len(joints) == 3


def test_a_slope_that_falls_stands_out():
    found = marks("slope", SPLIT, Line)
    assert found["A, 30 to 10"].stroke == STYLE.colour(1), "another colour, not that of bad"
    turned = marks("slope", {**SPLIT, "split": {"column": "Kind"}}, Line, text=TEXT.replace("A;y;30", "A;y;3"))
    assert turned["A, 3 to 10"].stroke == STYLE.accent


def test_a_bullet_says_which_part_of_its_target_is_reached():
    found = marks("bullet", PLAIN, target=80)
    assert "A, 40, 50% of the target" in found


def test_diverging_bars_have_their_middle_at_the_line():
    found = marks("diverging_bar", SPLIT)
    middle = found["B, y, 50%"]
    other = found["B, x, 50%"]
    assert middle.width == pytest.approx(other.width, abs=1.1)
    assert other.x == pytest.approx(middle.x + middle.width + 1)


def test_a_pyramid_grows_to_both_sides():
    found = marks("pyramid", SPLIT)
    left, right = found["B, y, 20, 50% of B"], found["B, x, 20, 50% of B"]
    assert left.x + left.width < BOX.width / 2 < right.x
    assert left.width == pytest.approx(right.width)


@pytest.mark.parametrize("name", ["pie", "donut"])
def test_slices_take_their_part_of_the_turn(name):
    text = "Branch;Visits\nA;75\nB;25\n"
    found = marks(name, PLAIN, Path, text=text)
    assert set(found) == {"A, 75, 75%", "B, 25, 25%"}
    # Of the arc command's flags the first tells whether it is more than half a turn.
    large = {title: re.search(r"A\S+ \S+ 0 (\d)", mark.d)[1] for title, mark in found.items()}
    assert large == {"A, 75, 75%": "1", "B, 25, 25%": "0"}


def test_the_areas_of_a_treemap_follow_the_values():
    text = "Branch;Visits\nA;60\nB;30\nC;10\n"
    found = marks("treemap", PLAIN, text=text)
    areas = {title[0]: (mark.width + 2) * (mark.height + 2) for title, mark in found.items()}
    assert areas["A"] / areas["B"] == pytest.approx(2)
    assert sum(areas.values()) == pytest.approx(BOX.width * BOX.height)


def test_an_icicle_shows_the_whole_and_its_parts_on_one_scale():
    question = {"measures": [SUM], "per": [{"column": "Branch"}, {"column": "Kind"}]}
    found = marks("icicle", question)
    assert found["All, 120, 100%"].height == pytest.approx(BOX.height - 1.5)
    assert found["A, y, 30, 25%"].height == pytest.approx(BOX.height / 4 - 1.5)


def test_a_waterfall_ends_at_the_sum():
    text = "Branch;Visits\nA;5\nB;-2\nC;4\n"
    found = marks("waterfall", PLAIN, text=text)
    assert found["Total, 7"].y == pytest.approx(found["C, 4"].y)
    assert found["B, −2"].fill == STYLE.colour(1), "nobody said that falling is bad"
    assert found["B, −2"].y == pytest.approx(found["A, 5"].y)


def test_a_funnel_says_what_is_left_of_the_first():
    text = "Branch;Visits\nA;200\nB;50\n"
    found = marks("funnel", PLAIN, text=text)
    first, second = found["A, 200, 100% of the first"], found["B, 50, 25% of the first"]
    assert first.width / second.width == pytest.approx(4)
    assert first.x + first.width / 2 == pytest.approx(second.x + second.width / 2)


def test_the_few_that_make_up_most_stand_out():
    text = "Branch;Visits\n" + "".join(
        f"{name};{value}\n" for name, value in zip("ABCDE", (50, 35, 5, 5, 5), strict=True)
    )
    found = marks("pareto", PLAIN, text=text)
    strong = {title[0] for title, mark in found.items() if mark.fill == STYLE.accent}
    assert strong == {"A", "B"}
    assert "B, 35, with those before 85%" in found


def test_stronger_shades_are_higher_values():
    found = marks("heat_table", SPLIT)
    assert found["C, y, 40, 100% of C"].fill == STYLE.ramp(1)
    assert found["C, x, 0, 0% of C"].fill == STYLE.ramp(0)


def test_the_area_of_a_bubble_follows_its_size():
    question = {"measures": [SUM, {"stat": "sum", "column": "Cost"}, {"stat": "count"}], "per": [{"column": "Branch"}]}
    text = "Branch;Visits;Cost\nA;1;1\nB;2;2\nB;2;2\nB;2;3\nB;2;4\n"
    found = marks("bubble", question, text=text)
    sizes = {title[0]: mark.width for title, mark in found.items()}
    assert sizes["B"] / sizes["A"] == pytest.approx(2)


def test_a_scatter_names_each_dot_with_both_values():
    question = {"measures": [SUM, {"stat": "sum", "column": "Cost"}], "per": [{"column": "Branch", "by": "row"}]}
    found = marks("scatter", question, trend=True)
    assert "A, Visits 30, Cost 1" in found
    many = "Branch;Visits;Cost\n" + "".join(f"A;{index % 97};{index % 89}\n" for index in range(5000))
    scene = draw("scatter", ask(question, csv_table(many)), {}, BOX, STYLE)
    assert "5,000 points; a cell’s shade counts them" in scene.description
    cells = scene.marks()
    assert sum(int(re.search(r"([\d,]+) points?$", mark)[1].replace(",", "")) for mark in cells) == 5000
    # Each cell has a name of its own, so that a note can stand at it.
    assert len({mark.name for mark in cells}) == len(cells)
    assert re.fullmatch(r"Visits [\d.]+ to [\d.]+, Cost [\d.]+ to [\d.]+", cells[0].name)


def test_small_charts_share_one_scale():
    scene = draw("multiples", ask(SPLIT, csv_table(TEXT)), {"chart": "columns"}, BOX, STYLE)
    heights = {shape.title: shape.height for shape in scene.shapes if isinstance(shape, Rect) and shape.title}
    assert heights["C, 40"] / heights["A, 10"] == pytest.approx(4)


def test_a_table_adds_up_what_can_be_added_up():
    scene = draw("table", ask(PLAIN, csv_table(TEXT)), {}, BOX, STYLE)
    assert {"Total", "120"} <= {text.text for text in scene.texts()}
    means = {**PLAIN, "measures": [{"stat": "mean", "column": "Visits"}]}
    scene = draw("table", ask(means, csv_table(TEXT)), {}, BOX, STYLE)
    assert "Total" not in {text.text for text in scene.texts()}
    short = draw("table", ask(PLAIN, csv_table(TEXT)), {}, Box(300, 90), STYLE)
    assert any("more rows" in text.text for text in short.texts())


def test_a_radar_puts_values_at_their_distance_from_the_centre():
    found = marks("radar", PLAIN, text="Branch;Visits\nA;10\nB;20\nC;20\n")
    centre = (BOX.width / 2, BOX.height / 2)
    away = {title[0]: math.dist(centre, (mark.x + 3, mark.y + 3)) for title, mark in found.items()}
    assert away["B"] / away["A"] == pytest.approx(2)


def test_a_calendar_leaves_days_without_rows_empty():
    text = "Day;Visits\n2026-03-02;5\n2026-03-04;9\n2026-03-05;1\n"
    question = {"measures": [SUM], "per": [{"column": "Day", "by": "day"}]}
    found = marks("calendar_heat", question, text=text)
    assert set(found) == {"2 Mar 2026, 5", "4 Mar 2026, 9", "5 Mar 2026, 1"}
    assert found["4 Mar 2026, 9"].y > found["2 Mar 2026, 5"].y


def test_times_last_as_long_as_they_say():
    text = "Event;Start;End\nA;2026-01-01;2026-01-10\nB;2026-02-01;2026-02-20\n"
    question = {
        "measures": [{"stat": "min", "column": "Start"}, {"stat": "max", "column": "End"}],
        "per": [{"column": "Event"}],
    }
    found = marks("range_bars", question, text=text)
    assert found["B, 1 Feb 2026 to 20 Feb 2026"].width / found["A, 1 Jan 2026 to 10 Jan 2026"].width == pytest.approx(2)
    events = marks(
        "timeline", {"measures": [{"stat": "min", "column": "Start"}], "per": [{"column": "Event"}]}, text=text
    )
    assert set(events) == {"A, 1 Jan 2026", "B, 1 Feb 2026"}


@pytest.mark.parametrize(
    ("question", "title"),
    [
        (PLAIN, "A, 40, 33% of all"),
        (PLAIN | {"keep": 2}, "A, 40"),
        (PLAIN | {"keep": 1, "rest": "Others"}, "A, 40, 33% of all"),
        (PLAIN | {"measures": [{"stat": "mean", "column": "Visits"}]}, "A, 20"),
    ],
)
def test_marks_say_their_share_only_where_there_is_a_whole(question, title):
    assert title in marks("bar", question)


def test_patterns_tell_series_apart_and_leave_the_first_plain():
    found = marks("column", SPLIT, patterns=True)
    kinds = {title.split(", ")[1]: mark.hatch for title, mark in found.items()}
    assert kinds["y"] is None
    assert kinds["x"].ink == STYLE.paper
    svg = scene_to_svg(draw("column", ask(SPLIT, csv_table(TEXT)), {"patterns": True}, BOX, STYLE), label_id="tile-1")
    pattern = re.search(r'<pattern id="(tile-1-[^"]+)"', svg)[1]
    assert f'fill="url(#{pattern})"' in svg


def test_a_value_on_a_hatched_mark_has_a_plain_sheet_behind_it():
    scene = draw("stacked_bar", ask(SPLIT, csv_table(TEXT)), {"patterns": True}, BOX, STYLE)
    hatched = {shape.fill for shape in scene.shapes if isinstance(shape, Rect) and shape.hatch}
    sheets = 0
    for before, shape in itertools.pairwise(scene.shapes):
        if isinstance(shape, Text) and shape.text == "20" and shape.font.weight == 700:
            assert isinstance(before, Rect)
            sheets += before.fill in hatched and before.hatch is None
    assert sheets == 1, "one of B's two values stands on a hatched mark"


def test_the_same_pattern_is_said_anew_under_each_id():
    scene = draw("column", ask(SPLIT, csv_table(TEXT)), {"patterns": True}, BOX, STYLE)
    ids = [re.findall(r'<pattern id="([^"]+)"', scene_to_svg(scene, label_id=name)) for name in ("a", "b")]
    assert len(ids[0]) == 1
    assert not set(ids[0]) & set(ids[1])


def test_a_band_lies_behind_the_marks_from_end_to_end():
    found = marks("column", PLAIN, band_from=50, band_to=20, band_name="Usual")
    band, mark = found["Usual 20–50"], found["A, 40, 33% of all"]
    foot = mark.y + mark.height
    assert (foot - band.y) / mark.height == pytest.approx(50 / 40)
    assert band.height / mark.height == pytest.approx(30 / 40)
    assert list(found).index("Usual 20–50") < list(found).index("A, 40, 33% of all")


def test_a_band_widens_the_scale_until_it_fits():
    assert "Usual 20–500" in marks("bar", PLAIN, band_from=20, band_to=500, band_name="Usual")
    assert "500" in {text.text for text in scene_of("column", PLAIN, band_from=20, band_to=500).texts()}


def scene_of(name, question, *, text=TEXT, box=BOX, **options):
    return draw(name, ask(question, csv_table(text)), options, box, STYLE)


@pytest.mark.parametrize("name", ["column", "bar", "line", "pie", "scatter", "treemap"])
def test_a_note_stands_clear_of_every_other_text(name):
    question = {**PLAIN, "measures": [SUM, {"stat": "sum", "column": "Cost"}]} if name == "scatter" else PLAIN
    text = TEXT + "".join(f"{letter};x;{35 + place};{place}\n" for place, letter in enumerate("DEFGH"))
    if name == "line":
        question = {**question, "order": {"by": "natural"}}
        text = text.replace("\nA", "\nRoom 1").replace("\nB", "\nRoom 2").replace("\nC", "\nRoom 3")
    at = "Room 2" if name == "line" else "B"
    bare = scene_of(name, question, text=text)
    noted = scene_of(name, question, text=text, note_at=at, note="Closed for repairs until March")
    added = noted.texts()[len(bare.texts()) :]
    assert " ".join(line.text for line in added) == "Closed for repairs until March"
    assert noted.description.endswith(f"Note at {at}: Closed for repairs until March")
    for line in added:
        width = text_width(line.text, line.font)
        assert 0 <= line.x <= BOX.width - width
        for other in bare.texts():
            start = other.x - {"start": 0, "middle": 0.5, "end": 1}[other.anchor] * text_width(other.text, other.font)
            apart = start > line.x + width or start + text_width(other.text, other.font) < line.x
            assert apart or abs(other.y - line.y) > 0.7 * line.font.size, other.text


def test_a_note_about_what_is_gone_changes_nothing():
    assert scene_of("bar", PLAIN, note_at="Z", note="Closed") == scene_of("bar", PLAIN)


def test_lines_say_values_at_both_ends():
    question = {**SPLIT, "per": [{"column": "Branch"}], "order": {"by": "natural"}}
    text = TEXT.replace("\nA", "\nYear 1").replace("\nB", "\nYear 2").replace("\nC", "\nYear 3")
    said = {
        text.text for text in scene_of("line", question, text=text, at_start="value", at_end="name and value").texts()
    }
    assert {"x 0", "y 40", "10", "30"} <= said


@pytest.mark.parametrize(
    ("options", "said"),
    [
        ({"locale": "de_DE", "unit": "€", "decimals": 2}, "40,00\xa0€"),
        ({"locale": "fr_FR", "unit": "%"}, "4\xa0000\xa0%"),
        ({"unit": "km"}, "40\xa0km"),
        ({"prefix": "about ", "unit": "£"}, "about £40"),
    ],
)
def test_values_are_written_with_the_locale_the_unit_and_the_prefix_that_are_set(options, said):
    assert said in {text.text for text in scene_of("bar", PLAIN, **options).texts()}


def test_measures_with_another_unit_keep_theirs():
    text = "Branch;Visits;Cost\n2026-01-01;10;£5\n2026-02-01;30;£1\n"
    question = {"measures": BOTH, "per": [{"column": "Branch", "by": "month"}]}
    titles = marks("combined", question, text=text, unit="people")
    assert "Jan 2026, Total Visits, 10\xa0people" in titles
    assert "Jan 2026, Total Cost, £5" in titles


def test_a_palette_gives_its_colours_and_its_accent():
    assert marks("bar", PLAIN, palette="sea")["A, 40, 33% of all"].fill == PALETTES["sea"][0]
    with pytest.raises(DrawingRefused, match="option “palette”: the palettes are"):
        marks("bar", PLAIN, palette="rainbow")


CHARTS = VISUALS["multiples"].options.model_json_schema()["properties"]["chart"]["enum"]
DAYS = "Day;Branch;Kind;Visits;Cost\n" + "".join(
    f"2026-{place % 12 + 1:02d}-03;{'ABC'[place % 3]};{'xy'[place % 2]};{place % 17};{place % 7}\n"
    for place in range(120)
)
BOTH = [SUM, {"stat": "sum", "column": "Cost"}]
SUITING = {
    "histograms": {"measures": [{"stat": "count"}], "per": [{"column": "Visits", "by": {"bins": 5}}]},
    "scatters": {"measures": BOTH, "per": [{"column": "Branch", "by": "row"}]},
    "shaded cells": {"measures": BOTH, "per": [{"column": "Branch", "by": "row"}]},
    "boxes": {"measures": [SUM], "per": [{"column": "Branch", "by": "row"}]},
    "strips": {"measures": [SUM], "per": [{"column": "Branch", "by": "row"}]},
    "densities": {"measures": [SUM], "per": [{"column": "Branch", "by": "row"}]},
    "columns and a line": {"measures": BOTH, "per": [{"column": "Day", "by": "month"}]},
    "stacked columns": {"measures": BOTH, "per": [{"column": "Day", "by": "quarter"}]},
    "stacked bars": {"measures": BOTH, "per": [{"column": "Day", "by": "quarter"}]},
    "stacked areas": {"measures": BOTH, "per": [{"column": "Day", "by": "month"}]},
}


@pytest.mark.parametrize("chart", CHARTS)
def test_any_chart_can_be_drawn_small_for_each_value_of_the_split(chart):
    question = SUITING.get(chart, {"measures": [SUM], "per": [{"column": "Day", "by": "month"}]})
    scene = scene_of("multiples", {**question, "split": {"column": "Kind"}}, text=DAYS, chart=chart)
    assert scene.description.startswith("2 small charts")
    assert [text.text for text in scene.texts() if text.text in ("x", "y", "z")] in (["x", "y"], ["y", "x"])
    drawn = [shape for shape in scene.shapes if not isinstance(shape, Text | Line)]
    assert len(drawn) >= 2


def test_small_charts_keep_a_place_for_what_one_of_them_lacks():
    text = "Day;Kind;Visits\n2026-01-01;x;1\n2026-02-01;x;2\n2026-03-01;x;3\n2026-03-01;y;3\n"
    question = {"measures": [SUM], "per": [{"column": "Day", "by": "month"}], "split": {"column": "Kind"}}
    scene = scene_of("multiples", question, text=text, chart="columns")
    widths = {round(shape.width, 2) for shape in scene.shapes if isinstance(shape, Rect) and shape.title}
    assert len(widths) == 1


def percentages(titles):
    return [int(found[1]) for title in titles if (found := re.search(r", (\d+)%$", title))]


@pytest.mark.parametrize("name", ["pie", "donut", "share_bar", "share_column", "diverging_bar"])
def test_parts_that_are_shown_add_up_to_100(name):
    text = "Branch;Kind;Visits\n" + "".join(f"A;{kind};1\n" for kind in "xyz") + "B;x;2\nB;y;1\n"
    per = {"per": [{"column": "Kind"}]} if name in ("pie", "donut") else {"split": {"column": "Kind"}}
    only_a = {"where": [{"column": "Branch", "test": "in", "values": ["A"]}]}
    question = {**PLAIN, **only_a, **per}
    kind = Path if name in ("pie", "donut") else Rect
    assert sorted(percentages(marks(name, question, kind, text=text))) == [33, 33, 34]
    assert percentages(marks(name, question, kind, text=text, rounding="each by itself")) == [33, 33, 33]
