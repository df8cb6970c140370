"""A form that makes something, sent twice: it is made once, and both sendings lead to the same place."""

import re
import threading

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from tests.factories import VISITS
from tests.web.conftest import arrive, signed_in
from ypsil.web.accounts import once
from ypsil.web.accounts.models import SentForm
from ypsil.web.compose.models import Report
from ypsil.web.gather import views
from ypsil.web.gather.models import Table, Version


def form_on(client, address, action=None):
    """Return the name that a page's form carries."""
    page = client.get(address).content.decode()
    part = page[page.index(f'action="{action}"') :] if action else page
    return re.search(r'name="once" value="([^"]+)"', part)[1]


def file(rows=VISITS):
    return SimpleUploadedFile("visits.csv", rows.encode())


def test_a_report_and_a_table_are_made_once(owner, table):
    for address, action, given, made in (
        ("/reports/new/", None, lambda: {"title": "Visits"}, Report),
        (f"/tables/{table.uid}/", f"/tables/{table.uid}/show/", dict, Report),
        ("/tables/new/", None, lambda: {"way": "file", "file": file(), "name": "Again"}, Table),
        (f"/tables/{table.uid}/newer/", None, lambda: {"way": "file", "file": file(VISITS + "\n")}, Version),
    ):
        before, name = made.objects.count(), form_on(owner, address, action)
        replies = [owner.post(action or address, {"once": name, **given()}) for _ in range(2)]
        assert [reply.status_code for reply in replies] == [302, 302], address
        assert replies[0]["Location"] == replies[1]["Location"], address
        assert made.objects.count() == before + 1, address


def test_what_was_refused_may_be_sent_again_mended(owner):
    name = form_on(owner, "/reports/new/")
    assert owner.post("/reports/new/", {"once": name, "title": " "}).status_code == 422
    assert owner.post("/reports/new/", {"once": name, "title": "Visits"}).status_code == 302
    assert Report.objects.count() == 1


def test_the_name_of_a_form_is_its_senders_own(owner, db):
    name = form_on(owner, "/reports/new/")
    owner.post("/reports/new/", {"once": name, "title": "Visits"})
    signed_in("ben").post("/reports/new/", {"once": name, "title": "Loans"})
    assert {report.owner.username: report.read().title for report in Report.objects.all()}["ben"] == "Loans"
    assert SentForm.objects.count() == 2


@pytest.mark.django_db(transaction=True)
def test_a_form_that_is_sent_again_while_the_first_is_in_hand_waits_for_it(owner, monkeypatch):
    name, began, goes_on, led = form_on(owner, "/tables/new/"), threading.Event(), threading.Event(), []
    real = views.take_in

    def slow(*arguments):
        began.set()
        goes_on.wait(10)
        return real(*arguments)

    monkeypatch.setattr(views, "take_in", slow)

    def send():
        led.append(owner.post("/tables/new/", {"once": name, "way": "file", "file": file(), "name": "One"})["Location"])

    threads = [threading.Thread(target=send) for _ in range(2)]
    threads[0].start()
    began.wait(10)
    threads[1].start()
    goes_on.set()
    for thread in threads:
        thread.join(20)
    assert Table.objects.count() == 1 and len(led) == 2 and len(set(led)) == 1


def test_forms_without_a_name_are_done_as_they_come(owner, table):
    for _ in range(2):
        arrive(owner, VISITS + "\n", table)
    assert table.versions.count() == 3


def test_a_form_whose_first_sending_was_cut_off_may_be_sent_anew(owner, monkeypatch):
    monkeypatch.setattr(once, "_WAIT_S", 0.1)
    name = form_on(owner, "/reports/new/")
    SentForm.objects.create(sender=owner.user, name=name, path="/reports/new/")
    said = owner.post("/reports/new/", {"once": name, "title": "Visits"}, follow=True).content.decode()
    assert "did not come to an end" in said and not Report.objects.exists()
    assert owner.post("/reports/new/", {"once": name, "title": "Visits"}).status_code == 302
    assert Report.objects.count() == 1
