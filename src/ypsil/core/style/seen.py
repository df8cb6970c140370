"""How far colours are apart, as people see them: with and without a colour-vision deficiency, and in grey.

Differences are CIEDE2000 (Sharma, Wu and Dalal 2005); deficiencies are simulated after Machado, Oliveira and Fernandes
(2009) at full severity; both by coloraide.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations, islice
from typing import TYPE_CHECKING, Literal, get_args

from ypsil.core.drawing.oklch import from_oklch, to_oklch

if TYPE_CHECKING:
    # Of all that a page needs only this needs it, and seldom: it is imported where it is used.
    from coloraide import Color

SeenAs = Literal["protan", "deutan", "tritan", "grey"]
SEEN_AS: tuple[SeenAs, ...] = get_args(SeenAs)
# Fields of a chart that are closer than so much are taken for each other (common practice, no source).
TOO_CLOSE = 10.0
_LIGHTER = (0.0, *(sign * 0.03 * step for step in range(1, 16) for sign in (-1, 1)))
_HUES = (0, 20, -20, 45, -45)
_LIGHTEST, _DARKEST = 0.95, 0.15


@dataclass(frozen=True, slots=True)
class Close:
    """Two colours that are taken for each other: as who sees them, how far they are apart, and the nearest colour to
    the second that is told from all."""

    pair: tuple[str, str]
    seen_as: SeenAs
    difference: float
    instead: str


@lru_cache(maxsize=4096)
def seen(colour: str, kind: SeenAs | None) -> str:
    """Return a colour as it is seen; without a kind it is what it is.

    >>> seen("#14697f", None), seen("#ff0000", "grey")
    ('#14697f', '#7f7f7f')
    """
    return _seen(colour, kind).to_string(hex=True, fit=True)


@lru_cache(maxsize=8192)
def _seen(colour: str, kind: SeenAs | None) -> Color:
    from coloraide import Color

    found = Color(colour)
    if kind == "grey":
        found = found.filter("grayscale")
    elif kind is not None:
        found = found.filter(kind, 1.0, method="machado")
    return found.convert("srgb").clip()


def difference(first: str, second: str, kind: SeenAs | None = None) -> float:
    """Return CIEDE2000 between two colours as they are seen.

    >>> round(difference("#2ca02c", "#d62728")), round(difference("#2ca02c", "#d62728", "deutan"))
    (72, 5)
    """
    return float(_lab(first, kind).delta_e(_lab(second, kind), method="2000"))


@lru_cache(maxsize=8192)
def _lab(colour: str, kind: SeenAs | None) -> Color:
    return _seen(colour, kind).convert("lab-d65")


@lru_cache(maxsize=256)
def closest_pairs(colours: tuple[str, ...], most: int) -> tuple[Close, ...]:
    """Return the closest of the pairs that some people take for each other, so many at most; what was found of a
    palette is remembered."""
    return tuple(islice(close_pairs(colours), most))


def close_pairs(colours: Sequence[str]) -> Iterator[Close]:
    """Yield the pairs that some people take for each other, each with who does so most; the closest first."""
    found = []
    for first, second in combinations(dict.fromkeys(colours), 2):
        kind = min(SEEN_AS, key=lambda one: difference(first, second, one))
        apart = difference(first, second, kind)
        if apart < TOO_CLOSE:
            found.append((apart, kind, first, second))
    for apart, kind, first, second in sorted(found):
        others = [one for one in dict.fromkeys(colours) if one != second]
        yield Close((first, second), kind, round(apart, 2), nearest_safe(second, others))


def nearest_safe(colour: str, others: Sequence[str]) -> str:
    """Return the colour nearest to one that everybody tells from all others; where there is none, the one that is
    told best."""
    lightness, chroma, hue = to_oklch(colour)
    made = {
        from_oklch(lightness + lighter, chroma, hue + turned)
        for lighter in _LIGHTER
        for turned in _HUES
        if _DARKEST <= lightness + lighter <= _LIGHTEST
    }
    best, most = colour, -1.0
    for one in sorted(made - {colour}, key=lambda one: (difference(colour, one), one)):
        least = _least(one, others, most)
        if least >= TOO_CLOSE:
            return one
        if least > most:
            best, most = one, least
    return best


def _least(colour: str, others: Sequence[str], enough: float) -> float:
    """Return how far a colour is at least from all others, however it is seen; it is not looked at further once it is
    nearer than what was found before."""
    least = float("inf")
    for other in others:
        for kind in (*SEEN_AS, None):
            least = min(least, difference(colour, other, kind))
            if least <= enough:
                return least
    return least
