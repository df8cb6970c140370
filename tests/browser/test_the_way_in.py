"""From signing up to the first chart of one's own data: how many presses, and how long."""

import itertools
import re
import time

from playwright.sync_api import expect

MOST_PRESSES = 6
# The height of the strip on top, in pixels, where nothing in it wraps.
ONE_LINE = 48
BRANCHES, KINDS = ("Alder Lane", "Elmstow", "Dunmere"), ("Adult", "Child")
DATA = "Branch\tKind\tVisits\n" + "\n".join(
    f"{branch}\t{kind}\t{40 * place + 7}" for place, (branch, kind) in enumerate(itertools.product(BRANCHES, KINDS))
)


def test_the_first_own_chart_takes_six_presses_at_most(page, server):
    page.goto(server + "/sign-up/")
    page.get_by_label("Name to sign in with").fill("Maximiliane-Theodora.von.Brackenshire")
    page.get_by_label("Password", exact=True).fill("seven green herons")
    page.get_by_label(re.compile("again|confirm", re.I)).fill("seven green herons")
    page.get_by_role("button", name="Make the account").click()
    begun, presses = time.monotonic(), 0

    def press(found):
        nonlocal presses
        found.click()
        presses += 1

    press(page.get_by_role("link", name="Take in a file").first)
    press(page.get_by_label("Pasted"))
    page.get_by_label("Cells, or answers").fill(DATA)
    press(page.get_by_role("button", name="Take it in"))
    press(page.get_by_role("button", name="Show one thing of it"))
    expect(page.locator("#choices .suggestion svg").first).to_be_visible()
    press(page.locator("#choices button.suggestion").first)
    expect(page.locator("[data-kind=visual] svg").first).to_be_visible()
    print(f"\nfrom the desk to the first own chart: {presses} presses, {time.monotonic() - begun:.1f} s")
    assert presses <= MOST_PRESSES
    strip = page.locator("header.strip")
    for width in (1024, 1280, 1600):
        page.set_viewport_size({"width": width, "height": 800})
        assert strip.evaluate("it => [it.offsetHeight, it.scrollWidth - it.clientWidth]") == [ONE_LINE, 0], width
    page.get_by_role("link", name="Gather").click()
    expect(page.get_by_role("heading", name="What this report is made from")).to_be_visible()
    expect(page.get_by_role("link", name="Pasted table")).to_be_visible()
