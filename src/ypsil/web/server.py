"""Serving the application: one supervisor that keeps a web process and a worker running over one folder of data."""

from __future__ import annotations

import contextlib
import fcntl
import os
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path

from ypsil.core.errors import YpsilError

HOST = "127.0.0.1"
_PORTS_TRIED = 20
_LOOK_EVERY_S = 0.25
_FIRST_PAUSE_S, _LONGEST_PAUSE_S, _STEADY_S = 0.5, 30.0, 60.0
_TIDY_EVERY_S = 24 * 3600.0


def serve(*, port: int, with_demo: bool) -> None:
    """Serve until interrupted; a web process or worker that ends is begun again.

    Raises YpsilError where the folder of data is being served already.
    """
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ypsil.web.settings")
    # Whoever serves shows nobody the insides of a fault, and no other user of the machine the data.
    os.environ["DEBUG"] = "0"
    os.umask(0o077)
    os.environ["YPSIL_DEMO"] = "1" if with_demo else "0"
    from ypsil.web.settings import HOME, private_folder

    private_folder(HOME)
    with only_one(HOME):
        signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
        _keep_running(free_port(port))


@contextlib.contextmanager
def only_one(home: Path) -> Iterator[None]:
    """Hold a folder of data; raises YpsilError where another program holds it. What ends lets go of it."""
    with (home / "in_use").open("w") as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            raise YpsilError(
                "this folder of data is in use by another Ypsil",
                where=str(home),
                remedy="stop that one, or name another folder in YPSIL_HOME",
            ) from None
        yield


class _Kept:
    """A process that is begun again when it ends, after a pause that grows while it does not last."""

    def __init__(self, module: str, *arguments: str) -> None:
        self.command = _command(module, *arguments)
        self.pause_s = _FIRST_PAUSE_S
        self.due = 0.0
        self.begin()

    def begin(self) -> None:
        self.process = subprocess.Popen(self.command)
        self.begun = time.monotonic()

    def look(self) -> None:
        """Begin it again where it has ended."""
        now = time.monotonic()
        if self.process.poll() is None:
            return
        if not self.due:
            lasted = now - self.begun
            self.pause_s = _FIRST_PAUSE_S if lasted > _STEADY_S else min(2 * self.pause_s, _LONGEST_PAUSE_S)
            self.due = now + self.pause_s
        elif now >= self.due:
            self.due = 0.0
            self.begin()

    def end(self) -> None:
        self.process.terminate()


def _command(module: str, *arguments: str) -> list[str]:
    """Return how a module is run as a process that ends with this one."""
    return [sys.executable, "-m", module, str(os.getpid()), *arguments]


def _keep_running(port: int) -> None:
    prepared = subprocess.run([sys.executable, "-m", "ypsil.web.prepare"], check=False)
    if prepared.returncode:
        sys.exit(prepared.returncode)
    kept = [_Kept("ypsil.web.serving", str(port)), _Kept("ypsil.web.worker")]
    print(f"Ypsil is at http://{HOST}:{port}/  (stop it with Ctrl+C)", flush=True)
    tidied, tidying = time.monotonic(), None
    try:
        while True:
            time.sleep(_LOOK_EVERY_S)
            for one in kept:
                one.look()
            if time.monotonic() - tidied > _TIDY_EVERY_S and (tidying is None or tidying.poll() is not None):
                tidied, tidying = time.monotonic(), subprocess.Popen(_command("ypsil.web.tidy"))
    except KeyboardInterrupt:
        pass
    finally:
        for one in kept:
            one.end()
        for one in kept:
            one.process.wait()


def free_port(wanted: int) -> int:
    """Return the first port from ``wanted`` on that nobody listens at."""
    for port in range(wanted, wanted + _PORTS_TRIED):
        with closing(socket.socket(socket.AF_INET, socket.SOCK_STREAM)) as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind((HOST, port))
            except OSError:
                continue
            return port
    raise SystemExit(f"ypsil: no free port between {wanted} and {wanted + _PORTS_TRIED - 1}; name another with --port")
