"""Splitting text into words.

A word is a run of letters and digits, with apostrophes and hyphens inside it ("don't", "well-kept").
Text is normalised to NFC first, so that an accent typed as a separate mark stays in its word. Words are
compared after Unicode case folding of a kind that keeps them readable (``str.lower``).
"""

from __future__ import annotations

import re
import unicodedata

_WORD = re.compile(r"[^\W_]+(?:['’ʼ\-‐][^\W_]+)*")
# A phrase never runs across one of these: sentence stops, brackets, dashes set off by spaces, line ends.
_STOP = re.compile(r"[.!?;:,()\[\]{}\"“”…\n\r\t|/]+|\s[-–—]+\s")
_APOSTROPHES = str.maketrans({"’": "'", "ʼ": "'", "‐": "-"})


def normalise(text: str) -> str:
    """Return the text as NFC, lower case, with one form of apostrophe and hyphen.

    >>> normalise("Don’t  SHOUT")
    "don't  shout"
    """
    return unicodedata.normalize("NFC", text).lower().translate(_APOSTROPHES)


def tokenise(text: str) -> list[str]:
    """Return the words of a text in order, in lower case.

    >>> tokenise("It's well-kept; 24 chairs, don’t you think?")
    ["it's", 'well-kept', '24', 'chairs', "don't", 'you', 'think']
    """
    return _WORD.findall(normalise(text))


def clauses(text: str) -> list[list[str]]:
    """Return the words of a text, broken wherever a phrase has to end.

    >>> clauses("Longer opening hours. Warm rooms, kind staff")
    [['longer', 'opening', 'hours'], ['warm', 'rooms'], ['kind', 'staff']]
    """
    parts = (_WORD.findall(part) for part in _STOP.split(normalise(text)))
    return [part for part in parts if part]
