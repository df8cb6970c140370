"""A report or a band kept as a template: filled with its own table it is the same page; with another it says nothing
that is not so."""

import json

import pytest

from tests.core.test_drafts import subject
from tests.core.test_templates import FITTING, MONTHS, fitting, made
from ypsil.cli import main
from ypsil.core.document.model import Frame
from ypsil.core.draft import draft
from ypsil.core.draft.sentences import span_of
from ypsil.core.errors import YpsilError
from ypsil.core.render import compose
from ypsil.core.report import ReportBody
from ypsil.core.report.choosing import choices_of
from ypsil.core.report.document import Band
from ypsil.core.style.cards import Card
from ypsil.core.style.house import HouseStyle
from ypsil.core.templates import (
    Keeping,
    filled,
    kept_template,
    match,
    page_of,
    template_called,
    template_file,
    template_from,
    templates,
    wordings,
)
from ypsil.core.templates.model import MOST_NEEDS
from ypsil.core.tiles import TextTile, VisualTile, as_text, as_visual
from ypsil.core.tiles.connector import ConnectorTile
from ypsil.core.tiles.filter import filter_by
from ypsil.core.tiles.group import Group
from ypsil.core.tiles.shape import ShapeTile

OTHER = (
    MONTHS.replace("Month,Branch,Kind,Visits,Cost (£),Loans", "Monat,Town,Sort,Guests,Price (£),Lent")
    .replace("Alder Lane", "Abbott")
    .replace("Elmstow", "Kirk")
    .replace("Adult", "Large")
)
TABLE, TOWNS = subject(MONTHS), subject(OTHER, "o")


def kept(body, about=TABLE, **more):
    return kept_template(body, [about], Keeping("Ours", **more), "own-1")


def again(template, about=TABLE):
    return filled(template, [about], ReportBody(title="T", page=page_of(template))).body


def asked(body):
    return [(tile.visual, tile.question) for tile in map(as_visual, body.tiles()) if tile]


def page(*tiles, **more):
    return ReportBody(title="Our page", bands=(Band(id="b1", message="Visits", tiles=tiles),), **more)


def shown(question, name="bar", **more):
    return VisualTile.model_validate({"table": "t", "question": question, "visual": name, **more})


PER_BRANCH = {"measures": [{"stat": "sum", "column": "Visits"}], "per": [{"column": "Branch"}]}


@pytest.mark.parametrize("name", templates())
def test_with_its_own_table_it_is_the_same_page(name):
    body, about = made(name).body, fitting(name)
    template = kept(body, about).template
    page = again(template, about)
    assert asked(page) == asked(body)
    assert [tile.type for tile in page.tiles()] == [tile.type for tile in body.tiles()]
    assert [tile.place for tile in page.tiles()] == [tile.place for tile in body.tiles()]
    assert (page.style, page.cards, page.icons, page.page) == (body.style, body.cards, body.icons, body.page)
    assert template_from(template_file(template)) == template


@pytest.mark.parametrize("name", [name for name in templates() if name not in FITTING])
def test_with_another_table_it_stands_complete_and_names_nothing_of_the_first(name):
    template = kept(made(name, about=TABLE).body).template
    assert match(template, [TOWNS]).fits
    body = again(template, TOWNS)
    assert len(asked(body)) == len(asked(made(name, about=TABLE).body))
    assert [problem for _, problem in compose(body, {"o": TOWNS.table}).problems()] == []
    said = json.dumps(body.as_json(), ensure_ascii=False)
    assert not any(word in said for word in ("Visits", "Branch", "Alder", "Elmstow", "Loans"))
    assert "Guests" in said and '"table": "t"' not in said


def test_a_sentence_about_a_visual_follows_it():
    drawn = draft([TABLE], ReportBody(title="T")).body
    page = again(kept(drawn).template, TOWNS)
    telling = [text for text in map(as_text, page.tiles()) if text and text.says_of]
    assert telling
    for text in telling:
        about = as_visual(page.tile(text.says_of))
        assert about is not None and about.table == "o"
        assert {figure.table for figure in text.prose.figures()} == {"o"}


def test_a_page_by_rules_is_told_anew_as_a_whole():
    drawn = draft([TABLE], ReportBody(title="T")).body
    assert [one.says for one in wordings(drawn, [TABLE])] == ["Visits"], "the table's name is all that somebody wrote"
    template = kept(drawn, stays=frozenset(one.tile for one in wordings(drawn, [TABLE]))).template
    about = subject(OTHER, "o")
    page = again(template, about)
    first, headline, lead = [tile for tile in page.bands[0].tiles if as_text(tile)]
    assert not any(tile.is_open() for tile in page.tiles())
    assert headline.says_of and lead.prose == span_of(about)
    assert first.plain == about.table.name


def test_what_plays_no_part_in_the_next_table_is_called_by_what_is_asked_for_it():
    crossed = shown({**PER_BRANCH, "split": {"column": "Kind"}})
    template = kept(page(crossed, *(shown(PER_BRANCH, name) for name in ("bar", "lollipop", "table")))).template
    narrow = subject("Town,Guests\nA,4\nB,5\nC,7\nA,9\n", "o")
    tiles = again(template, narrow).tiles()
    assert tiles[0].is_open() and "{" not in tiles[0].hint and "groups, as “Kind”" in tiles[0].hint


def test_classes_are_as_wide_as_the_next_table_needs():
    spread = {"measures": [{"stat": "count"}], "per": [{"column": "Visits", "by": {"width": 50.0}}]}
    template = kept(page(shown(spread, "histogram"))).template
    far = subject(MONTHS.replace("Visits", "Visitors").replace(",99,", ",990000,"), "o")
    ((name, question),) = asked(again(template, far))
    assert name == "histogram" and question.per[0].by.width > 5_000


def test_words_stay_where_they_are_wanted_and_become_questions_where_not():
    label = TextTile(id="t1", role="label", text="Visits of the month")
    found = TextTile(id="t2", role="title", text="Visits rose by 16 %")
    body = page(label, found, shown(PER_BRANCH))
    assert [(one.tile, one.stays) for one in wordings(body)] == [("t1", True), ("t2", False)]
    template = kept(body, stays=frozenset({"t1"}), asks={"t2": "What rose?"}).template
    first, second = (tile for tile in again(template, TOWNS).tiles() if as_text(tile))
    assert (first.plain, first.is_open()) == ("Guests of the month", False)
    assert (second.plain, second.hint, second.is_open()) == ("", "What rose?", True)


def test_what_looks_for_a_word_that_the_other_table_does_not_hold_is_kept_open_and_not_nought():
    question = {**PER_BRANCH, "where": [{"column": "Kind", "test": "in", "values": ["Adult"]}]}
    template = kept(page(shown(question, card=Card(says="Adults")))).template
    assert asked(again(template))
    (tile,) = again(template, TOWNS).tiles()
    assert tile.is_open() and tile.card is not None and not tile.card.says


def test_groups_that_it_names_are_those_of_the_same_name_or_else_of_the_same_place():
    one = {"measures": [{"stat": "sum", "column": "Visits"}]}
    sides = [
        part
        for name in ("Brack Harbour", "Elmstow")
        for part in (
            TextTile(id=name[:3].lower(), role="label", text=f"In {name}"),
            shown({**one, "where": [{"column": "Branch", "test": "in", "values": [name]}]}, "kpi"),
        )
    ]
    per = shown(PER_BRANCH)
    template = kept(page(per, *sides), stays=frozenset({"bra", "elm"})).template
    assert template.groups == ("Brack Harbour", "Elmstow")

    def named(about):
        body = again(template, about)
        asked_for = [question.where[0].values for _, question in asked(body) if question.where]
        return [tile.plain for tile in body.tiles() if tile.type == "text"], asked_for

    assert named(TABLE) == (["In Brack Harbour", "In Elmstow"], [("Brack Harbour",), ("Elmstow",)])
    # Elmstow leads where the harbour has closed, and stays what it is.
    shut = subject("\n".join(line for line in MONTHS.splitlines() if "Brack" not in line))
    assert named(shut) == (["In Alder Lane", "In Elmstow"], [("Alder Lane",), ("Elmstow",)])
    assert named(TOWNS)[1] == [("Brack Harbour",), ("Kirk",)]


def test_what_is_added_up_of_one_column_is_not_added_up_of_another():
    rated = OTHER.replace("Guests", "Rating (1-5)")
    template = kept(page(shown({"measures": [{"stat": "sum", "column": "Visits"}]}, "kpi"))).template
    about = subject(rated, "o")
    body = filled(template, [about], ReportBody(title="T"), chosen={"amount": "Rating (1-5)"}).body
    assert [question.measures[0].stat for _, question in asked(body)] == ["mean"]


def test_targets_and_marked_names_stay_with_the_report_and_looks_go_along():
    tile = shown(PER_BRANCH)
    options = {"target": 500, "label": "Visits we hoped for"}
    body = page(tile, shown({"measures": [{"stat": "sum", "column": "Visits"}]}, "kpi", options=options))
    figures = [tile for tile in map(as_visual, again(kept(body).template, TOWNS).tiles()) if tile.visual == "kpi"]
    assert "target" not in figures[0].options and figures[0].options["label"] == "Mean Guests"


def test_lines_join_and_presses_lead_to_the_tiles_and_bands_that_are_there_now():
    boxes = [ShapeTile(id=f"s{n}", place=Frame(column=12 * n, row=0, width=6, height=8)) for n in range(2)]
    line = ConnectorTile(id="line", from_tile="s0", to_tile="s1")
    label = TextTile(id="t1", role="label", text="On", leads_to="#b2", place=Frame(column=0, row=12, width=6, height=3))
    gone = TextTile(id="t2", role="label", text="Off", leads_to="#b9", place=Frame(column=8, row=12, width=6, height=3))
    body = ReportBody(
        title="Joined",
        bands=(
            Band(id="b1", message="One", tiles=(Group(id="g", tiles=tuple(boxes)), line, label, gone)),
            Band(id="b2", message="Two", tiles=(shown(PER_BRANCH),)),
        ),
    )
    page = again(kept(body, stays=frozenset({"t1", "t2"})).template)
    joined = next(tile for tile in page.tiles() if tile.joins())
    assert [page.tile(end).type for end in joined.joins()] == ["shape", "shape"]
    on, off = (tile for tile in page.tiles() if tile.type == "text")
    assert (on.leads_to, off.leads_to) == (f"#{page.bands[1].id}", "")


def test_a_band_alone_and_what_is_not_in_it():
    style = HouseStyle(ink="#112233")
    picture = {"type": "picture", "picture": f"picture:{'a' * 64}"}
    other = shown(PER_BRANCH).model_copy(update={"table": "elsewhere"})
    body = ReportBody.model_validate(
        {
            "title": "Two",
            "style": style.model_dump(),
            "filters": [{"column": "Kind", "test": "in", "values": ["Adult"]}],
            "bands": [
                {"id": "b1", "message": "One", "tiles": [{"type": "text", "text": "Words"}]},
                {
                    "id": "b2",
                    "message": "Where Visits rose",
                    "tiles": [picture, other.model_dump(), shown(PER_BRANCH).model_dump()],
                },
            ],
        }
    )
    found = kept(body, band="b2")
    assert found.template.is_band and len(found.template.bands) == 1 and found.template.look.style == style
    assert len(found.left) == 2 and found.table == "t"
    tiles = again(found.template, TOWNS).tiles()
    assert [tile.is_open() for tile in tiles] == [True, True, False]
    assert found.template.bands[0].message == "Where {amount} rose"
    assert again(found.template, TOWNS).bands[0].message == "Where Guests rose"
    assert len(kept(body).left) == 3


@pytest.mark.parametrize(
    ("body", "band", "says"),
    [
        (ReportBody(title="Empty"), "", "nothing on the page"),
        (page(shown(PER_BRANCH)), "b9", "no longer there"),
    ],
)
def test_what_cannot_be_kept_is_said(body, band, says):
    with pytest.raises(YpsilError, match=says):
        kept(body, band=band)


def test_a_page_without_tables_and_one_whose_table_is_gone():
    words = page(TextTile(role="body", text="Only words"))
    assert kept(words).template.needs == ()
    gone = page(shown(PER_BRANCH).model_copy(update={"table": "gone"}))
    assert [tile.is_open() for tile in again(kept(gone).template).tiles()] == [True]


SOUND = json.loads(template_file(template_called("meeting")))


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "no template"),
        (b"\xff\xfe\x00", "no template"),
        (b"[1, 2]", "no template"),
        (json.dumps({**SOUND, "look": {"palette": "none of these"}}).encode(), "palettes are"),
        (json.dumps({**SOUND, "bands": []}).encode(), "bands"),
        (json.dumps({**SOUND, "needs": []}).encode(), "no need has the role"),
        (json.dumps({**SOUND, "more": 1}).encode(), "no template"),
        (
            json.dumps(
                {
                    **SOUND,
                    "bands": [
                        {
                            "message": "",
                            "laid": [
                                {
                                    "place": {"column": 0, "row": 0, "width": 3, "height": 3},
                                    "part": {"part": "kept", "tile": {"type": "script"}},
                                }
                            ],
                        }
                    ],
                }
            ).encode(),
            "no kind of tile",
        ),
        (b"{" * 2_000, "no template"),
        (b" " * (5 * 1024 * 1024), "larger than"),
    ],
    ids=range(10),
)
def test_a_file_that_holds_no_template_is_refused_in_words(data, says):
    with pytest.raises(YpsilError, match=says):
        template_from(data)


def test_a_file_whose_tile_cannot_be_is_laid_out_with_a_place_kept():
    part = {"part": "kept", "tile": {"type": "text", "role": "shouting", "text": 7}, "asks": "What?"}
    laid = [{"place": {"column": 0, "row": 0, "width": 3, "height": 3}, "part": part}]
    template = template_from(json.dumps({**SOUND, "bands": [{"message": "", "laid": laid}]}).encode())
    assert [tile.type for tile in again(template).tiles()] == ["spot"]


def test_a_file_of_one_is_filled_from_the_command_line(tmp_path, capsys):
    template, table, out = tmp_path / "ours.json", tmp_path / "towns.csv", tmp_path / "page.svg"
    template.write_bytes(template_file(kept(made("two-sides", about=TABLE).body).template))
    table.write_text(OTHER, encoding="utf-8")
    assert main(["draft", str(table), "--template", str(template), "--out", str(out)]) == 0
    assert json.loads(capsys.readouterr().out)["title"]
    assert "Kirk" in out.read_text(encoding="utf-8")
    template.write_text("{}")
    assert main(["draft", str(table), "--template", str(template), "--out", str(out)]) != 0
    assert "no template" in capsys.readouterr().err


def test_a_page_of_many_bands_and_columns_is_kept_as_far_as_a_template_goes():
    names = [f"Amount {chr(65 + number // 26)}{chr(65 + number % 26)}" for number in range(70)]
    rows = ["Branch," + ",".join(names)] + [
        f"B{row}," + ",".join(str(row * 7 + n) for n in range(70)) for row in range(9)
    ]
    wide = subject("\n".join(rows))
    bands = tuple(
        Band(tiles=(shown({"measures": [{"stat": "mean", "column": name}], "per": [{"column": "Branch"}]}),))
        for name in names
    )
    found = kept(ReportBody(title="Wide", bands=bands), wide)
    assert len(found.template.bands) == 70 and len(found.template.needs) == MOST_NEEDS
    assert template_from(template_file(found.template)) == found.template
    assert len(asked(again(found.template, wide))) == MOST_NEEDS - 1
    assert len(found.left) == 1 and found.left[0].endswith("(11 times)")


def test_a_filter_chooses_by_what_plays_the_part_of_its_column():
    chart = shown(PER_BRANCH)
    body = page(filter_by("t", "Branch", title="Branch"), filter_by("t", "Month", way="period"), chart)
    template = kept(body).template
    own, other = again(template), again(template, TOWNS)
    assert [tile.chooses() and tile.chooses().column for tile in own.tiles()] == ["Branch", "Month", None]
    assert [(tile.chooses().table, tile.chooses().column) for tile in other.tiles() if tile.chooses()] == [
        ("o", "Town"),
        ("o", "Monat"),
    ]
    tables = {"o": TOWNS.table}
    choices = choices_of(other, tables, {"town": ["Kirk"]})
    assert choices.query() == "town=Kirk" and compose(other, tables, choices=choices).problems() == []
