"""Publishing: who sees what."""

import re

import pytest

from tests.factories import VISITS
from tests.web.conftest import arrive, change
from ypsil.web.publish.services import publication_of, set_audience, withdraw_link


@pytest.fixture
def link(report):
    return f"/r/{set_audience(report, 'link').token}/"


def test_only_me_until_it_is_opened(owner, stranger, report):
    address = f"/r/{publication_of(report).token}/"
    assert stranger.get(address).status_code == 404
    owner.post(f"/reports/{report.uid}/publish/", {"audience": "link"})
    assert stranger.get(address).status_code == 200
    owner.post(f"/reports/{report.uid}/publish/", {"audience": "me"})
    assert stranger.get(address).status_code == 404
    owner.post(f"/reports/{report.uid}/publish/", {"audience": "link"})
    assert stranger.get(address).status_code == 200, "the link is stable"


def test_a_stranger_sees_drawings_texts_and_numbers_without_signing_in(stranger, link):
    page = stranger.get(link).content.decode()
    assert re.search(r"<h1[^>]*>.*Visits of the spring.*</h1>", page)
    assert 'role="graphics-document"' in page
    assert page.count('role="graphics-document"') == 2, "one drawing for wide windows, one for phones"
    assert '<th scope="col">Day</th>' in page
    assert "noindex" in page


def test_the_preview_is_exactly_what_a_stranger_sees(owner, stranger, report, link):
    assert owner.get(f"/reports/{report.uid}/preview/").content == stranger.get(link).content


def test_the_link_shows_new_data_and_edits_on_its_next_load(owner, stranger, table, report, link):
    assert "Jan 2026, 200" in stranger.get(link).content.decode()
    arrive(owner, VISITS.replace("120", "920"), table)
    assert "Jan 2026, 1,000" in stranger.get(link).content.decode()
    change(owner, report, {"type": "change_tile", "tile": "c1", "changes": {"title": "Footfall"}})
    assert "Footfall" in stranger.get(link).content.decode()


def test_an_unchanged_page_is_answered_with_304_and_a_changed_one_is_not(owner, stranger, table, link):
    tag = stranger.get(link).headers["ETag"]
    assert stranger.get(link, headers={"if-none-match": tag}).status_code == 304
    arrive(owner, VISITS.replace("120", "920"), table)
    assert stranger.get(link, headers={"if-none-match": tag}).status_code == 200


def test_a_withdrawn_link_stays_dead_and_says_so_like_one_that_never_was(owner, stranger, report, link):
    owner.post(f"/reports/{report.uid}/publish/", {"withdraw": "1"})
    gone = stranger.get(link)
    assert gone.status_code == 404
    assert "withdrawn by its author" in gone.content.decode()
    assert gone.content == stranger.get("/r/never-was/").content
    set_audience(report, "link")
    assert stranger.get(link).status_code == 404
    assert stranger.get(f"/r/{publication_of(report).token}/").status_code == 200


def test_links_cannot_be_guessed(report):
    tokens = {withdraw_link(report).token for _ in range(20)}
    assert len(tokens) == 20
    assert min(map(len, tokens)) >= 32


def test_an_unknown_audience_is_refused(owner, report):
    assert owner.post(f"/reports/{report.uid}/publish/", {"audience": "world"}).status_code == 404
    assert publication_of(report).audience == "me"


@pytest.mark.parametrize(("ending", "start"), [("svg", b"<svg"), ("png", b"\x89PNG"), ("pdf", b"%PDF")])
def test_the_whole_report_comes_as_a_file(owner, report, ending, start):
    reply = owner.get(f"/reports/{report.uid}/files/{ending}/")
    assert reply.content.startswith(start)
    assert f"visits-of-the-spring.{ending}" in reply.headers["Content-Disposition"]
    assert owner.get(f"/reports/{report.uid}/files/exe/").status_code == 404


def test_the_proof_says_which_tile_waits_for_what(owner, table, report):
    assert "Every tile has the data" in owner.get(f"/reports/{report.uid}/proof/").content.decode()
    arrive(owner, VISITS.replace("Visits", "Visitors"), table)
    assert "no column “Visits”" in owner.get(f"/reports/{report.uid}/proof/").content.decode()
