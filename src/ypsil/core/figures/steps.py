"""Round steps: 1, 2 or 5 times a power of ten."""

from __future__ import annotations

import math


def tick_step(start: float, stop: float, count: int) -> float:
    """Return the round step nearest (geometrically) to ``count`` steps between ``start`` and ``stop``.

    The limits between 1, 2, 5 and 10 are the geometric means √2, √10 and √50.

    >>> tick_step(0, 97, 5), tick_step(0, 1, 10)
    (20.0, 0.1)
    """
    rough = abs(stop - start) / max(1, count)
    if rough == 0:
        return 0.0
    power = math.floor(math.log10(rough))
    fraction = rough / 10.0**power
    if fraction >= math.sqrt(50):
        factor = 10
    elif fraction >= math.sqrt(10):
        factor = 5
    else:
        factor = 2 if fraction >= math.sqrt(2) else 1
    return factor * 10.0**power if power >= 0 else factor / 10.0**-power
