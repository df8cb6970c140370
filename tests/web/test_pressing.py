"""What readers press on a published page: unfolded, played or framed there where that is allowed, else led to."""

import re

import pytest

from tests.web.conftest import change
from ypsil.core.reading import is_allowed
from ypsil.web.publish.services import set_audience

FILM = "https://films.example.org/tour.mp4"
MAP = "https://maps.example.org/branches"


def add(owner, report, **tile):
    band = report.read().bands[0].id
    reply = change(owner, report, {"type": "add_tile", "band": band, "tile": {"id": "it1", **tile}})
    assert reply.status_code == 200, reply.content


def published(stranger, report):
    reply = stranger.get(f"/r/{set_audience(report, 'link').token}/")
    return reply, reply.content.decode()


def part(page):
    return page[page.index('id="at-it1"') :].split('<div class="tile ')[0]


def test_details_unfold_and_their_addresses_lead_there(owner, stranger, report):
    add(owner, report, type="details", head="How <we> counted", says="By hand.\nSee https://example.org/how")
    page = part(published(stranger, report)[1])
    assert re.search(r"<summary>.*How &lt;we&gt; counted</span></summary>", page, re.DOTALL)
    assert '<p>By hand.</p><p>See <a href="https://example.org/how">https://example.org/how</a></p>' in page
    drawing = page[: page.index("</summary>")]
    assert 'aria-hidden="true"' in drawing and "role=" not in drawing


@pytest.mark.parametrize("is_on", [True, False])
def test_a_film_is_played_where_its_host_is_allowed_and_led_to_elsewhere(owner, stranger, report, settings, is_on):
    settings.MEDIA_HOSTS = ["example.org"] if is_on else ["other.example"]
    add(owner, report, type="played", address=FILM, title="A tour", words="Welcome <here>.")
    reply, page = published(stranger, report)
    page = part(page)
    policy = reply.headers["Content-Security-Policy"]
    margin = owner.get(f"/reports/{report.uid}/tiles/it1/").content.decode()
    if is_on:
        assert f'<video class="in-place" controls preload="none" src="{FILM}" aria-label="A tour">' in page
        assert "Welcome &lt;here&gt;." in page and 'class="leads"' not in page
        assert "media-src 'self' https://example.org https://*.example.org" in policy
        assert "MEDIA_HOSTS" not in margin
    else:
        assert "<video" not in page and re.search(rf'<a class="leads" href="{FILM}" rel="noopener nofollow">', page)
        assert "films.example.org" not in policy and "MEDIA_HOSTS" in margin
    # Nothing is played while the report is made.
    assert "<video" not in owner.get(f"/reports/{report.uid}/").content.decode()


def test_a_sound_is_heard_there(owner, stranger, report, settings):
    settings.MEDIA_HOSTS = ["films.example.org"]
    add(owner, report, type="played", address="https://films.example.org/talk.ogg", title="A talk")
    assert "<audio" in part(published(stranger, report)[1])


@pytest.mark.parametrize("is_on", [True, False])
def test_a_page_is_framed_where_its_host_is_allowed(owner, stranger, report, settings, is_on):
    settings.FRAME_HOSTS = ["maps.example.org"] if is_on else []
    add(owner, report, type="framed", address=MAP, title='Where "we" are')
    reply, page = published(stranger, report)
    page = part(page)
    assert (f'<iframe class="in-place" src="{MAP}" title="Where &quot;we&quot; are" sandbox=' in page) == is_on
    assert ('class="leads"' in page) != is_on
    assert ("frame-src" in reply.headers["Content-Security-Policy"]) == is_on


@pytest.mark.parametrize(
    ("address", "allowed"),
    [
        ("https://example.org/a.mp4", True),
        ("https://films.example.org/a.mp4", True),
        ("http://example.org/a.mp4", False),
        ("https://badexample.org/a.mp4", False),
        ("https://example.org.evil.test/a.mp4", False),
        ("https://evil.test/?example.org", False),
        ("https://example.org@evil.test/a.mp4", False),
        ("javascript://example.org/%0aalert(1)", False),
    ],
)
def test_only_hosts_that_are_named_are_allowed(address, allowed):
    assert is_allowed(address, ["example.org"]) is allowed


def test_a_tile_points_to_a_source_and_readers_get_there(owner, stranger, report):
    add(owner, report, type="sources", more=[{"id": "one", "words": "Town archive"}])
    margin = owner.get(f"/reports/{report.uid}/tiles/c1/").content.decode()
    assert "Town archive" in margin[margin.index("to-point-to") :]
    cites = {"cites": [{"typed": "one"}]}
    assert change(owner, report, {"type": "change_tile", "tile": "c1", "changes": cites}).status_code == 200
    page = published(stranger, report)[1]
    assert '<a class="cites" href="#at-it1"><span class="visually-hidden">Sources: 2</span></a>' in page
    margin = owner.get(f"/reports/{report.uid}/tiles/c1/").content.decode()
    assert 'aria-pressed="true"' in margin[margin.index("to-point-to") :]


def test_sources_are_typed_in_lines_and_shown_so_again(owner, report):
    add(owner, report, type="sources")
    edit = {"type": "change_tile", "tile": "it1", "changes": {"more": "Town archive\n\nInterview"}}
    assert change(owner, report, edit).status_code == 200
    margin = owner.get(f"/reports/{report.uid}/tiles/it1/").content.decode()
    assert re.search(r'<textarea id="tile-more"[^>]*>Town archive\nInterview</textarea>', margin)


def test_corners_of_a_polygon_are_shown_in_the_margin(owner, report):
    add(owner, report, type="shape", form="own", corners=[[0, 0], [1, 0.25], [0.5, 1]])
    margin = owner.get(f"/reports/{report.uid}/tiles/it1/").content.decode()
    assert margin.count('role="button" aria-label="Corner') == 3 and 'cy="25.0%"' in margin
