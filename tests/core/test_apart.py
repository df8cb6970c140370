"""Work in a process of its own: what it may take, what it says when it is ended, and that nothing of it stays."""

import os
import time
from functools import partial

import numpy as np
import pytest

from ypsil.core.apart import Apart, Bounds, TooLong, TooMuchMemory
from ypsil.core.errors import MissingColumns, YpsilError

ENOUGH = Bounds(256 << 20, 20)


@pytest.fixture(scope="module")
def apart():
    place = Apart()
    yield place
    place.close()


def refuse():
    raise MissingColumns(["Visits"], ["Branch"])


def zeros(size, progress=None):
    for part in range(3):
        if progress:
            progress(part / 3)
    return int(np.ones(size, np.uint8).sum())


def wait(seconds):
    time.sleep(seconds)


def end_process():
    os.abort()


@pytest.fixture(autouse=True)
def these_functions_are_found(monkeypatch):
    """Let the other process find this file's functions: tests are imported by path."""
    monkeypatch.setitem(os.environ, "PYTHONPATH", os.pathsep.join([os.getcwd(), os.path.join(os.getcwd(), "src")]))


def test_what_is_returned_and_what_is_raised_come_back_whole(apart):
    assert apart.call(partial(divmod, 17, 5), bounds=ENOUGH) == (3, 2)
    with pytest.raises(MissingColumns) as refused:
        apart.call(refuse, bounds=ENOUGH)
    assert refused.value.columns == ["Visits"] and "no column" in refused.value.what and refused.value.remedy
    first = apart.call(os.getpid, bounds=ENOUGH)
    assert first == apart.call(os.getpid, bounds=ENOUGH) != os.getpid()


def test_memory_beyond_the_bound_ends_the_work_with_a_message_and_the_next_is_served(apart):
    started = time.monotonic()
    with pytest.raises(TooMuchMemory, match="256 MB"):
        apart.call(partial(zeros, 1 << 30), bounds=ENOUGH)
    with pytest.raises(TooMuchMemory, match="memory"):
        apart.call(end_process, bounds=ENOUGH)
    assert apart.call(partial(zeros, 1 << 20), bounds=ENOUGH) == 1 << 20
    assert time.monotonic() - started < 10


def test_time_beyond_the_bound_ends_the_work(apart):
    worker = apart.call(os.getpid, bounds=ENOUGH)
    with pytest.raises(TooLong, match="longer than"):
        apart.call(partial(wait, 60), bounds=Bounds(256 << 20, 0.2))
    assert not os.path.exists(f"/proc/{worker}")


def test_progress_is_told_and_what_it_raises_ends_the_work(apart):
    parts = []
    apart.call(partial(zeros, 9), bounds=ENOUGH, progress=parts.append)
    assert parts == [0, 1 / 3, 2 / 3]

    def refuse_more(part):
        raise YpsilError("cancelled")

    with pytest.raises(YpsilError, match="cancelled"):
        apart.call(partial(zeros, 9), bounds=ENOUGH, progress=refuse_more)
    assert apart.call(partial(zeros, 9), bounds=ENOUGH) == 9
