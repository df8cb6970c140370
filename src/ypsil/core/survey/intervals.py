"""How exact a figure of a sample is: intervals for shares, means and differences, at 95% throughout.

Shares: E. B. Wilson, Probable inference, the law of succession, and statistical inference, JASA 22 (1927), 209-212.
Differences: R. G. Newcombe, Statistics in Medicine 17 (1998), 873-890, method 10. The correction for finite
populations (N - n) / (N - 1): W. G. Cochran, Sampling Techniques (3rd ed., 1977), chapter 2.
"""

from __future__ import annotations

import math
from functools import cache

from ypsil.core.figures import format_number

CONFIDENCE = 0.95


@cache
def _z() -> float:
    """Return the standard normal quantile of the confidence."""
    # It takes the library of statistics longer to load than a small answer to be worked out.
    from statistics import NormalDist

    return NormalDist().inv_cdf(0.5 + CONFIDENCE / 2)


_EXACT = "all were asked"

Interval = tuple[float, float]


def wilson_interval(share: float, base: float, population: int | None = None) -> Interval | None:
    """Return Wilson's score interval of a share (0 to 1) of ``base`` answers; None without any.

    A ``base`` that is not whole is the effective one of a weighted sample. Where the sample is a good part of a
    finite ``population``, the interval narrows; of all of it, it is the share itself.

    >>> [round(end, 4) for end in wilson_interval(0.5, 1000)]
    [0.4691, 0.5309]
    """
    if base <= 0 or not 0 <= share <= 1:
        return None
    base = _as_of_many(base, population)
    if math.isinf(base):
        return share, share
    square = _z() ** 2
    middle = (share + square / (2 * base)) / (1 + square / base)
    half = _z() / (1 + square / base) * math.sqrt(share * (1 - share) / base + square / (4 * base**2))
    # At the very ends rounding must not leave the scale.
    return max(0.0, middle - half) if share > 0 else 0.0, min(1.0, middle + half) if share < 1 else 1.0


def margin_of_error(share: float, base: float, population: int | None = None) -> float | None:
    """Return the margin of error of a share by the normal distribution, as textbooks give it; None without answers.

    >>> round(margin_of_error(0.5, 1000), 3)
    0.031
    """
    if base <= 0 or not 0 <= share <= 1:
        return None
    base = _as_of_many(base, population)
    return 0.0 if math.isinf(base) else _z() * math.sqrt(share * (1 - share) / base)


def mean_interval(mean: float, deviation: float | None, base: float, population: int | None = None) -> Interval | None:
    """Return Student's t interval of a mean; ``deviation`` is the sample's (n - 1). None for fewer than two answers."""
    if base < 2 or deviation is None:
        return None
    from scipy.special import stdtrit  # takes half a second to load, and few pages need it

    corrected = _as_of_many(base, population)
    error = 0.0 if math.isinf(corrected) else deviation / math.sqrt(corrected)
    half = float(stdtrit(base - 1, 0.5 + CONFIDENCE / 2)) * error
    return mean - half, mean + half


def difference_interval(first: float, first_base: float, second: float, second_base: float) -> Interval | None:
    """Return the interval of ``first`` less ``second``, two shares of different people; None without answers."""
    one, other = wilson_interval(first, first_base), wilson_interval(second, second_base)
    if one is None or other is None:
        return None
    far = first - second
    return (
        far - math.hypot(first - one[0], other[1] - second),
        far + math.hypot(one[1] - first, second - other[0]),
    )


def effective_base(weight_sum: float, square_sum: float) -> float:
    """Return how many equal answers a weighted sample is worth (L. Kish, Survey Sampling, 1965, section 11.7).

    >>> effective_base(4, 4), effective_base(4, 10)
    (4.0, 1.6)
    """
    return weight_sum**2 / square_sum if square_sum > 0 else 0.0


def give_or_take(value: float, ends: Interval, *, share: bool) -> str:
    """Return an interval as people say it; where its sides differ by more than a tenth, with both ends. One without any
    width is that of a whole population.

    >>> give_or_take(0.58, (0.549, 0.611), share=True), give_or_take(3.84, (3.75, 3.93), share=False)
    ('give or take 3 points', 'give or take 0.09')
    >>> give_or_take(0.02, (0.006, 0.07), share=True)
    'between 0.6% and 7%'
    """
    below, above = value - ends[0], ends[1] - value
    far = max(below, above)
    if far <= 0:
        return _EXACT
    if share:
        points = far * 100
        decimals = 0 if points >= 0.95 else 1
        if abs(above - below) * 100 > max(1.0, 0.1 * points):
            low, high = (format_number(end, decimals=0 if end >= 0.01 else 1, unit="%") for end in ends)
            return f"between {low} and {high}"
        said = format_number(points, decimals=decimals)
        return f"give or take {said} point" + ("" if said == "1" else "s")
    places = max(0, min(4, -math.floor(math.log10(far))))
    return f"give or take {format_number(far, decimals=places)}"


def _as_of_many(base: float, population: int | None) -> float:
    """Return the size of a sample from a population without end that would be as exact."""
    if population is None or population <= 0:
        return base
    if base >= population:
        return math.inf
    return base * (population - 1) / (population - base)
