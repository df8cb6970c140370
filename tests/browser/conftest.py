"""The real application in the real browser: a server and its worker of our own, and Debian's Chromium."""

from __future__ import annotations

import fcntl
import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, Locator, Page, expect, sync_playwright

from ypsil.demo.gallery import SECTIONS
from ypsil.web.server import free_port

# Without a graphics card, drawing as one would costs more than drawing plainly.
QUIET = [
    "--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-component-update", "--disable-sync",
]  # fmt: skip
SCREEN = {"width": 1280, "height": 800}
AXE = (Path(__file__).parent / "vendor/axe.min.js").read_text()
START_S = 60
# Shared machines are uneven: patience costs nothing where all is well.
PATIENCE_S = 25
expect.set_options(timeout=1_000 * PATIENCE_S)
# The longest come first: at the end no process waits long for what another began last.
LONGEST = ("test_power_cut", "test_no_page_is_broken", "test_the_whole_line", "test_access", "test_composing")


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    # What needs the database stands before all of them, as no browser may be open there.
    own = [place for place, item in enumerate(items) if item.path.parent == Path(__file__).parent]
    ranks = {name: rank for rank, name in enumerate(LONGEST)}
    ordered = sorted((items[place] for place in own), key=lambda item: ranks.get(item.path.stem, len(LONGEST)))
    for place, item in zip(own, ordered, strict=True):
        items[place] = item


def _as_people_start_it(home: Path | str) -> dict[str, str]:
    """Return what the program is told by its surroundings: none of the settings that the tests made for themselves."""
    own = ("TASK_BACKEND", "DJANGO_SETTINGS_MODULE")
    return {name: said for name, said in os.environ.items() if name not in own} | {"YPSIL_HOME": str(home)}


@contextmanager
def running_demo(made: Path | None = None) -> Iterator[str]:
    """Serve the demo from a home of its own, which may be a copy of one that is made; yield its address."""
    port = free_port(8400 + os.getpid() % 400)
    with tempfile.TemporaryDirectory(prefix="ypsil-browser-") as home:
        environment = _as_people_start_it(home)
        if made:
            shutil.copytree(made, home, dirs_exist_ok=True)
        command = [str(Path(sys.executable).with_name("ypsil")), "demo", "--port", str(port)]
        server = subprocess.Popen(command, env=environment, stdout=subprocess.PIPE, text=True)
        try:
            # The line that people are shown, with the address to open.
            line = server.stdout.readline()
            address = line.split()[3].rstrip("/")
            _wait_until_served(address)
            yield address
        finally:
            server.send_signal(signal.SIGTERM)
            server.wait(timeout=20)


def _wait_until_served(address: str) -> None:
    ends = time.monotonic() + START_S
    while True:
        try:
            urllib.request.urlopen(address + "/sign-in/", timeout=5).close()
            return
        except OSError:
            if time.monotonic() > ends:
                raise


@contextmanager
def launched_browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        # The one without windows draws the same and needs a third of the time; not every machine has it.
        found = shutil.which("chromium-headless-shell") or shutil.which("chromium")
        browser = playwright.chromium.launch(executable_path=found, args=QUIET)
        yield browser
        browser.close()


def sign_in(page: Page, address: str) -> None:
    page.goto(address + "/sign-in/")
    # As a person would: with the words shown on the page.
    name, password = page.get_by_label("Sample sign-in").locator("strong").all_inner_texts()
    page.get_by_label("Username").fill(name)
    page.get_by_label("Password").fill(password)
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("heading", name="Reports")).to_be_visible()


@pytest.fixture(scope="session")
def demo_home(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A home with the demo in it, made by whoever comes first of the processes that the tests run in."""
    shared = tmp_path_factory.getbasetemp()
    if "PYTEST_XDIST_WORKER" in os.environ:
        shared = shared.parent
    home = shared / "demo"
    with (shared / "demo.lock").open("w") as held:
        fcntl.flock(held, fcntl.LOCK_EX)
        if not home.exists():
            begun = shared / "demo.begun"
            environment = _as_people_start_it(begun) | {"YPSIL_DEMO": "1"}
            subprocess.run([sys.executable, "-m", "ypsil.web.prepare"], env=environment, check=True)
            begun.rename(home)
    return home


@pytest.fixture(scope="session")
def server(demo_home: Path) -> Iterator[str]:
    with running_demo(demo_home) as address:
        yield address


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with launched_browser() as found:
        yield found


@pytest.fixture
def page(browser: Browser) -> Iterator[Page]:
    """A window of a person who has never been here; any script failure or refused content fails the test."""
    context = browser.new_context(viewport=SCREEN)
    yield from _watched(context)
    context.close()


def _watched(context: BrowserContext) -> Iterator[Page]:
    """Yield a new page; any script failure or refused content of it fails the test."""
    page = context.new_page()
    problems: list[str] = []
    page.on("pageerror", lambda problem: problems.append(str(problem)))
    page.on("console", lambda said: problems.append(said.text) if "Content Security Policy" in said.text else None)
    yield page
    assert problems == []


@pytest.fixture(scope="session")
def signed_in(browser: Browser, server: str) -> list[Any]:
    """The cookies of the sample author, who signs in once for all tests."""
    context = browser.new_context(viewport=SCREEN)
    sign_in(context.new_page(), server)
    cookies = context.cookies()
    context.close()
    return cookies


@pytest.fixture(scope="session")
def window(browser: Browser) -> Iterator[BrowserContext]:
    """The window of the sample author, who has been here before: what never changes is in its cache."""
    context = browser.new_context(viewport=SCREEN)
    yield context
    context.close()


@pytest.fixture
def author(window: BrowserContext, server: str, signed_in: list[Any]) -> Iterator[Page]:
    """The sample author, signed in, before the first page; nothing is left of what other tests kept in the browser."""
    window.clear_cookies()
    window.add_cookies(signed_in)
    try:
        for page in _watched(window):
            kept = {"origin": server, "storageTypes": "local_storage,indexeddb,service_workers"}
            window.new_cdp_session(page).send("Storage.clearDataForOrigin", kept)
            yield page
    finally:
        window.set_offline(False)
        window.clear_permissions()
        for left in window.pages:
            left.close()


@pytest.fixture
def desk(author: Page, server: str) -> Page:
    """The sample author at the desk."""
    author.goto(server + "/")
    return author


_addresses: dict[tuple[str, str], str] = {}


def open_report(page: Page, server: str, name: str) -> None:
    """Open one of the sample's reports in the editor, as the link on the desk does."""
    if (server, name) not in _addresses:
        desk = page.request.get(server + "/").text()
        found = re.search(rf'<h2><a href="(/reports/[\w-]+/)">[^<]*{name}', desk)
        assert found, f"no report on the desk is called {name}"
        _addresses[server, name] = found[1]
    page.goto(server + _addresses[server, name])
    editor_is_ready(page)


def table_called(page: Page, name: str) -> Locator:
    """Return the link to a table on the desk; a report may be called the same."""
    return page.locator("a[href^='/tables/']", has_text=re.compile(rf"^\s*{re.escape(name)}\s*$"))


def made_report(page: Page, server: str, title: str, edits: Sequence[dict[str, Any]] = ()) -> None:
    """Make a report with some edits, as the pages would, and open it in the editor."""
    asked = page.request.get(f"{server}/reports/new/").text()
    hidden = dict(re.findall(r'<input type="hidden" name="(\w+)" value="([^"]*)"', asked))
    made = page.request.post(f"{server}/reports/new/", form={**hidden, "title": title})
    editor = made.text()
    said = {name: re.search(rf'data-{name}="([^"]*)"', editor) for name in ("csrf", "revision")}
    assert said["csrf"] and said["revision"], "the report was not made"
    for base, edit in enumerate(edits, int(said["revision"][1])):
        reply = page.request.post(
            f"{made.url}edits/",
            data={"base": base, "edit": edit},
            headers={"X-CSRFToken": said["csrf"][1], "Accept": "application/json"},
        )
        assert reply.ok, reply.text()
    page.goto(made.url)
    editor_is_ready(page)


# What the tables of the gallery are called on the desk.
_TABLES = {"visits": "Visits", "survey": "Readers survey"}


def chosen_figure(page: Page, server: str, name: str) -> Locator:
    """Put a visual of the gallery into a report of its own, choose it and return it."""
    table, question, title, options = next(entries[name] for _, entries in SECTIONS if name in entries)
    found = re.search(rf'href="/tables/([\w-]+)/">{_TABLES[table]}<', page.request.get(server + "/").text())
    assert found, f"no table on the desk is called {_TABLES[table]}"
    tile = {"type": "visual", "table": found[1], "question": question, "visual": name, "title": title}
    band = {"message": name, "tiles": [{**tile, "options": options}]}
    made_report(page, server, f"One {name}", [{"type": "clear_page"}, {"type": "add_band", "band": band}])
    page.locator(".tile.visual .pick").click()
    return page.locator("#page .tile.visual")


# Shapes of drawings that say nothing by themselves, and what is folded away, are thousands on some pages, and nothing
# to a checker of pages: they are laid aside while it looks. What is read, pressed or reached by keys stays.
CHECKED = """async ({ kept, within, ...options }) => {
  const drawn = [...document.querySelectorAll('svg *')].filter((one) => !one.querySelector(kept) && !one.matches(kept));
  const aside = [...drawn, ...document.querySelectorAll('details:not([open]) > :not(summary)')];
  const places = aside.map((one) => {
    const place = document.createComment('');
    one.replaceWith(place);
    return place;
  });
  const found = await axe.run(within ?? document, options);
  places.forEach((place, at) => place.replaceWith(aside[at]));
  return found.violations;
}"""


_SAYING = "title, desc, [role], [aria-label], [aria-labelledby], "
_PRESSED = "[tabindex], a, a *, button *"


def checked(
    page: Page,
    options: dict[str, Any],
    *,
    is_read: bool = True,
    within: str | None = None,
) -> list[dict[str, Any]]:
    """Return what axe-core finds wrong on a page with these options, or within one part of it; of drawings that
    are not ``is_read`` only what is pressed counts."""
    if not page.evaluate("typeof axe === 'object'"):
        # Evaluated by the test tool, which the page's own content policy does not bind.
        page.evaluate(AXE)
    kept = _SAYING + _PRESSED if is_read else _PRESSED
    # It is not in the frames of a page, so it need not wait for itself to answer there.
    options = {"resultTypes": ["violations"], "iframes": False, "preload": "runOnly" not in options, **options}
    return page.evaluate(CHECKED, {"kept": kept, "within": within, **options})


def editor_is_ready(page: Page) -> None:
    """The margin is filled by the page's script, which is then listening."""
    expect(page.get_by_role("heading", name="This report")).to_be_visible()


def until(page: Page, expression: str, arg: Any = None) -> None:
    """Ask the page until the expression holds.

    Asked from here each time: what the page would ask itself again is refused by its content security policy.
    """
    ends = time.monotonic() + PATIENCE_S
    while not page.evaluate(expression, arg):
        assert time.monotonic() < ends, f"still not so: {expression}"
        page.wait_for_timeout(50)


def unfold(page: Page) -> None:
    """Unfold all settings of the chosen tile; they stay so."""
    folded = "#margin details[data-topic]:not([open])"
    page.evaluate("(folded) => document.querySelectorAll(folded).forEach((one) => (one.open = true))", folded)


def typed_in(page: Page) -> Locator:
    """Return the text that somebody types in."""
    return page.locator(".typing [contenteditable=true]")


def undo(page: Page, times: int = 1) -> None:
    """Undo as often, each time until the server has done it: a page that is left takes no more steps."""
    for _ in range(times):
        with page.expect_response("**/undo/"):
            page.get_by_role("button", name="Undo").click()


_SEND = """async ([edits, base]) => {
  for (const edit of edits) {
    const reply = await fetch(`${document.body.dataset.report}edits/`, { method: 'POST',
      headers: { 'Content-Type': 'application/json', Accept: 'application/json',
        'X-CSRFToken': document.body.dataset.csrf },
      body: JSON.stringify({ base: base++, edit }) });
    if (!reply.ok) throw new Error(await reply.text());
  }
}"""


def send(page: Page, edits: list[dict[str, Any]]) -> None:
    """Make edits of the report that a page shows, as its script would; the page is to be loaded again."""
    page.evaluate(_SEND, [edits, int(page.locator("body").get_attribute("data-revision") or 0)])
