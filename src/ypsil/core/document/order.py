"""Order keys: texts between which there is always room for another, so that to put one between moves no other."""

from __future__ import annotations

from collections.abc import Iterator

_DIGITS = "0123456789abcdefghijklmnopqrstuvwxyz"
_BASE = len(_DIGITS)


def key_between(before: str | None, after: str | None) -> str:
    """Return a key that sorts between two keys; None is the open end on either side.

    Keys are fractions in base 36, written without the point, and never end in a zero: so there is always a key between
    two different ones. Raises ValueError where ``before`` does not sort before ``after``.

    >>> key_between(None, None), key_between("i", None), key_between(None, "i"), key_between("a", "b")
    ('i', 'r', '9', 'ai')
    """
    if before is not None and after is not None and before >= after:
        raise ValueError(f"“{before}” does not sort before “{after}”")
    low, high = before or "", after
    key = ""
    place = 0
    while True:
        floor = _DIGITS.index(low[place]) if place < len(low) else 0
        ceiling = _DIGITS.index(high[place]) if high is not None and place < len(high) else _BASE
        middle = (floor + ceiling) // 2
        if middle > floor:
            return key + _DIGITS[middle]
        key += _DIGITS[floor]
        if ceiling > floor:
            # From here on anything sorts before the upper key.
            high = None
        place += 1


def keys_after(last: str | None, count: int) -> Iterator[str]:
    """Yield rising keys after a key.

    >>> list(keys_after(None, 3))
    ['i', 'r', 'v']
    """
    for _ in range(count):
        last = key_between(last, None)
        yield last
