"""Turns: a few at once, in turn of whom they are for, with a waiting room that is bounded."""

import asyncio
import random

import pytest

from ypsil.core.turns import TooMany, Turns

PATIENCE_S = 20.0


async def settled():
    """Let all that can go on go on."""
    for _ in range(10):
        await asyncio.sleep(0)


class Asking:
    """Asks for turns, and notes in which order they are had."""

    def __init__(self, turns):
        self.turns = turns
        self.had = []
        self.refused = []
        self.tasks = []

    async def ask(self, *people):
        """Ask for each of some people, one after the other; all wait or were refused when this returns."""
        for who in people:
            self.tasks.append(asyncio.create_task(self._have(who)))
            await settled()

    async def _have(self, who):
        try:
            async with self.turns.taken(who):
                self.had.append(who)
        except TooMany:
            self.refused.append(who)

    async def end(self):
        await asyncio.gather(*self.tasks)


def test_who_asks_often_waits_behind_themselves():
    async def run():
        turns = Turns(at_once=1, most_waiting=10, wait_s=PATIENCE_S)
        asking = Asking(turns)
        async with turns.taken("first"):
            await asking.ask("often", "often", "often", "once", "twice", "twice")
        await asking.end()
        assert asking.had == ["often", "once", "twice", "often", "twice", "often"]
        assert (turns.free, turns.waiting) == (1, 0)

    asyncio.run(run())


def test_where_the_room_is_full_the_newest_of_who_waits_most_is_turned_away():
    async def run():
        turns = Turns(at_once=1, most_waiting=3, wait_s=PATIENCE_S)
        asking = Asking(turns)
        async with turns.taken("first"):
            await asking.ask("often", "often", "often", "once", "another")
            assert asking.refused == ["often", "often"]
            await asking.ask("once")
            assert asking.refused == ["often", "often", "once"], "of those with as many, who came last"
        await asking.end()
        assert asking.had == ["often", "once", "another"]

    asyncio.run(run())


def test_who_waits_too_long_is_told_so_and_leaves_no_trace():
    async def run():
        turns = Turns(at_once=1, most_waiting=3, wait_s=0.01)
        async with turns.taken("first"):
            with pytest.raises(TooMany):
                async with turns.taken("second"):
                    raise AssertionError("nobody gave their turn back")
            assert turns.waiting == 0
        async with turns.taken("third"):
            assert turns.free == 0

    asyncio.run(run())


def test_a_turn_is_given_back_whatever_happens():
    async def run():
        turns = Turns(at_once=1, most_waiting=0, wait_s=1.0)
        for _ in range(3):
            with pytest.raises(ValueError, match="broken"):
                async with turns.taken("someone"):
                    raise ValueError("broken")
        async with turns.taken("someone"):
            with pytest.raises(TooMany):
                async with turns.taken("another"):
                    raise AssertionError("there is one place")

    asyncio.run(run())


@pytest.mark.parametrize("is_called_first", [False, True])
def test_who_goes_away_takes_no_turn_along(is_called_first):
    async def run():
        turns = Turns(at_once=1, most_waiting=5, wait_s=PATIENCE_S)
        asking = Asking(turns)
        async with turns.taken("first"):
            await asking.ask("gone", "stays")
            if not is_called_first:
                asking.tasks[0].cancel()
                await settled()
        if is_called_first:
            # Its turn came, and it went away before it took it.
            asking.tasks[0].cancel()
        with pytest.raises(asyncio.CancelledError):
            await asking.tasks[0]
        await asking.tasks[1]
        assert asking.had == ["stays"]
        assert (turns.free, turns.waiting) == (1, 0)

    asyncio.run(run())


def test_no_more_work_at_once_than_there_are_places():
    async def run():
        turns = Turns(at_once=2, most_waiting=100, wait_s=PATIENCE_S)
        now, most = 0, 0

        async def work(who):
            nonlocal now, most
            async with turns.taken(who):
                now += 1
                most = max(most, now)
                await asyncio.sleep(0.001)
                now -= 1

        await asyncio.gather(*(work(f"person {number % 5}") for number in range(40)))
        assert (now, most, turns.free) == (0, 2, 2)

    asyncio.run(run())


@pytest.mark.parametrize("seed", range(5))
def test_whoever_comes_goes_away_or_waits_too_long_all_turns_are_there_in_the_end(seed):
    async def run():
        chance = random.Random(seed)
        turns = Turns(at_once=2, most_waiting=20, wait_s=0.002)

        async def work(who):
            await asyncio.sleep(chance.random() / 50)
            async with turns.taken(who):
                await asyncio.sleep(chance.random() / 500)

        tasks = [asyncio.create_task(work(f"person {number % 7}")) for number in range(300)]
        for task in chance.sample(tasks, 60):
            await asyncio.sleep(chance.random() / 2000)
            task.cancel()
        ended = await asyncio.gather(*tasks, return_exceptions=True)
        assert {type(one) for one in ended} <= {type(None), TooMany, asyncio.CancelledError}
        assert (turns.free, turns.waiting) == (2, 0)
        assert any(isinstance(one, TooMany) for one in ended) and None in ended

    asyncio.run(run())
