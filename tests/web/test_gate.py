"""Published pages are handed out before Django is asked, and only what Django answered for everybody."""

import asyncio
import threading

import pytest

from ypsil.web.publish import gate
from ypsil.web.publish.gate import ReadersGate
from ypsil.web.publish.services import set_audience

PAGE = b"<!doctype html>page"


class Site:
    """A site behind the gate: counts what it is asked."""

    def __init__(self, status=200, headers=(), body=PAGE):
        self.asked = 0
        self.status, self.body = status, body
        self.headers = [
            (b"Content-Type", b"text/html"),
            (b"ETag", b'"a"'),
            (b"Content-Security-Policy", b"x"),
            *headers,
        ]

    async def __call__(self, scope, receive, send):
        self.asked += 1
        await send({"type": "http.response.start", "status": self.status, "headers": self.headers})
        await send({"type": "http.response.body", "body": self.body[:5], "more_body": True})
        await send({"type": "http.response.body", "body": self.body[5:]})


def get(entry, path="/r/token/", method="GET", **headers):
    return asyncio.run(asked(entry, path, method, **headers))


async def asked(entry, path="/r/token/", method="GET", **headers):
    found = []

    async def send(message):
        found.append(message)

    named = [(name.replace("_", "-").encode(), value) for name, value in {"host": b"localhost", **headers}.items()]
    scope = {"type": "http", "method": method, "path": path, "scheme": "http", "headers": named}
    await entry(scope, None, send)
    sent = {name.decode().lower(): value for name, value in found[0]["headers"]}
    return found[0]["status"], sent, b"".join(message.get("body", b"") for message in found[1:])


@pytest.fixture
def release(monkeypatch):
    """The number of the latest release, which a test may change."""
    now = {"token": (7, 1)}
    monkeypatch.setattr(gate, "_latest_release", now.get)
    return now


def test_a_page_is_made_once_and_handed_out_as_it_was_until_the_next_release(release):
    site = Site()
    entry = ReadersGate(site)
    first, second = get(entry), get(entry)
    assert (
        first == second == (200, {"content-type": b"text/html", "etag": b'"a"', "content-security-policy": b"x"}, PAGE)
    )
    assert site.asked == 1
    release["token"] = (8, 1)
    get(entry)
    assert site.asked == 2


class SlowSite(Site):
    """Takes a while for its answers, as for a page that nobody has seen yet."""

    async def __call__(self, scope, receive, send):
        await asyncio.sleep(0.05)
        await super().__call__(scope, receive, send)


@pytest.mark.parametrize(("status", "times"), [(200, 1), (503, 50)])
def test_of_many_who_come_at_once_one_has_the_page_made(release, status, times):
    site = SlowSite(status=status)
    entry = ReadersGate(site)

    async def all_at_once():
        return await asyncio.gather(*(asked(entry) for _ in range(50)))

    found = asyncio.run(all_at_once())
    assert {(code, body) for code, _, body in found} == {(status, PAGE)}
    assert site.asked == times, "what cannot be handed out again is asked for by each"


def test_whoever_has_the_page_is_told_that_nothing_changed(release):
    entry = ReadersGate(Site())
    get(entry)
    status, headers, body = get(entry, if_none_match=b'"a"')
    assert (status, body, headers["etag"], "content-type" in headers) == (304, b"", b'"a"', False)
    assert get(entry, if_none_match=b'"old"')[0] == 200


@pytest.mark.parametrize("tag", [b'W/"a"', b'"old", W/"a"', b'"a"', b"*"])
def test_tags_are_compared_weakly_as_compression_on_the_way_makes_them_weak(release, tag):
    """RFC 9110, 13.1.2."""
    for made in (b'"a"', b'W/"a"'):
        site = Site()
        site.headers[1] = (b"ETag", made)
        entry = ReadersGate(site)
        get(entry)
        assert get(entry, if_none_match=tag)[0] == 304


def test_a_page_that_was_compressed_is_not_given_to_whoever_cannot_read_it(release):
    class Compressing(Site):
        async def __call__(self, scope, receive, send):
            is_asked = b"gzip" in dict(scope["headers"]).get(b"accept-encoding", b"")
            self.body = b"compressed" if is_asked else PAGE
            self.headers = [(b"ETag", b'W/"a"'), *([(b"Content-Encoding", b"gzip")] if is_asked else [])]
            await super().__call__(scope, receive, send)

    entry = ReadersGate(Compressing())
    for _ in range(2):
        assert get(entry, accept_encoding=b"gzip, br")[1:] == (
            {"etag": b'W/"a"', "content-encoding": b"gzip"},
            b"compressed",
        )
        assert get(entry)[1:] == ({"etag": b'W/"a"'}, PAGE)
    unchanged = get(entry, accept_encoding=b"gzip", if_none_match=b'"a"')
    assert unchanged == (304, {"etag": b'W/"a"'}, b"")


@pytest.mark.parametrize(
    "site", [Site(status=404), Site(headers=[(b"Set-Cookie", b"a=1")]), Site(status=302), Site(status=500)]
)
def test_what_is_no_page_for_everybody_is_not_handed_out_again(release, site):
    entry = ReadersGate(site)
    for _ in range(2):
        get(entry)
    assert site.asked == 2


@pytest.mark.parametrize(
    ("path", "method"), [("/r/other/", "GET"), ("/r/token/", "POST"), ("/r/token/layout/a.css", "GET"), ("/", "GET")]
)
def test_everything_else_goes_on_to_django(release, path, method):
    site = Site()
    entry = ReadersGate(site)
    get(entry)
    for _ in range(2):
        get(entry, path, method)
    assert site.asked == 3


def test_each_host_is_allowed_by_django_first(release):
    site = Site()
    entry = ReadersGate(site)
    for host in (b"localhost", b"evil.example", b"localhost"):
        get(entry, host=host)
    assert site.asked == 2


@pytest.mark.django_db
def test_a_release_is_found_for_whom_django_has_looked_today(owner, stranger, report):
    publication = set_audience(report, "link")
    assert gate._latest_release(publication.token) is None, "the first reader of a day goes to Django"
    stranger.get(f"/r/{publication.token}/")
    assert gate._latest_release(publication.token) == (publication.latest().pk, publication.pk)
    set_audience(report, "me")
    assert gate._latest_release(publication.token) is None


@pytest.mark.parametrize("readers", [1, 100])
def test_many_who_come_at_once_share_a_look_that_begins_after_they_came(monkeypatch, readers):
    looks, go = [], threading.Event()

    def look(token):
        looks.append(token)
        go.wait(20)
        return (len(looks), 1)

    monkeypatch.setattr(gate, "_latest_release", look)

    async def story():
        lookups = gate._Lookups()
        first = asyncio.create_task(lookups.latest("token"))
        while not looks:
            await asyncio.sleep(0.001)
        # The look of the first has begun: it may not know what was so when these came.
        others = [asyncio.create_task(lookups.latest("token")) for _ in range(readers)]
        await asyncio.sleep(0.01)
        if readers > 1:
            # Who goes away ends the look of nobody else.
            others[0].cancel()
        go.set()
        ended = await asyncio.gather(first, *others, return_exceptions=True)
        assert {one for one in ended if isinstance(one, tuple)} == {(1, 1), (2, 1)} and ended[0] == (1, 1)
        assert looks == ["token"] * 2 and not lookups._looks

    asyncio.run(story())
