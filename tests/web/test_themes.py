"""The page of themes: making them, reading answers, and what strangers get."""

import html
import json
import re

import pytest

from tests.web.conftest import arrive, change
from tests.web.test_word_lists import cloud, edits_in, margin  # noqa: F401

COMMENTS = "Branch,Comment\n" + "\n".join(
    f"Dunmere,{text}"
    for text in (
        "The staff were so kind to us",
        "Warm rooms for reading",
        "warm rooms for reading!",
        "Too few chairs",
        "",
    )
)
OF = {"of": "Themes in Comment"}


@pytest.fixture
def survey(owner):
    return arrive(owner, COMMENTS, name="survey.csv").table


def send(client, table, **wanted):
    return client.post(f"/tables/{table.uid}/themes/", wanted, content_type="application/json")


def staff(client, table):
    return send(client, table, do="put", column="Comment", theme="Staff", terms=["staff"])


def key_of(page):
    return re.search(r'data-answer="(\w+)"', page)[1]


def test_a_column_of_written_answers_is_chosen_and_its_words_are_listed(owner, survey):
    address = f"/tables/{survey.uid}/themes/"
    assert "?column=Comment" in owner.get(address).content.decode()
    page = owner.get(address, {"column": "Comment"}).content.decode()
    assert "4 answers, 3 different" in page
    # The same words written by two people are one answer to be read.
    assert "Written by 2 people" in page
    assert re.findall(r'value="(\w+)" data-word', page)[:2] == ["reading", "rooms"]
    assert owner.get(address, {"column": "Branches"}).status_code == 404


def test_ticked_words_make_a_theme_and_the_table_a_column(owner, survey):
    reply = staff(owner, survey).json()
    assert reply["said"] == "Put “staff” into the theme “Staff”"
    assert "To be read: 2" in reply["parts"]["lists"]
    survey.refresh_from_db()
    assert survey.read_recipe().steps[0].language == "en"
    page = owner.get(f"/tables/{survey.uid}/").content.decode()
    assert "3 of 4 answers carry no theme" in html.unescape(page)
    assert "themes/?of=Themes%20in%20Comment" in page


def test_answers_are_coded_one_by_one_and_all_of_it_is_taken_back_at_once(owner, survey):
    staff(owner, survey)
    page = owner.get(f"/tables/{survey.uid}/themes/", OF).content.decode()
    first = key_of(page)
    coded = send(owner, survey, **OF, do="decide", key=first, theme="Staff", carries=True).json()
    assert 'aria-pressed="true"' in coded["parts"]["answer"]
    assert "by hand" in coded["parts"]["answer"]
    second = key_of(owner.get(f"/tables/{survey.uid}/themes/", OF).content.decode())
    assert second != first
    assert "To be read: 0" in send(owner, survey, **OF, do="read", key=second).json()["parts"]["lists"]
    survey.refresh_from_db()
    assert survey.recipe_number == 2
    assert set(survey.read_recipe().steps[0].decisions) == {first, second}
    assert "To be read: 2" in send(owner, survey, **OF, do="undo").json()["parts"]["lists"]


def test_the_reading_list_shows_one_theme_or_those_that_were_read(owner, survey):
    staff(owner, survey)
    part = f"/tables/{survey.uid}/themes/part/"
    about = owner.get(part, {**OF, "show": "about Staff"}).json()["parts"]
    assert "About Staff: 1" in about["queue"]
    assert "<mark>staff</mark>" in about["answer"]
    assert "Read, and about none of the themes: 0" in owner.get(part, {**OF, "show": "read"}).json()["parts"]["queue"]
    assert "All answers: 3" in owner.get(part, {**OF, "show": "all"}).json()["parts"]["queue"]
    phrases = owner.get(part, {**OF, "words": "", "length": "2"}).json()["parts"]["words"]
    assert 'value="Warm rooms" data-word' in phrases
    # A theme may be called like a list.
    send(owner, survey, **OF, do="put", theme="read", terms=["warm"])
    assert "About read: 1" in owner.get(part, {**OF, "show": "about read"}).json()["parts"]["queue"]


def test_what_cannot_be_done_is_said_and_changes_nothing(owner, survey):
    staff(owner, survey)
    assert (
        send(owner, survey, **OF, do="put", theme="", terms=["x"]).json()["message"].startswith("The theme has no name")
    )
    assert send(owner, survey, **OF, do="decide", key="0" * 16, theme="Staff").status_code == 422
    assert send(owner, survey, of="Elsewhere", do="read", key="0").status_code == 422
    assert owner.post(f"/tables/{survey.uid}/themes/", "{", content_type="application/json").status_code == 400
    survey.refresh_from_db()
    assert survey.recipe_number == 1


def test_no_one_else_finds_the_themes(owner, other, stranger, survey):
    staff(owner, survey)
    for client, status in ((other, 404), (stranger, 302)):
        assert client.get(f"/tables/{survey.uid}/themes/", OF).status_code == status
        assert client.get(f"/tables/{survey.uid}/themes/part/", OF).status_code == status
        assert staff(client, survey).status_code == status


def put(client, report, tile="w1", **wanted):
    address = f"/reports/{report.uid}/tiles/{tile}/themes/"
    return client.post(address, wanted, content_type="application/json", headers={"accept": "application/json"})


def test_words_ticked_beside_a_cloud_become_a_theme_with_what_is_counted_as_them(owner, other, report, cloud):  # noqa: F811
    words = {"merges": {"soyl": "soil"}, "merge": "stem"}
    question = {"measures": [{"stat": "count"}], "per": [{"column": "Note", "by": "word", "words": words}]}
    edit = {"type": "change_tile", "tile": "w1", "changes": {"question": question}}
    assert change(owner, cloud, edit).status_code == 200
    reply = put(owner, cloud, theme="Ground", terms=["soil"]).json()
    assert reply["said"] == "Put “soil” and “soyl” into the theme “Ground”."
    draw = edits_in(margin(owner, cloud))["Draw how many answers carry each theme"]
    assert change(owner, cloud, draw).status_code == 200
    page = owner.get(f"/reports/{cloud.uid}/").content.decode()
    assert "Themes in Note" in page
    # Four different notes of five speak of the ground, each twice.
    assert "Ground" in page and "80%" in page
    assert put(owner, cloud, theme="Ground", terms=[]).json()["message"].startswith("No word is ticked")
    assert put(owner, report, "c1", theme="x", terms=["y"]).status_code == 422
    assert put(owner, cloud, "none", theme="x", terms=["y"]).status_code == 404
    assert put(other, cloud, theme="x", terms=["y"]).status_code == 404
    assert json.loads(put(owner, cloud, theme="", terms=["x"]).content)["message"]
