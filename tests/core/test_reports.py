"""Documents, edits, the grid, composing and files."""

import json
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.factories import VISITS, csv_table, report_table, total
from ypsil.core.document import Node, apply, differences, parse_change, take_back
from ypsil.core.document.grid import next_free_frame, overlap, settle
from ypsil.core.drawing import Scene
from ypsil.core.errors import EditRefused, YpsilError
from ypsil.core.export import page_to_png, page_to_svg, scene_to_file
from ypsil.core.questions import parse_question
from ypsil.core.render import compose
from ypsil.core.report import Band, Frame, ReportBody, ReportTable, SourcesTile, TextTile, VisualTile, parse_edit
from ypsil.core.report.edits import AddTile, ChangeTile
from ypsil.core.report.needs import unmet_needs
from ypsil.core.report.nodes import document_of, report_of
from ypsil.core.report.suggest import PURPOSES, suggest
from ypsil.core.report.titles import title_for
from ypsil.core.schemas import schemas, what_there_is
from ypsil.core.tables.profile import profile
from ypsil.core.tiles import drawings

CHART = VisualTile.model_validate(
    {"id": "c1", "table": "t", "question": total(per=[{"column": "Day", "by": "month"}]), "visual": "column"}
)
REPORT = ReportBody(
    title="Visits",
    bands=(
        Band(id="b1", message="Headline", tiles=(TextTile(id="x1", role="title", text="Visits are up"),)),
        Band(id="b2", tiles=(CHART, SourcesTile(id="s1", place=Frame(column=0, row=60, width=24, height=4)))),
    ),
)
places = st.builds(
    lambda column, row, width, height: Frame(column=column, row=row, width=min(width, 24 - column), height=height),
    st.integers(0, 23), st.integers(0, 40), st.integers(1, 24), st.integers(1, 20),
)  # fmt: skip

EDITS = [
    {"type": "rename", "title": "Loans"},
    {"type": "change_report", "changes": {"language": "de", "locale": "de_CH", "page": {"width": 800}}},
    {"type": "change_report", "changes": {"filters": [{"column": "Branch", "test": "in", "values": ["Elmstow"]}]}},
    {"type": "add_band", "band": {"id": "b3", "message": "More"}, "index": 1},
    {"type": "remove_band", "band": "b2"},
    {"type": "set_message", "band": "b2", "message": "Trend"},
    {"type": "add_tile", "band": "b1", "tile": {"type": "text", "id": "x2", "role": "body", "text": "Hello"}},
    {"type": "remove_tile", "tile": "x1"},
    {"type": "change_tile", "tile": "c1", "changes": {"visual": "line", "title": "Trend"}},
    {"type": "change_looks", "options": {"c1": {"decimals": 1}}},
    {"type": "set_options", "tile": "c1", "options": {"decimals": 1, "average": True}},
]


@pytest.mark.parametrize("data", EDITS, ids=lambda data: f"{data['type']} {' '.join(data.get('changes', ()))}")
def test_each_edit_changes_the_report_and_its_changes_are_taken_back(data):
    before = document_of(REPORT)
    changed = parse_edit(data).apply(report_of(before, REPORT.style))
    batch = differences(before, document_of(changed, before), data["type"])
    made = apply(before, parse_change(batch.model_dump(mode="json")))
    assert report_of(made, REPORT.style) == changed != REPORT
    assert take_back(made, [batch]).document.as_json() == before.as_json()


def test_a_report_becomes_nodes_and_comes_back_with_what_it_does_not_know():
    document = document_of(REPORT)
    node = Node(id="z9", kind="hologram", parent="b1", order="z", content={"depth": 3})
    document = document.model_copy(update={"nodes": {**document.nodes, "z9": node}})
    report = report_of(document, REPORT.style)
    assert document_of(report, document).as_json() == document.as_json()
    page = compose(report, {"t": report_table()})
    assert "This needs a newer Ypsil: it is of the kind “hologram”." in [said for _, said in page.problems()]
    moved = AddTile(band="b1", tile=TextTile(id="n1", text="New"), index=0).apply(report)
    after = document_of(moved, document)
    assert after.nodes["z9"] == node
    assert [one.id for one in after.children("b1")] == ["n1", "x1", "z9"]


@pytest.mark.parametrize(
    ("data", "message"),
    [
        ({"type": "explode"}, "explode"),
        ({"type": "remove_tile", "tile": "gone"}, "no longer there"),
        ({"type": "remove_band", "band": "gone"}, "no longer there"),
        ({"type": "add_tile", "band": "b1", "tile": {"type": "text", "id": "x1"}}, "on the page already"),
        ({"type": "change_tile", "tile": "x1", "changes": {"role": "shout"}}, "title"),
        ({"type": "change_tile", "tile": "x1", "changes": {"id": "other"}}, "cannot be changed"),
        ({"type": "change_tile", "tile": "c1", "changes": {"question": {"measures": []}}}, "question"),
        ({"type": "change_looks", "options": {"c1": {"decimals": 99}}}, "decimals"),
        ({"type": "change_looks", "options": {"x9": {"decimals": 1}}}, "no longer there"),
        ({"type": "set_options", "tile": "c1", "options": {"decimals": 99}}, "decimals"),
        ({"type": "set_options", "tile": "t1", "options": {"decimals": 1}}, "no longer there"),
        ({"type": "rename", "title": ""}, "title"),
        ({"type": "change_report", "changes": {"locale": "xx_YY"}}, "not written as in “xx_YY”"),
        ({"type": "change_report", "changes": {"language": "German"}}, "language"),
        ({"type": "change_report", "changes": {"page": {"width": 300}}}, "no room for the columns"),
        ({"type": "change_report", "changes": {"owner": 3}}, "changes"),
        ("words", ""),
    ],
)
def test_an_edit_that_does_not_fit_is_refused(data, message):
    with pytest.raises(EditRefused) as refusal:
        parse_edit(data).apply(REPORT)
    assert message in refusal.value.line()


@given(st.lists(places, max_size=8), st.integers(1, 24), st.integers(1, 20))
def test_the_next_free_place_is_free(taken, width, height):
    found = next_free_frame(taken, width, height, 24)
    assert not any(overlap(found, other) for other in taken)


@given(st.lists(places, max_size=8))
def test_settled_places_overlap_nowhere_and_only_move_down(found):
    settled = settle(found)
    assert not any(overlap(a, b) for index, a in enumerate(settled) for b in settled[index + 1 :])
    assert all(
        after.row >= before.row and after.column == before.column for before, after in zip(found, settled, strict=True)
    )


def test_new_tiles_stand_beside_each_other_until_the_row_is_full():
    report = REPORT
    for number in range(5):
        tile = VisualTile.model_validate({"id": f"k{number}", "table": "t", "question": total(), "visual": "kpi"})
        report = AddTile(band="b1", tile=tile).apply(report)
    found = [tile.place for tile in report.band("b1").tiles if tile.id.startswith("k")]
    assert [place.column for place in found] == [0, 6, 12, 18, 0]
    assert found[4].row > found[0].row


def test_a_tile_cannot_reach_beyond_the_page():
    beyond = TextTile(id="b", place=Frame(column=20, row=0, width=6, height=4))
    with pytest.raises(ValueError, match="right edge"):
        ReportBody(title="T", bands=(Band(tiles=(beyond,)),))
    with pytest.raises(EditRefused, match="right edge"):
        AddTile(band="b1", tile=beyond).apply(REPORT)
    with pytest.raises(EditRefused, match="400 rows"):
        ChangeTile(tile="x1", changes={"place": {"column": 0, "row": 0, "width": 4, "height": 900}}).apply(REPORT)


def test_an_open_slot_stays_open_whatever_is_edited_beside_it():
    document = document_of(REPORT)
    nodes = dict(document.nodes)
    nodes["c1"] = nodes["c1"].model_copy(update={"content": nodes["c1"].content | {"table": "main"}})
    document = document.model_copy(update={"sources": {"main": None}, "nodes": nodes})
    view = report_of(document, REPORT.style)
    assert [said for _, said in compose(view, {"t": report_table()}).problems()] != []
    renamed = document_of(parse_edit({"type": "rename", "title": "A template"}).apply(view), document, view)
    assert (renamed.sources, renamed.nodes["c1"]) == ({"main": None}, nodes["c1"])
    filled = parse_edit({"type": "change_tile", "tile": "c1", "changes": {"table": "t"}}).apply(view)
    assert document_of(filled, document, view).sources == {"t": "t", "main": None}


def test_nodes_that_are_no_bands_and_no_tiles_stay_for_as_long_as_what_they_stand_in():
    document = document_of(REPORT)
    later = (
        Node(id="l1", kind="layer"),
        Node(id="l2", kind="sticker", parent="l1"),
        Node(id="l3", kind="x", parent="c1"),
    )
    document = document.model_copy(update={"nodes": {**document.nodes, **{node.id: node for node in later}}})
    view = report_of(document, REPORT.style)
    renamed = document_of(parse_edit({"type": "rename", "title": "Loans"}).apply(view), document, view)
    assert {node.id for node in later} <= renamed.nodes.keys()
    without = document_of(parse_edit({"type": "remove_tile", "tile": "c1"}).apply(view), document, view)
    assert (set(document.nodes) - set(without.nodes)) == {"c1", "l3"}
    batch = differences(document, without)
    assert take_back(apply(document, batch), [batch]).document.as_json() == document.as_json()


def test_a_report_is_composed_and_reads_back_from_json():
    page = compose(ReportBody.model_validate(json.loads(json.dumps(REPORT.as_json()))), {"t": report_table()})
    assert page.problems() == []
    title, chart, sources = page.tiles()
    assert title.scene.texts()[0].text == "Visits are up"
    assert "Visits (test)" in " ".join(text.text for text in sources.scene.texts())
    assert chart.y > title.y
    assert page.height > chart.y + chart.scene.height


def test_long_text_grows_its_tile_and_pushes_what_is_below():
    tiles = (
        TextTile(id="a", text="word " * 400, place=Frame(column=0, row=0, width=8, height=4)),
        TextTile(id="b", text="below", place=Frame(column=0, row=6, width=8, height=4)),
    )
    first, second = compose(ReportBody(title="T", bands=(Band(tiles=tiles),)), {}).tiles()
    assert second.place.row >= first.place.row + first.place.height


def test_drawings_are_remembered_by_content():
    memory = drawings(1 << 24)
    compose(REPORT, {"t": report_table()}, memory)
    before = memory.usage()
    compose(REPORT, {"t": report_table()}, memory)
    assert (memory.usage().entries, memory.usage().misses) == (before.entries, before.misses)
    compose(REPORT, {"t": report_table(csv_table(VISITS.replace("120", "121")))}, memory)
    assert memory.usage().entries == 2 * before.entries


def test_nothing_remembered_is_shown_of_another_table_kind_order_or_country():
    memory = drawings(1 << 24)
    table = report_table()
    lacking = replace(table, columns=table.columns[:1])
    for name in ("Secret salaries", "Visits"):
        page = compose(REPORT, {"t": replace(lacking, name=name)}, memory)
        assert [said.startswith(f"{name}: ") for _, said in page.problems()] == [True]
    numbers = []
    many = report_table(csv_table(VISITS.replace("120", "1200")))
    for locale in ("en_GB", "de_DE"):
        page = compose(REPORT.model_copy(update={"locale": locale}), {"t": many}, memory)
        numbers.append({text.text for text in page.tiles()[1].scene.texts()})
    assert ("1,280" in numbers[0], "1.280" in numbers[1]) == (True, True)


def test_a_question_that_several_tiles_ask_is_answered_once_from_rows_fetched_once():
    table = csv_table()
    fetched = []
    seen = ReportTable("Visits", table.columns, lambda: fetched.append(1) or table.frame, "digest", "Visits")
    twice = [
        CHART,
        CHART.model_copy(update={"id": "c2", "visual": "line", "place": Frame(column=0, row=50, width=8, height=40)}),
    ]
    page = compose(ReportBody(title="Visits", bands=(Band(tiles=tuple(twice)),)), {"t": seen})
    first, second = (view.drawn.answer for view in page.tiles())
    assert first is second is not None
    assert fetched == [1]


def test_tiles_over_long_tables_are_drawn_at_once_as_they_are_one_by_one():
    rows = "".join(f"2026-{1 + index % 12:02d}-05,{'AB'[index % 2]},{index % 97}\n" for index in range(60_000))
    table = csv_table("Day,Branch,Visits\n" + rows)
    nobody = total(per=[{"column": "Branch"}], where=[{"column": "Branch", "test": "in", "values": ["C"]}])
    asked = (CHART.question, parse_question(nobody), parse_question(total("Gone")))
    one = [CHART.model_copy(update={"id": f"c{place}", "question": found}) for place, found in enumerate(asked)]
    said = {"title": "Visits", "language": "de"}
    together = compose(ReportBody(bands=(Band(tiles=tuple(one)),), **said), {"t": report_table(table)})
    alone = compose(ReportBody(bands=tuple(Band(tiles=(tile,)) for tile in one), **said), {"t": report_table(table)})
    assert [view.scene for view in together.tiles()] == [view.scene for view in alone.tiles()]
    assert any(text.text.endswith(".000") for text in together.tiles()[0].scene.texts())
    assert "no column “Gone”" in together.tiles()[2].drawn.problem


def test_a_tile_without_its_column_says_what_it_needs_and_the_rest_stands():
    poorer = csv_table(VISITS.replace("Visits", "Visitors"))
    page = compose(REPORT, {"t": report_table(poorer)})
    assert len(page.problems()) == 1
    assert "no column “Visits”" in page.problems()[0][1]
    assert page.tiles()[0].scene.texts()
    needs = unmet_needs(REPORT, "t", poorer.columns)
    assert [need.tile_id for need in needs] == ["c1"]
    assert unmet_needs(REPORT, "t", csv_table().columns) == []


def test_a_column_of_another_kind_is_an_unmet_need_too():
    worse = csv_table("Day,Visits\n2026-01-01,many\n2026-02-01,few\n")
    assert "needs a number column" in unmet_needs(REPORT, "t", worse.columns)[0].reason


def test_a_tile_whose_table_is_gone_says_so():
    assert "no longer there" in compose(REPORT, {}).problems()[0][1]


@pytest.mark.parametrize("purpose", PURPOSES)
def test_each_purpose_offers_what_can_be_drawn_the_best_first(purpose):
    table = csv_table()
    found = suggest(purpose, "t", report_table(table), profile(table.frame, table.columns))
    fitting = [one for one in found if one.fits]
    assert fitting
    assert [one.score for one in fitting] == sorted((one.score for one in fitting), reverse=True)
    assert all(one.reason for one in found)
    report = ChangeTile(tile="c1", changes=fitting[0].tile.model_dump(exclude={"id", "type", "place"})).apply(REPORT)
    assert compose(report, {"t": report_table(table)}).problems() == []


def test_ratings_are_averaged_not_added_up():
    table = csv_table("Branch,Rating\n" + "Alder,4\nElm,5\nElm,3\n" * 5)
    found = suggest("who is biggest", "t", report_table(table), profile(table.frame, table.columns))
    assert found[0].tile.title == "Mean Rating per Branch"


def test_the_period_suits_the_data():
    def title(days):
        table = csv_table("Day,Visits\n" + "".join(f"{day},{index * 3}\n" for index, day in enumerate(days)))
        return suggest("how it changes", "t", report_table(table), profile(table.frame, table.columns))[0].tile.title

    assert title([f"{year}-01-01" for year in range(2000, 2020)]) == "Visits per year"
    assert title([f"2026-{month:02d}-01" for month in range(1, 13)]) == "Visits per month"
    assert title([f"2026-03-{day:02d}" for day in range(1, 29)]) == "Visits per day"
    assert title(["2026-01-05", "2026-02-17", "2026-05-09"]) == "Visits per week"


def test_titles_say_the_question_shortly():
    question = parse_question(total(per=[{"column": "Day", "by": "month"}], split={"column": "Kind"}))
    assert title_for(question) == "Visits per month, by Kind"


def test_an_svg_file_carries_its_letters_and_no_outside_address():
    svg = page_to_svg(compose(REPORT, {"t": report_table()}))
    assert "data:font/woff;base64," in svg
    assert svg.count("http") == svg.count("http://www.w3.org/2000/svg")


def test_a_png_has_two_pixels_a_px_and_never_more_than_allowed():
    page = compose(REPORT, {"t": report_table()})
    png = page_to_png(page)
    assert png.startswith(b"\x89PNG")
    assert int.from_bytes(png[16:20]) == pytest.approx(1600, abs=2)


def test_an_empty_report_and_an_unknown_file_type_are_refused():
    with pytest.raises(YpsilError, match="empty"):
        page_to_svg(compose(ReportBody(title="T"), {}))
    with pytest.raises(YpsilError, match="gif"):
        scene_to_file(Scene(10, 10, (), "n", "d"), "gif")


def test_the_schemas_in_the_docs_are_those_of_the_models():
    from pathlib import Path

    folder = Path(__file__).parents[2] / "docs/formats"
    for name, schema in schemas().items():
        assert json.loads((folder / name).read_text()) == json.loads(json.dumps(schema)), f"run `make schemas`: {name}"
    assert (folder / "what-there-is.md").read_text() == what_there_is(), "run `make schemas`"


def test_an_option_is_set_beside_those_that_are_set_already():
    first = parse_edit({"type": "set_options", "tile": "c1", "options": {"decimals": 2}})
    second = parse_edit({"type": "set_options", "tile": "c1", "options": {"average": True}})
    once = first.apply(REPORT)
    both = second.apply(once)
    assert both.tile("c1").options == REPORT.tile("c1").options | {"decimals": 2, "average": True}
