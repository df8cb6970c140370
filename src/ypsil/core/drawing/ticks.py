"""Round numbers for an axis: steps of 1, 2 or 5 times a power of ten."""

from __future__ import annotations

import math

from ypsil.core.figures import tick_step


def ticks(start: float, stop: float, count: int = 5) -> list[float]:
    """Return the multiples of a round step that lie within ``start`` and ``stop``.

    >>> ticks(0, 97, 5), ticks(-3, 4, 4)
    ([0.0, 20.0, 40.0, 60.0, 80.0], [-2.0, 0.0, 2.0, 4.0])
    """
    if start == stop:
        return [float(start)]
    low, high = min(start, stop), max(start, stop)
    step = tick_step(low, high, count)
    # Counting in whole steps keeps the values free of the drift that adding 0.1 ten times has.
    inverse = 1 / step if step < 1 else 0
    first = math.ceil(low * inverse - 1e-9 if inverse else low / step - 1e-9)
    last = math.floor(high * inverse + 1e-9 if inverse else high / step + 1e-9)
    inverse = round(inverse)
    return [index / inverse if inverse else index * step for index in range(first, last + 1)]


def nice_domain(low: float, high: float, count: int = 5) -> tuple[float, float]:
    """Widen a domain to whole steps at both ends.

    >>> nice_domain(0, 97), nice_domain(-3, 97)
    ((0.0, 100.0), (-20.0, 100.0))
    """
    if low == high:
        low, high = (0.0, 1.0) if low == 0 else (min(0.0, low), max(0.0, high))
    for _ in range(3):
        step = tick_step(low, high, count)
        widened = (math.floor(low / step + 1e-9) * step, math.ceil(high / step - 1e-9) * step)
        if widened == (low, high):
            break
        low, high = widened
    return float(low), float(high)
