"""The list beside a cloud: terms, the answers behind them, and edits of single terms."""

import html
import json
import re

import pytest

from tests.web.conftest import arrive, change
from ypsil.core.report import VisualTile
from ypsil.core.report.edits import AddTile
from ypsil.web.compose.edits import apply_edit, create_report

NOTES = "Pupil,Note\n" + "\n".join(
    f"{index},{text}"
    for index, text in enumerate(
        ["The worms made good soil", "Soil is <b>warm</b>", "Worms like soil", "We liked the worms best", "soyl"] * 2
    )
)


@pytest.fixture
def cloud(owner):
    table = arrive(owner, NOTES, name="notes.csv").table
    made = create_report(owner.user, "Notes")
    question = {"measures": [{"stat": "count"}], "per": [{"column": "Note", "by": "word"}]}
    tile = VisualTile.model_validate({"id": "w1", "table": table.uid, "question": question, "visual": "cloud"})
    edit = AddTile(band=made.read().bands[0].id, tile=tile)
    return apply_edit(made.pk, owner.user, edit.model_dump(mode="json"), 0)


def margin(owner, report):
    return owner.get(f"/reports/{report.uid}/tiles/w1/").content.decode()


def panel(owner, report, term, **more):
    return owner.get(f"/reports/{report.uid}/tiles/w1/words/", {"term": term, **more})


def edits_in(page):
    found = re.findall(r'data-edit="([^"]*)"[^>]*>([^<]*)', page)
    return {label.strip(): json.loads(html.unescape(edit)) for edit, label in found}


def test_the_margin_lists_terms_with_counts_answers_and_shares(owner, cloud):
    page = margin(owner, cloud)
    rows = re.findall(r'data-term="(\w+)">\w+</button></td><td>(\d+)</td><td>(\d+)</td><td>(\d+%)</td>', page)
    assert rows[:2] == [("soil", "6", "6", "60%"), ("worms", "6", "6", "60%")]


def test_a_term_shows_its_answers_with_it_marked_and_nothing_of_them_runs(owner, cloud):
    page = panel(owner, cloud, "soil").content.decode()
    assert "6 uses in 6 answers, 60% of all" in page
    assert "<mark>Soil</mark> is &lt;b&gt;warm&lt;/b&gt;" in page
    assert "The worms made good <mark>soil</mark>" in page
    assert panel(owner, cloud, "soil", by="before").content != panel(owner, cloud, "soil").content


def test_leaving_out_merging_and_colours_are_edits_that_can_be_undone(owner, cloud):
    for label in ("Leave it out", "Keep “like soil” together"):
        edit = edits_in(panel(owner, cloud, "soil").content.decode())[label]
        assert change(owner, cloud, edit).status_code == 200, label
        assert "Take back" in margin(owner, cloud)
        owner.post(f"/reports/{cloud.uid}/undo/")
        assert "Take back" not in margin(owner, cloud)
    slip = edits_in(margin(owner, cloud))["“soyl” as “soil”"] if "“soyl” as “soil”" in margin(owner, cloud) else None
    assert slip is None, "two of eight is no rare spelling"
    colour = {"type": "set_options", "tile": "w1", "options": {"colours": {"soil": 5}}}
    before = owner.get(f"/reports/{cloud.uid}/").content
    assert change(owner, cloud, colour).status_code == 200
    assert owner.get(f"/reports/{cloud.uid}/").content != before
    assert 'aria-label="Colour 5" title="Colour 5" aria-current="true"' in panel(owner, cloud, "soil").content.decode()


def test_a_term_that_is_gone_is_said_and_other_tiles_have_none(owner, other, report, cloud):
    assert "not counted now" in panel(owner, cloud, "nowhere").content.decode()
    assert owner.get(f"/reports/{report.uid}/tiles/c1/words/?term=soil").status_code == 404
    assert panel(other, cloud, "soil").status_code == 404
    assert "data-term" not in owner.get(f"/reports/{report.uid}/tiles/c1/").content.decode()


def test_words_compared_between_groups_are_drawn_as_words_that_mark_them_and_back(owner, cloud):
    page = margin(owner, cloud)
    offered = edits_in(page)
    compare = next(edit for label, edit in offered.items() if label == "Pupil, low against high")
    assert change(owner, cloud, compare).status_code == 200
    cloud.refresh_from_db()
    tile = cloud.read().tile("w1")
    assert (tile.visual, tile.question.order.by) == ("marking_words", "keyness")
    back = edits_in(margin(owner, cloud))["nothing: take the split away"]
    assert change(owner, cloud, back).status_code == 200
    cloud.refresh_from_db()
    assert cloud.read().tile("w1").visual == "cloud"


def test_what_a_text_repeats_is_said_for_few_texts_and_for_the_report_itself(owner, cloud):
    page = html.unescape(margin(owner, cloud))
    assert re.search(r"“worms” <span class=\"hint\">6 times, at the closest \d+ words? apart", page)
    text = {"type": "text", "role": "body", "text": "Our garden gate. The garden gate is open, the garden is ours."}
    band = cloud.read().bands[0].id
    assert change(owner, cloud, {"type": "add_tile", "band": band, "tile": text}).status_code == 200
    margin_of_report = html.unescape(owner.get(f"/reports/{cloud.uid}/margin/").content.decode())
    assert '“garden” <span class="hint">3 times, at the closest 2 words apart, mostly 3' in margin_of_report
    assert '“garden gate” <span class="hint">2 times' in margin_of_report
