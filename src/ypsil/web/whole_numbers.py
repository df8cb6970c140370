"""Numbers that addresses and forms hold."""

from __future__ import annotations

# More than anything here is counted to, and what every database can be asked for.
_MOST_DIGITS = 9


def whole_number(text: str | None) -> int | None:
    """Return the number from 0 that a text writes in the digits 0 to 9, else None.

    >>> whole_number("12"), whole_number("²"), whole_number("१"), whole_number("-1"), whole_number("9" * 5000)
    (12, None, None, None, None)
    """
    if text is None or len(text) > _MOST_DIGITS or not (text.isascii() and text.isdigit()):
        return None
    return int(text)
