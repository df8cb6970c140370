"""A report out of a text: paragraph by paragraph, with what was chosen beside the words."""

import pytest

from tests.core.test_outline import REPORT
from ypsil.core.tiles import as_text, as_visual
from ypsil.web.compose.models import Report
from ypsil.web.compose.outlines import MOST_DRAWN, MOST_LETTERS, parts_of
from ypsil.web.gather.models import Table

pytestmark = pytest.mark.django_db


def sent(client, do, text=REPORT, **more):
    return client.post("/reports/from-text/", {"text": text, "do": do, **more})


def made(client, text=REPORT, **more):
    reply = sent(client, "make", text, **more)
    assert reply.status_code == 302, reply.content.decode()[:400]
    return Report.objects.get(uid=reply.url.split("/")[-2]).read()


def proposed(text=REPORT):
    return {f"take-{part.place}": part.proposed for part in parts_of(text)}


def test_each_paragraph_is_shown_with_what_could_stand_beside_it(owner):
    assert "Paste a text" in owner.get("/reports/new/").content.decode()
    page = sent(owner, "look").content.decode()
    assert page.count("<legend>Beside it</legend>") == 5 and "Libraries in spring 2026" in page
    assert 'value="0:donut" checked' in page and 'value="0:steps" checked' in page
    assert not Report.objects.exists() and not Table.objects.exists()


def test_the_page_holds_all_words_and_what_was_chosen(owner):
    body = made(owner, **proposed())
    assert body.title == "Libraries in spring 2026"
    said = " ".join(tile.plain for tile in map(as_text, body.tiles()) if tile)
    for words in ("Visits rose from 14,260", "We counted 1,012 people", "Thanks to all who helped", "Cobble Street"):
        assert words in said
    kinds = [tile.type for tile in body.tiles() if not as_text(tile)]
    assert kinds == ["visual", "visual", "steps", "timeline", "visual", "sources"]
    assert Table.objects.count() == 3
    drawn = [tile for tile in map(as_visual, body.tiles()) if tile]
    assert {tile.table for tile in drawn} == set(Table.objects.values_list("uid", flat=True))
    assert [tile.visual for tile in drawn][:2] == ["donut", "donut"]


def test_only_the_text_makes_no_table_and_another_look_is_taken(owner):
    body = made(owner, **dict.fromkeys(proposed(), "text"), title="  Ours ")
    assert body.title == "Ours" and not Table.objects.exists()
    body = made(owner, **{**dict.fromkeys(proposed(), "text"), "take-1": "1:column"})
    assert [tile.visual for tile in map(as_visual, body.tiles()) if tile] == ["column"]


def test_items_of_a_list_are_a_list(owner):
    blocks = [
        block.kind for tile in map(as_text, made(owner).tiles()) if tile and "Cobble" in tile.plain
        for block in tile.prose.blocks
    ]  # fmt: skip
    assert blocks == ["bullet", "bullet"]


@pytest.mark.parametrize("choice", ["9:donut", "0:nothing", "x", "0:script", "-1:bar", ""])
def test_a_choice_that_there_is_not_is_the_text_or_what_suits(owner, choice):
    body = made(owner, "41 per cent came on foot, 29 per cent by bus and 30 per cent by car.", **{"take-0": choice})
    assert any("came on foot" in tile.plain for tile in map(as_text, body.tiles()) if tile)


@pytest.mark.parametrize(("text", "says"), [("  ", "no text"), ("x " * MOST_LETTERS, "at most 60,000 letters")])
def test_a_text_that_cannot_be_laid_out_is_refused_and_stays(owner, text, says):
    for do in ("look", "make"):
        reply = sent(owner, do, text)
        assert reply.status_code == 422 and says in reply.content.decode().lower()
    assert not Report.objects.exists()


def test_hundreds_of_paragraphs_are_asked_for_on_the_page(owner):
    text = "41 per cent came on foot, 29 per cent by bus and 30 per cent by car.\n\n" * 40
    parts = parts_of(text)
    assert sum(bool(part.choices) for part in parts) == MOST_DRAWN and parts[-1].more
    assert "It holds numbers, too" in sent(owner, "look", text).content.decode()


def test_a_hundred_numbers_become_one_table(owner):
    text = "\n".join(f"- Place {number}: {100 + number}" for number in range(120))
    body = made(owner, text, **proposed(text))
    assert len([tile for tile in map(as_visual, body.tiles()) if tile]) == 1


def test_the_heading_that_is_the_title_is_not_said_twice(owner):
    body = made(owner, "Nile\n\nIt flows for 100 years as it was measured at Ashwan.\n\nThat is all of it.")
    said = [tile.plain for tile in map(as_text, body.tiles()) if tile]
    assert body.title == "Nile" and said.count("Nile") == 1
