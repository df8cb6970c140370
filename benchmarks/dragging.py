"""The bench in Chromium with 100 tiles: frames while one is dragged and resized, by Chromium's own tracing, the time
until the report stands there, and an edit from letting go to the patch. ``python -m benchmarks.dragging``."""

from __future__ import annotations

import itertools
import json
import statistics
import time
from typing import Any

from playwright.sync_api import Browser, Page
from tests.browser.conftest import SCREEN, launched_browser, running_demo, send, sign_in

BANDS, TILES_IN_BAND, STEPS, RUNS = 10, 10, 240, 5

_PULL = """([x, y, steps]) => new Promise((done) => {
  const send = (on, type, px, py) => on.dispatchEvent(new PointerEvent(type, {
    clientX: px, clientY: py, pointerId: 1, bubbles: true, isPrimary: true, pointerType: 'mouse',
  }));
  send(document.elementFromPoint(x, y), 'pointerdown', x, y);
  let step = 0;
  const timer = setInterval(() => {
    step += 1;
    send(window, 'pointermove', x + 2 * step, y + 1.5 * step);
    if (step < steps) return;
    clearInterval(timer);
    window.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }));
    send(window, 'pointerup', x, y);
    done();
  }, 8);
})"""


def main() -> None:
    with running_demo() as address, launched_browser() as browser:
        page = browser.new_context(viewport=SCREEN).new_page()
        sign_in(page, address)
        _hundred_tiles(page, address)
        begun = time.perf_counter()
        page.reload(wait_until="load")
        page.locator("#margin h2").first.wait_for()
        print(f"a report of {BANDS * TILES_IN_BAND} tiles stands there after {time.perf_counter() - begun:.2f} s")
        print("dragging:", _median([_frames(browser, page, _drag) for _ in range(RUNS)]))
        page.locator("[data-tile=t0x1] [data-pick]").click()
        page.locator("[data-frame] [data-edge=se]").wait_for()
        print("resizing:", _median([_frames(browser, page, _resize) for _ in range(RUNS)]))
        page.locator("[data-tile=t0x1] [data-pick]").focus()
        begun = time.perf_counter()
        with page.expect_response("**/edits/"):
            page.keyboard.press("ArrowDown")
        print(f"an edit by a key, its pause of 0.26 s within: {time.perf_counter() - begun:.2f} s")


def _hundred_tiles(page: Page, address: str) -> None:
    """Make a report of 100 charts, each a copy of one of the demo's."""
    page.get_by_role("link", name="Brackenshire Libraries: how the month went").click()
    page.locator("#margin h2").first.wait_for()
    page.locator("[data-tile][data-kind=visual] [data-pick]").nth(2).click()
    page.locator("[data-copied]").wait_for(state="attached")
    chart: dict[str, Any] = json.loads(page.locator("[data-copied]").text_content() or "[]")[0]
    page.goto(f"{address}/reports/new/")
    page.get_by_label("Title").fill("A hundred tiles")
    page.get_by_role("button", name="Start").click()
    page.locator("#margin h2").first.wait_for()
    edits: list[dict[str, Any]] = [{"type": "clear_page"}]
    for band in range(BANDS):
        tiles = [
            chart
            | {
                "id": f"t{band}x{place}",
                "card": None,
                "place": {"column": place % 4 * 6, "row": place // 4 * 30, "width": 6, "height": 26},
            }
            for place in range(TILES_IN_BAND)
        ]
        edits.append({"type": "add_band", "band": {"id": f"b{band}", "tiles": tiles}})
    send(page, edits)


def _drag(page: Page) -> None:
    box = page.locator("[data-tile=t0x1]").bounding_box()
    assert box
    _pull(page, box["x"] + 60, box["y"] + 60)


def _resize(page: Page) -> None:
    box = page.locator("[data-frame] [data-edge=se]").bounding_box()
    assert box
    _pull(page, box["x"] + 12, box["y"] + 12)


def _pull(page: Page, x: float, y: float) -> None:
    """Press, pull, and give it up, so that the page is as it was. The pointer is moved from within the page, as often
    as a mouse tells of it: what a test tool sends waits for a frame each time, and would be measured instead."""
    page.evaluate(_PULL, [x, y, STEPS])


def _frames(browser: Browser, page: Page, pull: Any) -> list[float]:
    """Return how long each frame was shown while something was pulled, in ms."""
    browser.start_tracing(page=page, categories=["disabled-by-default-devtools.timeline.frame"])
    pull(page)
    events = json.loads(browser.stop_tracing())["traceEvents"]
    drawn = sorted(event["ts"] / 1000 for event in events if event["name"] == "DrawFrame")
    return [after - before for before, after in itertools.pairwise(drawn)]


def _median(runs: list[list[float]]) -> str:
    """Return the run whose longest frame is the middle one, in words."""
    run = sorted(runs, key=max)[len(runs) // 2]
    return (
        f"{len(run)} frames, median {statistics.median(run):.1f} ms, 95 of 100 within "
        f"{sorted(run)[int(len(run) * 0.95)]:.1f} ms, the longest {max(run):.1f} ms"
    )


if __name__ == "__main__":
    main()
