"""Splitting text into words.

A word is a run of letters, their marks and digits, with apostrophes, hyphens and joiners inside it ("don't",
"well-kept"); an emoji with what belongs to it is a word of its own. Words are compared as NFC, so that an accent typed
as a separate mark makes no other word.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence

import polars as pl

_LETTERS = r"[\p{L}\p{M}\p{N}]+"
_WORD = rf"{_LETTERS}(?:['’ʼ\-‐\x{{200c}}\x{{200d}}]{_LETTERS})*"
# A phrase never runs across one of these: sentence stops, brackets, line ends, and dashes set off by spaces.
_STOPS = r"[.!?;:,()\[\]{}\"“”„«»…‽¿¡،؛؟।。、！？\n\r\t|/]+|\s[-–—]+\s"
_PICTURE = r"[\p{Extended_Pictographic}--[©®™]]"
_DRESS = r"[\x{fe0e}\x{fe0f}\x{20e3}\x{1f3fb}-\x{1f3ff}]*"
_EMOJI = rf"[\x{{1f1e6}}-\x{{1f1ff}}]{{2}}|{_PICTURE}{_DRESS}(?:\x{{200d}}{_PICTURE}{_DRESS})*"
# In the syntax of polars, which finds all words of all answers at once.
_TOKEN = f"{_WORD}|{_STOPS}|{_EMOJI}"
_SIGN = re.compile(r"[.!?;:,()\[\]{}\"“”„«»…‽¿¡،؛؟।。、！？\s|/–—-]")
# Scripts that are written without spaces between words (Unicode Standard Annex 29, section 4).
_WITHOUT_SPACES = re.compile("[\u0e00-\u0eff\u1000-\u109f\u1780-\u17ff\u3040-\u30ff\u3400-\u4dbf\u4e00-\u9fff]")


def normalise(text: str) -> str:
    """Return the text as NFC with one form of apostrophe and hyphen.

    >>> normalise("Don’t  SHOUT")
    "Don't  SHOUT"
    """
    return unicodedata.normalize("NFC", text).replace("’", "'").replace("ʼ", "'").replace("‐", "-")


def tokens_of(texts: Sequence[str | None]) -> pl.Series:
    """Return for each text the list of its words and of what stands between them where a phrase has to end."""
    return pl.Series("text", texts, dtype=pl.String).str.extract_all(_TOKEN)


def is_word(token: str) -> bool:
    """Tell whether a token is a word or an emoji rather than a sign at which a phrase ends."""
    return not _SIGN.match(token)


def is_emoji(token: str) -> bool:
    """Tell whether a token that is a word is an emoji."""
    return not any(unicodedata.category(letter)[0] in "LMN" for letter in token[:1])


def tokenise(text: str) -> list[str]:
    """Return the words of a text in order, in lower case.

    >>> tokenise("It's well-kept; 24 chairs, don’t you think? 👍🏽")
    ["it's", 'well-kept', '24', 'chairs', "don't", 'you', 'think', '👍🏽']
    """
    found = tokens_of([text]).to_list()[0]
    return [normalise(token).lower() for token in found if is_word(token)]


def is_without_spaces(text: str) -> bool:
    """Tell whether some of a text is in a script that does not part its words."""
    return bool(_WITHOUT_SPACES.search(text))
