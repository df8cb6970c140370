"""The order that labels have by what they mean: weekdays, months, ratings, sizes, age bands, numbered things.

The wordings are common practice, no source; names of days and months are those of Unicode CLDR, through Babel.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from functools import cache, lru_cache

from babel import Locale

_LOCALES = ("en", "de", "fr", "es", "it", "nl", "pt", "sv", "da", "pl")
_MOST_LABELS = 2_000
# From the least to the most; words that mean the same stand together.
_SCALES = (
    "xxs / xs, extra small / s, small / m, medium / l, large / xl, extra large / xxl, 2xl / xxxl, 3xl / 4xl",
    "none / very low / low / medium, moderate, mid, middle / high / very high / extreme",
    "none / minor / moderate / major, serious / severe / critical",
    "not at all / a little, slightly / somewhat, moderately / quite, mostly, a lot / very, very much / extremely",
    "strongly disagree, disagree strongly / disagree, rather disagree / slightly disagree, somewhat disagree, "
    "tend to disagree / neither agree nor disagree, neither, neutral, undecided / slightly agree, somewhat agree, "
    "tend to agree / agree, rather agree / strongly agree, agree strongly",
    "completely dissatisfied / very dissatisfied, very unsatisfied / dissatisfied, unsatisfied / fairly dissatisfied, "
    "somewhat dissatisfied / neither satisfied nor dissatisfied, neither, neutral / fairly satisfied, "
    "somewhat satisfied / satisfied / very satisfied / completely satisfied",
    "never / almost never, hardly ever / rarely, seldom / occasionally / sometimes / often, frequently / usually / "
    "very often / almost always / always",
    "never / less often / yearly, once a year / quarterly / monthly, once a month / fortnightly / "
    "weekly, once a week / daily, every day, once a day / hourly",
    "very unlikely, not at all likely / unlikely, not likely / somewhat unlikely / neutral, neither / "
    "somewhat likely / likely / very likely / extremely likely, certain",
    "not at all important / unimportant, not important / slightly important / moderately important, "
    "somewhat important / neutral / fairly important / important / very important / extremely important, essential",
    "very bad, terrible, awful / bad / ok, okay, neutral / good / great",
    "very poor / poor / fair / ok, okay, average, satisfactory / good / very good / excellent, outstanding",
    "much worse / worse / a little worse / about the same, the same, same, no change / a little better / better / "
    "much better",
    "too little, too few / about right, just right / too much, too many",
    "very easy / easy / neutral, moderate, medium / hard, difficult / very hard, very difficult",
    "early morning / morning / late morning / midday, noon, lunchtime / early afternoon / afternoon / "
    "late afternoon / early evening / evening / night",
    "spring / summer / autumn, fall / winter",
    "baby / toddler / child, children / teenager, teen / young adult / adult, adults / middle-aged / "
    "senior, seniors, older adult",
    "first / second / third / fourth / fifth / sixth / seventh / eighth / ninth / tenth",
    "bottom / lower / middle / upper / top",
)
_LAST = frozenset(
    [
        "don't know",
        "don’t know",
        "dont know",
        "not sure",
        "unsure",
        "no answer",
        "no opinion",
        "prefer not to say",
        "not stated",
        "other",
        "others",
        "unknown",
        "not applicable",
        "none of these",
    ]
)
_NUMBER = re.compile(r"\d+(?:[.,]\d+)?")
_BELOW = re.compile(r"^(under|below|less than|up to|fewer than|<=?|≤)\s*\D?\d")
_ABOVE = re.compile(r"^(over|above|more than|>=?|≥)\s*\D?\d")
_JOINTS = re.compile(r"\s*(–|—|-|to under|to below|up to|to|and over|and more|and older|or more|or over|\+)\s*")


def natural_order(labels: Iterable[str]) -> list[str] | None:
    """Return the labels in their natural order, or None where they have none that is known.

    >>> natural_order(["Often", "Never", "Don't know", "Sometimes"])
    ['Never', 'Sometimes', 'Often', "Don't know"]
    >>> natural_order(["65+", "under 18", "25–64", "18–24"]), natural_order(["Alder Lane", "Book bus"])
    (['under 18', '18–24', '25–64', '65+'], None)
    >>> natural_order(["Year 10", "Year 9"]), natural_order(["Tue", "Mon"])
    (['Year 9', 'Year 10'], ['Mon', 'Tue'])
    """
    every = tuple(labels)
    if not 2 <= len(every) <= _MOST_LABELS:
        return None
    found = _in_order(tuple(sorted(every)))
    return None if found is None else list(found)


@lru_cache(maxsize=256)
def _in_order(every: tuple[str, ...]) -> list[str] | None:
    folded = [_folded(label) for label in every]
    last = [index for index, label in enumerate(folded) if label in _LAST]
    inner = [index for index in range(len(every)) if folded[index] not in _LAST]
    ranks = _ranks([folded[index] for index in inner]) if len(inner) >= 2 else None
    if ranks is None:
        return None
    ordered = sorted(range(len(inner)), key=lambda place: (ranks[place], every[inner[place]]))
    return [every[inner[place]] for place in ordered] + sorted(every[index] for index in last)


def by_numbers_inside(labels: Iterable[str]) -> list[str]:
    """Return the labels as people sort them: by letters, numbers inside by their size.

    >>> by_numbers_inside(["Room 10", "Room 9", "Annex"])
    ['Annex', 'Room 9', 'Room 10']
    """
    return sorted(labels, key=_pieces)


def _pieces(label: str) -> list[tuple[int, float, str]]:
    parts = re.split(r"(\d+)", label.casefold())
    return [(0, float(part), "") if part.isdigit() else (1, 0.0, part) for part in parts if part]


def _folded(label: str) -> str:
    return " ".join(label.casefold().replace("’", "'").split()).rstrip(".")


def _ranks(labels: list[str]) -> Sequence[float] | None:
    for scale in _scales():
        if labels[0] in scale and all(label in scale for label in labels):
            found = [float(scale[label]) for label in labels]
            # “May” alone, or two words for the same step, are no order.
            return found if len(set(found)) == len(found) else None
    return _numbered(labels)


@cache
def _scales() -> tuple[dict[str, int], ...]:
    scales = [
        {_folded(word): rank for rank, step in enumerate(scale.split(" / ")) for word in step.split(", ")}
        for scale in _SCALES
    ]
    for locale in map(Locale.parse, _LOCALES):
        for names in (locale.days, locale.months):
            for width in ("wide", "abbreviated"):
                forms = (names[form][width] for form in ("stand-alone", "format"))
                scales.append({_folded(str(name)): rank for form in forms for rank, name in form.items()})
    return tuple(scales)


def _numbered(labels: list[str]) -> Sequence[float] | None:
    """Bands such as 18–24, and things that differ in nothing but a number."""
    skeletons = set()
    ranks = []
    for label in labels:
        numbers = [float(number.replace(",", ".")) for number in _NUMBER.findall(label)]
        if not numbers or len(numbers) > 2 or re.match(r"^0\d", label):
            return None
        half = 0.5 if _ABOVE.match(label) else 0.0
        ranks.append(-1.0 if _BELOW.match(label) and len(numbers) == 1 else numbers[0] + half)
        band = _BELOW.match(label) or _ABOVE.match(label) or len(numbers) == 2 or _JOINTS.search(_NUMBER.sub("", label))
        skeletons.add("band" if band else _NUMBER.sub("#", label))
    alike = len(skeletons) == 1 or (skeletons - {"band"} <= {"#"})
    return ranks if alike and len(set(ranks)) == len(ranks) else None
