"""What a number counts: the words after it, or what the sentence is about before it. English; common practice, no
source."""

from __future__ import annotations

import re

from ypsil.core.numbers.reading import word_set

NOT_COUNTED = word_set(
    "and or but nor so yet in on at by for from to with into onto over under after before since until till during "
    "between among than then that which who whom whose when while where if as because though although is are was "
    "were be been being has have had do does did will would can could shall should may might must came said says say "
    "more less fewer most least higher lower up down this last next each every per only just about around nearly "
    "almost also too very not no now again ago old long wide high tall deep away apart later earlier it they he she "
    "we i you them us him me there here their its his her our your my against compared instead off out began gave "
    "left stood of the a an all these those both either neither some any such other rather still already even ever "
    "never always times time together altogether respectively total overall alone apiece came went"
)
VERBS = word_set(
    "rose fell grew increased decreased dropped declined climbed jumped sank shrank doubled halved tripled was were is "
    "are had has have numbered totalled totaled reached counted averaged stood remained went came cost costs weighed "
    "measured lasted took takes take amounted amounts said stayed changed gained lost made makes sold earned received "
    "opened closed held holds contains contain included include includes brought visited borrowed showed shows will "
    "would can could did does"
)
_OPENING = word_set("the a an our their its these those all his her my your this that")
_LINKS = word_set("and but while in when then so or where which that who at on for by")
_PRONOUNS = word_set("it they he she we i you them us there this that these those who which say said")
_NAME = re.compile(r"[A-Za-zÀ-ɏͰ-ӿ][\w'’-]*")
_GAP = re.compile(r"[ \t -]+")
_LINK_AFTER = re.compile(r"[ \t]+(?:of|in)[ \t]+")
_CLAUSE = re.compile(r"[.;:!?\n]|,\s")
_MOST_WORDS = 4


def counted_after(text: str, unit: str | None) -> str | None:
    """Return what a number counts by the words that follow it.

    >>> counted_after(" of the loans were renewed", "share"), counted_after(" new books arrived", None)
    ('the loans', 'new books')
    """
    link = _LINK_AFTER.match(text)
    if link is not None and link.group().strip() == "of":
        return _phrase(text[link.end() :], opens=True)
    # After a unit only "of" says what is measured; a share counts things at once: 9 of 10 readers.
    return _phrase(text) if unit in (None, "share") else None


def counted_before(text: str) -> str | None:
    """Return what a sentence is about before a number: what rose, fell or was.

    >>> counted_before("The loans rose from "), counted_before("bus "), counted_before("; visits by children fell to ")
    ('The loans', 'bus', 'visits by children')
    """
    words = _NAME.findall(_CLAUSE.split(text)[-1])
    verb = next((place for place, word in enumerate(words) if place and word.lower() in VERBS), None)
    found = _last_words(words) if verb is None else words[:verb]
    while found and found[0].lower() in _LINKS:
        found = found[1:]
    if not found or found[-1].lower() in _PRONOUNS:
        return None
    return " ".join(found[-_MOST_WORDS:])


def _last_words(words: list[str]) -> list[str]:
    """Return the name that stands right before a number, as in a list of names with their numbers."""
    found: list[str] = []
    for word in reversed(words):
        if word.lower() in _OPENING:
            return [word, *found] if found else []
        if word.lower() in NOT_COUNTED:
            break
        found.insert(0, word)
    return found if len(found) <= _MOST_WORDS else []


def _phrase(text: str, *, opens: bool = False) -> str | None:
    """Return the words that name a thing at the beginning of a text; ``opens`` where an article may begin them."""
    found: list[str] = []
    at = 0
    while len(found) < _MOST_WORDS:
        gap = _GAP.match(text, at)
        match = _NAME.match(text, gap.end() if gap else at) if gap or not at else None
        if match is None:
            break
        word = match.group()
        is_article = opens and not found and word.lower() in _OPENING
        if not is_article and (word.lower() in NOT_COUNTED or word.lower() in VERBS or _is_whole(found, word)):
            break
        found.append(word)
        at = match.end()
    is_named = bool(found) and not (len(found) == 1 and found[0].lower() in _OPENING)
    return " ".join(found) if is_named else None


def _is_whole(found: list[str], word: str) -> bool:
    """Tell whether a name has come to its end: after a plural something else begins."""
    named = found[1:] if found and found[0].lower() in _OPENING else found
    return bool(named) and named[-1].endswith("s") and not named[-1].endswith("ss") and word[0].islower()
