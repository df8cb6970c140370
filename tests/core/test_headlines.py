"""Headline numbers: comparisons, states, short forms, bases, and several in a row."""

import itertools
import statistics

import pytest

from tests.factories import ask, csv_table
from ypsil.core.drawing import Path, scene_to_svg
from ypsil.core.errors import DrawingRefused
from ypsil.core.figures import scaled_by, short_form
from ypsil.core.style import HouseStyle
from ypsil.core.visuals import VISUALS, Box, draw

STYLE = HouseStyle()
BOX = Box(400, 260)
MONTHS = [{"column": "Day", "by": "month"}]
VISITS = {"stat": "sum", "column": "Visits"}
COST = {"stat": "sum", "column": "Cost"}
RATIO = {"ratio": [COST, VISITS], "name": "Cost per visit"}
OPEN = {"stat": "share", "column": "Open", "values": ["Yes"]}
# 13 months of two branches; Alder has no row in the last.
AMOUNTS = [100, 110, 120, 130, 140, 150, 160, 170, 180, 190, 200, 210, 260]
ROWS = "Day,Branch,Visits,Cost,Open\n" + "".join(
    f"{2025 + place // 12}-{place % 12 + 1:02d}-01,{branch},{amount * part},{amount * part * 3},"
    f"{'yes' if place % 3 or part == 1 else 'no'}\n"
    for place, amount in enumerate(AMOUNTS)
    for branch, part in (("Alder", 1), ("Market Square", 2))
    if (place, branch) != (12, "Alder")
)
SPLIT = {"split": {"column": "Branch"}}
OVER_TIME = {"measures": [VISITS], "per": MONTHS}


def drawn(question, name="kpi", text=ROWS, box=BOX, **options):
    return draw(name, ask(question, csv_table(text)), options, box, STYLE)


def texts(scene):
    return [text.text for text in scene.texts()]


def test_a_number_stands_with_its_period_and_its_change():
    found = texts(drawn(OVER_TIME, label="Visits"))
    assert found == ["Visits", "Jan 2026", "520", "−110 (−17%)", "against Dec 2025"]


def test_after_a_gap_it_says_that_the_period_before_has_no_value():
    found = texts(drawn(OVER_TIME, text="Day,Visits\n2026-01-01,5\n2026-03-01,8\n"))
    assert found == ["Total Visits", "Mar 2026", "8", "no value for Feb 2026"]


@pytest.mark.parametrize(
    ("options", "change", "against"),
    [
        ({"against": "year before"}, "+220 (+73%)", "against Jan 2025"),
        ({"against": "target", "target": 500}, "+20 (+4%)", "against the target of 500"),
        ({"against": "target", "target": 520}, "±0", "against the target of 520"),
        ({"against": "average"}, "+55 (+12%)", "against the average of the 12 months before"),
    ],
)
def test_it_is_compared_with_what_is_asked_for(options, change, against):
    found = texts(drawn(OVER_TIME, **options))
    assert (change, against) == (found[3], found[4])


def test_nothing_to_compare_with_leaves_the_number_alone():
    assert texts(drawn(OVER_TIME, against="nothing")) == ["Total Visits", "Jan 2026", "520"]
    assert texts(drawn({"measures": [VISITS]}))[1:] == [f"{3 * sum(AMOUNTS) - 260:,}"]


def test_one_group_is_shown_and_held_against_another():
    found = texts(drawn(OVER_TIME | SPLIT, group="Market Square", against="another group", against_group="Alder"))
    assert found == ["Total Visits, Market Square", "Jan 2026", "520", "no value for Alder"]
    branches = {"measures": [VISITS], "per": [{"column": "Branch"}]}
    found = texts(drawn(branches, group="Alder", against="another group", against_group="Market Square"))
    alder = sum(AMOUNTS) - 260
    assert found[:2] == ["Total Visits, Alder", f"{alder:,}"]
    assert found[2] == f"−{2 * sum(AMOUNTS) - alder:,} (−{1 - alder / (2 * sum(AMOUNTS)):.0%})"


def test_an_unknown_group_is_answered_with_those_there_are():
    said = drawn(OVER_TIME | SPLIT, group="Nowhere").description
    assert "There is no group “Nowhere”" in said
    assert "Market Square, Alder" in said


def test_ratios_are_held_against_the_middle_one_not_a_mean_of_ratios():
    rows = "Day,Visits,Cost\n2026-01-01,100,100\n2026-02-01,1,9\n2026-03-01,100,300\n2026-04-01,100,400\n"
    found = texts(drawn({"measures": [RATIO], "per": MONTHS}, text=rows, against="average"))
    assert statistics.median([1, 9, 3]) == 3
    assert found[3:] == ["+1 (+33%)", "against the middle one of the 3 months before"]


def test_a_share_changes_by_points_and_says_its_base():
    found = texts(drawn({"measures": [OPEN], "per": MONTHS}))
    assert found == ["Share of Open that is Yes", "Jan 2026, n = 1", "0%", "−100 points", "against Dec 2025"]


@pytest.mark.parametrize(("good", "colour"), [("up", STYLE.fall), ("down", STYLE.rise), ("neither", STYLE.muted)])
def test_the_colour_of_a_change_says_whether_it_is_welcome(good, colour):
    scene = drawn(OVER_TIME, good=good)
    assert {text.text: text.fill for text in scene.texts()}["−110 (−17%)"] == colour
    assert any(isinstance(shape, Path) and shape.fill == colour for shape in scene.shapes)


@pytest.mark.parametrize(
    ("options", "state"),
    [
        ({"on_track": 500, "act": 300}, "On track"),
        ({"on_track": 600, "act": 300}, "Watch"),
        ({"on_track": 700, "act": 520}, "Act"),
        ({"on_track": 100, "act": 500}, "Act"),
        ({"on_track": 600}, "Watch"),
        ({"act": 500}, "On track"),
        ({"act": 500, "good": "down"}, "Act"),
    ],
)
def test_thresholds_give_a_state_in_words(options, state):
    scene = drawn(OVER_TIME, **options)
    assert {"On track", "Watch", "Act"} & set(texts(scene)) == {state}
    assert f" {state}." in scene.description


def test_the_last_measure_can_count_who_reports():
    question = {"measures": [VISITS, {"stat": "distinct", "column": "Branch"}], "per": MONTHS}
    assert "Jan 2026, 1 of 2 branches reporting" in texts(drawn(question, reporting="branches reporting"))


def test_a_missing_last_value_is_said_and_nothing_is_made_of_it():
    rows = "Day,Visits\n2026-01-01,5\n2026-02-01,n/a\n"
    scene = drawn(OVER_TIME, text=rows)
    assert texts(scene) == ["Total Visits", "Feb 2026", "–", "no value"]


@pytest.mark.parametrize(
    ("values", "written"),
    [
        ([48_300_000], ["48.3M"]),
        ([48_300_000, 912_000], ["48.3M", "0.9M"]),
        ([48_300_000, 20_000], ["48,300,000", "20,000"]),
        ([999_999, 12], ["999,999", "12"]),
        ([2e9, 3e8], ["2.0B", "0.3B"]),
        ([-5_000_000, 0, None], ["−5.0M", "0.0M", None]),
    ],
)
def test_all_numbers_of_a_row_are_short_alike(values, written):
    form = short_form(values)
    assert [None if value is None else form.text(value) for value in values] == written


def test_short_forms_are_those_of_the_locale():
    """Signs from Unicode CLDR 46, as Babel has them: German writes Mio. behind a space, Hindi has no million."""
    german = short_form([48_300_000], "de_DE")
    assert german.text(48_300_000) == "48,3\N{NO-BREAK SPACE}Mio."
    assert german.text(48_300_000, unit="€").startswith("48,3\N{NO-BREAK SPACE}Mio.")
    assert scaled_by(1e3).text(1_500) == "1.5K"


ROW = {"measures": [VISITS, COST, RATIO, OPEN], "per": MONTHS}


@pytest.mark.parametrize("box", [Box(1136, 200), Box(700, 240), Box(340, 420), Box(200, 700)])
def test_a_row_sets_all_figures_in_one_size_on_one_baseline(box):
    scene = drawn(ROW, "kpi_row", box=box, labels="Visits;A very long label that needs two lines; ;Open")
    figures = [text for text in scene.texts() if text.text in ("520", "1,560", "3", "0%")]
    assert len(figures) == 4
    assert len({text.font.size for text in figures}) == 1
    by_row = {}
    for text in figures:
        by_row.setdefault(text.y, []).append(text.x)
    steps = {round(right - left, 3) for xs in by_row.values() for left, right in itertools.pairwise(xs)}
    assert len(steps) <= 1
    assert len({len(xs) for xs in by_row.values()}) == 1


def test_a_row_gives_each_number_its_own_standard():
    scene = drawn(ROW, "kpi_row", box=Box(1136, 240), good="up;down;neither", on_track="600;;2;", act="400;;4;0.5")
    said = scene.description
    assert "Total Visits, Jan 2026: 520. −110 (−17%) against Dec 2025. Watch." in said
    assert "Cost per visit, Jan 2026: 3. ±0 against Dec 2025. Watch." in said
    assert said.count("Act.") == 1
    colours = {text.text: text.fill for text in scene.texts()}
    assert (colours["−110 (−17%)"], colours["−330 (−17%)"]) == (STYLE.fall, STYLE.rise)


def drawn_row(**options):
    return drawn(ROW, "kpi_row", **options)


def test_one_target_is_for_all_and_several_are_one_each():
    assert drawn_row(targets="500", against="target").description.count("against the target") == 4
    assert drawn_row(targets=";1500", against="target").description.count("against the target of 1,500") == 1


@pytest.mark.parametrize(
    ("options", "said"),
    [
        ({"targets": "500; many"}, "“many” is not a number"),
        ({"act": "nan"}, "“nan” is not a number"),
        ({"good": "up; sideways"}, "“sideways” is not a way"),
    ],
)
def test_what_is_no_number_or_way_is_refused(options, said):
    with pytest.raises(DrawingRefused, match=said):
        drawn_row(**options)


def test_a_row_of_groups_takes_their_names_and_refuses_too_many():
    assert texts(drawn(OVER_TIME | SPLIT, "kpi_row"))[0] == "Market Square"
    rows = "Branch,Visits\n" + "".join(f"B{place},1\n" for place in range(9))
    said = drawn({"measures": [VISITS], "per": [{"column": "Branch"}]}, "kpi_row", rows).description
    assert "A row carries 8 headline numbers, and there are 9." in said


def test_waves_in_an_order_run_along_like_periods():
    rows = "Wave,Visits\nWave 1,40\nWave 2,50\nWave 3,45\n"
    found = texts(drawn({"measures": [VISITS], "per": [{"column": "Wave"}]}, text=rows))
    assert found[:5] == ["Total Visits", "Wave 3", "45", "−5 (−10%)", "against Wave 2"]


def test_a_footnote_stands_below_and_is_said():
    scene = drawn(OVER_TIME, footnote="The book bus counts by hand.")
    last = scene.texts()[-1]
    assert last.text == "The book bus counts by hand."
    assert last.y == max(text.y for text in scene.texts())
    assert "The book bus counts by hand." in scene.description


BOTH = {
    "palette": "sea",
    "scale": "thousands",
    "against": "nothing",
    "decimals": 2,
    "locale": "de_DE",
    "unit": "km",
    "prefix": "about ",
    "trend": False,
    "footnote": "Provisional.",
}
BOTH |= {"interval": True, "population": 40}
SETTINGS = {
    "kpi": BOTH
    | {
        "label": "People",
        "target": 1.0,
        "good": "down",
        "on_track": 5,
        "act": 5,
        "group": "Alder",
        "against_group": "Market Square",
        "reporting": "rows",
    },
    "kpi_row": BOTH
    | {
        "labels": "People",
        "targets": "1",
        "good": "down",
        "on_track": "5",
        "act": "5",
        "against_group": "Market Square",
        "reporting": "rows",
    },
}
NEEDED = {
    "target": {"against": "target"},
    "targets": {"against": "target"},
    "against_group": {"against": "another group"},
    "locale": {"decimals": 1},
    "population": {"interval": True},
}
OF_A_SAMPLE = {"measures": [{"stat": "mean", "column": "Visits"}]}
BRANCHES = {"measures": [VISITS, {"stat": "count"}], "per": [{"column": "Branch"}]}


@pytest.mark.parametrize(("name", "field"), [(name, field) for name, fields in SETTINGS.items() for field in fields])
def test_no_setting_of_a_headline_number_is_without_effect(name, field):
    extra = NEEDED.get(field, {})
    question = BRANCHES if field in ("group", "against_group", "reporting") else OVER_TIME
    question = OF_A_SAMPLE if field in ("interval", "population") else question
    with_it, without = (
        scene_to_svg(drawn(question, name, **extra, **more)) for more in ({field: SETTINGS[name][field]}, {})
    )
    assert with_it != without


def test_every_setting_of_a_headline_number_is_tried_here():
    for name, fields in SETTINGS.items():
        assert set(fields) == set(VISUALS[name].options.model_fields)
