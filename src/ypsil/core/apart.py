"""Calling a function in a process of its own, with bounds of memory and time.

What people bring is read there: a file that needs more than it may have ends that process, and nothing else. One
process serves many calls, one after another, and is begun anew where one ended it.
"""

from __future__ import annotations

import contextlib
import os
import resource
import signal
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from multiprocessing.connection import Connection
from typing import Any, TypeVar, cast

from ypsil.core.errors import YpsilError

T = TypeVar("T")
Progress = Callable[[float], None]
_WATCH_S = 0.5
_BEGIN_S = 60.0
# A process that has grown to this much gives its memory back by being begun anew.
_KEPT_BYTES = 512 << 20


@dataclass(frozen=True, slots=True)
class Bounds:
    """What one call may take: bytes of memory beside the program itself, and seconds."""

    memory_bytes: int
    seconds: float


class TooMuchMemory(YpsilError):
    """The work needed more memory than it may have, and was ended."""


class TooLong(YpsilError):
    """The work took longer than it may, and was ended."""


class Apart:
    """A place for one call at a time; others wait for their turn."""

    def __init__(self) -> None:
        self._turn = threading.Lock()
        self._process: subprocess.Popen[bytes] | None = None
        self._line: Connection | None = None

    def call(self, work: Callable[..., T], *, bounds: Bounds, progress: Progress | None = None) -> T:
        """Return what ``work`` returns, called in the other process; it can be pickled, as a partial of a function can.

        Where ``progress`` is given, ``work`` gets as ``progress`` one of its own, whose parts (0 to 1) are handed
        on; what ``progress`` raises ends the work and is raised here. Raises what the work raises, TooMuchMemory,
        or TooLong.
        """
        if not self._turn.acquire(timeout=bounds.seconds):
            raise TooLong("others are being served first", remedy="try again in a moment")
        try:
            what, found = self._called(work, bounds, progress)
        except BaseException:
            # The other process has ended or is in the middle of something; nobody waits for it any more.
            self.close()
            raise
        finally:
            self._turn.release()
        if what == "raised":
            raise found
        return cast(T, found)

    def _called(self, work: Callable[..., Any], bounds: Bounds, progress: Progress | None) -> tuple[str, Any]:
        line = self._begun()
        line.send((work, bounds, progress is not None))
        ends = time.monotonic() + _BEGIN_S
        while True:
            if not line.poll(max(0.0, ends - time.monotonic())):
                raise TooLong(f"it took longer than {bounds.seconds:.0f} seconds", remedy="give less at once")
            try:
                what, found = line.recv()
            except (EOFError, OSError):
                raise _too_much(bounds) from None
            if what == "memory":
                raise _too_much(bounds)
            if what == "begun":
                # What it takes to start a process and to import is nobody's fault.
                ends = time.monotonic() + bounds.seconds
            elif what != "part":
                return what, found
            elif progress:
                progress(found)

    def _begun(self) -> Connection:
        if self._line is not None and self._process is not None:
            is_there = self._process.poll() is None and not self._line.poll()
            if is_there and _held_bytes(self._process.pid) < _KEPT_BYTES:
                return self._line
        self.close()
        ours, theirs = socket.socketpair()
        command = [sys.executable, "-m", "ypsil.core.apart", str(theirs.fileno()), str(os.getpid())]
        with theirs:
            self._process = subprocess.Popen(command, pass_fds=[theirs.fileno()], stdin=subprocess.DEVNULL)
        self._line = Connection(ours.detach())
        return self._line

    def close(self) -> None:
        """End the other process."""
        if self._line is not None:
            self._line.close()
        if self._process is not None:
            self._process.kill()
            self._process.wait()
        self._line = self._process = None


def _too_much(bounds: Bounds) -> TooMuchMemory:
    what = f"it needs more than the {bounds.memory_bytes >> 20:,} MB of memory that it may have"
    return TooMuchMemory(what, remedy="split it, or leave out columns you do not need")


def _serve(line: Connection) -> None:
    """Answer calls until nobody is at the other end."""
    # A fault of the memory is told by a message of ours; nobody needs its image on the disk.
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    with contextlib.suppress(EOFError, OSError):
        while True:
            work, bounds, with_progress = line.recv()
            line.send(("begun", None))
            told = {"progress": lambda part: line.send(("part", part))} if with_progress else {}
            _limit(bounds.memory_bytes)
            answer = _answer(work, told)
            _limit(None)
            try:
                line.send(answer)
            except MemoryError:
                line.send(("memory", None))
            del work, answer


def _answer(work: Callable[..., Any], told: dict[str, Any]) -> tuple[str, Any]:
    try:
        return "done", work(**told)
    except MemoryError:
        return "memory", None
    except YpsilError as problem:
        return "raised", problem
    except BaseException as problem:
        # The engine's panics are no Exceptions; and what others raise may not be picklable.
        return "raised", RuntimeError(f"{type(problem).__name__}: {problem}")


def _limit(memory_bytes: int | None) -> None:
    """Bound the memory that the process may write to (Linux: RLIMIT_DATA counts private mappings too), or let it go."""
    most = resource.RLIM_INFINITY if memory_bytes is None else _held_bytes() + memory_bytes
    resource.setrlimit(resource.RLIMIT_DATA, (most, resource.RLIM_INFINITY))


def _held_bytes(process: int | str = "self") -> int:
    """Return how much memory a process holds that it may write to; nothing where it has ended."""
    with open(f"/proc/{process}/status") as lines:
        return next((int(line.split()[1]) << 10 for line in lines if line.startswith("VmData")), 0)


def end_with(parent: int) -> None:
    """End this process when the one that began it has ended, whatever is being done then, and if it did before this."""

    def watch() -> None:
        while os.getppid() == parent:
            time.sleep(_WATCH_S)
        os.kill(os.getpid(), signal.SIGKILL)

    threading.Thread(target=watch, daemon=True).start()


if __name__ == "__main__":
    end_with(int(sys.argv[2]))
    _serve(Connection(int(sys.argv[1])))
