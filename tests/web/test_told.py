"""What is told in order as readers get it: seen as a drawing, heard as a list; typed and fed in the margin."""

import json
import re

from tests.web.conftest import change
from ypsil.web.publish.services import set_audience

ENTRIES = [{"head": "Come in", "text": "Any <day>"}, {"head": "Get a card", "figure": "free"}, {}]


def add(owner, report, **tile):
    band = report.read().bands[0].id
    edit = {"type": "add_tile", "band": band, "tile": {"id": "told1", **tile}}
    return change(owner, report, edit)


def test_readers_hear_a_list_and_see_a_drawing(owner, stranger, report):
    assert add(owner, report, type="steps", entries=ENTRIES).status_code == 200
    token = set_audience(report, "link").token
    page = stranger.get(f"/r/{token}/").content.decode()
    listed = re.search(r'<ol class="spoken" aria-label="steps">(.*?)</ol>', page).group(1)
    assert listed == "<li>Come in: Any &lt;day&gt;</li><li>free, Get a card</li>"
    tile = page[page.index("t-told1") :]
    assert 'aria-hidden="true"' in tile[: tile.index("<ol")] and "role=" not in tile[: tile.index("<ol")]


def test_the_margin_offers_tables_and_the_columns_that_can_say_something(owner, report, table):
    add(owner, report, type="timeline", entries=[{}, {}])
    page = owner.get(f"/reports/{report.uid}/tiles/told1/").content.decode()
    assert page.count("data-entry>") == 2 and 'data-part="figure"' in page
    assert table.name in page[page.index("Or from a table") :]
    feed = {"table": table.uid, "head": "Branch", "figure": "Day", "by": "Day", "most": 4}
    assert change(owner, report, {"type": "change_tile", "tile": "told1", "changes": {"feed": feed}}).status_code == 200
    page = owner.get(f"/reports/{report.uid}/tiles/told1/").content.decode()
    assert re.search(r'id="feed-figure"[^>]*>.*?<option value="Day" selected>', page, re.DOTALL)
    editor = owner.get(f"/reports/{report.uid}/").content.decode()
    assert "5 Jan 2026, Alder Lane" in editor


def test_only_some_rows_are_told_where_the_margin_says_so(owner, report, table):
    feed = {"table": table.uid, "head": "Kind", "figure": "Visits", "by": "Visits", "descending": True}
    add(owner, report, type="points", feed=feed)
    page = owner.get(f"/reports/{report.uid}/tiles/told1/").content.decode()
    choices = page[page.index('id="feed-where"') :]
    condition = re.search(r'<option value="([^"]*)">Alder Lane<', choices).group(1).replace("&quot;", '"')
    changes = {"feed": {**feed, "where": json.loads(condition)}}
    assert change(owner, report, {"type": "change_tile", "tile": "told1", "changes": changes}).status_code == 200
    told = owner.get(f"/reports/{report.uid}/preview/").content.decode()
    listed = re.search(r'<ol class="spoken"[^>]*>(.*?)</ol>', told[told.index("at-told1") :]).group(1)
    assert listed.count("<li>") == 2
    page = owner.get(f"/reports/{report.uid}/tiles/told1/").content.decode()
    assert re.search(r'<option value="[^"]*" selected>Alder Lane<', page)


def test_more_entries_than_there_can_be_are_refused_in_words(owner, report):
    add(owner, report, type="steps", entries=[{"head": "One"}])
    edit = {"type": "change_tile", "tile": "told1", "changes": {"entries": [{"head": str(n)} for n in range(61)]}}
    reply = change(owner, report, edit)
    assert reply.status_code == 422 and "60" in reply.json()["message"]


def test_what_no_longer_fits_is_said_in_the_margin(owner, report):
    add(owner, report, type="sides", look="facing", entries=[{"head": name} for name in ("A", "B", "C")])
    page = owner.get(f"/reports/{report.uid}/tiles/told1/").content.decode()
    assert "Only the first 2 sides are compared here" in page


def test_a_colour_that_there_is_not_is_refused_and_the_page_stays(owner, report):
    for number, kind in enumerate(("sign", "code")):
        band = report.read().bands[0].id
        tile = {"id": f"s{number}", "type": kind, "colour": '"/><script>'}
        reply = change(owner, report, {"type": "add_tile", "band": band, "tile": tile})
        assert reply.status_code in (400, 422)
    assert owner.get(f"/reports/{report.uid}/").status_code == 200
