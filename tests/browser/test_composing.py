"""A whole infographic from nothing: one by mouse, one by the keyboard alone."""

from playwright.sync_api import expect

from tests.browser.conftest import editor_is_ready, send, typed_in, until
from tests.browser.test_bench import places


def from_nothing(page, server, title):
    page.goto(f"{server}/")
    page.locator("a[href='/reports/new/']").first.click()
    page.get_by_label("Title").fill(title)
    page.locator("main form button").last.click()
    editor_is_ready(page)


def bands(page):
    return page.locator("#page [data-band]")


def overlaps(page):
    """Return pairs of tiles of one band that lie over each other."""
    found = places(page)
    pairs = []
    for one, (column, row, width, height, band) in found.items():
        for other, (left, top, wide, high, home) in found.items():
            apart = column + width <= left or left + wide <= column or row + height <= top or top + high <= row
            if one < other and band == home and not apart:
                pairs.append((one, other))
    return pairs


def test_an_infographic_from_nothing_by_mouse(author, server):
    page = author
    from_nothing(page, server, "By mouse")
    labels = []
    for number in range(5):
        before = bands(page).count()
        page.get_by_role("button", name="Ready-made bands …").click()
        offered = page.locator("#ready-made .suggestion[data-edit]")
        expect(offered.first).to_be_visible()
        choice = offered.filter(has_not_text="still to be chosen").nth(2 * number)
        labels.append(choice.locator("strong").inner_text())
        choice.click()
        expect(bands(page)).to_have_count(before + 1)
    assert len(set(labels)) == 5
    # The first band of a new report is typed into where it stands.
    page.locator(".tile.text .pick").first.click()
    typed_in(page).fill("What the year brought")
    page.mouse.click(5, 400)
    expect(page.locator(".tile.text").first).to_have_attribute("data-text", "What the year brought")
    # A band gets a ground, and another visual in the place of one.
    page.locator("#ladder [data-go]").first.click()
    page.locator("#margin").get_by_label("Colour").select_option("deep")
    expect(bands(page).first.locator("[data-ground] svg")).to_be_visible()
    # A tile is dragged to where there is room, and its band is tidied.
    tile = bands(page).nth(2).locator("[data-tile]:has([data-pick])").last
    tile.scroll_into_view_if_needed()
    box = tile.bounding_box()
    page.mouse.move(box["x"] + 20, box["y"] + 20)
    page.mouse.down()
    page.mouse.move(box["x"] + 60, box["y"] + 70, steps=5)
    with page.expect_response("**/edits/"):
        page.mouse.up()
    page.locator("#ladder [data-go]").nth(2).click()
    page.locator("#margin").get_by_role("button", name="Tidy it").click()
    tidy = page.locator("[data-tidy-do]")
    if tidy.is_visible():
        with page.expect_response("**/edits/"):
            tidy.click()
    assert overlaps(page) == []
    expect(page.locator("#page .tile.waiting")).to_have_count(0)
    page.reload()
    editor_is_ready(page)
    expect(page.locator(".tile.text").first).to_have_attribute("data-text", "What the year brought")
    assert bands(page).count() == 6 and page.locator("#page .tile.visual svg").count() > 2


def command(page, name):
    """Do something by its name, as with Ctrl+K."""
    page.keyboard.press("Control+k")
    expect(page.locator("[data-command]")).to_be_focused()
    page.keyboard.type(name)
    page.keyboard.press("Enter")
    expect(page.locator("#commands")).to_be_hidden()


def tab_to(page, selector, most=60):
    """Walk on by Tab until something is reached."""
    for _ in range(most):
        if page.evaluate("(selector) => document.activeElement?.matches(selector) ?? false", selector):
            return
        page.keyboard.press("Tab")
    raise AssertionError(f"{selector} is not reached by Tab")


def test_an_infographic_from_nothing_by_keys_alone(author, server):
    page = author
    from_nothing(page, server, "By keys")
    # The headline is typed.
    page.keyboard.press("F6")
    tab_to(page, ".tile.text .pick")
    page.keyboard.press("Enter")
    expect(typed_in(page)).to_be_focused()
    page.keyboard.press("Control+a")
    page.keyboard.type("What the year brought")
    with page.expect_response("**/edits/"):
        page.keyboard.press("Escape")
    # Four ready-made bands, each chosen by Tab and Enter.
    for number in range(4):
        before = bands(page).count()
        command(page, "Ready-made bands")
        expect(page.locator("#ready-made .suggestion[data-edit]").first).to_be_visible()
        page.locator("#arrangements").focus()
        tab_to(page, "#ready-made .suggestion[data-edit]")
        for _ in range(2 * number):
            page.keyboard.press("Tab")
        page.keyboard.press("Enter")
        expect(bands(page)).to_have_count(before + 1)
        expect(page.locator("#arrangements")).to_be_hidden()
    # A visual is added by what the reader should see.
    count = page.locator("#page [data-tile]").count()
    page.locator("body").press("Escape")
    command(page, "Add something")
    expect(page.locator("#chooser")).to_be_visible()
    tab_to(page, "#chooser [data-purpose], #chooser .purpose, #choices button")
    page.keyboard.press("Enter")
    expect(page.locator("#choices [data-edit]").first).to_be_visible()
    tab_to(page, "#choices [data-edit]", most=120)
    page.keyboard.press("Enter")
    expect(page.locator("#page [data-tile]")).to_have_count(count + 1)
    # It is moved, made wider and put on a card, and the band is tidied.
    until(page, "document.querySelectorAll('#page .tile.chosen').length === 1")
    page.locator("#page .tile.chosen [data-pick]").focus()
    with page.expect_response("**/edits/"):
        page.keyboard.press("ArrowDown")
    with page.expect_response("**/edits/"):
        page.keyboard.press("Shift+ArrowDown")
    with page.expect_response("**/edits/"):
        command(page, "Put on a card")
    expect(page.locator("#page .tile.chosen svg.card")).to_have_count(1)
    assert overlaps(page) == []
    expect(page.locator("#page .tile.waiting")).to_have_count(0)
    page.reload()
    editor_is_ready(page)
    assert bands(page).count() == 5
    expect(page.locator(".tile.text").first).to_have_attribute("data-text", "What the year brought")


def test_a_band_that_is_pressed_while_the_page_changes_is_chosen(author, server):
    page = author
    from_nothing(page, server, "Pressed")
    for message in ("First", "Second"):
        send(page, [{"type": "add_band", "band": {"message": message, "tiles": [{"type": "text", "text": message}]}}])
    rung = page.locator("#ladder [data-go]").nth(1)
    expect(page.locator("#ladder [data-go]")).to_have_count(3)
    box = rung.bounding_box()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    send(page, [{"type": "add_band", "band": {"message": "Third", "tiles": [{"type": "text", "text": "Third"}]}}])
    expect(bands(page)).to_have_count(4)
    page.mouse.up()
    expect(page.locator("#margin").get_by_role("button", name="Tidy it")).to_be_visible()
    expect(page.locator("#ladder [data-go]")).to_have_count(4)
