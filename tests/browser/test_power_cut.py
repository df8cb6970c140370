"""The server is killed in a burst of edits: nothing that was said to be saved is lost, and the rest is sent later."""

import os
import shutil
import signal
import subprocess
import sys
from pathlib import Path

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import _as_people_start_it, _wait_until_served, editor_is_ready, made_report, sign_in
from ypsil.web.server import free_port

BURST = 14


class Server:
    """The demo on one port and in one home, in a group of processes that is killed as one."""

    def __init__(self, home):
        self.home, self.port = home, free_port(8900 + os.getpid() % 90)
        self.address = f"http://127.0.0.1:{self.port}"
        self.start()

    def start(self):
        command = [str(Path(sys.executable).with_name("ypsil")), "demo", "--port", str(self.port)]
        quiet = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL}
        self.process = subprocess.Popen(command, env=_as_people_start_it(self.home), start_new_session=True, **quiet)
        _wait_until_served(self.address)

    def cut(self):
        os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait(timeout=20)

    def end(self):
        if self.process.poll() is None:
            os.killpg(self.process.pid, signal.SIGTERM)
            try:
                self.process.wait(timeout=20)
            except subprocess.TimeoutExpired:
                self.cut()


@pytest.fixture(scope="module")
def own_server(demo_home, tmp_path_factory):
    home = tmp_path_factory.mktemp("cut") / "home"
    shutil.copytree(demo_home, home)
    server = Server(home)
    yield server
    server.end()


def bands(page):
    return page.locator("#page [data-band]").count()


def test_a_burst_of_edits_outlives_a_killed_server(page, own_server):
    sign_in(page, own_server.address)
    made_report(page, own_server.address, "Power cut")
    other = page.context.new_page()
    # Once at the burst's beginning, and once in its middle.
    for after in (1, 6):
        it_is_cut(page, other, own_server, after)


def it_is_cut(page, other, own_server, after):
    before = bands(page)
    said_saved = []

    def is_enough(reply):
        if reply.url.endswith("/edits/") and reply.status == 200:
            said_saved.append(reply)
        return len(said_saved) >= after

    with page.expect_response(is_enough):
        page.evaluate(
            """(times) => {
              const button = document.querySelector('[data-add-band]');
              for (let at = 0; at < times; at += 1) button.click();
            }""",
            BURST,
        )
    own_server.cut()
    expect(page.locator(".saved")).to_contain_text("kept in this browser")
    # What was said to be saved is there once somebody starts the program again.
    own_server.start()
    other.goto(page.url)
    editor_is_ready(other)
    assert bands(other) >= before + len(said_saved)
    # And what was not is sent by itself, each once.
    expect(page.locator("#page [data-band]")).to_have_count(before + BURST)
    expect(page.locator(".saved")).to_contain_text("Saved")
    other.reload()
    editor_is_ready(other)
    expect(other.locator("#page [data-band]")).to_have_count(before + BURST)
    other.goto("about:blank")
