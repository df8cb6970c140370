"""Pages as readers chose to see them are made a few at a time, and nobody else waits for them."""

import asyncio
from dataclasses import replace

import pytest

from tests.core.test_turns import settled
from tests.web.test_gate import PAGE, Site
from ypsil.web.publish.in_turn import CHOSEN, FILES, InTurn


class HeldSite(Site):
    """A site that answers when it is let go; ``seen`` are the queries that it was asked."""

    def __init__(self):
        super().__init__()
        self.go = asyncio.Event()
        self.seen = []
        self.heard = []

    async def __call__(self, scope, receive, send):
        self.seen.append(scope["query_string"])
        if scope["query_string"]:
            self.heard.append(await receive())
            await self.go.wait()
        await super().__call__(scope, receive, send)


async def never():
    """A body that is announced and never comes."""
    await asyncio.Event().wait()


async def asked(entry, path="/r/token/", query=b"branch=x", *, client="192.0.2.1", method="GET", send=None, cookie=b""):
    found = []

    async def keep(message):
        found.append(message)

    headers = [(b"cookie", cookie)]
    scope = {"type": "http", "method": method, "path": path, "query_string": query, "client": (client, 1)}
    scope["headers"] = headers
    await entry(scope, never, send or keep)
    return found[0]["status"], dict(found[0]["headers"]), b"".join(one.get("body", b"") for one in found[1:])


def held(run, wait_s=20.0):
    """Run something with a site whose two turns are taken by one who asks often, and whose other addresses wait."""

    async def whole():
        site = HeldSite()
        entry = InTurn(site, replace(CHOSEN, wait_s=wait_s))
        often = [asyncio.create_task(asked(entry, query=b"n=%d" % number)) for number in range(5)]
        await settled()
        assert len(site.seen) == 2
        await run(site, entry)
        site.go.set()
        await asyncio.gather(*often)
        assert (entry.turns.free, entry.turns.waiting) == (2, 0)

    asyncio.run(whole())


def test_who_comes_from_elsewhere_has_the_next_turn():
    async def run(site, entry):
        other = asyncio.create_task(asked(entry, query=b"other=1", client="192.0.2.2"))
        await settled()
        site.go.set()
        assert (await other)[0] == 200
        assert site.seen.index(b"other=1") <= 3

    held(run)


@pytest.mark.parametrize(
    ("path", "query", "method"),
    [
        ("/r/token/", b"", "GET"),
        ("/r/token/live/", b"a=1", "GET"),
        ("/r/token/pictures/abc/", b"small", "GET"),
        ("/r/token/password/", b"a=1", "POST"),
        ("/reports/abc/", b"a=1", "GET"),
        ("/r/token/embed/part/place.css", b"a=1", "GET"),
    ],
)
def test_nothing_else_waits(path, query, method):
    async def run(site, entry):
        before = len(site.seen)
        task = asyncio.create_task(asked(entry, path, query, method=method))
        await settled()
        assert len(site.seen) == before + 1
        task.cancel()

    held(run)


@pytest.mark.parametrize("path", ["/r/token/", "/r/token/layout/abc.css"])
def test_who_waits_too_long_is_told_to_come_again(path):
    async def run(site, entry):
        status, headers, body = await asked(entry, path, client="192.0.2.2")
        assert (status, headers[b"retry-after"], headers[b"cache-control"]) == (503, b"5", b"no-store")
        assert b"default-src 'none'" in headers[b"content-security-policy"]
        assert b"Many are choosing now" in body and len(body) == int(headers[b"content-length"])

    held(run, wait_s=0.01)


def test_what_stands_within_other_sites_stays_as_it_is_where_too_many_choose():
    async def run(site, entry):
        assert (await asked(entry, "/r/token/embed/c1/", client="192.0.2.2"))[::2] == (200, PAGE)
        assert b"" in site.seen

    held(run, wait_s=0.01)


def test_who_takes_the_answer_slowly_holds_nobody_up():
    async def run():
        site = Site()
        entry = InTurn(site, replace(CHOSEN, at_once=1, wait_s=0.05))

        async def slow(message):
            await asyncio.sleep(3600)

        slower = asyncio.create_task(asked(entry, send=slow))
        await settled()
        assert site.asked == 1
        assert (await asked(entry))[0] == 200
        slower.cancel()

    asyncio.run(run())


def test_a_body_that_never_comes_is_not_waited_for():
    async def run(site, entry):
        assert site.heard == [{"type": "http.request", "body": b"", "more_body": False}] * 2

    held(run)


def test_files_are_made_in_turn_of_who_is_signed_in():
    async def story():
        site = HeldSite()
        entry = InTurn(site, FILES)

        def file(number, person):
            cookie = b"theme=dark; sessionid=" + person
            address = f"/reports/abc/files/{'pdf' if number % 2 else 'svg'}/"
            return asyncio.create_task(asked(entry, address, b"tile=%d" % number, cookie=cookie))

        # Behind one address, as in a school.
        often = [file(number, b"one") for number in range(6)]
        await settled()
        other = file(99, b"another")
        await settled()
        site.go.set()
        assert (await other)[0] == 200
        await asyncio.gather(*often)
        assert site.seen.index(b"tile=99") <= 3

    asyncio.run(story())


def test_whoever_waits_too_long_for_a_file_is_told_how_to_have_it():
    async def story():
        site = HeldSite()
        entry = InTurn(site, replace(FILES, wait_s=0.01))
        held_up = [asyncio.create_task(asked(entry, "/reports/abc/files/pdf/", b"band=a")) for _ in range(2)]
        await settled()
        status, headers, body = await asked(entry, "/reports/abc/files/pdf/", b"")
        assert (status, headers[b"retry-after"]) == (503, b"30") and "“Make the file”" in body.decode()
        site.go.set()
        await asyncio.gather(*held_up)

    asyncio.run(story())
