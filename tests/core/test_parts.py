"""Parts of a whole as percentages that add up."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ypsil.core.figures import part_texts, whole_parts


@given(st.lists(st.integers(0, 10_000), min_size=1, max_size=30).filter(any), st.integers(0, 2))
def test_rounded_parts_add_up_to_the_whole_and_none_moves_by_a_unit(amounts, decimals):
    parts = [amount / sum(amounts) for amount in amounts]
    shown = whole_parts(parts, decimals)
    unit = 1 / (100 * 10**decimals)
    assert round(sum(shown) / unit) == round(1 / unit)
    assert all(abs(after - before) < unit * (1 + 1e-6) for before, after in zip(parts, shown, strict=True))


@given(st.lists(st.integers(0, 10_000), min_size=1, max_size=30).filter(any))
def test_a_larger_part_is_never_shown_smaller(amounts):
    parts = [amount / sum(amounts) for amount in amounts]
    shown = whole_parts(parts)
    ordered = [after for _, after in sorted(zip(parts, shown, strict=True))]
    assert ordered == sorted(ordered)


# Seats by the method of the largest remainder: votes 47,000, 16,000, 15,800, 12,000, 6,100, 3,100 for 10 seats give
# 5, 2, 1, 1, 1, 0 (a worked example that stands in many textbooks; from memory).
def test_the_largest_remainders_are_rounded_up():
    votes = [47_000, 16_000, 15_800, 12_000, 6_100, 3_100]
    tenths = [vote / sum(votes) / 10 for vote in votes]
    rest = 1 - sum(tenths)
    assert [round(part * 100) for part in whole_parts([*tenths, rest])][:6] == [5, 2, 1, 1, 1, 0]


@pytest.mark.parametrize(
    ("parts", "texts"),
    [
        ([0.5, 0.25, None], ["50%", "25%", "–"]),
        ([-0.5, 0.5], ["−50%", "50%"]),
        ([1.0], ["100%"]),
        ([0.999, 0.001], ["99.9%", "0.1%"]),
        ([0.2] * 3, ["20%"] * 3),
    ],
)
def test_parts_are_written_with_one_number_of_decimals(parts, texts):
    assert part_texts(parts) == texts
