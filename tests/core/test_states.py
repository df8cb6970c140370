"""What readers choose in an HTML file by itself: all of it worked out before, bounded, and what is left out is said."""

import json
import re

import html5lib

from tests.core.test_choosing import COLUMNS, COUNT, FRAME, PER_BRANCH, filter_of, report, shown, table, visual
from ypsil.core.export import FORMATS, states
from ypsil.core.reading import tile_markups
from ypsil.core.render import draw_narrow


def held_in(page):
    """Return the states that a file holds, read as its script reads them."""
    text = FORMATS["html"].page(page).decode()
    html5lib.HTMLParser(strict=True, namespaceHTMLElements=False).parse(text)
    found = re.search(r'<script type="application/json" id="states">(.*?)</script>', text, re.DOTALL)
    return json.loads(found[1]) if found else None


def test_each_state_shows_what_the_page_would_show():
    body = report(
        filter_of("Branch"), filter_of("Again", takes="one"), visual("rows", COUNT), visual("bars", PER_BRANCH, "bar")
    )
    held = held_in(shown(body))
    assert [one["stops"] for one in held["dials"]] == [
        ["All", "Alder Lane", "Dunmere", "Elmstow"],
        ["All", "Yes", "No"],
    ]
    assert len(held["states"]) == 12 and held["left"] == []
    for key, asked in (("2.0", "branch=Dunmere"), ("0.2", "again=No"), ("3.1", "branch=Elmstow&again=Yes")):
        page = shown(body, asked)
        wanted = dict(tile_markups(page, draw_narrow(page)))
        for name, several in held["tiles"].items():
            assert several[held["states"][key].get(name, 0)] == wanted[name], (key, name)
    assert held["rows"]["3.1"]["fbra"] == "90 of 360 rows" and held["rows"]["0.0"]["fbra"] == "360 rows"
    assert set(held["tiles"]) == {"rows", "bars"}, "what never changes is held once, and the controls not at all"


def test_what_is_too_much_for_a_file_is_left_out_and_said():
    every = [filter_of(name) for name in ("Branch", "Month", "Age", "Comes for", "Again")]
    held = held_in(shown(report(*every, visual("rows", COUNT))))
    names = [one["name"] for one in held["dials"]]
    count = 1
    for one in held["dials"]:
        count *= len(one["stops"])
    assert names == ["Branch", "Month"] and count == len(held["states"]) <= states.MOST_STATES
    assert held["dials"][0]["note"] == "In this file one at a time."
    assert held["dials"][1]["note"] == "In this file without from – to."
    assert [one["name"] for one in held["left"]] == ["Age", "Comes for", "Again"]
    assert all("nothing to choose here" in one["note"] for one in held["left"])


def test_where_states_take_too_many_letters_the_last_control_is_let_go(monkeypatch):
    body = report(filter_of("Branch"), filter_of("Again"), visual("bars", PER_BRANCH, "bar"), visual("rows", COUNT))
    whole = held_in(shown(body))
    letters = sum(len(one) for several in whole["tiles"].values() for one in several)
    monkeypatch.setattr(states, "MOST_LETTERS", letters - 100)
    assert [one["name"] for one in held_in(shown(body))["dials"]] == ["Branch"]
    monkeypatch.setattr(states, "MOST_LETTERS", 10)
    none = held_in(shown(body))
    assert none["dials"] == [] and len(none["left"]) == 2


def test_a_file_without_filters_holds_none_and_the_same_gives_the_same():
    assert held_in(shown(report(visual("rows", COUNT)))) is None
    body = report(filter_of("Branch"), visual("bars", PER_BRANCH, "bar"))
    assert FORMATS["html"].page(shown(body)) == FORMATS["html"].page(shown(body))


def test_small_groups_are_hidden_in_every_state():
    body = report(filter_of("Branch"), visual("hides", PER_BRANCH | {"least_base": 130}, "bar"), visual("rows", COUNT))
    held = held_in(shown(body))
    for key, of_state in held["states"].items():
        markup = held["tiles"]["rows"][of_state.get("rows", 0)]
        assert ("fewer than 130 people" in markup) == (key != "0"), key


def test_what_stands_in_the_data_ends_no_script():
    nasty = FRAME.with_columns(Branch=FRAME["Branch"].str.replace("Dunmere", "</script><b>x"))
    body = report(filter_of("Branch"), visual("bars", PER_BRANCH, "bar"))
    held = held_in(shown(body, "", {"t": table(nasty, COLUMNS, "Nasty")}))
    assert "</script><b>x" in held["dials"][0]["stops"]
