"""What windows that look on are told: each other state once, at once where it was changed here."""

import asyncio
import time

import pytest
from django.db import OperationalError

from ypsil.web import events
from ypsil.web.events import Watch

PATIENCE_S = 20


class Thing:
    """Something with a state, which counts how often it was asked for it."""

    def __init__(self, state=1):
        self.state = state
        self.asked = 0
        self.problem = None

    def ask(self, _):
        self.asked += 1
        if self.problem:
            raise self.problem
        return self.state

    async def is_asked(self, times=1):
        """Wait until it is asked so many times more."""
        before = self.asked
        while self.asked < before + times:
            await asyncio.sleep(0.001)


async def next_of(window):
    return await asyncio.wait_for(anext(window), PATIENCE_S)


def run(story):
    asyncio.run(asyncio.wait_for(story, PATIENCE_S))


def test_it_is_asked_for_once_however_many_look_on(monkeypatch):
    monkeypatch.setattr(events, "EVERY_S", 60)

    async def story():
        thing = Thing()
        watch = Watch(thing.ask)
        windows = [watch.events(7) for _ in range(200)]
        assert {await next_of(one) for one in windows} == {"data: 1\n\n"}
        assert thing.asked == 1
        thing.state = 2
        begun = time.monotonic()
        watch.look(7)
        assert {await next_of(one) for one in windows} == {"data: 2\n\n"}
        assert thing.asked == 2 and time.monotonic() - begun < PATIENCE_S
        for one in windows:
            await one.aclose()

    run(story())


@pytest.mark.parametrize("problem", [None, OperationalError("database is locked")])
def test_what_others_changed_is_found_after_a_while_also_where_the_database_could_not_answer(monkeypatch, problem):
    monkeypatch.setattr(events, "EVERY_S", 0.001)

    async def story():
        thing = Thing("a")
        window = Watch(thing.ask).events(7)
        assert await next_of(window) == 'data: "a"\n\n'
        thing.problem = problem
        await thing.is_asked(2)
        thing.problem, thing.state = None, "b"
        assert await next_of(window) == 'data: "b"\n\n'
        await window.aclose()

    run(story())


def test_nobody_asks_where_nobody_looks_on(monkeypatch):
    monkeypatch.setattr(events, "EVERY_S", 0.001)

    async def story():
        thing = Thing()
        watch = Watch(thing.ask)
        first, second = watch.events(7), watch.events(7)
        await next_of(first), await next_of(second)
        await first.aclose()
        await thing.is_asked(2)
        await second.aclose()
        await asyncio.sleep(0.02)
        before = thing.asked
        await asyncio.sleep(0.02)
        assert thing.asked == before and not watch._lines
        watch.look(7)
        again = watch.events(7)
        assert await next_of(again) == "data: 1\n\n"
        await again.aclose()

    run(story())


@pytest.mark.filterwarnings("ignore::pytest.PytestUnraisableExceptionWarning")
def test_what_goes_wrong_ends_the_line_and_the_next_window_begins_anew(monkeypatch):
    monkeypatch.setattr(events, "EVERY_S", 0.001)

    async def story():
        asyncio.get_running_loop().set_exception_handler(lambda *_: None)
        thing = Thing()
        watch = Watch(thing.ask)
        window = watch.events(7)
        await next_of(window)
        thing.problem = ValueError("broken")
        with pytest.raises(StopAsyncIteration):
            await next_of(window)
        thing.problem = None
        again = watch.events(7)
        assert await next_of(again) == "data: 1\n\n"
        await again.aclose()

    run(story())


def test_a_quiet_line_says_that_it_still_stands(monkeypatch):
    monkeypatch.setattr(events, "EVERY_S", 60)
    monkeypatch.setattr(events, "_STILL_S", 0.01)

    async def story():
        window = Watch(Thing().ask).events(7)
        assert await next_of(window) == "data: 1\n\n"
        assert await next_of(window) == ": still here\n\n"
        await window.aclose()

    run(story())


def test_a_window_asks_anew_in_the_end(monkeypatch):
    monkeypatch.setattr(events, "_LONGEST_S", 0.05)

    async def story():
        watch = Watch(Thing().ask)
        told = [one async for one in watch.events(7)]
        assert told[0] == "data: 1\n\n" and set(told[1:]) <= {": still here\n\n"}
        assert not watch._lines

    run(story())
