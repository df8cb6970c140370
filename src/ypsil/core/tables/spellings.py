"""Values that look like one thing spelled in several ways."""

from __future__ import annotations

import re
from collections.abc import Mapping

_MOST_VALUES = 5_000
_MOST_COMPARED = 600
_SHORTEST_COMPARED = 5
# A slip of the hand is rare beside the right spelling (common practice, no source).
_RARER_BY = 3


def alike(counts: Mapping[str, int]) -> list[list[str]]:
    """Return groups of values that differ in case, spaces, marks or one slip of the hand, the commonest first.

    A slip is one letter more, fewer, other or two swapped (Damerau-Levenshtein distance of 1, Damerau,
    Communications of the ACM 7(3), 1964), in a word of five letters or more that is at least three times
    rarer. Values whose digits differ are never alike.

    >>> alike({"Alder Lane": 9, "alder  lane": 2, "Alder Lnae": 1, "Dunmere": 4, "Year 5": 9, "Year 6": 1})
    [['Alder Lane', 'alder  lane', 'Alder Lnae']]
    """
    if len(counts) > _MOST_VALUES:
        return []
    groups: dict[str, list[str]] = {}
    for value in sorted(counts, key=lambda one: (-counts[one], one)):
        # A sign before a digit tells two numbers apart.
        key = re.sub(r"[^\w\x00\x01]+|_", "", _SIGN.sub(_kept_sign, value)).casefold()
        if key:
            groups.setdefault(key, []).append(value)
    if len(groups) <= _MOST_COMPARED:
        _merge_slips(groups, counts)
    return sorted(group for group in groups.values() if len(group) > 1)


_SIGN = re.compile(r"(?<![\w.])[-−+](?=\s?[£€$]?\d)")


def _kept_sign(found: re.Match[str]) -> str:
    return "\x00" if found[0] == "+" else "\x01"


def _merge_slips(groups: dict[str, list[str]], counts: Mapping[str, int]) -> None:
    """Move each rare group to the commonest one that is a slip away."""
    weight = {key: sum(counts[value] for value in group) for key, group in groups.items()}
    for key in sorted(groups, key=lambda one: weight[one]):
        # Among codes such as A-10A and OA-10A a letter more is another thing.
        if len(key) < _SHORTEST_COMPARED or (re.search(r"\d", key) and " " not in groups[key][0].strip()):
            continue
        near = [
            other
            for other in groups
            if other != key
            and weight[other] >= _RARER_BY * weight[key]
            and re.findall(r"\d", key) == re.findall(r"\d", other)
            and _is_a_slip(key, other)
        ]
        if near:
            groups[max(near, key=lambda one: weight[one])] += groups.pop(key)


def _is_a_slip(one: str, other: str) -> bool:
    # Few tables have two values that are alike so far.
    from rapidfuzz.distance import OSA

    return OSA.distance(one, other, score_cutoff=1) <= 1
