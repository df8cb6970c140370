"""200 readers and 20 authors at once for 30 seconds, on this machine alone: how many pages, how fast, and nothing that
fails; and how soon a change reaches 200 pages that are open."""

from __future__ import annotations

import asyncio
import http.cookiejar
import json
import re
import statistics
import time
import urllib.parse
import urllib.request
from collections import Counter
from dataclasses import dataclass, field

READERS, AUTHORS, SECONDS = 200, 20, 30
_PAUSE_S = 1.0
_WAIT_S = 20


@dataclass
class Seen:
    """What was answered, by status, and how long it took, in ms."""

    statuses: Counter[int] = field(default_factory=Counter)
    times: list[float] = field(default_factory=list)

    def said(self) -> str:
        ordered = sorted(self.times)
        middle, late = (ordered[int(part * (len(ordered) - 1))] for part in (0.5, 0.95)) if ordered else (0.0, 0.0)
        told = ", ".join(f"{count:,} × {status}" for status, count in sorted(self.statuses.items()))
        return f"{told}; median {middle:.0f} ms, 95% within {late:.0f} ms"


class Author:
    """Somebody who is signed in, with reports to edit."""

    def __init__(self, site: str) -> None:
        # Read where it is needed: other measurements say first how the program is to be set.
        from ypsil.web import settings

        self.site = site
        self.jar = http.cookiejar.CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))
        page = self.get("/sign-in/")
        token = re.search(r'name="csrfmiddlewaretoken" value="([^"]+)"', page)
        assert token
        self.post(
            "/sign-in/", username=settings.DEMO_NAME, password=settings.DEMO_PASSWORD, csrfmiddlewaretoken=token[1]
        )

    def get(self, path: str) -> str:
        return self.opener.open(self.site + path, timeout=30).read().decode()

    def post(self, path: str, **form: str) -> tuple[str, str]:
        asked = urllib.request.Request(self.site + path, urllib.parse.urlencode(form).encode())
        answer = self.opener.open(asked, timeout=30)
        return answer.url, answer.read().decode()

    def cookies(self) -> str:
        return "; ".join(f"{one.name}={one.value}" for one in self.jar)

    def made(self, title: str) -> tuple[str, str, int]:
        """Make a report; return its path, the token of its forms and its revision."""
        hidden = dict(re.findall(r'<input type="hidden" name="(\w+)" value="([^"]*)"', self.get("/reports/new/")))
        address, page = self.post("/reports/new/", **hidden, title=title)
        csrf, revision = (re.search(rf'data-{name}="([^"]*)"', page) for name in ("csrf", "revision"))
        assert csrf and revision
        return urllib.parse.urlsplit(address).path, csrf[1], int(revision[1])


async def asked(site: str, head: str, body: bytes = b"", wait: float = 30) -> tuple[int, bytes]:
    """Send one request and return status and body; the connection is closed behind it."""
    parts = urllib.parse.urlsplit(site)
    reader, writer = await asyncio.open_connection(parts.hostname, parts.port)
    try:
        writer.write(f"{head}\r\nHost: {parts.netloc}\r\nConnection: close\r\n".encode() + b"\r\n" + body)
        await writer.drain()
        answer = await asyncio.wait_for(reader.read(), wait)
    finally:
        writer.close()
    first, _, rest = answer.partition(b"\r\n\r\n")
    return int(first.split(b" ", 2)[1]), rest


async def reader(site: str, link: str, until: float, seen: Seen) -> None:
    while time.monotonic() < until:
        begun = time.perf_counter()
        status, _ = await asked(site, f"GET {link} HTTP/1.1\r\nAccept-Encoding: gzip")
        seen.statuses[status] += 1
        seen.times.append((time.perf_counter() - begun) * 1000)
        await asyncio.sleep(_PAUSE_S)


async def author(site: str, who: Author, report: tuple[str, str, int], until: float, seen: Seen) -> None:
    path, csrf, revision = report
    while time.monotonic() < until:
        edit = {"type": "rename", "title": f"Report at {revision}"}
        body = json.dumps({"base": revision, "edit": edit}).encode()
        head = (
            f"POST {path}edits/ HTTP/1.1\r\nCookie: {who.cookies()}\r\nX-CSRFToken: {csrf}\r\n"
            f"Accept: application/json\r\nContent-Type: application/json\r\nContent-Length: {len(body)}"
        )
        begun = time.perf_counter()
        status, _ = await asked(site, head, body)
        seen.statuses[status] += 1
        seen.times.append((time.perf_counter() - begun) * 1000)
        revision += status == 200
        await asyncio.sleep(_PAUSE_S)


async def open_page(site: str, link: str, told: list[float], ready: asyncio.Semaphore) -> None:
    """Keep a page open until it is told of a newer release, and fetch that."""
    parts = urllib.parse.urlsplit(site)
    stream, writer = await asyncio.open_connection(parts.hostname, parts.port)
    writer.write(f"GET {link}live/ HTTP/1.1\r\nHost: {parts.netloc}\r\nAccept: text/event-stream\r\n\r\n".encode())
    await writer.drain()
    first = ""
    while True:
        line = (await asyncio.wait_for(stream.readline(), _WAIT_S)).decode()
        if line.startswith("data: "):
            if first and line != first:
                break
            if not first:
                ready.release()
            first = line
    writer.close()
    await asked(site, f"GET {link} HTTP/1.1\r\nAccept-Encoding: gzip")
    told.append(time.perf_counter())


async def measured(site: str, who: Author, link: str, reports: list[tuple[str, str, int]]) -> None:
    readers, authors = Seen(), Seen()
    until = time.monotonic() + SECONDS
    await asyncio.gather(
        *(reader(site, link, until, readers) for _ in range(READERS)),
        *(author(site, who, report, until, authors) for report in reports),
    )
    print(f"{READERS} readers for {SECONDS} s: {readers.said()}")
    print(f"{AUTHORS} authors for {SECONDS} s: {authors.said()}")
    assert not [status for seen in (readers, authors) for status in seen.statuses if status >= 500]


async def followed(site: str, who: Author, report: tuple[str, str, int]) -> None:
    """Measure how soon a change is on all pages that are open."""
    path, csrf, revision = report
    who.post(f"{path}publish/", audience="link", csrfmiddlewaretoken=_token(who, path))
    who.post(f"{path}publish/", at_once="1", csrfmiddlewaretoken=_token(who, path))
    found = re.search(r'class="address" href="[^"]*?(/r/[\w-]+/)"', who.get(f"{path}publish/"))
    assert found
    # Whoever has a page open has read it.
    await asked(site, f"GET {found[1]} HTTP/1.1\r\nAccept-Encoding: gzip")
    told: list[float] = []
    ready = asyncio.Semaphore(0)
    pages = [asyncio.create_task(open_page(site, found[1], told, ready)) for _ in range(READERS)]
    for _ in pages:
        await asyncio.wait_for(ready.acquire(), _WAIT_S)
    edit = {"type": "add_band", "band": {"id": "zz", "tiles": [{"type": "text", "text": "Newer"}]}}
    body = json.dumps({"base": revision, "edit": edit}).encode()
    head = (
        f"POST {path}edits/ HTTP/1.1\r\nCookie: {who.cookies()}\r\nX-CSRFToken: {csrf}\r\n"
        f"Accept: application/json\r\nContent-Type: application/json\r\nContent-Length: {len(body)}"
    )
    begun = time.perf_counter()
    await asked(site, head, body)
    await asyncio.gather(*pages)
    late = sorted((one - begun) * 1000 for one in told)
    middle = statistics.median(late)
    print(f"a change on {READERS} open pages: median {middle:.0f} ms, the last {late[-1]:.0f} ms (target 1,000)")


def _token(who: Author, path: str) -> str:
    found = re.search(r'name="csrfmiddlewaretoken" value="([^"]+)"', who.get(f"{path}publish/"))
    assert found
    return found[1]


async def unchanged(site: str, link: str) -> None:
    """Measure how many requests for an unchanged page are answered in a second, with this client beside it."""
    _, body = await asked(site, f"GET {link} HTTP/1.1")
    parts = urllib.parse.urlsplit(site)
    until, done = time.monotonic() + 5, 0

    async def again() -> None:
        nonlocal done
        stream, writer = await asyncio.open_connection(parts.hostname, parts.port)
        tag = b""
        while time.monotonic() < until:
            wanted = b"If-None-Match: " + tag + b"\r\n" if tag else b""
            writer.write(f"GET {link} HTTP/1.1\r\nHost: {parts.netloc}\r\n".encode() + wanted + b"\r\n")
            head = await stream.readuntil(b"\r\n\r\n")
            lines = dict(line.lower().split(b": ", 1) for line in head.split(b"\r\n")[1:] if b": " in line)
            tag = lines.get(b"etag", tag)
            size = int(lines.get(b"content-length", b"0"))
            if b" 304 " not in head.split(b"\r\n")[0] and size:
                await stream.readexactly(size)
            done += 1
        writer.close()

    await asyncio.gather(*(again() for _ in range(8)))
    print(f"an unchanged page: {done / 5:.0f} requests a second (target 500); it has {len(body):,} bytes")


def load() -> None:
    """Serve the demo and measure it; raises AssertionError where anything failed."""
    from tests.browser.conftest import running_demo

    with running_demo() as site:
        who = Author(site)
        reports = [who.made(f"Loaded {number}") for number in range(AUTHORS + 1)]
        for name in ("A year at your libraries",):
            desk = who.get("/")
            at = re.search(rf'href="(/reports/[\w-]+/)"[^>]*>(?:(?!</a>).)*{name}', desk, re.DOTALL)
            assert at, name
            link = re.search(r'class="address" href="[^"]*?(/r/[\w-]+/)"', who.get(f"{at[1]}publish/"))
            assert link
        asyncio.run(unchanged(site, link[1]))
        asyncio.run(measured(site, who, link[1], reports[:AUTHORS]))
        asyncio.run(followed(site, who, reports[-1]))


if __name__ == "__main__":
    load()
