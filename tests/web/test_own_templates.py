"""Templates of one's own: kept from a report or a band, filled, given away as files, brought, taken away."""

import json
import re

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from tests.web.conftest import arrive
from tests.web.test_gallery import ROWS, names_in
from ypsil.core.templates import template_from
from ypsil.core.tiles import as_visual
from ypsil.web.compose.actions.draw_page import draw_page
from ypsil.web.compose.models import OwnTemplate, Report
from ypsil.web.compose.own_templates import MOST

pytestmark = pytest.mark.django_db


@pytest.fixture
def months(owner):
    return arrive(owner, ROWS).table


@pytest.fixture
def page(owner, months):
    return draw_page(owner.user, months.uid)


def kept(client, page, **given):
    """Keep a page as a template; return the address that one is led to."""
    reply = client.post(f"/reports/{page.uid}/as-template/", {"title": "Ours", **given})
    assert reply.status_code == 302, reply.content.decode()
    return reply.url


def file_of(client, name):
    return client.get(f"/gallery/{name}/file/").content


def bring(client, data):
    file = SimpleUploadedFile("theirs.json", data, "application/json")
    return client.post("/gallery/bring/", {"template": file}, follow=True).content.decode()


def test_a_page_is_kept_seen_first_and_made_again_of_another_table(owner, months, page):
    form = owner.get(f"/reports/{page.uid}/as-template/").content.decode()
    assert "Keep this page as a template" in form and 'name="asks-' in form
    address = kept(owner, page, says="Every month")
    assert address.endswith(f"/?table={months.uid}")
    name = OwnTemplate.objects.get().name
    towns = arrive(owner, ROWS.replace("Branch", "Town").replace("Visits", "Guests"), name="towns.csv").table
    gallery = owner.get(f"/gallery/?table={towns.uid}").content.decode()
    assert names_in(gallery)[1] == name and "Your own." in gallery and "My own pages" in gallery
    assert "Every month" in owner.get(address).content.decode()
    assert owner.get(f"/gallery/{name}/picture.svg?table={towns.uid}").content.startswith(b"<svg")
    made = owner.post(f"/gallery/{name}/", {"table": towns.uid, "do": "take"})
    found = Report.objects.get(uid=made.url.split("/")[-2]).read()
    drawn = [tile for tile in map(as_visual, found.tiles()) if tile]
    before = [tile for tile in map(as_visual, page.read().tiles()) if tile]
    assert len(drawn) == len(before) and {tile.table for tile in drawn} == {towns.uid}
    assert [tile.place for tile in drawn] == [tile.place for tile in before]


def test_without_a_name_it_is_asked_for_and_what_was_ticked_stays(owner, page):
    address = f"/reports/{page.uid}/as-template/"
    tile = re.search(r'name="stays-(\w+)"', owner.get(address).content.decode())[1]
    reply = owner.post(address, {"title": " ", f"stays-{tile}": "on", f"asks-{tile}": "What rose?"})
    form = reply.content.decode()
    assert reply.status_code == 422 and "has no name" in form
    assert f'name="stays-{tile}" checked' in form and "What rose?" in form
    assert not OwnTemplate.objects.exists()


def test_a_band_is_kept_and_offered_where_a_band_is_added(owner, months, page):
    band = next(band for band in page.read().bands if any(map(as_visual, band.tiles)))
    assert "Keep this band as a template" in owner.get(f"/reports/{page.uid}/bands/{band.id}/").content.decode()
    address = kept(owner, page, title="Our band", band=band.id)
    assert "put into a report where a band is added" in owner.get(address).content.decode()
    gallery = owner.get(f"/gallery/?table={months.uid}").content.decode()
    assert OwnTemplate.objects.get().name not in names_in(gallery) and "Our band" in gallery
    offered = owner.get(f"/reports/{page.uid}/arrangements/").content.decode()
    assert "Our band" in offered
    edit = json.loads(re.search(r'data-edit="([^"]*)"', offered)[1].replace("&quot;", '"'))
    body = {"edit": edit, "base": page.revision}
    reply = owner.post(f"/reports/{page.uid}/edits/", json.dumps(body), content_type="application/json")
    assert reply.status_code == 200
    page.refresh_from_db()
    new = page.read().bands[-1]
    assert [tile.type for tile in new.tiles] == [tile.type for tile in band.tiles]
    assert not {tile.id for tile in new.tiles} & {tile.id for tile in band.tiles}


def test_a_band_that_is_gone_leads_back_with_a_word(owner, page):
    reply = owner.get(f"/reports/{page.uid}/as-template/?band=gone", follow=True)
    assert "no longer there" in reply.content.decode()


def test_a_template_goes_to_somebody_else_as_a_file_with_none_of_the_rows(owner, other, months, page):
    kept(owner, page, title="Ours: the month")
    name = OwnTemplate.objects.get().name
    reply = owner.get(f"/gallery/{name}/file/")
    assert reply["Content-Disposition"] == 'attachment; filename="ours-the-month.template.json"'
    assert template_from(reply.content).title == "Ours: the month"
    assert b"Elmstow" not in reply.content and months.uid.encode() not in reply.content
    for address in (f"/gallery/{name}/", f"/gallery/{name}/picture.svg", f"/gallery/{name}/file/"):
        assert other.get(address).status_code == 404
    assert other.post(f"/gallery/{name}/gone/").status_code == 404
    assert "“Ours: the month” is among your templates." in bring(other, reply.content)
    assert OwnTemplate.objects.get(owner=other.user).name != name


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"not a template", "no template that can be laid out"),
        (b'{"name": "a"}', "no template that can be laid out"),
        (b" " * (5 * 1024 * 1024), "larger than 4 MB"),
    ],
)
def test_a_file_that_is_none_is_refused_in_words(owner, data, says):
    assert says in bring(owner, data)
    assert not OwnTemplate.objects.exists()
    assert "no file was chosen" in owner.post("/gallery/bring/", follow=True).content.decode().lower()


def test_one_is_taken_away_and_its_reports_stay(owner, months, page):
    kept(owner, page)
    name = OwnTemplate.objects.get().name
    assert "Take it away" in owner.get(f"/gallery/{name}/").content.decode()
    owner.post(f"/gallery/{name}/", {"table": months.uid, "do": "take"})
    before = Report.objects.count()
    assert "is gone" in owner.post(f"/gallery/{name}/gone/", follow=True).content.decode()
    assert owner.get(f"/gallery/{name}/").status_code == 404 and Report.objects.count() == before
    assert owner.post("/gallery/meeting/gone/").status_code == 404, "shipped ones stay"


def test_there_are_not_more_than_can_be_looked_through(owner, page, monkeypatch):
    monkeypatch.setattr("ypsil.web.compose.own_templates.MOST", 1)
    assert MOST > 100
    kept(owner, page)
    reply = owner.post(f"/reports/{page.uid}/as-template/", {"title": "One more"})
    assert reply.status_code == 422 and "take some away first" in reply.content.decode()
