"""A forgotten password: what the letter opens, for whom, how often, and what strangers learn."""

import re

import pytest
from django.core import mail
from django.core.cache import cache
from django.utils import timezone

from tests.web.conftest import signed_in
from ypsil.web.accounts import forgotten
from ypsil.web.accounts.models import User
from ypsil.web.outbox.services import KEPT_LETTERS, forget_letters

OLD, NEW = "seven green herons", "eleven grey herons"
CHOSEN = {"new_password1": NEW, "new_password2": NEW}


@pytest.fixture
def ann(db):
    cache.clear()
    return User.objects.create_user("ann", email="Ann@example.org", password=OLD)


def ask(client, address="ann@example.org"):
    return client.post("/forgotten/", {"email": address})


def link():
    return re.search(r"http://testserver(/forgotten/\S+)", mail.outbox[-1].body)[1]


def opened(client, address):
    """Follow the link of a letter; return the address of the form behind it."""
    reply = client.get(address)
    return reply.url if reply.status_code == 302 else None


def test_the_letter_lets_its_reader_choose_a_new_password(stranger, ann):
    elsewhere = signed_in("ann")
    assert ask(stranger).url == "/forgotten/sent/"
    assert [letter.to for letter in mail.outbox] == [["Ann@example.org"]]
    assert "“ann”" in mail.outbox[0].body
    form = opened(stranger, link())
    assert "For the account “ann”" in stranger.get(form).content.decode()
    assert stranger.post(form, CHOSEN).url == "/sign-in/"
    assert stranger.post("/sign-in/", {"username": "ann", "password": NEW}).url == "/"
    assert elsewhere.get("/").status_code == 302, "who was signed in has to sign in again"


def test_a_link_is_good_once(stranger, ann):
    ask(stranger)
    stranger.post(opened(stranger, link()), CHOSEN)
    reply = stranger.get(link())
    assert "not good any more" in reply.content.decode()


def test_a_link_is_good_for_a_day(stranger, ann, settings):
    ask(stranger)
    settings.PASSWORD_RESET_TIMEOUT = -1
    assert "not good any more" in stranger.get(link()).content.decode()


def test_a_password_that_will_not_do_is_said_and_the_link_stays_good(stranger, ann):
    ask(stranger)
    form = opened(stranger, link())
    reply = stranger.post(form, {"new_password1": "short", "new_password2": "short"})
    assert reply.status_code == 422 and "too short" in reply.content.decode()
    assert stranger.post(form, CHOSEN).status_code == 302


def test_nobody_learns_whether_there_is_an_account(stranger, ann):
    known, unknown = ask(stranger), ask(stranger, "nobody@example.org")
    assert (known.status_code, known.url) == (unknown.status_code, unknown.url)
    assert len(mail.outbox) == 1


def test_an_account_whose_password_opens_nothing_gets_no_letter(stranger, ann):
    ann.set_unusable_password()
    ann.save()
    ask(stranger)
    assert mail.outbox == []


def test_letters_to_one_address_and_from_one_are_limited(stranger, ann):
    for _ in range(forgotten.LETTERS_TO_ADDRESS + 2):
        assert ask(stranger, "ANN@example.org").status_code == 302
    assert len(mail.outbox) == forgotten.LETTERS_TO_ADDRESS
    replies = [ask(stranger, f"one{number}@example.org") for number in range(forgotten.LETTERS_FROM_ONE)]
    assert replies[-1].status_code == 429 and "Wait an hour" in replies[-1].content.decode()


def test_a_lock_after_wrong_passwords_ends_with_the_new_one(stranger, ann):
    for _ in range(8):
        stranger.post("/sign-in/", {"username": "ann", "password": "wrong"})
    assert stranger.post("/sign-in/", {"username": "ann", "password": OLD}).status_code == 429
    ask(stranger)
    stranger.post(opened(stranger, link()), CHOSEN)
    assert stranger.post("/sign-in/", {"username": "ann", "password": NEW}).status_code == 302


def test_an_address_is_given_when_signing_up_and_changed_with_the_password_alone(stranger):
    new = {"username": "ben", "password1": OLD, "password2": OLD, "email": "ben@example.org"}
    stranger.post("/sign-up/", new)
    ben = User.objects.get(username="ben")
    assert ben.email == "ben@example.org"
    reply = stranger.post("/account/address/", {"address-email": "b@example.org", "address-password": "wrong"})
    assert reply.status_code == 422 and "stays as it was" in reply.content.decode()
    stranger.post("/account/address/", {"address-email": "b@example.org", "address-password": OLD})
    ben.refresh_from_db()
    assert ben.email == "b@example.org"
    assert "b@example.org" in stranger.get("/account/").content.decode()


@pytest.fixture
def kept_in_files(settings, tmp_path):
    settings.EMAIL_BACKEND = "django.core.mail.backends.filebased.EmailBackend"
    settings.EMAIL_FILE_PATH = str(tmp_path / "outbox")
    return tmp_path / "outbox"


def test_the_demonstration_shows_its_outbox_and_nothing_else_does(stranger, ann, settings, kept_in_files):
    assert stranger.get("/outbox/").status_code == 404
    settings.DEMO = True
    assert "No letter has been written yet" in stranger.get("/outbox/").content.decode()
    ask(stranger)
    shown = stranger.get("/outbox/").content.decode()
    assert "To Ann@example.org" in shown
    assert opened(stranger, re.search(r'href="http://testserver(/forgotten/[^"]+)"', shown)[1])
    settings.EMAIL_IS_KEPT = False
    assert stranger.get("/outbox/").status_code == 404


def test_where_no_mail_server_is_named_it_is_said_who_has_the_letter(stranger, settings):
    assert "ask whoever runs it" in stranger.get("/forgotten/").content.decode()
    settings.EMAIL_IS_KEPT = False
    assert "ask whoever runs it" not in stranger.get("/forgotten/").content.decode()


def test_letters_leave_the_outbox_after_a_month(stranger, ann, kept_in_files, monkeypatch):
    ask(stranger)
    forget_letters()
    assert len(list(kept_in_files.iterdir())) == 1
    later = timezone.now() + KEPT_LETTERS
    monkeypatch.setattr(timezone, "now", lambda: later)
    forget_letters()
    assert list(kept_in_files.iterdir()) == []
