"""Themes: words ticked and named, answers read one by one with the keyboard, and all of it taken back."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import editor_is_ready
from tests.browser.test_access import violations


@pytest.fixture
def notes(author, server):
    """The page of themes of the pupils' exit notes, which have none yet."""
    page = author
    page.goto(f"{server}/")
    page.get_by_role("link", name="Exit notes", exact=True).click()
    page.get_by_role("button", name="What I take with me").first.click()
    page.get_by_role("link", name="Find what its answers are about").click()
    expect(page.get_by_role("heading", name="Themes")).to_be_visible()
    return page


def put(page, name, *words):
    for word in words:
        page.get_by_role("checkbox", name=word, exact=True).check()
    page.get_by_label("Into the theme").fill(name)
    page.get_by_label("Into the theme").press("Enter")
    expect(page.get_by_label(f"Name of the theme {name}")).to_be_visible()


def test_answers_are_read_and_given_themes_with_the_keyboard(notes):
    page = notes
    put(page, "Ground", "soil", "sand")
    put(page, "Growing", "roots")
    answer = page.locator("[data-answer]")
    page.get_by_role("button", name=re.compile("^To be read")).click()
    expect(answer).to_be_focused()
    first = answer.get_attribute("data-answer")
    ground = page.get_by_role("button", name="Ground by hand", exact=True)
    page.keyboard.press("1")
    expect(ground).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("1")
    expect(page.get_by_role("button", name="Ground", exact=True)).to_have_attribute("aria-pressed", "false")
    page.keyboard.press("2")
    expect(page.get_by_role("button", name="Growing by hand", exact=True)).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("Enter")
    expect(answer).not_to_have_attribute("data-answer", first)
    expect(answer).to_be_focused()
    page.keyboard.press("ArrowUp")
    expect(answer).to_have_attribute("data-answer", first)
    assert violations(page) == []
    # Typing a name is no shortcut.
    page.get_by_label("A word or phrase more for Growing").fill("12")
    expect(page.get_by_role("button", name="Growing by hand", exact=True)).to_have_attribute("aria-pressed", "true")
    for _ in range(3):
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("status").filter(has_text="Undone")).to_be_visible()
        page.reload()
    expect(page.get_by_text("None yet.")).to_be_visible()


def test_words_ticked_beside_a_cloud_become_a_theme_that_is_drawn(author, server):
    page = author
    page.goto(f"{server}/")
    page.get_by_role("link", name=re.compile("garden club")).first.click()
    editor_is_ready(page)
    page.locator(".tile.visual").filter(has=page.locator("svg text", has_text="worms")).locator("[data-pick]").press(
        "Enter"
    )
    words = page.get_by_role("region", name="Words that are counted")
    words.get_by_role("checkbox", name="Tick “soil”").check()
    name = page.get_by_label("Put the ticked into the theme")
    name.fill("Ground")
    name.press("Enter")
    page.get_by_role("button", name="Draw how many answers carry each theme").click()
    drawn = page.locator(".tile.chosen")
    expect(drawn.locator("svg text", has_text=re.compile("^Ground$"))).to_be_visible()
    page.locator("[data-undo]").click()
    expect(drawn.locator("svg text", has_text=re.compile("^Ground$"))).to_have_count(0)
