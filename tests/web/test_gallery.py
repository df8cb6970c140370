"""The gallery: each template drawn with one's own tables, looked at whole, changed in its roles, and taken."""

import re
from urllib.parse import parse_qs, urlsplit

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from tests.core.test_palettes import png
from tests.web.conftest import arrive
from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.templates import templates
from ypsil.core.tiles import as_visual
from ypsil.web.compose import gallery
from ypsil.web.compose.models import Report

pytestmark = pytest.mark.django_db
ROWS = "Month,Branch,Visits,Loans\n" + "".join(
    f"{2024 + month // 12}-{month % 12 + 1:02d}-01,{branch},{90 + 7 * month * place},{30 + month}\n"
    for month in range(24)
    for place, branch in enumerate(("Alder Lane", "Elmstow", "Brack Harbour"))
)


@pytest.fixture
def months(owner):
    return arrive(owner, ROWS).table


def names_in(page):
    return re.findall(r'<h2><a href="/gallery/([\w-]+)/', page)


def test_without_a_table_it_says_so_and_shows_what_belongs_where(owner):
    page = owner.get("/gallery/").content.decode()
    assert "Once you take in a table" in page and set(names_in(page)) == set(templates())
    for name in templates():
        picture = owner.get(f"/gallery/{name}/picture.svg").content.decode()
        assert picture.startswith('<svg class="miniature"'), name
    assert "Take in a file" in owner.get("/gallery/meeting/").content.decode()


def test_those_that_fit_come_first_and_the_others_say_what_they_need(owner, months):
    page = owner.get(f"/gallery/?table={months.uid}").content.decode()
    names = names_in(page)
    assert names[0] == gallery.BY_RULES and set(names[1:]) == set(templates())
    assert names.index("month-in-figures") < names.index("exit-notes")
    assert "Still needs text that people wrote." in page


@pytest.mark.parametrize(
    ("asked", "found", "not_found"),
    [
        ("q=parents", {"leaflet"}, {"meeting"}),
        ("purpose=Compare", {"two-sides"}, {"leaflet"}),
        ("format=dashboard", {"meeting"}, {"exit-notes"}),
        ("q=nothing+of+the+sort", set(), set(templates())),
    ],
)
def test_they_are_found_by_word_purpose_and_page(owner, months, asked, found, not_found):
    names = set(names_in(owner.get(f"/gallery/?table={months.uid}&{asked}").content.decode()))
    assert found <= names and not names & not_found


def test_a_picture_shows_the_authors_own_rows(owner, months):
    picture = owner.get(f"/gallery/ranked-list/picture.svg?table={months.uid}").content.decode()
    assert "Brack Harbour" in picture
    lacking = owner.get(f"/gallery/exit-notes/picture.svg?table={months.uid}").content.decode()
    assert "Brack Harbour" not in lacking and "What did they write about?" in lacking


def test_roles_are_said_with_reasons_and_changed(owner, months):
    page = owner.get(f"/gallery/month-in-figures/?table={months.uid}").content.decode()
    assert "“Visits” is the best of 2 that can be it" in page and "Make this page" in page
    given = {"table": months.uid, "do": "show", "role-amount": "Loans", "title": "Ours", "format": "slides"}
    reply = owner.post("/gallery/month-in-figures/", given)
    asked = parse_qs(urlsplit(reply.url).query)
    assert asked["role-amount"] == ["Loans"] and asked["table"] == [months.uid]
    changed = owner.get(reply.url).content.decode()
    assert "You chose it." in changed and "Ours" in changed and '<option value="slides" selected>' in changed


def test_it_is_taken_as_it_was_shown(owner, months):
    given = {"table": months.uid, "do": "take", "role-amount": "Loans", "format": "slides"}
    reply = owner.post("/gallery/slide-summary/", given)
    body = Report.objects.get(owner=owner.user).read()
    assert reply.url == f"/reports/{Report.objects.get().uid}/"
    assert body.page.width == 1280 and any("Loans" in str(tile.questions()) for tile in body.tiles())
    assert owner.get(reply.url).status_code == 200


def test_one_that_lacks_something_is_not_taken(owner, months):
    page = owner.get(f"/gallery/exit-notes/?table={months.uid}").content.decode()
    assert "It still needs text that people wrote" in page and "Make this page" not in page
    reply = owner.post("/gallery/exit-notes/", {"table": months.uid, "do": "take"})
    assert reply.status_code == 422 and "needs text that people wrote" in reply.content.decode()
    assert not Report.objects.exists()


def test_a_topic_can_be_begun_without_any_table(owner):
    reply = owner.post("/gallery/from-a-topic/", {"do": "take", "title": "Bees in our town"})
    body = Report.objects.get().read()
    assert reply.status_code == 302 and body.title == "Bees in our town"
    assert any(tile.is_open() for tile in body.tiles()) and not body.as_read().bands[1:-1]


def test_the_page_by_rules_is_one_of_them(owner, months):
    page = owner.get(f"/gallery/{gallery.BY_RULES}/?table={months.uid}&format=post").content.decode()
    assert "What the table has to say" in page and "Make this page" in page
    owner.post(f"/gallery/{gallery.BY_RULES}/", {"table": months.uid, "do": "take", "format": "post"})
    assert Report.objects.get().read().page.width == 1080


def test_tables_of_others_are_none(owner, other, months):
    for address in ("/gallery/", "/gallery/meeting/", "/gallery/meeting/picture.svg"):
        assert other.get(f"{address}?table={months.uid}").status_code == 404
    assert other.post("/gallery/meeting/", {"table": months.uid, "do": "take"}).status_code == 404
    assert owner.get("/gallery/sonnet/").status_code == 404


def test_newer_rows_are_drawn(owner, months):
    address = f"/gallery/ranked-list/picture.svg?table={months.uid}"
    before = owner.get(address).content
    arrive(owner, ROWS.replace("Brack Harbour", "Wether Road"), months)
    after = owner.get(address).content
    assert before != after and b"Wether Road" in after


def test_something_new_begins_with_a_file_a_table_a_template_or_nothing(owner, months):
    page = owner.get("/reports/new/").content.decode()
    order = [page.index(said) for said in ("From a file", "From a table", "From a template", "From nothing")]
    assert order == sorted(order) and f"/gallery/?table={months.uid}" in page


def test_a_report_is_laid_out_by_another_template_and_one_undo_brings_all_back(owner, months):
    owner.post("/gallery/month-in-figures/", {"table": months.uid, "do": "take"})
    report = Report.objects.get()
    before = report.read()
    page = owner.get(f"/gallery/?for={report.uid}&table={months.uid}").content.decode()
    assert "Another page for" in page and f"for={report.uid}" in page
    whole = owner.get(f"/gallery/ranked-list/?for={report.uid}&table={months.uid}").content.decode()
    assert "out so" in whole and "Its headline" not in whole
    reply = owner.post("/gallery/ranked-list/", {"table": months.uid, "for": report.uid, "do": "take"}, follow=True)
    assert "undo brings all back" in reply.content.decode() and "Readers never see it" in reply.content.decode()
    report.refresh_from_db()
    after = report.read()
    kept = {tile.id for tile in before.tiles() if tile.type == "visual"}
    assert kept <= {tile.id for tile in after.tiles()} and after.tray() is not None
    assert after.style != before.style and after.title == before.title
    undone = owner.post(f"/reports/{report.uid}/undo/", {}, content_type="application/json")
    report.refresh_from_db()
    assert undone.status_code == 200 and report.read() == before


def test_a_report_of_others_is_not_laid_out(owner, other, months):
    owner.post("/gallery/month-in-figures/", {"table": months.uid, "do": "take"})
    uid = Report.objects.get().uid
    assert other.get(f"/gallery/?for={uid}").status_code == 404
    assert other.get(f"/gallery/ranked-list/?for={uid}").status_code == 404
    assert other.post("/gallery/ranked-list/", {"for": uid, "do": "take"}).status_code == 404


def test_a_style_changes_and_is_undone(owner, months):
    owner.post("/gallery/month-in-figures/", {"table": months.uid, "do": "take"})
    report = Report.objects.get()
    before = report.read().style
    edit = {"base": report.revision, "edit": {"type": "restyle", "palette": "night", "body_family": "Nunito"}}
    reply = owner.post(f"/reports/{report.uid}/edits/", edit, content_type="application/json")
    assert reply.status_code == 200
    report.refresh_from_db()
    assert (report.read().style.paper, report.read().style.body_family) == ("#131a2e", "Nunito")
    sheet = owner.get(reply.json()["layout"]).content.decode()
    assert "--paper-of:#131a2e" in sheet
    owner.post(f"/reports/{report.uid}/undo/", {}, content_type="application/json")
    report.refresh_from_db()
    assert report.read().style == before
    margin = owner.get(f"/reports/{report.uid}/margin/").content.decode()
    assert margin.count('class="swatch"') >= 14 and margin.count('class="family"') >= 34


def test_a_style_goes_to_a_file_and_comes_from_one(owner, other, months):
    owner.post("/gallery/ranked-list/", {"table": months.uid, "do": "take"})
    first = Report.objects.get()
    kept = owner.get(f"/reports/{first.uid}/style.tokens.json")
    assert kept["Content-Disposition"] == 'attachment; filename="style.tokens.json"'
    owner.post("/gallery/month-in-figures/", {"table": months.uid, "do": "take"})
    second = Report.objects.exclude(pk=first.pk).get()
    brought = SimpleUploadedFile("style.tokens.json", kept.content)
    reply = owner.post(f"/reports/{second.uid}/style/", {"style": brought}, follow=True)
    assert "wears the style of the file" in reply.content.decode()
    second.refresh_from_db()
    assert second.read().style == first.read().style
    nothing = owner.post(f"/reports/{second.uid}/style/", {"style": SimpleUploadedFile("a.json", b"{}")}, follow=True)
    assert "There are no colours and no families of type in it" in nothing.content.decode()
    assert "No file was chosen" in owner.post(f"/reports/{second.uid}/style/", follow=True).content.decode()
    assert other.get(f"/reports/{first.uid}/style.tokens.json").status_code == 404
    assert other.post(f"/reports/{first.uid}/style/", {"style": brought}).status_code == 404


def test_a_report_wears_the_colours_of_a_logo(owner, months):
    owner.post("/gallery/ranked-list/", {"table": months.uid, "do": "take"})
    report = Report.objects.get()
    logo = SimpleUploadedFile("logo.png", png("#14697f", "#b86e00", "#ffffff"))
    reply = owner.post(f"/reports/{report.uid}/style/", {"style": logo}, follow=True)
    assert "wears the style of the file" in reply.content.decode()
    report.refresh_from_db()
    style = report.read().style
    assert style.accent in style.palette and len(style.palette) == 8
    assert min(contrast_ratio(one, style.paper) for one in style.palette) >= 4.5
    for broken in (b"\x89PNG broken", png((0, 0, 0, 0), mode="RGBA")):
        file = SimpleUploadedFile("logo.png", broken)
        said = owner.post(f"/reports/{report.uid}/style/", {"style": file}, follow=True).content.decode()
        assert "wears the style" not in said and 'role="status"' in said


BRANCHES = "Branch,Area,Staff\nAlder Lane,Town,4\nElmstow,Hills,2\nBrack Harbour,Coast,3\n"


def test_two_tables_that_go_together_become_one_and_that_is_undone_in_its_steps(owner, months):
    branches = arrive(owner, BRANCHES, name="branches.csv").table
    asked = f"table={months.uid}&table={branches.uid}"
    page = owner.get(f"/gallery/?{asked}").content.decode()
    assert "has one row for each Branch" in page and "With Area, Staff beside" in page
    reply = owner.post("/gallery/joined/", {"table": [months.uid, branches.uid]}, follow=True)
    assert "has the columns of “branches” now" in reply.content.decode()
    assert reply.redirect_chain[-1][0].endswith(f"?table={months.uid}")
    months.refresh_from_db()
    assert months.read_recipe().steps[-1].columns == ("Area", "Staff")
    shown = owner.get(f"/gallery/place-by-place/?table={months.uid}").content.decode()
    assert "<option>Area</option>" in shown or "<option selected>Area</option>" in shown
    # Once they are one there is nothing more to bring.
    assert "has one row for each" not in owner.get(f"/gallery/?{asked}").content.decode()
    again = owner.post("/gallery/joined/", {"table": [months.uid, branches.uid]}, follow=True).content.decode()
    assert "no two of these tables go together" in again.lower()


def test_what_a_page_shows_without_its_unit_is_asked_for_and_said_once(owner):
    plants = "Week,Treatment,Height\n" + "".join(
        f"2026-04-{1 + week:02d},{name},{week * 2 + place}.5\n"
        for week in range(20)
        for place, name in enumerate(("Sand", "Soil"))
    )
    table = arrive(owner, plants, name="plants.csv").table
    made = owner.post(f"/tables/{table.uid}/show/", {"what": "page"})
    margin = owner.get(f"{made.url}margin/").content.decode()
    assert "“Height” is measured in" in margin
    change = {"action": "measured_in", "column": "Height", "unit": "centimetres"}
    assert owner.post(f"/tables/{table.uid}/recipe/", change, content_type="application/json").status_code == 200
    assert "is measured in" not in owner.get(f"{made.url}margin/").content.decode()
    assert "cm" in owner.get(made.url).content.decode()
    tile = next(tile for tile in map(as_visual, Report.objects.get().read().tiles()) if tile)
    assert 'value="cm"' in owner.get(f"{made.url}tiles/{tile.id}/").content.decode()
