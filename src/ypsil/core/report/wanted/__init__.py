"""Which live figure somebody means who says what they want in words: rules, and what they found, said before it is
taken."""

from ypsil.core.report.wanted.matching import RULES, AtHand, Understood, understood
from ypsil.core.report.wanted.typed import Typed, typed_numbers, with_figure

__all__ = ["RULES", "AtHand", "Typed", "Understood", "typed_numbers", "understood", "with_figure"]
