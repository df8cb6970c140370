"""Versions of a table that nobody needs: deleted one by one, or when more are there than are kept."""

from tests.factories import VISITS
from tests.web.conftest import arrive, signed_in
from ypsil.web.gather.models import Blob


def with_rows(count):
    return VISITS + f"2026-04-01,Dunmere,Adult,{count}\n"


def test_a_version_that_no_report_shows_is_deleted_with_its_bytes(owner, table):
    arrive(owner, with_rows(7), table)
    before = Blob.objects.count()
    place = f"/tables/{table.uid}/versions/1/delete/"
    page = owner.get(f"/tables/{table.uid}/").content.decode()
    assert place in page and "bytes" in page, "the list offers it, and says how large each is"
    assert "for good" in owner.get(place).content.decode()
    assert table.versions.count() == 2, "asking deletes nothing"
    assert owner.post(place).status_code == 302
    assert [one.number for one in table.versions.all()] == [2]
    assert Blob.objects.count() < before


def test_the_version_that_reports_show_stays(owner, table):
    arrive(owner, with_rows(7), table)
    said = owner.post(f"/tables/{table.uid}/versions/2/delete/", follow=True).content.decode()
    assert "is shown by reports" in said and table.versions.count() == 2


def test_others_reach_none_of_it(owner, table, db):
    place = f"/tables/{table.uid}/versions/1/delete/"
    assert [signed_in("ben").get(place).status_code, signed_in("cat").post(place).status_code] == [404, 404]


def test_the_newest_are_kept_and_the_rule_is_said(owner, table, settings):
    settings.KEPT_VERSIONS = 3
    for count in range(5):
        arrive(owner, with_rows(count), table)
    assert [one.number for one in table.versions.all()] == [6, 5, 4]
    assert "The newest 3 are kept" in owner.get(f"/tables/{table.uid}/").content.decode()


def test_an_old_version_that_reports_show_is_kept_beyond_the_newest(owner, table, settings):
    settings.KEPT_VERSIONS = 2
    arrive(owner, with_rows(1), table)
    owner.post(f"/tables/{table.uid}/versions/1/current/")
    for count in range(2, 5):
        arrive(owner, VISITS.replace("Visits", "Visitors") + f"2026-04-01,Dunmere,Adult,{count}\n", table)
    table.refresh_from_db()
    assert table.current.number in [one.number for one in table.versions.all()]
