"""Ornaments: outlines that only decorate, to divide a page or to lie behind what stands on it."""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from ypsil.core.drawing.rectangles import ROUND
from ypsil.core.drawing.svg import number as px

# However large the place, there are no more parts than this: steps grow with it.
_MOST_PARTS = 900
_STEP, _LEAST_STEP = 24.0, 4.0


@dataclass(frozen=True, slots=True)
class Ornament:
    """What it is called, its outline in a room of a width and a height (px), whether that is a line, and whether it
    divides (or fills its room)."""

    label: str
    outline: Callable[[float, float], str]
    is_line: bool = False
    divides: bool = False


def _step(width: float, height: float, step: float = _STEP) -> float:
    """Return how far parts that fill a room stand apart; in a small one there is room for one."""
    return min(max(step, math.sqrt(width * height / _MOST_PARTS)), max(_LEAST_STEP, min(width, height)))


def _places(width: float, height: float, step: float, *, shifted: bool = False) -> Iterator[tuple[float, float]]:
    """Yield the middles of parts in rows, every other row shifted by half a step."""
    for row in range(max(1, int(height / step))):
        across = step / 2 + (step / 2 if shifted and row % 2 else 0.0)
        while across <= width - step / 4:
            yield across, (row + 0.5) * step
            across += step


def _disc(x: float, y: float, r: float) -> str:
    k = r * (1 - ROUND)
    return (
        f"M{px(x - r)} {px(y)}C{px(x - r)} {px(y - r + k)} {px(x - r + k)} {px(y - r)} {px(x)} {px(y - r)}"
        f"C{px(x + r - k)} {px(y - r)} {px(x + r)} {px(y - r + k)} {px(x + r)} {px(y)}"
        f"C{px(x + r)} {px(y + r - k)} {px(x + r - k)} {px(y + r)} {px(x)} {px(y + r)}"
        f"C{px(x - r + k)} {px(y + r)} {px(x - r)} {px(y + r - k)} {px(x - r)} {px(y)}Z"
    )


def _line(x1: float, y1: float, x2: float, y2: float) -> str:
    return f"M{px(x1)} {px(y1)}L{px(x2)} {px(y2)}"


def _dot_row(width: float, height: float) -> str:
    r = min(height / 2, 4.0)
    step = max(4 * r, width / 60)
    count = max(1, int(width / step))
    start = (width - (count - 1) * step) / 2
    # They grow towards the middle.
    sizes = [r * (0.5 + 0.5 * (1 - abs(2 * at / max(1, count - 1) - 1))) for at in range(count)]
    return "".join(_disc(start + at * step, height / 2, size) for at, size in enumerate(sizes))


def _zigzag(width: float, height: float) -> str:
    rise = min(height / 2, 8.0)
    count = max(2, min(120, round(width / (2 * rise))) // 2 * 2)
    step = width / count
    parts = [f"{px(at * step)} {px(height / 2 + (rise if at % 2 else -rise))}" for at in range(count + 1)]
    return "M" + "L".join(parts)


def _scallops(width: float, height: float) -> str:
    count = max(1, min(80, round(width / 28)))
    step = width / count
    rise = min(height, step / 2)
    top = (height - rise) / 2
    parts = [f"M0 {px(top)}"]
    for at in range(count):
        left, right, k = at * step, (at + 1) * step, step / 2 * (1 - ROUND)
        middle, low = (left + right) / 2, top + rise
        bend = rise * ROUND
        parts.append(f"C{px(left)} {px(top + bend)} {px(left + k)} {px(low)} {px(middle)} {px(low)}")
        parts.append(f"C{px(right - k)} {px(low)} {px(right)} {px(top + bend)} {px(right)} {px(top)}")
    return "".join(parts)


def _rules(width: float, height: float) -> str:
    y, half = height / 2, min(9.0, height / 2)
    air = half * 2
    gap = 2.5
    rules = "".join(
        _line(start, y + side * gap, end, y + side * gap)
        for side in (-1, 1)
        for start, end in ((0.0, width / 2 - air), (width / 2 + air, width))
    )
    m = width / 2
    return f"{rules}M{px(m)} {px(y - half)}L{px(m + half)} {px(y)}L{px(m)} {px(y + half)}L{px(m - half)} {px(y)}Z"


def _leaves(width: float, height: float) -> str:
    y, size = height / 2, min(height / 2, 11.0)
    count = max(2, min(60, int(width / (size * 2.2))))
    step = width / count
    parts = []
    for at in range(count):
        x = (at + 0.5) * step
        # They lean away from the middle on both sides.
        lean = 1 if x >= width / 2 else -1
        for side in (-1, 1):
            tip = x + lean * size * 0.9, y + side * size
            parts.append(
                f"M{px(x)} {px(y)}Q{px(x - lean * size * 0.2)} {px(y + side * size * 0.8)} {px(tip[0])} {px(tip[1])}"
                f"Q{px(x + lean * size)} {px(y + side * size * 0.2)} {px(x)} {px(y)}Z"
            )
    return "".join(parts)


def _ripples(width: float, height: float) -> str:
    rise = min(5.0, height / 8)
    count = max(2, min(60, round(width / 40)))
    step = width / count
    parts = []
    for row in (-1, 0, 1):
        y = height / 2 + row * rise * 2.6
        wave = [f"M0 {px(y)}"]
        for at in range(count):
            up = y + (-2 if at % 2 else 2) * rise
            wave.append(f"Q{px((at + 0.5) * step)} {px(up)} {px((at + 1) * step)} {px(y)}")
        parts.append("".join(wave))
    return "".join(parts)


def _dot_field(width: float, height: float) -> str:
    step = _step(width, height)
    return "".join(_disc(x, y, step * 0.1) for x, y in _places(width, height, step, shifted=True))


def _crosses(width: float, height: float) -> str:
    step = _step(width, height, 36.0)
    arm = step * 0.14
    return "".join(
        _line(x - arm, y, x + arm, y) + _line(x, y - arm, x, y + arm)
        for x, y in _places(width, height, step, shifted=True)
    )


def _stripes(width: float, height: float) -> str:
    step = max(_STEP, (width + height) / 200)
    parts = []
    at = step / 2
    while at < width + height:
        x1, y1 = (at, 0.0) if at <= width else (width, at - width)
        x2, y2 = (0.0, at) if at <= height else (at - height, height)
        parts.append(_line(x1, y1, x2, y2))
        at += step
    return "".join(parts)


def _squared(width: float, height: float) -> str:
    step = min(max(_STEP, (width + height) / 200), max(_LEAST_STEP, min(width, height) / 2))
    across = [_line(0, at * step, width, at * step) for at in range(1, math.ceil(height / step))]
    down = [_line(at * step, 0, at * step, height) for at in range(1, math.ceil(width / step))]
    return "".join(across + down)


def _rings(width: float, height: float) -> str:
    """Quarters of circles round the lower right corner."""
    reach = min(width, height)
    count = max(2, min(24, int(reach / 26)))
    parts = []
    for ring in range(1, count + 1):
        r = reach * ring / count
        k = r * ROUND
        parts.append(
            f"M{px(width - r)} {px(height)}C{px(width - r)} {px(height - k)} {px(width - k)} {px(height - r)} "
            f"{px(width)} {px(height - r)}"
        )
    return "".join(parts)


def _confetti(width: float, height: float) -> str:
    step = _step(width, height, 44.0)
    # The same place is always strewn alike.
    chance = random.Random(7)
    parts = []
    for x, y in _places(width, height, step):
        x, y = x + chance.uniform(-0.32, 0.32) * step, y + chance.uniform(-0.32, 0.32) * step
        size = step * chance.uniform(0.07, 0.13)
        if chance.random() < 0.5:
            parts.append(_disc(x, y, size * 0.8))
            continue
        turn = chance.uniform(0, math.pi)
        cos, sin = math.cos(turn) * size, math.sin(turn) * size
        ends = ((cos, sin), (-sin, cos), (-cos, -sin), (sin, -cos))
        parts.append("M" + "L".join(f"{px(x + dx)} {px(y + dy)}" for dx, dy in ends) + "Z")
    return "".join(parts)


def _pennants(width: float, height: float) -> str:
    step = _step(width, height, 40.0)
    side = step * 0.22
    return "".join(
        f"M{px(x)} {px(y - side)}L{px(x + side)} {px(y + side * 0.75)}L{px(x - side)} {px(y + side * 0.75)}Z"
        for x, y in _places(width, height, step, shifted=True)
    )


def _hills(width: float, height: float) -> str:
    """Two rows of hills at the foot."""
    parts = []
    for top, hills, shift in ((0.62, 3, 0.0), (0.78, 4, 0.35)):
        step = width / hills
        y = height * top
        wave = [f"M0 {px(height)}L0 {px(y)}"]
        for at in range(hills):
            rise = height * (0.16 if (at + (shift > 0)) % 2 else 0.05)
            wave.append(f"Q{px((at + 0.5) * step)} {px(y - rise)} {px((at + 1) * step)} {px(y)}")
        parts.append("".join(wave) + f"L{px(width)} {px(height)}Z")
    return "".join(parts)


ORNAMENTS: dict[str, Ornament] = {
    "dot row": Ornament("A row of dots", _dot_row, divides=True),
    "zigzag": Ornament("A zigzag", _zigzag, is_line=True, divides=True),
    "scallops": Ornament("Scallops", _scallops, is_line=True, divides=True),
    "rules": Ornament("Two rules", _rules, is_line=True, divides=True),
    "leaves": Ornament("Leaves", _leaves, divides=True),
    "ripples": Ornament("Ripples", _ripples, is_line=True, divides=True),
    "dots": Ornament("Dots", _dot_field),
    "crosses": Ornament("Crosses", _crosses, is_line=True),
    "stripes": Ornament("Stripes", _stripes, is_line=True),
    "squared": Ornament("Squared paper", _squared, is_line=True),
    "rings": Ornament("Rings in a corner", _rings, is_line=True),
    "confetti": Ornament("Confetti", _confetti),
    "pennants": Ornament("Pennants", _pennants),
    "hills": Ornament("Hills", _hills),
}
# What may lie behind the tiles of a band.
PATTERNS = {name: one for name, one in ORNAMENTS.items() if not one.divides}
