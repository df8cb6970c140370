"""Numbers found in sentences that others wrote, marked by hand.

The sentences are public domain or free: the King James Bible (Debian's bible-kjv-text), what statsmodels says of its
data sets (public domain, as each of them states) and what scikit-learn says of its (BSD). More than a third of them
are traps: figures that are years, addresses, pages, versions, codes, and no numbers of anything.
"""

import json
from pathlib import Path

import pytest

from ypsil.core.numbers import found_in, numbers_in

MARKED = json.loads((Path(__file__).parent / "marked_numbers.json").read_text())
# An old way of counting that is also how two numbers are written today: “between eight and twenty cubits”.
KNOWN_MISSES = {"The length of one curtain shall be eight and twenty cubits"}


def is_known(sentence):
    return any(sentence["text"].startswith(miss) for miss in KNOWN_MISSES)


def test_there_are_enough_of_them_and_a_third_are_traps():
    traps = [one for one in MARKED if not one["numbers"] and any(letter.isdigit() for letter in one["text"])]
    assert len(MARKED) >= 150 and len(traps) >= len(MARKED) / 3
    assert sum(map(is_known, MARKED)) == len(KNOWN_MISSES)


@pytest.mark.parametrize("source", ["statsmodels", "scikit-learn", "King James Bible"])
def test_what_was_marked_is_found_and_nothing_else(source):
    others = ("statsmodels", "scikit-learn")
    own = [one for one in MARKED if (one["source"] if one["source"] in others else "King James Bible") == source]
    wrong = {
        one["text"]: [[number.value, number.unit] for number in numbers_in(one["text"])]
        for one in own
        if not is_known(one) and [[n.value, n.unit] for n in numbers_in(one["text"])] != one["numbers"]
    }
    assert own and wrong == {}


def test_in_one_long_text_they_are_the_same_as_one_by_one():
    """Each in a paragraph of its own: what stands before and after changes little."""
    some = [one for one in MARKED if not is_known(one)]
    found = numbers_in("\n\n".join(one["text"] for one in some))
    wanted = [value for one in some for value, _ in one["numbers"]]
    same = sum(one == other for one, other in zip([number.value for number in found], wanted, strict=False))
    assert len(found) == len(wanted) and same == len(wanted)


def test_every_number_found_stands_in_a_group():
    text = "\n\n".join(one["text"] for one in MARKED)
    found = found_in(text)
    covered = [(group.start, group.end) for group in found.groups]
    assert all(any(start <= one.start and one.end <= end for start, end in covered) for one in found.numbers)
    assert all(text[one.start : one.end] == one.text for one in found.numbers)
