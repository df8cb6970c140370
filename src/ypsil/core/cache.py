"""What was worked out once, kept by all that it depends on: locked, the longest unused forgotten first, bounded in
bytes."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import dataclass
from threading import RLock
from typing import Generic, TypeVar

_Key = TypeVar("_Key", bound=Hashable)
_Value = TypeVar("_Value")


@dataclass(frozen=True, slots=True)
class Usage:
    """How a cache is used: what it holds, and how often it had what was asked for."""

    entries: int
    size: int  # bytes
    hits: int
    misses: int
    forgotten: int


class Cache(Generic[_Key, _Value]):
    """Values by keys, of ``most_bytes`` at most; ``size_of`` says how many bytes a value takes.

    A value that is asked for by several threads at once may be made by each of them; the first that is kept is what all
    get from then on. One that is larger than the whole cache is not kept.

    >>> squares: Cache[int, str] = Cache("squares", 10, len)
    >>> squares.get_or_make(3, lambda: "nine"), squares.get_or_make(3, lambda: "never made"), squares.usage().hits
    ('nine', 'nine', 1)
    """

    def __init__(self, name: str, most_bytes: int, size_of: Callable[[_Value], int]) -> None:
        self.name = name
        self.most_bytes = most_bytes
        self._size_of = size_of
        self._kept: OrderedDict[_Key, tuple[_Value, int]] = OrderedDict()
        self._lock = RLock()
        self._size = self._hits = self._misses = self._forgotten = 0

    def get(self, key: _Key) -> _Value | None:
        """Return what is kept under a key, or None; it is then the latest used."""
        with self._lock:
            found = self._kept.get(key)
            if found is None:
                self._misses += 1
                return None
            self._hits += 1
            self._kept.move_to_end(key)
            return found[0]

    def put(self, key: _Key, value: _Value) -> _Value:
        """Keep a value, and forget the longest unused ones that it leaves no room for."""
        size = self._size_of(value)
        with self._lock:
            before = self._kept.pop(key, None)
            self._size -= before[1] if before else 0
            if size > self.most_bytes:
                return value
            self._kept[key] = (value, size)
            self._size += size
            while self._size > self.most_bytes:
                _, (_, freed) = self._kept.popitem(last=False)
                self._size -= freed
                self._forgotten += 1
        return value

    def get_or_make(self, key: _Key, make: Callable[[], _Value]) -> _Value:
        """Return what is kept under a key, or make and keep it. What raises is not kept."""
        found = self.get(key)
        if found is not None:
            return found
        made = make()
        with self._lock:
            other = self._kept.get(key)
            return other[0] if other is not None else self.put(key, made)

    def __contains__(self, key: _Key) -> bool:
        """Tell whether something is kept under a key, without using it."""
        with self._lock:
            return key in self._kept

    def __len__(self) -> int:
        return len(self._kept)

    def clear(self) -> None:
        with self._lock:
            self._kept.clear()
            self._size = 0

    def usage(self) -> Usage:
        """Return how the cache is used."""
        with self._lock:
            return Usage(len(self._kept), self._size, self._hits, self._misses, self._forgotten)
