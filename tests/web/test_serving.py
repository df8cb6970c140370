"""Serving: what other users of the machine can read, and what everybody knows."""

import os
import runpy
import signal
import sqlite3
import stat
import subprocess
import sys
import time
import urllib.error
import urllib.request
from contextlib import closing
from pathlib import Path

import pytest
from django.contrib.sessions.models import Session
from django.test import Client
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from ypsil.demo.load import close_sample, load_demo
from ypsil.web.accounts.models import User
from ypsil.web.server import free_port
from ypsil.web.settings import private_folder
from ypsil.web.tidy import KEPT_RESULTS, forget_ended, forget_interrupted


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
    # As after an earlier start: what else the demo holds is there.
    User.objects.create_user(settings.DEMO_NAME)
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


@pytest.mark.parametrize(
    ("https", "said"),
    [
        ("1", ["301 https://testserver/sign-in/ None", "200 None max-age=31536000"]),
        ("0", ["200 None None", "200 None None"]),
    ],
)
@pytest.mark.django_db
def test_where_https_is_set_a_browser_comes_by_it_alone(tmp_path, monkeypatch, settings, https, said):
    # RFC 6797, 7.2: the header is sent over a secure transport only.
    monkeypatch.setenv("YPSIL_HOME", str(tmp_path))
    monkeypatch.setenv("HTTPS", https)
    for name, value in runpy.run_module("ypsil.web.settings").items():
        if name.startswith("SECURE_"):
            setattr(settings, name, value)
    replies = [Client().get("/sign-in/", secure=secure) for secure in (False, True)]
    heard = [(one.status_code, one.get("Location"), one.get("Strict-Transport-Security")) for one in replies]
    assert [" ".join(map(str, one)) for one in heard] == said


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


class Served:
    """An application that is being served over a folder of its own."""

    def __init__(self, home, **environment):
        self.home, self.port = home, free_port(9300 + os.getpid() % 300)
        self.surroundings = {**os.environ, "YPSIL_HOME": str(home), **environment}
        for name in ("TASK_BACKEND", "DJANGO_SETTINGS_MODULE"):
            self.surroundings.pop(name, None)
        self.begin()

    def command(self):
        return [str(Path(sys.executable).with_name("ypsil")), "serve", "--port", str(self.port)]

    def begin(self):
        self.process = subprocess.Popen(self.command(), env=self.surroundings, stdout=subprocess.PIPE, text=True)
        self.address = self.process.stdout.readline().split()[3]

    def end(self):
        self.process.send_signal(signal.SIGTERM)
        self.process.wait(timeout=20)

    def parts(self):
        """Return the ids of the processes that serve, by their module."""
        found = {}
        for line in subprocess.run(
            ["ps", "-eo", "pid=,ppid=,args="], capture_output=True, text=True
        ).stdout.splitlines():
            own, parent, said = line.split(None, 2)
            if int(parent) == self.process.pid and "-m ypsil.web" in said:
                found[said.split()[2]] = int(own)
        return found

    def asked(self, words):
        with closing(sqlite3.connect(self.home / "ypsil.sqlite3", timeout=20)) as database:
            return database.execute(words).fetchall()

    def run(self, script):
        surroundings = self.surroundings | {"DJANGO_SETTINGS_MODULE": "ypsil.web.settings"}
        subprocess.run([sys.executable, "-c", script], env=surroundings, check=True)


@pytest.fixture(scope="module")
def served(tmp_path_factory):
    application = Served(tmp_path_factory.mktemp("served") / "home", DEBUG="1")
    yield application
    application.end()


def runs(process):
    """Tell whether a process runs; one that has ended may still be listed."""
    try:
        return Path(f"/proc/{process}/stat").read_text().rsplit(")")[-1].split()[0] != "Z"
    except OSError:
        return False


def until(found, seconds=40):
    """Return what is found once it is something."""
    ends = time.monotonic() + seconds
    while not (now := found()):
        assert time.monotonic() < ends, "it did not come about"
        time.sleep(0.02)
    return now


def test_what_is_served_is_closed_to_others_and_shows_no_insides(served):
    shown = answered(served.address + "nowhere/")
    assert "Traceback" not in shown and "DEBUG" not in shown and "urlpatterns" not in shown
    assert mode(served.home) == 0o700
    files = (*served.home.glob("ypsil.sqlite3*"), served.home / "secret_key")
    assert {mode(path) for path in files} == {0o600}


def test_one_folder_is_served_once(served):
    second = subprocess.run(served.command(), env=served.surroundings, capture_output=True, text=True, timeout=30)
    assert second.returncode == 1
    assert "in use by another" in second.stderr and "YPSIL_HOME" in second.stderr and "Traceback" not in second.stderr
    assert "Not Found" in answered(served.address + "nowhere/") or answered(served.address + "nowhere/")


LARGE_FILE = """
import django
django.setup()
from ypsil.web.accounts.models import User
from ypsil.web.gather.arrivals import receive
rows = "".join(f"{row},Alder Lane,{row % 977}\\n" for row in range(200_000))
receive(User.objects.create(username="{name}"), "visits.csv", ("Id,Branch,Visits\\n" + rows).encode(), table=None)
"""


def test_what_was_taken_in_is_kept_whichever_process_is_killed(served):
    answered(served.address + "nowhere/")
    served.run(LARGE_FILE.replace("{name}", "ann"))
    until(lambda: served.asked("SELECT 1 FROM gather_arrival WHERE state = 'reading'"))
    before = served.parts()
    os.kill(before["ypsil.web.serving"], signal.SIGKILL)
    os.kill(before["ypsil.web.worker"], signal.SIGKILL)
    until(lambda: served.asked("SELECT 1 FROM gather_arrival WHERE state = 'done' AND begun = 2"))
    assert served.asked("SELECT row_count FROM gather_preparation") == [(200_000,)]
    after = until(lambda: len(served.parts()) == 2 and served.parts())
    assert set(after) == set(before) and not set(after.values()) & set(before.values())
    assert answered(served.address + "nowhere/")


def test_where_the_whole_is_killed_nothing_of_it_stays_and_it_can_be_served_again(served):
    answered(served.address + "nowhere/")
    served.run(LARGE_FILE.replace("{name}", "ben"))
    for _ in range(2):
        parts = served.parts()
        served.process.kill()
        served.process.wait()
        until(lambda parts=parts: not any(map(runs, parts.values())), 5)
        served.begin()
        until(lambda: len(served.parts()) == 2 and served.parts())
    until(lambda: not served.asked("SELECT 1 FROM gather_arrival WHERE state != 'done'"))
    assert set(served.asked("SELECT row_count FROM gather_preparation")) == {(200_000,)}


@pytest.mark.django_db(transaction=True)
def test_what_nobody_needs_any_more_is_cleared():
    old = timezone.now() - 2 * KEPT_RESULTS
    kept, ended, interrupted = (DBTaskResult.objects.create(backend_name="default", args_kwargs={}) for _ in range(3))
    DBTaskResult.objects.filter(pk=ended.pk).update(status="SUCCESSFUL", started_at=old, finished_at=old)
    DBTaskResult.objects.filter(pk=interrupted.pk).update(status="RUNNING", started_at=old)
    Session.objects.create(session_key="over", session_data="", expire_date=old)
    Session.objects.create(session_key="on", session_data="", expire_date=timezone.now() + KEPT_RESULTS)
    forget_ended()
    assert [one.session_key for one in Session.objects.all()] == ["on"]
    assert {one.pk for one in DBTaskResult.objects.all()} == {kept.pk, interrupted.pk}
    forget_interrupted()
    assert {one.pk for one in DBTaskResult.objects.all()} == {kept.pk}
