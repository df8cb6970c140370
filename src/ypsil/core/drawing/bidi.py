"""The order in which the letters of a line are seen where scripts run in both directions.

After the Unicode Bidirectional Algorithm (Unicode Standard Annex 9): rules P2 and P3 for the direction of a paragraph,
W1 to W7 for numbers and signs, N1 and N2 for what has no direction of its own, I1 and I2 for levels, L2 for the order
seen. Marks of embedding and isolation, which nobody types into a report, are taken as signs without direction, and
brackets are not paired (N0).
"""

from __future__ import annotations

import unicodedata
from collections.abc import Sequence

_RIGHT = ("R", "AL")
_STRONG = ("L", *_RIGHT)
_MIRRORED = dict(zip("()[]{}<>«»‹›", ")(][}{><»«›‹", strict=True))


def runs_rightwards(text: str) -> bool:
    """Tell whether a paragraph begins at the left: by its first letter that has a direction (P2, P3).

    >>> runs_rightwards("2026: שלום"), runs_rightwards("Visits שלום"), runs_rightwards("")
    (False, True, True)
    """
    found = (unicodedata.bidirectional(letter) for letter in text)
    return next((kind for kind in found if kind in _STRONG), "L") == "L"


def has_direction(text: str) -> bool:
    """Tell whether any letter of a text has a direction.

    >>> has_direction(": 5"), has_direction("is 5"), has_direction("ש")
    (False, True, True)
    """
    return any(unicodedata.bidirectional(letter) in _STRONG for letter in text)


def has_leftward(text: str) -> bool:
    """Tell whether any letter of a text runs to the left."""
    return not text.isascii() and any(unicodedata.bidirectional(letter) in (*_RIGHT, "AN") for letter in text)


def levels(text: str, *, rightwards: bool) -> list[int]:
    """Return the level of each letter of a line: even ones run to the right, odd ones to the left.

    >>> levels("a בג 12", rightwards=True)
    [0, 0, 1, 1, 1, 2, 2]
    """
    base = 0 if rightwards else 1
    kinds = _neutrals(_numbers([unicodedata.bidirectional(letter) for letter in text], base), base)
    steps = {"L": (0, 1), "R": (1, 0), "EN": (2, 1), "AN": (2, 1)}
    return [base + steps[kind][base] for kind in kinds]


def _numbers(kinds: list[str], base: int) -> list[str]:
    """Settle numbers and what belongs to them (W1 to W7)."""
    start = "R" if base else "L"
    for at, kind in enumerate(kinds):
        if kind == "NSM":
            kinds[at] = kinds[at - 1] if at else start
    _after_strong(kinds, start, "AL", "AN")
    kinds = ["R" if kind == "AL" else kind for kind in kinds]
    _join_signs(kinds)
    _after_strong(kinds, start, "L", "L")
    return kinds


def _after_strong(kinds: list[str], start: str, strong: str, becomes: str) -> None:
    """Numbers become something else where the letter before them that has a direction is of one kind (W2, W7)."""
    last = start
    for at, kind in enumerate(kinds):
        if kind in _STRONG:
            last = kind
        elif kind == "EN" and last == strong:
            kinds[at] = becomes


def _join_signs(kinds: list[str]) -> None:
    """Signs between numbers, and those that end them, are part of them (W4, W5)."""
    for at in range(1, len(kinds) - 1):
        before, kind, after = kinds[at - 1 : at + 2]
        if before == after and ((kind == "ES" and before == "EN") or (kind == "CS" and before in ("EN", "AN"))):
            kinds[at] = before
    for order in (range(len(kinds)), range(len(kinds) - 1, -1, -1)):
        near = ""
        for at in order:
            if kinds[at] == "ET" and near == "EN":
                kinds[at] = "EN"
            near = kinds[at]


def _neutrals(kinds: list[str], base: int) -> list[str]:
    """Give what has no direction that of its neighbours, where these agree, else that of the paragraph (N1, N2)."""
    start = "R" if base else "L"
    settled = list(kinds)
    at = 0
    while at < len(kinds):
        if kinds[at] in ("L", "R", "EN", "AN"):
            at += 1
            continue
        end = at
        while end < len(kinds) and kinds[end] not in ("L", "R", "EN", "AN"):
            end += 1
        before = _side(kinds[at - 1]) if at else start
        after = _side(kinds[end]) if end < len(kinds) else start
        settled[at:end] = [before if before == after else start] * (end - at)
        at = end
    return settled


def _side(kind: str) -> str:
    return "L" if kind == "L" else "R"


def seen_order(found: Sequence[int]) -> list[int]:
    """Return the places of a line's letters from the left to the right, by their levels (L2).

    >>> seen_order(levels("a בג", rightwards=True))
    [0, 1, 3, 2]
    """
    order = list(range(len(found)))
    for level in range(max(found, default=0), 0, -1):
        at = 0
        while at < len(order):
            if found[order[at]] < level:
                at += 1
                continue
            end = at
            while end < len(order) and found[order[end]] >= level:
                end += 1
            order[at:end] = reversed(order[at:end])
            at = end
    return order


def mirrored(letter: str) -> str:
    """Return a bracket as it stands in what runs to the left."""
    return _MIRRORED.get(letter, letter)


def is_strong(letter: str) -> bool:
    """Tell whether a letter has a direction of its own, so that whoever draws it knows it."""
    return unicodedata.bidirectional(letter) in _STRONG
