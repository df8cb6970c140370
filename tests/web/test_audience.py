"""Who reads a report: people who are named, with a password, until a day; states that stay; openings are counted."""

import datetime as dt
import re

import pytest
from django.core import mail
from django.test import Client
from django.utils import timezone

from tests.factories import VISITS
from tests.web.conftest import arrive, change
from ypsil.web.gather.models import KeptPicture
from ypsil.web.publish import access, openings
from ypsil.web.publish.models import Invited, Openings, WrongPassword
from ypsil.web.publish.services import publication_of


@pytest.fixture
def stage(owner, report):
    """Send what somebody presses on the page Publish; returns the page with what is said of it."""

    def send(**form):
        answer = owner.post(f"/reports/{report.uid}/publish/", form, follow=True)
        return answer.content.decode()

    return send


@pytest.fixture
def link(report):
    return lambda: f"/r/{publication_of(report).token}/"


def letters():
    return [(one.to[0], one.body) for one in mail.outbox]


def own_link(to):
    text = next(body for address, body in reversed(letters()) if address == to)
    return re.search(r"http://testserver(/r/\S+/come/\S+/)", text)[1]


def names_to(answer):
    return answer.status_code, re.search(r"<h1[^>]*>(.*?)</h1>", answer.content.decode(), re.DOTALL)[1].strip()


def test_people_who_are_named_are_written_to_and_read_by_their_own_link(
    stage, link, django_capture_on_commit_callbacks
):
    with django_capture_on_commit_callbacks(execute=True):
        stage(audience="named")
        said = stage(name="1", addresses="ann@example.org, Bob@Example.org")
    assert "2 people are named" in said and {to for to, _ in letters()} == {"ann@example.org", "bob@example.org"}
    ann, nobody = Client(), Client()
    assert names_to(nobody.get(link())) == (403, "This report is for people whom its author named")
    came = ann.get(own_link("ann@example.org"))
    assert (came.status_code, came.url) == (302, link())
    page = ann.get(link())
    assert page.status_code == 200 and "Visits of the spring" in page.content.decode()
    assert "no-store" in page.headers["Cache-Control"]
    layout = re.search(r'href="(/r/[^"]*/layout/[^"]*)"', page.content.decode())[1]
    assert (ann.get(layout).status_code, nobody.get(layout).status_code) == (200, 404)
    assert Invited.objects.get(address="ann@example.org").came is not None


def test_who_is_taken_away_reads_no_longer(stage, link, django_capture_on_commit_callbacks):
    with django_capture_on_commit_callbacks(execute=True):
        stage(audience="named")
        stage(name="1", addresses="ann@example.org")
    ann = Client()
    ann.get(own_link("ann@example.org"))
    assert ann.get(link()).status_code == 200
    assert "cannot read it any more" in stage(forget="ann@example.org")
    assert ann.get(link()).status_code == 403
    assert ann.get(own_link("ann@example.org")).status_code == 404


def test_whoever_says_to_have_an_address_that_is_named_needs_the_letter_as_well(
    stage, link, other, owner, django_capture_on_commit_callbacks
):
    other.user.email = "cat@example.org"
    other.user.save()
    with django_capture_on_commit_callbacks(execute=True):
        stage(audience="named")
        stage(name="1", addresses="cat@example.org")
    assert owner.get(link()).status_code == 200
    assert other.get(link()).status_code == 403
    other.get(own_link("cat@example.org"))
    assert other.get(link()).status_code == 200


def test_a_letter_is_sent_again_to_whoever_is_named_and_nobody_learns_who_is(
    stage, link, report, django_capture_on_commit_callbacks
):
    with django_capture_on_commit_callbacks(execute=True):
        stage(audience="named")
        stage(name="1", addresses="ann@example.org")
        there, gone = (
            Client().post(f"{link()}ask/", {"address": address}) for address in ("ann@example.org", "eve@example.org")
        )
    plain = [re.sub(r'value="[^"]*"', "", one.content.decode()) for one in (there, gone)]
    assert plain[0] == plain[1] and "Look into your mail" in plain[0]
    assert len(letters()) == 1, "not more often than every two minutes"
    Invited.objects.update(written=timezone.now() - dt.timedelta(minutes=3))
    with django_capture_on_commit_callbacks(execute=True):
        Client().post(f"{link()}ask/", {"address": "ANN@example.org"})
    assert [to for to, _ in letters()] == ["ann@example.org"] * 2


@pytest.mark.parametrize(
    ("addresses", "said"),
    [("", "no address was given"), ("ann at home", "is no mail address"), ("x@y.zz " * 1 + "a@b", "is no mail address"),
     (" ".join(f"r{n}@example.org" for n in range(51)), "at most 50 people")],
)  # fmt: skip
def test_what_is_no_address_names_nobody_and_is_kept_to_be_mended(stage, addresses, said):
    stage(audience="named")
    page = stage(name="1", addresses=addresses)
    assert said in page and not Invited.objects.exists()
    assert addresses[:20].strip() in page


def test_a_password_opens_and_another_closes_again(stage, link):
    stage(audience="link", password="open sesame")
    ann = Client()
    assert names_to(ann.get(link())) == (403, "A password, please")
    wrong = ann.post(f"{link()}password/", {"password": "sesame"})
    assert wrong.status_code == 403 and "That is not the password" in wrong.content.decode()
    right = ann.post(f"{link()}password/", {"password": "open sesame"})
    assert (right.status_code, right.url) == (302, link())
    assert ann.get(link()).status_code == 200
    stage(audience="link", has_password="on")
    assert ann.get(link()).status_code == 200, "it stays unless another is typed"
    stage(audience="link", password="another one", has_password="on")
    assert ann.get(link()).status_code == 403
    stage(audience="link")
    assert Client().get(link()).status_code == 200
    assert "at least 6 letters" in stage(audience="link", password="abc")


def test_after_ten_wrong_passwords_somebody_waits_and_others_do_not(stage, link):
    stage(audience="link", password="open sesame")
    eve, ann = Client(REMOTE_ADDR="192.0.2.1"), Client(REMOTE_ADDR="192.0.2.2")
    statuses = [eve.post(f"{link()}password/", {"password": f"no {n}"}).status_code for n in range(20)]
    assert statuses == [403] * 10 + [429] * 10
    barred = eve.post(f"{link()}password/", {"password": "open sesame"})
    assert barred.status_code == 429 and barred.headers["Retry-After"] == "900"
    assert "Try again in a quarter of an hour" in barred.content.decode()
    assert ann.post(f"{link()}password/", {"password": "open sesame"}).status_code == 302
    assert not WrongPassword.objects.filter(who__contains="192.0").exists()
    WrongPassword.objects.update(since=timezone.now() - dt.timedelta(minutes=16))
    assert eve.post(f"{link()}password/", {"password": "open sesame"}).status_code == 302


def test_many_places_together_are_barred_as_well(stage, link, monkeypatch):
    monkeypatch.setattr(access, "MOST_WRONG_OF_ALL", 3)
    stage(audience="link", password="open sesame")
    for n in range(4):
        last = Client(REMOTE_ADDR=f"192.0.2.{n}").post(f"{link()}password/", {"password": "no"})
    assert last.status_code == 429


def test_a_link_ends_after_its_day_and_says_so(stage, link, owner, report):
    tomorrow = timezone.localdate() + dt.timedelta(days=1)
    page = stage(audience="link", ends=tomorrow.isoformat())
    assert f'value="{tomorrow.isoformat()}"' in page
    assert publication_of(report).last_day == tomorrow, "the whole of the day is within"
    assert Client().get(link()).status_code == 200
    publication = publication_of(report)
    publication.ends = timezone.now() - dt.timedelta(seconds=1)
    publication.save()
    ended = Client().get(link())
    assert names_to(ended) == (410, "This link has ended")
    assert f"until {publication.last_day:%-d %B %Y}" in ended.content.decode()
    assert "It has ended" in owner.get(f"/reports/{report.uid}/publish/").content.decode()
    assert "that day is over" in stage(audience="link", ends="2020-01-01")
    assert "that is no day" in stage(audience="link", ends="soon")


def test_without_copying_the_numbers_stand_nowhere_as_tables(stage, link, owner, report):
    stage(audience="link")
    assert '<details class="numbers">' in Client().get(link()).content.decode()
    stage(audience="link", no_copying="on")
    page = Client().get(link()).content.decode()
    assert "<table" not in page and 'role="graphics-document"' in page
    assert "<table" not in owner.get(f"/reports/{report.uid}/preview/").content.decode()


def test_another_link_leaves_the_one_before_dead(stage, link, django_capture_on_commit_callbacks):
    with django_capture_on_commit_callbacks(execute=True):
        stage(audience="named")
        stage(name="1", addresses="ann@example.org")
    before, own = link(), own_link("ann@example.org")
    with django_capture_on_commit_callbacks(execute=True):
        stage(renew="1")
    assert link() != before and Client().get(before).status_code == 404 and Client().get(own).status_code == 404
    assert own_link("ann@example.org").startswith(link())
    ann = Client()
    ann.get(own_link("ann@example.org"))
    assert ann.get(link()).status_code == 200


def test_a_state_stays_as_it_was_beside_the_newest(
    stage, link, owner, table, report, django_capture_on_commit_callbacks
):
    stage(audience="link")
    assert "stays as it is" in stage(keep="1", state="As of 1 March")
    (kept,) = publication_of(report).releases.exclude(kept_as="")
    with django_capture_on_commit_callbacks(execute=True):
        arrive(owner, VISITS.replace("120", "920"), table)
    for place in range(7):
        change(owner, report, {"type": "change_tile", "tile": "c1", "changes": {"title": f"Title {place}"}})
        stage(show="1")
    then, now = (Client().get(address).content.decode() for address in (f"{link()}kept/{kept.number}/", link()))
    assert "Jan 2026, 200" in then and "Jan 2026, 1,000" in now
    assert "As of 1 March" in then and "As of 1 March" not in now
    layout = re.search(r'href="(/r/[^"]*/layout/[^"]*)"', then)[1]
    assert Client().get(layout).status_code == 200
    stage(renew="1")
    assert Client().get(f"{link()}kept/{kept.number}/").status_code == 200
    stage(audience="me")
    assert Client().get(f"{link()}kept/{kept.number}/").status_code == 404
    stage(audience="link")
    assert "no longer kept" in stage(let_go=str(kept.number))
    assert Client().get(f"{link()}kept/{kept.number}/").status_code == 404
    assert "has a name" in stage(keep="1", state="  ")


def test_the_same_can_be_kept_under_two_names(stage, report):
    stage(audience="link")
    stage(keep="1", state="First")
    stage(keep="1", state="Second")
    assert set(publication_of(report).releases.exclude(kept_as="").values_list("kept_as", flat=True)) == {
        "First",
        "Second",
    }


def test_openings_are_counted_and_nothing_of_who_it_was(stage, link, report):
    stage(audience="link")
    # What other tests had counted in this process.
    openings._counted.clear()
    for _ in range(3):
        Client().get(link())
    openings.write_down()
    assert "Opened 3 times, 3 in the last 30 days" in stage(at_once="0")
    Openings.objects.update(day=timezone.localdate() - dt.timedelta(days=40))
    Client().get(link())
    openings.write_down()
    openings.write_down()
    assert openings.openings_of(publication_of(report)) == (4, 1)
    assert {field.name for field in Openings._meta.get_fields()} == {"id", "publication", "day", "count"}
    Client().get(link())
    publication_of(report).delete()
    openings.write_down()
    assert not Openings.objects.exists()


def test_what_others_get_is_shown_with_what_is_read_out(owner, report, stage, link):
    for audience, said in (("me", "There is no report at this link"), ("named", "for people whom its author named"),
                           ("link", "as in this preview")):  # fmt: skip
        stage(audience=audience)
        page = owner.get(f"/reports/{report.uid}/as-others/").content.decode()
        assert said in page
    heard = re.findall(r'<li><span class="hint">(.*?)</span> (.*?)</li>', page)
    assert heard[0][0] in ("Part of the page", "Heading 1") and any(kind == "Drawing" for kind, _ in heard)
    assert ("Heading 1", "Visits of the spring") in heard


def test_pictures_of_a_named_report_are_for_those_who_are_named(stage, link, report, owner):
    assert not KeptPicture.objects.exists()
    stage(audience="named")
    assert Client().get(f"{link()}pictures/{'0' * 64}/").status_code == 404


def test_crafted_cookies_open_nothing(stage, link, report):
    publication = publication_of(report)
    stage(audience="named", password="open sesame")
    eve = Client()
    for value in ("", "x", "eyJhIjoxfQ:1:2", "a" * 5000):
        eve.cookies[f"reader-{publication.pk}"] = value
        eve.cookies[f"opened-{publication.pk}"] = value
        assert eve.get(link()).status_code == 403


WALK = ("", "layout/{layout}.css", "kept/{kept}/", "live/", "embed/", "embed/c1/", "embed/c1/place.css", "preview.jpg")
# What each address of a link answers, in the order of WALK, by who comes and how the report is open.
STATES = {
    "open": ({"audience": "link"}, (200, 200, 200, 200, 200, 200, 200, 404)),
    "only me": ({"audience": "me"}, (404,) * 8),
    "named, by a stranger": ({"audience": "named"}, (403, 404, 403, 404, 404, 404, 404, 404)),
    "named, by one of them": ({"audience": "named"}, (200, 200, 200, 200, 404, 404, 404, 404)),
    "with a password": ({"audience": "link", "password": "open sesame"}, (403, 404, 403, 404, 404, 404, 404, 404)),
    "ended": ({"audience": "link"}, (410, 404, 410, 404, 404, 404, 404, 404)),
    "withdrawn": ({"audience": "link"}, (404,) * 8),
}


@pytest.mark.parametrize("who", STATES)
def test_every_address_of_a_link_by_who_comes(who, stage, link, report, django_capture_on_commit_callbacks):
    form, wanted = STATES[who]
    stage(audience="link")
    stage(allow="1", sites="*")
    stage(keep="1", state="As it was")
    publication = publication_of(report)
    latest = publication.latest()
    with django_capture_on_commit_callbacks(execute=False):
        stage(**form)
    client, at = Client(), link()
    if who == "named, by one of them":
        stage(name="1", addresses="ann@example.org")
        assert client.get(f"{at}come/{Invited.objects.get().key}/").status_code == 302
    if who == "ended":
        type(publication).objects.update(ends=timezone.now() - dt.timedelta(days=1))
    if who == "withdrawn":
        stage(withdraw="1")
    addresses = [at + one.format(layout=latest.layout_digest, kept=latest.number) for one in WALK]
    assert tuple(client.get(address).status_code for address in addresses) == wanted


def test_newer_data_reaches_those_who_are_named(stage, link, owner, table, django_capture_on_commit_callbacks):
    stage(audience="named")
    assert "Jan 2026, 200" in owner.get(link()).content.decode()
    with django_capture_on_commit_callbacks(execute=True):
        arrive(owner, VISITS.replace("120", "920"), table)
    assert "Jan 2026, 1,000" in owner.get(link()).content.decode()
