"""Capitals of names that stand within a sentence."""

from __future__ import annotations


def lower_first(text: str) -> str:
    """Return a text as it goes on within a sentence; what is not written like a plain word keeps its capital.

    >>> lower_first("Total Visits"), lower_first("GDP"), lower_first("CO2"), lower_first("iMDB")
    ('total Visits', 'GDP', 'CO2', 'iMDB')
    """
    word = text.partition(" ")[0]
    return text[:1].lower() + text[1:] if word[1:].islower() else text
