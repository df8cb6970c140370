"""The web process: ``python -m ypsil.web.serving PARENT PORT``, kept running by ``ypsil.web.server``."""

from __future__ import annotations

import os
import sys
import threading

from ypsil.core.apart import end_with
from ypsil.web.server import HOST

# The first search for a sign would wait for both sets to be read; the first requests come before that.
_SIGNS_AFTER_S = 4.0


def _read_signs() -> None:
    from ypsil.core.drawing.signs import find_signs

    find_signs("book")
    find_signs("book", "coloured")


def run(port: int) -> None:
    """Answer requests until told to stop."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ypsil.web.settings")
    import uvicorn

    from ypsil.web.settings import TRUSTED_PROXY

    reading = threading.Timer(_SIGNS_AFTER_S, _read_signs)
    reading.daemon = True
    reading.start()
    uvicorn.run(
        "ypsil.web.asgi:application",
        host=HOST,
        port=port,
        log_level="warning",
        lifespan="off",
        # Windows that listen for changes never end by themselves; they ask anew.
        timeout_graceful_shutdown=2,
        proxy_headers=bool(TRUSTED_PROXY),
        forwarded_allow_ips=TRUSTED_PROXY or None,
    )


if __name__ == "__main__":
    end_with(int(sys.argv[1]))
    run(int(sys.argv[2]))
