"""Serving the application: the web process, and a worker beside it for long work."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
from contextlib import closing
from pathlib import Path

HOST = "127.0.0.1"
_PORTS_TRIED = 20


def serve(*, port: int, with_demo: bool) -> None:
    """Prepare the database, start a worker, and serve until interrupted."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ypsil.web.settings")
    # Whoever serves shows nobody the insides of a fault, and no other user of the machine the data.
    os.environ["DEBUG"] = "0"
    os.umask(0o077)
    os.environ["YPSIL_DEMO"] = "1" if with_demo else "0"
    import django
    import uvicorn

    django.setup()
    from django.conf import settings
    from django.core.management import call_command

    from ypsil.web.settings import private_folder

    private_folder(settings.HOME)
    call_command("migrate", verbosity=0)
    close_files(settings.HOME)
    call_command("collectstatic", interactive=False, verbosity=0)
    from ypsil.demo.load import close_sample, load_demo

    if with_demo:
        load_demo()
    else:
        close_sample()
    from ypsil.web.gather.arrivals import resume
    from ypsil.web.publish.releases import look_at_all

    resume()
    look_at_all()
    port = free_port(port)
    worker = subprocess.Popen(
        [sys.executable, "-m", "ypsil.web.manage", "db_worker", "--interval", "0.5", "--verbosity", "0"]
    )
    print(f"Ypsil is at http://{HOST}:{port}/  (stop it with Ctrl+C)", flush=True)
    # uvicorn hands the signal on when it has closed; as an exit, it lets the worker be ended too.
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    try:
        uvicorn.run(
            "ypsil.web.asgi:application",
            host=HOST,
            port=port,
            log_level="warning",
            lifespan="off",
            proxy_headers=bool(settings.TRUSTED_PROXY),
            forwarded_allow_ips=settings.TRUSTED_PROXY or None,
        )
    finally:
        worker.terminate()
        worker.wait()


def close_files(home: Path) -> None:
    """Let nobody but its owner read the database and the key, also where they were made before this was seen to."""
    for path in (*home.glob("*.sqlite3*"), *home.glob("secret_key*")):
        path.chmod(0o600)


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
