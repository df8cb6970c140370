"""Serving: what other users of the machine can read, and what everybody knows."""

import os
import signal
import stat
import subprocess
import sys
import time
import urllib.error
import urllib.request
from pathlib import Path

import pytest
from django.test import Client

from ypsil.demo.load import close_sample, load_demo
from ypsil.web.accounts.models import User
from ypsil.web.server import free_port
from ypsil.web.settings import private_folder


def mode(path):
    return stat.S_IMODE(path.stat().st_mode)


def test_a_home_of_ours_is_closed_and_a_folder_of_everybodys_is_left(tmp_path):
    fresh, ours, shared = tmp_path / "a/b", tmp_path / "ours", tmp_path / "shared"
    ours.mkdir(mode=0o755)
    (ours / "secret_key").write_text("x")
    shared.mkdir()
    shared.chmod(0o1777)
    for folder in (fresh, ours, shared):
        private_folder(folder)
    assert [mode(folder) for folder in (fresh, ours, shared)] == [0o700, 0o700, 0o1777]


@pytest.mark.django_db
def test_the_samples_password_opens_nothing_where_the_demo_is_not_served(settings):
    load_demo()
    known = {"username": settings.DEMO_NAME, "password": settings.DEMO_PASSWORD}
    assert Client().post("/sign-in/", known).status_code == 302
    close_sample()
    assert Client().post("/sign-in/", known).status_code == 200
    load_demo()
    assert Client().post("/sign-in/", known).status_code == 302
    own = User.objects.get(username=settings.DEMO_NAME)
    own.set_password("another one")
    own.save()
    close_sample()
    own.refresh_from_db()
    assert own.check_password("another one"), "a password that somebody chose stays"
    load_demo()
    assert Client().post("/sign-in/", known).status_code == 302, "the demo's page names the one that works"


HTTPS_ASKED = """
import django
django.setup()
from django.test import Client
for secure in (False, True):
    reply = Client().get("/sign-in/", secure=secure)
    print(reply.status_code, reply.get("Location"), reply.get("Strict-Transport-Security"))
"""


@pytest.mark.parametrize(
    ("https", "said"),
    [
        ("1", ["301 https://testserver/sign-in/ None", "200 None max-age=31536000"]),
        ("0", ["200 None None", "200 None None"]),
    ],
)
def test_where_https_is_set_a_browser_comes_by_it_alone(tmp_path, https, said):
    # RFC 6797, 7.2: the header is sent over a secure transport only.
    surroundings = os.environ | {"YPSIL_HOME": str(tmp_path), "HTTPS": https}
    surroundings["DJANGO_SETTINGS_MODULE"] = "ypsil.web.settings"
    asked = subprocess.run([sys.executable, "-c", HTTPS_ASKED], env=surroundings, capture_output=True, text=True)
    assert asked.stdout.splitlines() == said, asked.stderr


def answered(address):
    """Return what a server says at an address, once it listens."""
    ends = time.monotonic() + 60
    while True:
        try:
            urllib.request.urlopen(address, timeout=5)
        except urllib.error.HTTPError as found:
            return found.read().decode()
        except OSError:
            if time.monotonic() > ends:
                raise


def test_what_is_served_is_closed_to_others_and_shows_no_insides(tmp_path):
    home, port = tmp_path / "home", free_port(9300 + os.getpid() % 300)
    environment = {**os.environ, "YPSIL_HOME": str(home), "DEBUG": "1"}
    for name in ("TASK_BACKEND", "DJANGO_SETTINGS_MODULE"):
        environment.pop(name, None)
    command = [str(Path(sys.executable).with_name("ypsil")), "serve", "--port", str(port)]
    server = subprocess.Popen(command, env=environment, stdout=subprocess.PIPE, text=True)
    try:
        address = server.stdout.readline().split()[3]
        shown = answered(address + "nowhere/")
        assert "Traceback" not in shown and "DEBUG" not in shown and "urlpatterns" not in shown
        assert mode(home) == 0o700
        assert {mode(path) for path in (*home.glob("ypsil.sqlite3*"), home / "secret_key")} == {0o600}
    finally:
        server.send_signal(signal.SIGTERM)
        server.wait(timeout=20)
