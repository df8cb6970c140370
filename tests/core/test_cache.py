"""The cache: bounded in bytes, the longest unused forgotten, used by many threads at once."""

import random
from concurrent.futures import ThreadPoolExecutor

import pytest

from ypsil.core.cache import Cache


@pytest.fixture
def cache():
    return Cache("texts", 10, len)


def test_the_longest_unused_is_forgotten_where_there_is_no_room(cache):
    cache.put("a", "1234")
    cache.put("b", "1234")
    assert cache.get("a") == "1234"
    cache.put("c", "1234")
    assert ("a" in cache, "b" in cache, "c" in cache) == (True, False, True)
    assert (cache.usage().entries, cache.usage().size, cache.usage().forgotten) == (2, 8, 1)


def test_a_value_that_is_larger_than_all_is_given_and_not_kept(cache):
    cache.put("a", "1234")
    assert cache.get_or_make("b", lambda: "x" * 11) == "x" * 11
    assert ("a" in cache, "b" in cache) == (True, False)


def test_a_value_that_is_put_anew_takes_its_own_room_only(cache):
    for text in ("12345678", "123", "123456"):
        cache.put("a", text)
    assert (cache.get("a"), cache.usage().size) == ("123456", 6)


def test_what_raises_is_not_kept(cache):
    with pytest.raises(ZeroDivisionError):
        cache.get_or_make("a", lambda: str(1 // 0))
    assert cache.get_or_make("a", lambda: "made") == "made"


def test_hits_and_misses_are_counted(cache):
    for _ in range(3):
        cache.get_or_make("a", lambda: "made")
    assert (cache.usage().hits, cache.usage().misses) == (2, 1)
    cache.clear()
    assert (len(cache), cache.usage().size) == (0, 0)


def test_many_threads_get_what_belongs_to_their_key_while_all_is_forgotten_all_the_time():
    cache = Cache("numbers", 200, lambda text: len(text))

    def ask(seed):
        chance = random.Random(seed)
        for _ in range(2_000):
            key = chance.randrange(60)
            assert cache.get_or_make(key, lambda key=key: f"{key:08}") == f"{key:08}"

    with ThreadPoolExecutor(8) as pool:
        list(pool.map(ask, range(8)))
    assert cache.usage().size <= 200
    assert cache.usage().forgotten > 100
