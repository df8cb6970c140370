"""A forgotten password, from the sign-in page to being in again, by the demonstration's outbox."""

import time

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import PATIENCE_S

pytestmark = pytest.mark.browser
ADDRESS = "rowan@example.org"


def fill_passwords(page, password):
    for field in page.locator("input[type=password]").all():
        field.fill(password)


def test_a_forgotten_password_is_chosen_anew_by_a_letter(page, server):
    page.goto(f"{server}/sign-up/")
    page.get_by_label("Name to sign in with").fill("rowan")
    page.get_by_label("Mail address, if you like").fill(ADDRESS)
    fill_passwords(page, "seven green herons")
    page.get_by_role("button", name="Make the account").click()
    page.get_by_role("button", name="Sign out").click()
    page.get_by_role("link", name="The password is forgotten").click()
    page.get_by_label("Mail address").fill(ADDRESS)
    page.get_by_role("button", name="Send the letter").click()
    page.get_by_role("link", name="the outbox").click()
    letter, ends = page.get_by_role("article", name=f"Letter to {ADDRESS}"), time.monotonic() + PATIENCE_S
    # The worker writes it.
    while not letter.count() and time.monotonic() < ends:
        page.wait_for_timeout(200)
        page.reload()
    letter.get_by_role("link").click()
    fill_passwords(page, "eleven grey herons")
    page.get_by_role("button", name="Keep this password").click()
    expect(page.get_by_role("status")).to_contain_text("The password is changed")
    page.get_by_label("Username").fill("rowan")
    page.get_by_label("Password").fill("eleven grey herons")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("heading", name="Reports")).to_be_visible()
