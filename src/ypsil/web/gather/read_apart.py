"""Files that people bring are read in a process of its own, with bounds of memory and time."""

from __future__ import annotations

import atexit
import logging
from collections.abc import Callable
from functools import partial

from django.conf import settings

from ypsil.core.apart import Apart, Bounds, TooLong, TooMuchMemory
from ypsil.core.errors import UnreadableFile
from ypsil.core.tables import ReadTable
from ypsil.core.tables.read import Way, read_with_way
from ypsil.core.tables.reading import Reading

logger = logging.getLogger(__name__)
# Somebody waits: what takes longer goes on in the background.
AT_ONCE_SECONDS = 4
_AT_ONCE_BYTES = 1 << 30
_LONG_SECONDS, _SECONDS_A_MB = 60, 2
_APART = Apart()
atexit.register(_APART.close)


def read_apart(
    data: bytes,
    file_name: str,
    *,
    sheet: str | None = None,
    reading: Reading | None = None,
    at_once: bool = False,
    progress: Callable[[float], None] | None = None,
) -> tuple[ReadTable, Way]:
    """Read a file as ``read_with_way`` does, elsewhere; ``at_once`` while somebody waits for it.

    Raises UnreadableFile also for a file that needs more memory or time than it may have; where it was read at once,
    TooLong says that it may be read in the background.
    """
    work = partial(read_with_way, data, file_name, sheet=sheet, reading=reading)
    long = Bounds(settings.READING_BYTES, _LONG_SECONDS + _SECONDS_A_MB * (len(data) >> 20))
    bounds = Bounds(_AT_ONCE_BYTES, AT_ONCE_SECONDS) if at_once else long
    try:
        return _APART.call(work, bounds=bounds, progress=progress)
    except TooMuchMemory as problem:
        raise UnreadableFile(problem.what, where=file_name, remedy=problem.remedy) from None
    except TooLong as problem:
        if at_once:
            raise
        raise UnreadableFile(problem.what, where=file_name, remedy=problem.remedy) from None
    except RuntimeError:
        # Nobody foresaw it: what it was is for whoever looks after the program.
        logger.exception("a file could not be read")
        raise UnreadableFile(
            "the file holds something that cannot be read", where=file_name, remedy="save it again, or as CSV"
        ) from None
