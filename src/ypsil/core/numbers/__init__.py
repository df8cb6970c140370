"""Numbers in a text: found with what they count, put together by what they say, with the visuals that suit."""

from ypsil.core.numbers.asides import asides_in
from ypsil.core.numbers.finding import numbers_in
from ypsil.core.numbers.groups import groups_in
from ypsil.core.numbers.model import Aside, Found, Group, Number
from ypsil.core.numbers.outline import Paragraph, outlined


def found_in(text: str) -> Found:
    """Return the numbers of a text, how they go together, and what was not taken for numbers."""
    numbers, asides = numbers_in(text), asides_in(text)
    return Found(tuple(numbers), tuple(groups_in(text, numbers, asides)), tuple(asides))


__all__ = ["Aside", "Found", "Group", "Number", "Paragraph", "found_in", "numbers_in", "outlined"]
