"""Signs found by what they mean: by the words of their names, by other words for the same, by category."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cache
from itertools import takewhile
from typing import Literal

from ypsil.core.drawing.icons import icons
from ypsil.core.drawing.signs.shipped import coloured, line_icons

SignSet = Literal["line", "coloured"]
_MOST_WORDS = 12
# The categories of the two sets, under the words that authors choose among.
_UNDER = {
    "People and feelings": ("Mood", "Gender", "Gestures", "People & Body", "Smileys & Emotion"),
    "Animals, plants, weather": ("Nature", "Weather", "Animals", "Animals & Nature"),
    "Food": ("Food", "Food & Drink"),
    "Places and travel": ("Buildings", "Map", "Vehicles", "Travel & Places"),
    "School and work": ("Document", "Charts", "Math", "Text"),
    "Money and trade": ("E-commerce", "Currencies"),
    "Health and sport": ("Health", "Sport"),
    "Talk, music, pictures": ("Communication", "Media", "Photography"),
    "Devices": ("Devices", "Computers", "Database", "Development", "Electrical"),
    "Things": ("Objects",),
    "Games and feasts": ("Games", "Activities"),
    "Arrows": ("Arrows",),
    "Shapes and marks": ("Shapes", "Design", "Badges", "Symbols", "Zodiac"),
    "Letters and numbers": ("Letters", "Numbers"),
    "Signs of use": ("System",),
}
CATEGORIES = tuple(_UNDER)
_OF = {category: said for said, categories in _UNDER.items() for category in categories}
# Words of which each stands for the others, beside those that the sets bring.
_SYNONYMS = (
    "money cost costs budget price finance spending income pay cash coin coins wallet",
    "people person team group crowd readers visitors users user community staff family",
    "school education learning lesson pupil pupils student teacher class study",
    "time clock hour hours minutes wait waiting deadline duration schedule",
    "growth rise increase grow trending up",
    "fall decline decrease drop loss down",
    "book books reading read library loan loans literature",
    "home house housing building",
    "car traffic transport vehicle drive road",
    "bus coach",
    "bicycle bike cycle cycling",
    "health doctor medical medicine hospital care",
    "idea light bulb insight invention",
    "goal target aim objective",
    "warning danger alert attention caution",
    "question help why ask faq",
    "yes tick check done correct approved agree",
    "no cross wrong rejected disagree",
    "environment nature green eco ecology leaf plant garden climate",
    "water drop river sea rain",
    "energy power electricity electric",
    "food meal eat eating kitchen cooking",
    "mail letter post envelope message",
    "talk speech speak conversation chat comment opinion dialogue",
    "love heart favourite favorite like",
    "place location map where address",
    "safe security lock protect protection privacy",
    "award prize medal trophy winner win",
    "calendar date month day year event",
    "work job office business career",
    "child children kid kids baby",
    "old elderly senior older",
    "colour color paint palette art",
    "rubbish trash garbage waste bin recycling",
    "holiday vacation beach travel trip journey",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Sign:
    """Something small that stands for a thing; ``name`` is what reports keep: “line:book”, “coloured:fox”, or the bare
    name of an icon to count with."""

    name: str
    category: str

    @property
    def label(self) -> str:
        """What it is called."""
        return self.name.partition(":")[2] or self.name


@dataclass(frozen=True, slots=True)
class _Index:
    """Every word with the places of the signs it leads to, in alphabetical order, so that beginnings are found fast."""

    signs: tuple[Sign, ...]
    words: tuple[str, ...]
    by_name: tuple[frozenset[int], ...]
    by_words: tuple[frozenset[int], ...]

    def beginning(self, word: str) -> tuple[set[int], set[int]]:
        """Return the places that words with a beginning lead to: by name, and in any way."""
        start = bisect_left(self.words, word)
        found = [*takewhile(lambda at: self.words[at].startswith(word), range(start, len(self.words)))]
        named = set().union(*(self.by_name[at] for at in found))
        return named, named.union(*(self.by_words[at] for at in found))


def find_signs(text: str, of: SignSet = "line", category: str = "") -> list[Sign]:
    """Return the signs of a set that each word of a text leads to, of a category where one is given: those that are
    named so first, then those that other words lead to. Where none has them all, those that have some; without words
    all of them.

    >>> [sign.label for sign in find_signs("budget")][:3]
    ['moneybag', 'moneybag move', 'pig money']
    >>> find_signs("xqxq"), find_signs("fox", "coloured")[0].name
    ([], 'coloured:fox')
    """
    index = _index(of)
    wanted = [*dict.fromkeys(word for word in text.casefold().replace(",", " ").split()[:_MOST_WORDS])]
    every = [place for place, sign in enumerate(index.signs) if category in ("", sign.category)]
    if not wanted:
        return [index.signs[place] for place in every]
    worths = [_worths(index, word) for word in wanted]
    led = set.intersection(*(set(one) for one in worths))
    if not led:
        # The word that fewer signs go by says more.
        led = set().union(*worths)
        worths = [{place: worth / len(one) for place, worth in one.items()} for one in worths]
    scores = {place: sum(one.get(place, 0.0) for one in worths) for place in every if place in led}
    return [index.signs[place] for place in sorted(scores, key=lambda place: -scores[place])]


def _worths(index: _Index, word: str) -> dict[int, float]:
    """Return the places that a word leads to, each with how well: by name, by other words, by words for the same."""
    found = dict.fromkeys(_led_by_synonyms(index, word), 1.0)
    named, led = index.beginning(word)
    found |= dict.fromkeys(led, 2.0) | dict.fromkeys(named, 4.0)
    for place in found:
        words = index.signs[place].label.split()
        # A name that is the word itself comes before one that only has it.
        found[place] += (2 if words == [word] else 1 if words[0] == word else 0) - len(words) / 10
    return found


def sign_named(name: str) -> Sign | None:
    """Return a sign by the name that reports keep; None where there is none (any more)."""
    of, _, label = name.rpartition(":")
    if not of:
        return Sign(name, "") if name in icons() else None
    if of == "line":
        return Sign(name, _OF[line_icons()[label].category]) if label in line_icons() else None
    return Sign(name, _OF[coloured()[label].category]) if of == "coloured" and label in coloured() else None


def is_sign(name: str) -> bool:
    """Tell whether there is a sign of a name."""
    return sign_named(name) is not None


@cache
def _index(of: SignSet) -> _Index:
    if of == "line":
        every: Iterable[tuple[str, str, str]] = ((name, one.category, one.words) for name, one in line_icons().items())
    else:
        every = ((name, one.category, one.words) for name, one in coloured().items())
    signs: list[Sign] = []
    by_name: dict[str, set[int]] = {}
    by_words: dict[str, set[int]] = {}
    for place, (name, category, words) in enumerate(every):
        signs.append(Sign(f"{of}:{name}", _OF[category]))
        for found, text in ((by_name, name), (by_words, words)):
            for word in text.split():
                found.setdefault(word, set()).add(place)
    words_of_all = tuple(sorted(by_name.keys() | by_words.keys()))
    return _Index(
        tuple(signs),
        words_of_all,
        tuple(frozenset(by_name.get(word, ())) for word in words_of_all),
        tuple(frozenset(by_words.get(word, ())) for word in words_of_all),
    )


def _led_by_synonyms(index: _Index, word: str) -> set[int]:
    """Return the places that other words for the same lead to."""
    return set().union(*(index.beginning(other)[0] for other in _alike(word)))


def _alike(word: str) -> Iterator[str]:
    for line in _SYNONYMS:
        words = line.split()
        if word in words:
            yield from (other for other in words if other != word and len(other) > 2)
