"""Every visual, on good data and on awkward data."""

import re
import xml.etree.ElementTree as ET
from itertools import pairwise

import pytest

from tests.factories import DRAWN_FORMATS, VISITS, ask, csv_table, total
from ypsil.core.drawing import Rect, Scene, Text, scene_to_svg, text_width
from ypsil.core.drawing.scene import Mark
from ypsil.core.errors import DrawingRefused
from ypsil.core.export import scene_to_file
from ypsil.core.style import HouseStyle
from ypsil.core.visuals import VISUALS, Box, draw, fit, registry_json
from ypsil.core.visuals.shared.summary import describe, numbers_table

STYLE = HouseStyle()
BOX = Box(560, 340)
MONTHS = total(per=[{"column": "Day", "by": "month"}])
BRANCHES = total(per=[{"column": "Branch"}])
SHARE = {"measures": [{"stat": "share", "column": "Open", "values": ["Yes"]}]}
MARKING = {"order": {"by": "keyness", "descending": True}, "split": {"column": "Kind"}}
WORDED = "Kind,Visits,Comment\n" + "\n".join(
    ["Adult,1,Longer opening hours", "Adult,2,Opening hours and parking", "Child,3,Story time with puppets"] * 9
)
# Visuals whose question is about another table than the visits.
TABLES = {"marking_words": WORDED, "compared_clouds": WORDED}
WORDS = {"measures": [{"stat": "count"}], "per": [{"column": "Comment", "by": "word"}]}
KIND = {"column": "Kind"}
RATIO = {"ratio": [{"stat": "sum", "column": "Cost"}, {"stat": "sum", "column": "Visits"}], "name": "Cost per visit"}
BOTH = [{"stat": "sum", "column": "Visits"}, {"stat": "sum", "column": "Cost"}]
ROWS = [{"column": "Branch", "by": "row"}]
DAYS = [{"column": "Day", "by": "day"}]
MANY = "Branch,Day,Visits,Cost,Kind\n" + "".join(
    f"Branch {index % 5},2026-{index // 28 + 1:02d}-{index % 28 + 1:02d},{index * 37 % 101},{index * 17 % 90},"
    f"{'Adult' if index % 3 else 'Child'}\n"
    for index in range(120)
)
# A question that suits each visual, about the visits unless a table is named.
GOOD = {
    "area": MONTHS,
    "bar": BRANCHES,
    "binned_scatter": {"measures": BOTH, "per": ROWS},
    "box": {"measures": BOTH[:1], "per": ROWS},
    "bubble": {"measures": [*BOTH, {"stat": "count"}], "per": [{"column": "Branch"}]},
    "bullet": {"measures": BOTH, "per": [{"column": "Branch"}]},
    "calendar_heat": total(per=DAYS),
    "clock": total(per=[{"column": "Day", "by": "hour"}]),
    "cloud": WORDS,
    "column": MONTHS,
    "compared_clouds": WORDS | MARKING,
    "combined": {"measures": [BOTH[0], RATIO], "per": MONTHS["per"]},
    "cross_table": {"measures": [{"stat": "count"}], "per": [{"column": "Branch"}], "split": KIND},
    "density": {"measures": BOTH[:1], "per": ROWS},
    "diverging_bar": BRANCHES | {"split": KIND},
    "donut": BRANCHES,
    "dot_plot": BRANCHES | {"split": KIND},
    "dumbbell": BRANCHES | {"split": KIND},
    "funnel": BRANCHES,
    "heat_table": BRANCHES | {"split": KIND},
    "histogram": {"measures": [{"stat": "count"}], "per": [{"column": "Visits", "by": {"bins": 4}}]},
    "icicle": total(per=[{"column": "Branch"}, KIND]),
    "kpi": MONTHS,
    "kpi_row": {"measures": [BOTH[0], RATIO], "per": MONTHS["per"]},
    "line": MONTHS,
    "marking_words": WORDS | MARKING,
    "lollipop": BRANCHES,
    "multiples": MONTHS | {"split": KIND},
    "pareto": BRANCHES,
    "pictogram": BRANCHES,
    "pie": BRANCHES,
    "pyramid": BRANCHES | {"split": KIND},
    "radar": BRANCHES,
    "range_bars": {
        "measures": [{"stat": "min", "column": "Day"}, {"stat": "max", "column": "Day"}],
        "per": [{"column": "Branch"}],
    },
    "ranked_list": BRANCHES,
    "ring": SHARE,
    "gauge": SHARE,
    "percent_bar": SHARE,
    "percent_grid": SHARE,
    "icon_row": SHARE,
    "filled_icon": SHARE,
    "filled_numerals": SHARE,
    "part_of_part": total(per=[KIND, {"column": "Branch"}]),
    "share_strip": total(per=[KIND]),
    "scatter": {"measures": BOTH, "per": ROWS},
    "share_bar": BRANCHES | {"split": KIND},
    "share_column": MONTHS | {"split": KIND},
    "sized_shapes": BRANCHES,
    "slope": BRANCHES | {"split": KIND},
    "sparkline": MONTHS,
    "stars": {"measures": [{"stat": "distinct", "column": "Branch"}]},
    "stacked_area": MONTHS | {"split": KIND},
    "stacked_bar": BRANCHES | {"split": KIND},
    "stacked_column": MONTHS | {"split": KIND},
    "strip": {"measures": BOTH[:1], "per": ROWS},
    "table": BRANCHES,
    "timeline": {"measures": [{"stat": "min", "column": "Day"}], "per": [{"column": "Branch"}]},
    "treemap": total(per=[{"column": "Branch"}, KIND]),
    "word_line": WORDS,
    "waterfall": {"measures": [BOTH[0] | {"then": "change"}], "per": MONTHS["per"]},
}


# Percentage figures need a share; headline numbers and they are tried one setting after the other in their own files.
SHARES = {name for name, entry in VISUALS.items() if entry.needs.shares or entry.needs.percentages}
OF_WORDS = {"cloud", "compared_clouds", "marking_words", "word_line"}
APART = SHARES | OF_WORDS | {"kpi", "kpi_row", "share_strip", "part_of_part"}


def drawn(name, question, table=None, box=BOX, **options) -> Scene:
    table = table or csv_table(TABLES.get(name, VISITS))
    return draw(name, ask(question, table), options, box, STYLE)


def texts(scene):
    return [text.text for text in scene.texts()]


def table_of(values, names=None):
    names = names or [f"n{index}" for index in range(len(values))]
    return csv_table("Name;Amount\n" + "".join(f"{name};{value}\n" for name, value in zip(names, values, strict=True)))


AMOUNTS = total("Amount", per=[{"column": "Name"}])


def test_every_visual_is_tried_here():
    assert set(GOOD) == set(VISUALS)


@pytest.mark.parametrize("name", VISUALS)
def test_each_draws_its_data_inside_its_box_with_a_name_and_a_description(name):
    scene = drawn(name, GOOD[name])
    assert scene.name
    assert "n = " in scene.description or "answers" in scene.description
    assert "Choose" not in scene.description
    for text in scene.texts():
        width = text_width(text.text, text.font)
        left = {"start": text.x, "middle": text.x - width / 2, "end": text.x - width}[text.anchor]
        assert left >= -1
        assert left + width <= BOX.width + 1
        assert 0 <= text.y <= BOX.height + 1
    ET.fromstring(scene_to_svg(scene))


@pytest.mark.parametrize("name", VISUALS)
@pytest.mark.parametrize("box", [Box(120, 90), Box(1136, 600)])
def test_each_can_be_drawn_small_and_large(name, box):
    assert drawn(name, GOOD[name], box=box).shapes


@pytest.mark.parametrize("name", sorted(set(VISUALS) - OF_WORDS))
@pytest.mark.parametrize("box", [Box(358, 270), Box(560, 340)])
def test_many_values_stay_inside_the_box(name, box):
    table = csv_table(MANY)
    of_kind = {"measures": [{"stat": "share", "column": "Kind", "values": ["Child"]}]}
    question = of_kind if name in SHARES else GOOD[name]
    scene = draw(name, ask(question, table), {}, box, STYLE)
    assert "Choose" not in scene.description
    for text in scene.texts():
        width = text_width(text.text, text.font)
        left = {"start": text.x, "middle": text.x - width / 2, "end": text.x - width}[text.anchor]
        assert left >= -1.5
        assert left + width <= box.width + 1.5, text.text
        assert 0 <= text.y <= box.height + 1
    ET.fromstring(scene_to_svg(scene))


@pytest.mark.parametrize("name", VISUALS)
def test_no_rows_at_all_gives_a_sentence(name):
    where = [{"column": "Kind", "test": "in", "values": ["nobody"]}]
    question = BRANCHES if name in SHARES | {"stars"} else GOOD[name]
    assert "no rows" in drawn(name, question | {"where": where}).description


@pytest.mark.parametrize("name", ["bar", "column"])
@pytest.mark.parametrize(
    "values",
    [[5], [0, 0, 0], [-5, 3, -1], [1e12, 1], [0.001, 0.002], list(range(40))],
    ids=["one", "zeros", "negative", "huge", "tiny", "forty"],
)
def test_awkward_values_stand_on_one_baseline(name, values):
    scene = drawn(name, AMOUNTS, table_of(values))
    bars = [shape for shape in scene.shapes if isinstance(shape, Rect)]
    assert len(bars) == len(values)
    assert all(bar.width >= 0 and bar.height >= 0 for bar in bars)


def test_the_lengths_of_columns_follow_the_values():
    scene = drawn("column", AMOUNTS, table_of([10, 20, 40]))
    heights = sorted(shape.height for shape in scene.shapes if isinstance(shape, Rect))
    assert heights == pytest.approx([heights[0], 2 * heights[0], 4 * heights[0]])


def test_too_many_groups_say_so_and_name_a_visual_that_fits():
    scene = drawn("column", AMOUNTS, table_of(range(400)))
    assert "it can carry 60 values, and there are 400" in scene.description


def test_names_of_300_letters_emoji_and_right_to_left_are_cut_to_their_room():
    scene = drawn("bar", AMOUNTS, table_of([3, 2, 1], ["x" * 300, "😀 fun", "ספרייה עירונית"]))
    assert any(text.endswith("…") for text in texts(scene))
    full = [shape.title for shape in scene.shapes if isinstance(shape, Text)]
    assert "x" * 300 in full


def test_emoji_and_other_scripts_reach_every_kind_of_file():
    scene = drawn("bar", AMOUNTS, table_of([3, 2, 1], ["😀 fun", "ספרייה", "Łódź и Київ"]))
    svg = scene_to_svg(scene)
    assert """<tspan font-family="'Noto Sans Hebrew'">ספרייה</tspan>""" in svg
    assert "😀" in svg
    for ending in DRAWN_FORMATS:
        assert scene_to_file(scene, ending)


def test_control_characters_in_the_data_break_no_file():
    scene = drawn("bar", AMOUNTS, table_of([3, 2], ["bell\x07", "tab\x0b\x1f"]), emphasis="bell\x07")
    ET.fromstring(scene_to_svg(scene))
    for ending in DRAWN_FORMATS:
        assert scene_to_file(scene, ending)


def test_column_labels_never_run_into_each_other():
    rows_of_months = "".join(f"{2024 + index // 12}-{index % 12 + 1:02d}-01,{index + 1}\n" for index in range(24))
    scene = drawn("column", MONTHS, csv_table("Day,Visits\n" + rows_of_months))
    rows: dict[float, list[tuple[float, float]]] = {}
    for text in scene.texts():
        if text.anchor == "middle" and text.font.weight == 400:
            half = text_width(text.text, text.font) / 2
            rows.setdefault(round(text.y), []).append((text.x - half, text.x + half))
    assert rows
    for spans in rows.values():
        spans.sort()
        assert all(before[1] <= after[0] + 0.5 for before, after in pairwise(spans))


def test_columns_whose_names_have_no_room_are_turned():
    names = [f"Reading room number {index}" for index in range(24)]
    scene = drawn("column", AMOUNTS, table_of(range(1, 25), names))
    assert names[0] in texts(scene)
    assert not any(text.endswith("…") for text in texts(scene))


def test_bars_thinner_than_a_line_of_text_are_named_one_in_a_few():
    scene = drawn("bar", AMOUNTS, table_of(range(1, 41)), box=Box(300, 200))
    ends = sorted(text.y for text in scene.texts() if text.anchor == "end")
    assert min(after - before for before, after in pairwise(ends)) >= 8
    assert len([shape for shape in scene.shapes if isinstance(shape, Rect)]) == 40


def test_a_split_has_a_legend_and_one_colour_a_series():
    scene = drawn("column", MONTHS | {"split": {"column": "Kind"}})
    assert {"Adult", "Child"} <= set(texts(scene))
    assert len({shape.fill for shape in scene.shapes if isinstance(shape, Rect)}) == 2


def test_one_value_can_stand_out_from_quiet_ones():
    scene = drawn("bar", BRANCHES, emphasis="Book bus")
    fills = [shape.fill for shape in scene.shapes if isinstance(shape, Rect)]
    assert fills.count(STYLE.accent) == 1
    assert fills.count(STYLE.quiet) == 2


def test_the_labels_of_a_line_stay_inside_its_box():
    rows = "".join(f"2026-{5 + index // 30:02d}-{index % 30 + 1:02d},{index}\n" for index in range(43))
    scene = drawn("line", total(per=[{"column": "Day", "by": "day"}]), csv_table("Day,Visits\n" + rows), Box(440, 260))
    middles = [text for text in scene.texts() if text.anchor == "middle"]
    assert max(text.x + text_width(text.text, text.font) / 2 for text in middles) <= 440


def test_a_missing_period_is_a_gap_in_the_line():
    table = csv_table("Day,Visits\n2026-01-01,5\n2026-02-01,6\n2026-03-01,n/a\n2026-04-01,8\n2026-05-01,9\n")
    line = next(shape for shape in drawn("line", MONTHS, table).shapes if getattr(shape, "d", ""))
    assert line.d.count("M") == 2


def test_unknown_visuals_and_options_are_refused_by_name():
    with pytest.raises(DrawingRefused, match="no visual “pie3d”"):
        drawn("pie3d", BRANCHES)
    with pytest.raises(DrawingRefused, match="has no option “colour”"):
        drawn("bar", BRANCHES, colour="red")


def test_advice_prefers_a_line_for_many_months_and_bars_for_many_names():
    rows = "".join(f"{2024 + index // 12}-{index % 12 + 1:02d}-01,b{index % 9},{index}\n" for index in range(24))
    table = csv_table("Day,Branch,Visits\n" + rows)

    def best(question):
        found = ask(question, table)
        return max(VISUALS.values(), key=lambda entry: fit(entry, found).score).name

    assert best(MONTHS) == "line"
    assert best(BRANCHES) == "bar"


def test_the_numbers_behind_a_drawing_are_written_as_on_it():
    headings, rows = numbers_table(ask(MONTHS))
    assert headings == ["Day", "Total Visits"]
    assert rows[0] == ["Jan 2026", "200"]


def test_a_description_names_the_highest_and_the_lowest():
    said = describe(ask(BRANCHES), "Bar chart")
    assert "Highest: Market Square, 610. Lowest: Book bus, 40." in said


def test_large_amounts_share_one_scale_on_the_axis():
    scene = drawn("column", AMOUNTS, table_of([4_000_000, 9_500_000]))
    assert {"0", "2M", "10M"} <= set(texts(scene))
    assert {"4.0M", "9.5M"} <= set(texts(scene)), "numbers on marks are as short"


def test_the_registry_is_json_with_needs_and_option_schemas():
    entries = {entry["name"]: entry for entry in registry_json()}
    assert entries["ring"]["needs"]["shares"] is True
    assert "seed" in entries["cloud"]["options"]["properties"]


CHANGED = {
    "unit": "km",
    "prefix": "about ",
    "band_to": 180,
    "decimals": 3,
    "scale": "thousands",
    "reference": 150.5,
    "hole": 0.3,
    "line_at": 0.5,
    "target": 500,
    "icon": "book",
    "each": 50,
    "out_of": 7,
    "population": 21,
    "lowest": -5000,
    "highest": 50_000,
    "smallest": 20,
    "largest": 30,
}
FAR = "Branch,Visits,Cost\n" + "".join(f"{name},{900 + index},{700 + index}\n" for index, name in enumerate("abab" * 6))
# Settings that work together with others.
TOGETHER = {
    "reference_name": {"reference": 100},
    "band_from": {"band_to": 180},
    "band_to": {"band_from": 90},
    "band_name": {"band_from": 90, "band_to": 180},
    "icon": {"shape": "icon"},
    "population": {"interval": True},
}
# A second question, for settings that the first leaves without effect.
SPLIT = BRANCHES | {"split": KIND}
THIRDS = "Branch,Day,Visits,Kind\n" + "".join(f"B{place},2026-01-02,1,K{place}\n" for place in range(3))
OF_ALL = total(per=[{"column": "Day", "by": "year"}], split=KIND)
RATED = "Rating\n" + "4\n5\n3\n4\n2\n" * 4
APART_GROUPS = "Branch,Kind\n" + "A,K0\nA,K1\nA,K2\n" * 30 + "B,K0\n" * 60 + "B,K1\nB,K2\n" * 3
ALSO = {
    "stars": ({"measures": [{"stat": "mean", "column": "Rating"}]}, RATED),
    "cross_table": (GOOD["cross_table"], APART_GROUPS),
    "pie": (BRANCHES, THIRDS),
    "donut": (BRANCHES, THIRDS),
    "share_bar": (OF_ALL, THIRDS),
    "share_column": (OF_ALL, THIRDS),
    "diverging_bar": (OF_ALL, THIRDS),
    "column": (SPLIT, MANY),
    "bar": (SPLIT, MANY),
    "radar": (SPLIT, MANY),
    "slope": (total(per=[KIND]) | {"split": {"column": "Branch"}}, MANY),
    "multiples": ({"measures": BOTH, "per": MONTHS["per"], "split": KIND}, MANY),
    "stacked_column": (BRANCHES | {"split": KIND}, MANY),
    "line": (MONTHS | {"split": KIND}, MANY),
    "bullet": (BRANCHES, MANY),
    "dot_plot": (BRANCHES, MANY),
    "box": (GOOD["box"], FAR + "a,5000,1\n"),
    "scatter": (GOOD["scatter"], FAR),
    "binned_scatter": (GOOD["scatter"], FAR),
    "bubble": (GOOD["bubble"], FAR + "c,2000,20000\n"),
}


@pytest.mark.parametrize("box", [Box(760, 420), Box(340, 260), Box(180, 140)], ids=["large", "small", "tiny"])
@pytest.mark.parametrize("name", sorted(VISUALS))
def test_a_number_is_never_cut_short(name, box):
    table = (
        None
        if name in SHARES | {"cloud", "word_line"}
        else csv_table(TABLES[name])
        if name in TABLES
        else csv_table(MANY.replace(",Visits", ",Visits", 1))
    )
    scene = draw(
        name, ask(GOOD[name], table), {"unit": "£"} if "unit" in VISUALS[name].options.model_fields else {}, box, STYLE
    )
    cut = [text.text for text in scene.texts() if re.search(r"[£\d,.]\d?…$", text.text)]
    assert not cut


def first_mark(scene):
    """What the first shape stands for that stands for data and is no text."""
    titles = [shape.title for shape in scene.shapes if not isinstance(shape, Text)]
    return next(title.name for title in titles if title and isinstance(title, Mark))


@pytest.mark.parametrize("name", sorted(set(VISUALS) - APART))
def test_no_setting_is_without_effect(name):
    asked = [(GOOD[name], MANY), *([ALSO[name]] if name in ALSO else [])]
    answers = [ask(question, csv_table(text)) for question, text in asked]
    properties = VISUALS[name].options.model_json_schema().get("properties", {})
    for field, schema in properties.items():
        extra = {key: value for key, value in TOGETHER.get(field, {}).items() if key in properties}
        if field in ("note", "note_at"):
            mark = first_mark(draw(name, answers[0], {}, Box(760, 420), STYLE))
            extra = {"note_at": mark} if field == "note" else {"note": "Closed for a week."}
        values = [value for value in schema.get("enum", []) if value != schema["default"]]
        if not values and isinstance(schema["default"], bool):
            values = [not schema["default"]]
        values = [mark] if field == "note_at" else values
        values = values or ([CHANGED[field]] if field in CHANGED else ["Branch 1", "Adult", "down"])
        if field == "good":
            values = ["down"]
        if field == "band_from":
            values = [90]
        if field == "locale":
            extra = {"decimals": 1} if "decimals" in properties else {}

        def drawn_with(answer, options):
            return scene_to_svg(draw(name, answer, options, Box(760, 420), STYLE))

        changed = [
            drawn_with(answer, extra | {field: value}) != drawn_with(answer, extra)
            for answer in answers
            for value in values
        ]
        assert any(changed), f"{name}: {field}"


IN_THOUSANDS = "\n".join(
    re.sub(r",(\d+),(\d+)$", lambda found: f",{int(found[1]) * 1234},{int(found[2]) * 1234}", line)
    for line in MANY.splitlines()
)


@pytest.mark.parametrize("name", sorted(set(VISUALS) - OF_WORDS))
def test_every_number_is_written_as_the_page_writes_them(name):
    """German has a point between thousands and a comma before decimals (Unicode CLDR)."""
    table = None if name in SHARES else csv_table(IN_THOUSANDS)
    answer = ask(GOOD[name], table)
    here, scene = (draw(name, answer, {}, Box(760, 420), STYLE, locale=locale) for locale in ("en_GB", "de_DE"))
    grouped, said = (
        {found for text in texts_in(one) for found in re.findall(r"\d+(?:,\d{3})+", text)} for one in (here, scene)
    )
    assert not grouped & said
    assert not [text for text in texts_in(scene) if re.search(r"(?<!\b100)(?<=\d)%", text)]
    if "locale" in VISUALS[name].options.model_fields:
        assert draw(name, answer, {"locale": "de_DE"}, Box(760, 420), STYLE) == scene


def texts_in(scene):
    return [text.text for text in scene.texts()] + [scene.description, *scene.marks()]
