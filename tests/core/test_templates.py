"""Templates: each is one file of data, says what it needs, and stands complete with any table that fits."""

import json
from itertools import combinations

import pytest
from pydantic import ValidationError
from vega_datasets import local_data as data

from tests.core.test_drafts import TABLES, subject
from ypsil.cli import main
from ypsil.core.document.grid import overlap
from ypsil.core.document.page_formats import KINDS_OF_PAGE, PAGE_FORMATS
from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.drawing.signs import is_sign
from ypsil.core.errors import YpsilError
from ypsil.core.package import Package, open_package, package_of
from ypsil.core.package.building import Wanted, build
from ypsil.core.render import compose
from ypsil.core.report import ReportBody
from ypsil.core.templates import Template, filled, match, page_of, template_called, templates
from ypsil.core.templates.model import Need, Shown, Words
from ypsil.core.tiles import as_visual
from ypsil.core.visuals import checked_options

MONTHS = "Month,Branch,Kind,Visits,Cost (£),Loans\n" + "".join(
    f"{2024 + month // 12}-{month % 12 + 1:02d}-01,{branch},{kind},{99 + 7 * month * place},{50 + month},{30 + place}\n"
    for month in range(24)
    for place, branch in enumerate(("Alder Lane", "Elmstow", "Brack Harbour"))
    for kind in ("Adult", "Child")
)
SURVEY = "Branch,Would you come again?,Comment\n" + "".join(
    f"B{n % 3},{'Yes' if n % 4 else 'No'},on day {n} the {'staff' if n % 3 else 'room'} was so kind and I like it\n"
    for n in range(60)
)
STEPS = (
    "Step,What to do,Minutes\nCollect,Shake ripe heads over the bag,20\n"
    "Dry,Spread them on a tray for a week,15\nSow,Two seeds to a cell and no more,25\n"
)
EVENTS = "Date,What,People\n2019-04-02,The first bed is dug,12\n2020-09-10,A greenhouse,25\n2022-06-12,The pond,61\n"
TRIAL = "Measured,Treatment,Seedling,Height\n" + "".join(
    f"2026-04-{1 + 7 * week:02d},{treatment},{treatment[0]}{plant},{week * (place + 1) + plant / 10}\n"
    for week in range(4)
    for place, treatment in enumerate(("Compost", "Sand"))
    for plant in range(6)
)
FITTING = {
    "survey-results": SURVEY, "one-question": SURVEY, "exit-notes": SURVEY, "leaflet": SURVEY, "process": STEPS,
    "how-to": STEPS, "timeline": EVENTS, "experiment": TRIAL,
}  # fmt: skip


def fitting(name):
    return subject(FITTING.get(name, MONTHS))


def made(name, page="", about=None):
    template = template_called(name)
    like = ReportBody(title="T", page=PAGE_FORMATS[page].page if page else page_of(template))
    return filled(template, [about or fitting(name)], like)


def file_of(tmp_path, text, name="table.csv"):
    path = tmp_path / name
    path.write_text(text, encoding="utf-8")
    return str(path)


def test_there_are_more_than_sixteen_for_different_ends():
    assert len(templates()) >= 16
    assert len({one.structure for one in templates().values()}) == len(templates())
    assert len({(one.look.palette, one.look.heading) for one in templates().values()}) >= 16, "no two look alike"
    assert {one.format for one in templates().values()} == set(KINDS_OF_PAGE)


def rows_of(template):
    """Return how its bands are divided, which is what tells layouts apart."""
    return tuple(tuple(tuple(cell.width for cell in row.cells) for row in band.rows) for band in template.bands)


def test_no_two_are_one_layout_in_other_colours():
    assert len({rows_of(one) for one in templates().values()}) == len(templates())


@pytest.mark.parametrize("name", templates())
def test_all_that_it_names_is_shipped(name):
    template = template_called(name)
    for part in template.parts():
        if isinstance(part, Shown):
            for visual in part.visuals:
                known = {key: value for key, value in part.options.items() if key != "label"}
                fields = type(checked_options(visual, {})).model_fields
                checked_options(visual, {key: value for key, value in known.items() if key in fields})
        if sign := getattr(part, "tile", {}).get("sign"):
            assert is_sign(sign), sign


@pytest.mark.parametrize("name", templates())
def test_with_a_table_that_fits_it_stands_complete(name):
    table = fitting(name)
    draft = made(name)
    page = compose(draft.body, {"t": table.table})
    assert [problem for _, problem in page.problems()] == []
    assert any(as_visual(tile) or tile.type in ("steps", "timeline", "points") for tile in draft.body.tiles())
    assert {tile.id for tile in draft.body.tiles()} == set(draft.why)
    assert ReportBody.model_validate(draft.body.as_json()) == draft.body
    for band in page.bands:
        flat = [one for one in band.tiles if one.tile.place is None or not one.tile.place.layer]
        assert not any(overlap(one.place, other.place) for one, other in combinations(flat, 2)), band.band.message


@pytest.mark.parametrize("page", ["tall", "a4", "slide-4x3", "dashboard-16x9", "post-square"])
def test_it_flows_to_other_pages(page):
    for name in templates():
        body = made(name, page).body
        composed = compose(body, {"t": fitting(name).table})
        assert [problem for _, problem in composed.problems()] == [], name


@pytest.mark.parametrize("name", templates())
def test_no_text_on_it_is_filler(name):
    """What stands there without the table's help is a label of a few letters; whatever needs words asks for them."""
    for part in template_called(name).parts():
        if isinstance(part, Words) and part.text:
            assert "{" in part.text or not part.text.strip(), part.text


@pytest.mark.parametrize("name", templates())
def test_what_its_author_has_still_to_say_is_in_no_file(name):
    table = fitting(name)
    body = made(name).body
    asked = [tile.hint for tile in body.tiles() if getattr(tile, "hint", "")]
    svg = build(Package(body, {"t": table.table}, {}), "svg", Wanted()).contents[0].decode()
    assert not any(hint in svg for hint in asked)
    assert not any(tile.is_open() for tile in body.as_read().tiles())


@pytest.mark.parametrize("name", templates())
def test_all_of_its_colours_can_be_read(name):
    page = compose(made(name).body, {"t": fitting(name).table})
    for view in page.tiles():
        style = view.context.style
        # WCAG 2.2, 1.4.3.
        assert contrast_ratio(style.ink, style.paper) >= 4.5
        assert contrast_ratio(style.muted, style.paper) >= 4.5


def test_what_is_missing_is_said_in_words():
    found = match(template_called("month-in-figures"), [subject("Name,Height\nAda,1.6\nBo,1.7\n")])
    assert found.missing == ("a date",) and not found.fits
    with pytest.raises(YpsilError, match="“The month in figures” needs a date"):
        filled(template_called("month-in-figures"), [subject("Name,Height\nAda,1.6\nBo,1.7\n")], ReportBody(title="T"))


def test_the_table_that_fits_is_taken_of_several():
    found = match(template_called("exit-notes"), [subject(MONTHS, "a"), subject(SURVEY, "b")])
    assert found.subject.key == "b" and found.roles["notes"] == "Comment"


def test_roles_have_reasons_and_can_be_chosen():
    found = match(template_called("month-in-figures"), [subject(MONTHS)])
    assert found.roles["when"] == "Month" and found.roles["amount"] == "Visits"
    assert all(one.why for one in found.played)
    other = match(template_called("month-in-figures"), [subject(MONTHS)], {"amount": "Loans", "group": "Kind"})
    assert other.roles["amount"] == "Loans" and other.roles["group"] == "Kind" and other.roles["second"] != "Loans"
    gone = match(template_called("month-in-figures"), [subject(MONTHS)], {"amount": "Gone"})
    assert gone.roles["amount"] == "Visits"


def test_what_is_never_added_up_plays_no_amount():
    table = subject(data.cars().to_csv(index=False))
    shares = [
        tile.question.measures[0]
        for name in templates()
        if match(template_called(name), [table]).fits
        for tile in map(as_visual, made(name, about=table).body.tiles())
        if tile is not None and not any(per.by == "row" for per in tile.question.per)
    ]
    assert shares and not any(one.stat == "sum" for one in shares), "cars have no amounts to add up"


@pytest.mark.parametrize("name", TABLES)
def test_any_table_finds_one_that_can_be_drawn(name):
    about = subject(TABLES[name]())
    able = [one for one in templates() if match(template_called(one), [about]).fits]
    assert "from-a-topic" in able
    for one in able:
        body = made(one, about=about).body
        assert [problem for _, problem in compose(body, {"t": about.table}).problems()] == [], one


def test_two_thousand_columns_are_looked_through():
    names = [f"Column {n}" for n in range(2_000)]
    wide = subject(
        ",".join(names) + "\n" + "".join(",".join(str(n * row) for n in range(2_000)) + "\n" for row in range(3))
    )
    assert "from-a-topic" in [one for one in templates() if match(template_called(one), [wide]).fits]


def test_a_need_cannot_ask_for_more_than_it_allows():
    with pytest.raises(ValidationError, match="at least 5 and at most 2"):
        Need(role="group", kind="category", says="groups", least=5, most=2)


@pytest.mark.parametrize(
    ("changed", "said"),
    [
        ({"page": "a0"}, "no page format"),
        ({"look": {"palette": "mud"}}, "the palettes are"),
        ({"look": {"heading": "Scrawl"}}, "the shipped families are"),
        ({"needs": []}, "no need has the role"),
    ],
)
def test_a_file_that_names_what_there_is_not_is_refused(changed, said):
    whole = template_called("month-in-figures").model_dump(mode="json")
    with pytest.raises(ValidationError, match=said):
        Template.model_validate(whole | changed)


def test_the_command_lists_them_with_what_fits(tmp_path, capsys):
    assert not main(["templates"])
    plain = json.loads(capsys.readouterr().out)
    assert len(plain) >= 16 and all(one["fits"] is None and one["roles"] == {} for one in plain)
    assert {"name", "title", "purpose", "formats", "needs", "fits", "roles", "missing"} <= set(plain[0])
    assert not main(["templates", file_of(tmp_path, MONTHS)])
    listed = {one["name"]: one for one in json.loads(capsys.readouterr().out)}
    assert listed["month-in-figures"]["fits"] and listed["month-in-figures"]["roles"]["when"] == "Month"
    assert listed["exit-notes"]["fits"] is False and listed["exit-notes"]["missing"] == ["text that people wrote"]


def test_the_command_fills_one(tmp_path, capsys):
    out = tmp_path / "page.ypsil"
    asked = ["draft", file_of(tmp_path, MONTHS), "--template", "meeting", "--out", str(out)]
    assert not main(asked)
    said = json.loads(capsys.readouterr().out)
    assert (said["template"], said["format"]) == ("meeting", "dashboard")
    assert all(one["why"] for one in said["tiles"]) and any(one["visual"] == "kpi" for one in said["tiles"])
    assert open_package(out.read_bytes(), "page.ypsil").report.page == PAGE_FORMATS["dashboard-16x9"].page
    first = out.read_bytes()
    assert not main(asked) and out.read_bytes() == first, "the same input gives the same bytes"


def test_the_command_says_what_fits_instead(tmp_path, capsys):
    path = file_of(tmp_path, "Name,Height\nAda,1.6\nBo,1.7\n")
    assert main(["draft", path, "--template", "timeline", "--out", str(tmp_path / "x.pdf")]) == 1
    said = capsys.readouterr().err
    assert said.startswith("ypsil: table.csv: ") and "needs a date" in said and "from-a-topic" in said
    assert main(["draft", path, "--template", "sonnet", "--out", str(tmp_path / "x.pdf")]) == 1
    assert "there is no template “sonnet”" in capsys.readouterr().err
    assert not list(tmp_path.glob("*.pdf"))


def test_a_packed_page_follows_other_rows(tmp_path):
    """The words on a page say what its numbers are: with other rows they say other things."""
    body = made("month-in-figures").body
    package = open_package(package_of(body, {"t": fitting("month-in-figures").table}), "page.ypsil")
    assert "rose by" in build(package, "svg", Wanted()).contents[0].decode()
    falling = MONTHS.replace(",", ";").replace(";", ",")
    lines = falling.splitlines()
    turned = "\n".join([lines[0], *(line.replace("2024-", "2026-") for line in lines[1:])])
    other = Package(package.report, dict.fromkeys(package.tables, subject(turned).table), {})
    assert "fell by" in build(other, "svg", Wanted()).contents[0].decode()


def test_what_follows_from_a_group_is_no_other_group():
    """An area says nothing beside its branch: what crosses it does."""
    areas = MONTHS.replace("Branch,Kind", "Branch,Area,Kind").replace("Alder Lane,", "Alder Lane,Town,")
    areas = areas.replace("Elmstow,", "Elmstow,Hills,").replace("Brack Harbour,", "Brack Harbour,Coast,")
    found = match(template_called("two-sides"), [subject(areas)])
    assert found.roles["group"] == "Branch" and found.roles["other"] == "Kind"


def test_findings_of_two_groups_are_both_said_in_full():
    about = subject("\n".join(line for line in MONTHS.splitlines() if "Elmstow,Child" not in line) + "\n")
    page = compose(made("month-in-figures", about=about).body, {"t": about.table})
    said = [view.tile.writes(page.context).spoken(page.context) for view in page.tiles() if view.tile.type == "text"]
    assert sum(" leads with " in one for one in said) == 2, said


@pytest.mark.parametrize("name", ["snapshot", "exit-notes", "how-to", "table-and-lessons", "experiment", "meeting"])
def test_what_is_one_page_stays_one(name):
    page = compose(made(name).body, {"t": fitting(name).table}, for_readers=True)
    assert {band.place.page for band in page.bands} == {0}


def test_who_is_named_first_is_first_in_the_list():
    """Few rows with high values lead where values are averaged: the name on top and the ranking say the same."""
    rows = "".join(f"A,{1 + n % 3}.5\n" for n in range(20)) + "".join(f"B,{n}.25\n" for n in (40, 41, 42)) + "C,3.5\n"
    about = subject("Group,Wind speed\n" + rows)
    body = made("ranked-list", about=about).body
    page = compose(body, {"t": about.table})
    said = [view.tile.writes(page.context).spoken(page.context) for view in page.tiles() if view.tile.type == "text"]
    assert "B" in said and any(one.startswith("B has the highest mean") for one in said)


def test_years_are_not_cut_into_months():
    about = subject("Year,Side,Miles\n" + "".join(f"{1980 + n // 2},{'LR'[n % 2]},{500 + 9 * n}\n" for n in range(40)))
    tiles = [tile for tile in map(as_visual, made("year-in-numbers", about=about).body.tiles()) if tile]
    assert {per.by for tile in tiles for per in tile.question.per if per.column == "Year"} == {"year"}
