"""Signing up, in and out."""

import pytest
from django.db import IntegrityError, transaction
from django.test import Client

from ypsil.web.accounts.forms import SignUpForm
from ypsil.web.accounts.models import User
from ypsil.web.compose.models import Report
from ypsil.web.gather.models import Blob, Table
from ypsil.web.gather.services import forget_orphans

NEW = {"username": "ann", "password1": "seven green herons", "password2": "seven green herons"}


def test_a_new_person_signs_up_and_is_in(stranger):
    assert stranger.post("/sign-up/", NEW).url == "/"
    assert stranger.get("/").status_code == 200


def test_a_name_already_taken_is_said_whatever_its_capitals(stranger):
    stranger.post("/sign-up/", NEW)
    reply = stranger.post("/sign-up/", NEW | {"username": "ANN"})
    assert reply.status_code == 422
    assert "already taken" in reply.content.decode()
    assert User.objects.count() == 1


def test_a_name_that_will_not_do_is_said_with_one_that_would(stranger):
    reply = stranger.post("/sign-up/", NEW | {"username": "Ann of the Green, Herons"})
    assert "“Ann.of.the.Green.Herons” would do" in reply.content.decode()
    assert "no spaces" in stranger.post("/sign-up/", NEW | {"username": "%&/"}).content.decode()


def test_signing_in_and_out(stranger):
    User.objects.create_user("ann", password="seven green herons")
    assert stranger.post("/sign-in/", {"username": "ann", "password": "seven green herons"}).url == "/"
    stranger.post("/sign-out/")
    assert stranger.get("/").url == "/sign-in/?next=/"


def test_attempts_are_limited(stranger):
    User.objects.create_user("ann", password="seven green herons")
    replies = [stranger.post("/sign-in/", {"username": "ann", "password": "wrong"}) for _ in range(8)]
    assert replies[-1].status_code == 429
    right = stranger.post("/sign-in/", {"username": "ann", "password": "seven green herons"})
    assert right.status_code == 429
    assert "Too many attempts" in right.content.decode()


@pytest.mark.parametrize("demo", [True, False])
def test_the_sample_sign_in_is_shown_in_the_demo_only(stranger, settings, demo):
    settings.DEMO = demo
    assert (settings.DEMO_PASSWORD in stranger.get("/sign-in/").content.decode()) is demo


def test_a_name_is_the_same_however_its_letters_are_written(stranger):
    User.objects.create_user("ann", password="seven green herons")
    assert stranger.post("/sign-in/", {"username": "ANN", "password": "seven green herons"}).url == "/"
    with pytest.raises(IntegrityError), transaction.atomic():
        User.objects.create_user("Ann", password="seven green herons")


def test_two_who_take_one_name_at_once_are_one_account_and_a_message(stranger, monkeypatch):
    """Both were told that the name is free; the database lets one of them have it."""
    monkeypatch.setattr(SignUpForm, "clean_username", lambda form: form.cleaned_data["username"])
    monkeypatch.setattr(SignUpForm, "_post_clean", lambda form: None)
    monkeypatch.setattr(SignUpForm, "save", lambda form: User.objects.create_user(form.cleaned_data["username"]))
    User.objects.create_user("ANN")
    reply = stranger.post("/sign-up/", NEW)
    assert (reply.status_code, User.objects.count()) == (422, 1)
    assert "already taken" in reply.content.decode()


def attempt(client, address, password="wrong", **headers):
    known = {"username": "ann", "password": password}
    return client.post("/sign-in/", known, REMOTE_ADDR=address, headers=headers).status_code


def test_a_name_is_tried_from_many_addresses_only_so_often(stranger, settings):
    settings.SIGN_IN_FAILURES_OF_A_NAME = 9
    User.objects.create_user("ann", password="seven green herons")
    for host in range(4):
        assert {attempt(stranger, f"10.0.0.{host}") for _ in range(2)} == {200}, "none of them alone is locked out"
    assert attempt(stranger, "10.0.1.1") == 429
    assert attempt(stranger, "10.0.1.2", "seven green herons") == 429


def test_an_address_that_somebody_only_says_is_not_believed(stranger):
    User.objects.create_user("ann", password="seven green herons")
    found = [attempt(stranger, "10.0.0.1", **{"x-forwarded-for": f"10.9.9.{turn}"}) for turn in range(8)]
    assert found[-1] == 429
    assert attempt(stranger, "10.0.0.2", "seven green herons") == 302, "others at other addresses are not locked out"


def change(client, old, new):
    return client.post("/account/", {"old_password": old, "new_password1": new, "new_password2": new})


def test_a_changed_password_ends_every_other_sign_in(stranger):
    User.objects.create_user("ann", password="seven green herons")
    elsewhere = Client()
    for client in (stranger, elsewhere):
        client.post("/sign-in/", {"username": "ann", "password": "seven green herons"})
    assert change(stranger, "not it", "nine grey herons").status_code == 422
    assert change(stranger, "seven green herons", "12345").status_code == 422
    assert elsewhere.get("/").status_code == 200
    assert change(stranger, "seven green herons", "nine grey herons").url == "/"
    assert "The password is changed" in stranger.get("/").content.decode()
    assert elsewhere.get("/").status_code == 302
    assert User.objects.get().check_password("nine grey herons")


def test_an_account_is_deleted_with_all_that_it_held_when_its_password_is_said(owner, table, report):
    page = owner.get("/account/").content.decode()
    assert "/account/delete/" in page
    wrong = owner.post("/account/delete/", {"password": "not it"})
    assert wrong.status_code == 422 and "Nothing was deleted" in wrong.content.decode()
    assert User.objects.count() == 1
    owner.user.set_password("seven green herons")
    owner.user.save()
    owner.force_login(owner.user)
    assert owner.post("/account/delete/", {"password": "seven green herons"}).url == "/sign-in/"
    assert not (User.objects.exists() or Table.objects.exists() or Report.objects.exists())
    assert owner.get("/").status_code == 302, "and signed out"
    forget_orphans()
    assert not Blob.objects.exists(), "nor are the files left"


def test_the_sample_account_stays_while_the_sample_is_shown(owner, settings):
    settings.DEMO, settings.DEMO_NAME = True, owner.user.username
    assert owner.post("/account/delete/", {"password": "any"}).status_code == 422
    assert User.objects.count() == 1
