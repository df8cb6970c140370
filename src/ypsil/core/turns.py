"""Work that is done a few pieces at a time, in turn of whom it is for: who asks often waits behind themselves."""

from __future__ import annotations

import asyncio
from collections import OrderedDict, deque
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager

_Ticket = asyncio.Future[None]


class TooMany(Exception):
    """More is asked for than can be done soon."""


class Turns:
    """Lets ``at_once`` pieces of work be done together and ``most_waiting`` wait for at most ``wait_s`` seconds, all
    within one event loop.

    A place that becomes free goes to the next of those who wait, round and round, whoever came how often. Where the
    waiting room is full, the newest of who has the most in it is turned away.
    """

    def __init__(self, at_once: int, most_waiting: int, wait_s: float) -> None:
        self.free = at_once
        self.most_waiting = most_waiting
        self.wait_s = wait_s
        self._waiting: OrderedDict[str, deque[_Ticket]] = OrderedDict()

    @property
    def waiting(self) -> int:
        """How many wait."""
        return sum(map(len, self._waiting.values()))

    @asynccontextmanager
    async def taken(self, who: str) -> AsyncIterator[None]:
        """Wait for a turn, and give it back at the end; raises TooMany."""
        await self._wait(who)
        try:
            yield
        finally:
            self._give_back()

    async def _wait(self, who: str) -> None:
        if self.free:
            self.free -= 1
            return
        ticket: _Ticket = asyncio.get_running_loop().create_future()
        self._waiting.setdefault(who, deque()).append(ticket)
        if self.waiting > self.most_waiting:
            self._turn_one_away()
        try:
            await asyncio.wait([ticket], timeout=self.wait_s)
        except asyncio.CancelledError:
            if not ticket.done():
                self._leave(who, ticket)
            elif ticket.exception() is None:
                # Its turn came in the same moment.
                self._give_back()
            raise
        if not ticket.done():
            self._leave(who, ticket)
            raise TooMany
        ticket.result()

    def _turn_one_away(self) -> None:
        # Of those with as many, the one who came last.
        who = max(reversed(self._waiting), key=lambda one: len(self._waiting[one]))
        ticket = self._waiting[who][-1]
        self._leave(who, ticket)
        ticket.set_exception(TooMany())

    def _leave(self, who: str, ticket: _Ticket) -> None:
        self._waiting[who].remove(ticket)
        if not self._waiting[who]:
            del self._waiting[who]

    def _give_back(self) -> None:
        if not self._waiting:
            self.free += 1
            return
        who, tickets = self._waiting.popitem(last=False)
        tickets.popleft().set_result(None)
        if tickets:
            self._waiting[who] = tickets
