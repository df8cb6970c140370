"""Live figures over the web: what is meant, how it is written, what the margin says of a text."""

import html
import json

import pytest
from django.urls import reverse

from tests.web.conftest import arrive, change
from ypsil.web.compose.edits import create_report

FIGURE = {"question": {"measures": [{"stat": "sum", "column": "Visits"}]}}


def ask(client, report, name="figures", **body):
    reply = client.post(reverse(name, args=(report.uid,)), json.dumps(body), content_type="application/json")
    return reply.status_code, reply.json()


def add(owner, report, text, tile="x1"):
    band = report.read().bands[0].id
    made = {"id": tile, "type": "text", "role": "body", "text": text}
    reply = change(owner, report, {"type": "add_tile", "band": band, "tile": made})
    report.refresh_from_db()
    return reply


def live(table, **more):
    return {"blocks": [{"runs": [{"text": "Visits: "}, {"figure": FIGURE | {"table": table.uid} | more}]}]}


def test_what_is_meant_is_shown_before_it_is_taken(owner, table, report):
    status, data = ask(owner, report, wanted="total visits")
    assert status == 200 and "Total Visits" in data["html"] and "the column Visits" in data["html"]
    taken = data["html"].split('data-take="')[1].split('"')[0]
    assert table.uid in taken


def test_what_nobody_can_mean_is_said(owner, report):
    assert "Nothing in your tables is called that" in ask(owner, report, wanted="xyzzy")[1]["html"]
    assert "What is understood" in ask(owner, report, wanted="")[1]["html"]


def test_how_a_figure_is_written_is_changed_and_said(owner, table, report):
    figure = FIGURE | {"table": table.uid}
    status, data = ask(owner, report, "figure", figure=figure, changes={"shown": {"places": 2}})
    assert status == 200 and data["figure"]["shown"] == {"places": 2} and data["said"]["text"].endswith(".00")
    worded = ask(owner, report, "figure", figure=figure, changes={"words": {"at": 1e9, "below": "under"}})[1]
    assert worded["said"] == {"text": "under", "problem": ""}


@pytest.mark.parametrize("figure", [None, [], {"table": "x"}, {"table": "x", "question": {"measures": []}}, "x"])
def test_what_is_no_figure_is_refused_in_words(owner, report, figure):
    status, data = ask(owner, report, "figure", figure=figure)
    assert status == 422 and data["message"]


def test_a_table_of_somebody_else_is_none(owner, other, table, report):
    said = ask(owner, report, "figure", figure=FIGURE | {"table": "a" * 12})[1]["said"]
    assert said["problem"] == "its table is no longer there"


def test_a_text_is_drawn_with_its_value_and_the_margin_says_what_that_is(owner, table, report):
    assert add(owner, report, live(table)).status_code == 200
    page = owner.get(reverse("report", args=(report.uid,))).content.decode()
    total = ask(owner, report, "figure", figure=FIGURE | {"table": table.uid})[1]["said"]["text"]
    assert f'data-text="Visits: {total}"' in page
    margin = owner.get(reverse("tile-margin", args=(report.uid, "x1"))).content.decode()
    assert "Live figures" in margin and "Total Visits" in margin
    assert table.uid in report.read().tables()


def test_a_number_typed_by_hand_is_offered_with_the_edit_that_makes_it_live(owner, report):
    town = arrive(owner, "Town,People\nA,12345\nB,23456\nC,34567\n", name="towns.csv").table
    add(owner, report, "In all 70,368 people")
    margin = owner.get(reverse("tile-margin", args=(report.uid, "x1"))).content.decode()
    assert "Numbers typed by hand" in margin and "Total People" in margin
    edit = json.loads(html.unescape(margin.split('data-edit="')[1].split('"')[0]))
    assert change(owner, report, edit).status_code == 200
    report.refresh_from_db()
    assert town.uid in report.read().tables()


def test_a_text_with_a_figure_that_is_missing_keeps_the_page_and_tells_its_author(owner, table, report):
    gone = {"question": {"measures": [{"stat": "sum", "column": "Gone"}]}}
    assert add(owner, report, live(table, **gone)).status_code == 200
    page = owner.get(reverse("report", args=(report.uid,))).content.decode()
    assert "not known" in page and "waiting" in page
    margin = owner.get(reverse("tile-margin", args=(report.uid, "x1"))).content.decode()
    assert "It cannot be worked out" in margin


def test_looks_lists_and_links_are_read_out_as_what_they_are(owner, report):
    blocks = [
        {"runs": [{"text": "See "}, {"text": "this", "link": "https://example.org/?a=1&b=2", "looks": ["bold"]}]},
        {"kind": "bullet", "runs": [{"text": "one <b>"}]},
        {"kind": "number", "level": 1, "runs": [{"text": "two"}]},
    ]
    add(owner, report, {"blocks": blocks})
    page = owner.get(reverse("report", args=(report.uid,))).content.decode()
    assert '<a href="https://example.org/?a=1&amp;b=2"><strong>this</strong></a>' in page
    assert "<ul><li>one &lt;b&gt;</li></ul><ol><li>two</li></ol>" in page
    assert '<a tabindex="-1" href="https://example.org/?a=1&amp;b=2"><text' in page


def test_a_link_that_runs_something_is_refused(owner, report):
    reply = add(owner, report, {"blocks": [{"runs": [{"text": "x", "link": "javascript:alert(1)"}]}]})
    assert reply.status_code == 422 and "a link begins with" in reply.json()["message"].lower()


def test_whoever_has_no_tables_is_led_to_bringing_one(owner):
    made = create_report(owner.user, "Empty")
    assert "You have no tables yet" in ask(owner, made, wanted="total visits")[1]["html"]
