"""Signing up, in and out."""

import pytest

from ypsil.web.accounts.models import User

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
