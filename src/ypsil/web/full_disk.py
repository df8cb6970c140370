"""What is done where the disk is full: it is said, and what was half written gives its room back.

Files are refused before that: as long as some room is left, edits are kept and the database puts itself in order.
"""

from __future__ import annotations

import errno
import shutil
import sqlite3
from contextlib import suppress

from django.conf import settings
from django.db import DatabaseError, connection

from ypsil.core.errors import YpsilError

# What is kept is in the database's log first, and in its file then.
_TWICE = 2
SAID = "The server's disk is full. Nothing was changed: try again once whoever runs it has made room."


class DiskFull(YpsilError):
    """There is no room for what was to be kept."""


def check_room(size: int) -> None:
    """Raise DiskFull where so many bytes would leave less room than everybody else's work needs."""
    if connection.vendor != "sqlite" or size < settings.LEAST_FREE_BYTES // 100:
        return
    if shutil.disk_usage(settings.HOME).free < _TWICE * size + settings.LEAST_FREE_BYTES:
        raise DiskFull(
            "the server's disk is nearly full, and there is no room for this; nothing was changed",
            remedy="try again once whoever runs it has made room",
        )


def is_disk_full(problem: BaseException) -> bool:
    """Tell whether there was no room for what was to be kept (SQLITE_FULL) or written (ENOSPC)."""
    code = getattr(problem.__cause__, "sqlite_errorcode", getattr(problem, "sqlite_errorcode", None))
    return code == sqlite3.SQLITE_FULL or (isinstance(problem, OSError) and problem.errno == errno.ENOSPC)


def give_back() -> None:
    """Cut off what an undone change left in the database's log: it would keep the disk full until the next start."""
    if connection.vendor != "sqlite":
        return
    with suppress(DatabaseError), connection.cursor() as cursor:
        cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)")
