"""A first draft of tables: only what they have, in sentences that are true, nothing twice, nothing that overlaps."""

import json
import re
from itertools import combinations

import pytest
from vega_datasets import local_data as data

from tests.factories import csv_table, report_table
from ypsil.cli import main
from ypsil.core.document.grid import overlap
from ypsil.core.document.page_formats import PAGE_FORMATS
from ypsil.core.draft import Subject, draft, instead_of, joined
from ypsil.core.draft.choosing import MOST_VISUALS
from ypsil.core.proof import findings_of
from ypsil.core.render import compose
from ypsil.core.report import ReportBody, parse_edit
from ypsil.core.tables.profile import profile
from ypsil.core.tiles import SpotTile, as_visual

TABLES = {
    "weather": lambda: data.seattle_weather().to_csv(index=False),  # NOAA, in vega_datasets
    "cars": lambda: data.cars().to_csv(index=False),  # StatLib, in vega_datasets
    "barley": lambda: data.barley().to_csv(index=False),  # Immer et al. 1934, in vega_datasets
    "iris": lambda: data.iris().to_csv(index=False),  # Fisher 1936, in vega_datasets
    "one row": lambda: "Branch,Visits\nElm,4\n",
    "one column": lambda: "Visits\n" + "".join(f"{n * n}\n" for n in range(30)),
    "words": lambda: "Note\n" + "".join(f"the {word} was {word}\n" for word in ("room", "book", "light", "staff") * 9),
    "nothing but names": lambda: "Name\nAda\nBo\nCy\n",
    "nothing in a column": lambda: "Branch,Visits,Gone\n" + "".join(f"B{n % 4},{n},\n" for n in range(40)),
    "long names": lambda: "A very long name of a column,B\n" + "".join(f"{'x' * 90}{n},{n}\n" for n in range(40)),
}  # fmt: skip


def subject(text, key="t"):
    table = csv_table(text)
    return Subject(key, report_table(table), profile(table.frame, table.columns))


def made(text, page="tall", title=""):
    return draft([subject(text)], ReportBody(title="T", page=PAGE_FORMATS[page].page), title)


def said(report, text):
    """Return what the texts of a page say, with their figures worked out."""
    page = compose(report, {"t": subject(text).table})
    return [view.tile.writes(page.context).spoken(page.context) for view in page.tiles() if view.tile.type == "text"]


@pytest.mark.parametrize("page", ["tall", "a4", "slide-4x3", "post-square"])
@pytest.mark.parametrize("name", TABLES)
def test_all_that_is_on_it_is_drawn_and_nothing_overlaps(name, page):
    text = TABLES[name]()
    report = made(text, page).body
    composed = compose(report, {"t": subject(text).table})
    assert [problem for _, problem in composed.problems()] == []
    assert not any(isinstance(tile, SpotTile) for tile in report.tiles())
    for band in composed.bands:
        assert not any(overlap(one.place, other.place) for one, other in combinations(band.tiles, 2))
    assert [one for one in findings_of(composed) if one.kind == "problem"] == []


@pytest.mark.parametrize("name", TABLES)
def test_nothing_is_asked_twice_and_each_tile_says_why_it_is_there(name):
    found = made(TABLES[name]())
    visuals = [tile for tile in map(as_visual, found.body.tiles()) if tile is not None]
    questions = [tile.question.digest() for tile in visuals]
    assert len(set(questions)) == len(questions) <= MOST_VISUALS
    assert all(found.why[tile.id] for tile in found.body.tiles())
    assert found.body.tiles()[-1].type == "sources"


@pytest.mark.parametrize("name", TABLES)
def test_what_nothing_asks_for_is_said_with_the_reason(name):
    text = TABLES[name]()
    found = made(text)
    asked = {
        name for tile in found.body.tiles() for question in tile.questions() for name in question.question.columns()
    }
    left = {one.column for one in found.left_out}
    columns = {column.name for column in csv_table(text).columns}
    assert left | asked >= columns and not left & asked
    assert all(one.why for one in found.left_out)


def headline(text, **more):
    return said(made(text, **more).body, text)[1]


MONTHS = "Month,Branch,Visits\n" + "".join(
    f"{year}-{month:02d}-01,{branch},{amount * part}\n"
    for year, amount in ((2024, 100), (2025, 120))
    for month in range(1, 13)
    for branch, part in (("Alder Lane", 1), ("Market Square", 3))
)


def test_the_strongest_finding_is_the_headline_and_follows_its_numbers():
    # Worked out by hand: 480 a month against 400.
    assert headline(MONTHS) == "Visits rose by 20% in 2025, against the same months of the year before"
    report = made(MONTHS).body
    fewer = re.sub(r"(2025-\d\d-01,[^,]+),\d+", r"\1,50", MONTHS)
    found = said(report, fewer)[1]
    assert found == "Visits fell by 75% in 2025, against the same months of the year before"
    level = MONTHS.replace(",120\n", ",100\n").replace(",360\n", ",300\n")
    assert said(report, level)[1].startswith("Visits hardly changed, by 0%")


def test_of_one_year_the_last_whole_period_is_compared_with_the_one_before():
    # By hand: 28 days of 800 a day and 28 * 0.5 more, against 28 days of 700 and as many more.
    rows = "Day,Visits\n" + "".join(
        f"2025-{month:02d}-{day:02d},{month * 100 + day - 14}\n" for month in range(1, 9) for day in range(1, 29)
    )
    assert headline(rows) == "Visits rose by 14% to 22,414 in Aug 2025"
    # Of September there are three days: what they add up to is compared with nothing.
    begun = rows + "".join(f"2025-09-{day:02d},10\n" for day in (1, 2, 3))
    assert headline(begun) == "Visits rose by 14% to 22,414 in Aug 2025"


def test_who_leads_is_said_with_the_part_of_all():
    rows = "Branch,Visits\nElm,30\nOak,50\nAsh,20\nElm,10\nOak,40\n"
    assert "Oak leads with 90, which is 60% of all Visits" in said(made(rows).body, rows)


def test_a_title_that_is_given_is_kept_and_the_finding_stands_below_it():
    texts = said(made(MONTHS, title="What we heard").body, MONTHS)
    assert texts[1] == "What we heard"
    assert texts[2].startswith("Visits rose by 20% in 2025")


def test_where_nothing_is_added_up_rows_are_counted_and_no_group_is_counted_in_a_grid():
    events = "When,What\n" + "".join(
        f"2026-0{1 + n % 6}-0{1 + n % 9},{('Fire', 'Flood', 'Fire')[n % 3]}\n" for n in range(60)
    )
    assert "Fire leads with 40, which is 67% of all rows" in said(made(events).body, events)
    grid = "When,What,Price\n" + "".join(
        f"2026-0{n}-01,{what},{n * k}\n" for n in range(1, 9) for k, what in ((2, "A"), (5, "B"))
    )
    assert not any("of all rows" in text for text in said(made(grid).body, grid))


def test_two_amounts_are_set_beside_each_other_only_where_they_go_together():
    related = "Weight,Engine\n" + "".join(f"{n},{n * 2 + n % 3}\n" for n in range(10, 90))
    found = made(related)
    assert any("rank correlation" in why for why in found.why.values())
    apart = "Weight,Engine\n" + "".join(f"{n},{(n * 37) % 101}\n" for n in range(10, 90))
    assert not any("rank correlation" in why for why in made(apart).why.values())


def test_addresses_and_names_become_no_cloud_and_sentences_do():
    rows = "Note,Address\n" + "".join(
        f"the {word} is too {how} for us,{n} North Avenue and West Street No {n}\n"
        for n, (word, how) in enumerate([("room", "cold"), ("book", "old"), ("light", "dim")] * 12)
    )
    found = made(rows)
    clouds = [tile for tile in map(as_visual, found.body.tiles()) if tile and tile.visual == "cloud"]
    assert [tile.question.per[0].column for tile in clouds] == ["Note"]
    assert any(one.column == "Address" and "addresses" in one.why for one in found.left_out)


def test_the_order_of_columns_changes_nothing():
    rows = [line.split(",") for line in MONTHS.strip().split("\n")]
    turned = "\n".join(",".join(reversed(row)) for row in rows) + "\n"
    assert said(made(turned).body, turned) == said(made(MONTHS).body, MONTHS)


def run(capsys, *arguments):
    code = main(["draft", *map(str, arguments)])
    said = capsys.readouterr()
    return code, said.out, said.err


def test_the_command_writes_a_file_and_says_what_is_on_it(tmp_path, capsys):
    table = tmp_path / "visits.csv"
    table.write_text(MONTHS)
    out = tmp_path / "draft.ypsil"
    code, said_out, _ = run(capsys, table, "--format", "dashboard", "--out", out)
    found = json.loads(said_out)
    assert code == 0 and out.read_bytes()[:2] == b"PK"
    assert found["format"] == "dashboard" and found["left_out"] == []
    assert {one["type"] for one in found["tiles"]} >= {"visual", "text", "sources"}
    assert all(one["why"] and one["band"] for one in found["tiles"])
    assert main(["build", str(out), "--out", str(tmp_path / "page.svg")]) == 0
    before = out.read_bytes()
    run(capsys, table, "--format", "dashboard", "--out", out)
    assert found["title"] == "Visits" and out.read_bytes() == before


@pytest.mark.parametrize(("content", "what"), [("", "empty"), ("Branch,Visits\n", "rows")])
def test_a_table_without_rows_is_refused_in_a_line(tmp_path, capsys, content, what):
    table = tmp_path / "none.csv"
    table.write_text(content)
    code, _, problem = run(capsys, table, "--out", tmp_path / "x.pdf")
    assert code == 1 and what in problem and problem.count("\n") == 1
    assert not (tmp_path / "x.pdf").exists()


def test_names_with_braces_and_one_row_are_drawn_in_words():
    braces = "Weight {kg},Engine {l}\n" + "".join(f"{n},{n * 2 + n % 3}\n" for n in range(10, 90))
    assert any("Weight {kg} and Engine {l} go together" in why for why in made(braces).why.values())
    alone = said(made("Branch,Visits\nElm,4\n").body, "Branch,Visits\nElm,4\n")
    assert alone[2] == "Rows: 1" and not any("half of all" in text for text in alone)


def test_what_takes_the_place_of_a_visual_keeps_its_place_and_its_finding_is_said():
    found = made(MONTHS).body
    leads = next(tile for tile in map(as_visual, found.tiles()) if tile and tile.visual == "bar")
    others = [tile for tile in map(as_visual, found.tiles()) if tile and tile.id != leads.id]
    for one, says in instead_of(leads, others, subject(MONTHS)):
        by = one.tile.model_dump(mode="json", exclude={"id", "place"})
        edit = {"type": "swap_visual", "tile": leads.id, "by": by, "says": says.model_dump() if says else ""}
        after = parse_edit(edit).apply(found)
        put = after.tile(leads.id)
        assert put.place == leads.place and put.question == one.tile.question
        (heading,) = [tile for tile in after.tiles() if getattr(tile, "says_of", "") == leads.id]
        assert heading.prose == says if says else heading.plain == put.label()
        assert [p for _, p in compose(after, {"t": subject(MONTHS).table}).problems()] == []


BRANCHES = "Branch,Area,Opened\nElm,Town,1999\nOak,Hills,2004\nAsh,Town,2011\n"
VISITED = "Month,Branch,Visits\n" + "".join(
    f"2026-{month:02d}-01,{branch},{month * 10 + place * 7}\n"
    for month in range(1, 9)
    for place, branch in enumerate(("Elm", "Oak", "Ash"))
)


def test_tables_about_the_same_things_are_made_one_by_a_certain_key():
    (both,), said = joined([subject(VISITED, "a"), subject(BRANCHES, "b")])
    assert [(one.added, one.by) for one in said] == [("Visits", "Branch")]
    assert [column.name for column in both.profile.columns] == ["Month", "Branch", "Visits", "Area", "Opened"]
    assert both.profile.rows == 24 and both.table.frame()["Area"].null_count() == 0
    assert "joined by Branch" in both.table.source, "the page says so among its sources"
    report = draft([both], ReportBody(title="T")).body
    assert [problem for _, problem in compose(report, {"a": both.table}).problems()] == []


@pytest.mark.parametrize(
    "other",
    [
        BRANCHES.replace("Branch", "Name"),  # under another name
        BRANCHES + "Elm,Coast,2020\n",  # names a row twice
        BRANCHES.replace("Elm", "Fir").replace("Oak", "Yew"),  # hardly any row is found
        "Branch\nElm\nOak\nAsh\n",  # nothing to add
    ],
)
def test_nothing_is_joined_by_guessing(other):
    found, said = joined([subject(VISITED, "a"), subject(other, "b")])
    assert len(found) == 2 and said == []


def test_the_command_says_what_it_joined(tmp_path, capsys):
    for name, text in (("visits.csv", VISITED), ("branches.csv", BRANCHES)):
        (tmp_path / name).write_text(text)
    files = [str(tmp_path / name) for name in ("visits.csv", "branches.csv")]
    assert not main(["draft", *files, "--out", str(tmp_path / "page.pdf")])
    assert json.loads(capsys.readouterr().out)["joined"] == [{"table": "visits", "added": "branches", "by": "Branch"}]


@pytest.mark.parametrize("page", ["dashboard-16x9", "dashboard-4x3"])
@pytest.mark.parametrize("name", TABLES)
def test_a_dashboard_is_one_screen_with_the_strongest_on_top(name, page):
    table = TABLES[name]
    found = made(table(), page)
    about = subject(table())
    drawn = compose(found.body, {"t": about.table})
    assert drawn.height == PAGE_FORMATS[page].page.height and len(found.body.bands) == 1
    assert [problem for _, problem in drawn.problems()] == []
    places = [tile.place for tile in found.body.tiles()]
    assert not any(overlap(one, other) for one, other in combinations(places, 2))
    assert len([tile for tile in map(as_visual, found.body.tiles()) if tile]) <= 8
    assert found.body.tiles()[0].role == "heading" and found.body.tiles()[-1].names_sources
    assert all(found.why[tile.id] for tile in found.body.tiles())
