"""The order that labels have by what they mean: weekdays, months, ratings, sizes, age bands, numbered things.

The wordings are common practice, no source; names of days and months are those of Unicode CLDR, through Babel.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from functools import cache, lru_cache

from ypsil.core.tables import calendar_names

_MOST_LABELS = 2_000
_MOST_STEPS = 11
# From the least to the most; words that mean the same stand together. Opinions have two sides, for and against; degrees
# have one, and are rated as well; of the others no one would say that one is better.
_OPINIONS = (
    "strongly disagree, disagree strongly / disagree, rather disagree / slightly disagree, somewhat disagree, "
    "tend to disagree / neither agree nor disagree, neither, neutral, undecided / slightly agree, somewhat agree, "
    "tend to agree / agree, rather agree / strongly agree, agree strongly",
    "completely dissatisfied / very dissatisfied, very unsatisfied / dissatisfied, unsatisfied / fairly dissatisfied, "
    "somewhat dissatisfied / neither satisfied nor dissatisfied, neither, neutral / fairly satisfied, "
    "somewhat satisfied / satisfied / very satisfied / completely satisfied",
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
)
_DEGREES = (
    "none / very low / low / medium, moderate, mid, middle / high / very high / extreme",
    "none / minor / moderate / major, serious / severe / critical",
    "not at all / a little, slightly / somewhat, moderately / quite, mostly, a lot / very, very much / extremely",
    "never / almost never, hardly ever / rarely, seldom / occasionally / sometimes / often, frequently / usually / "
    "very often / almost always / always",
    "never / less often / yearly, once a year / quarterly / monthly, once a month / fortnightly / "
    "weekly, once a week / daily, every day, once a day / hourly",
)
_OTHER_ORDERS = (
    "xxs / xs, extra small / s, small / m, medium / l, large / xl, extra large / xxl, 2xl / xxxl, 3xl / 4xl",
    "early morning / morning / late morning / midday, noon, lunchtime / early afternoon / afternoon / "
    "late afternoon / early evening / evening / night",
    "spring / summer / autumn, fall / winter",
    "baby / toddler / child, children / teenager, teen / young adult / adult, adults / middle-aged / "
    "senior, seniors, older adult",
    "first / second / third / fourth / fifth / sixth / seventh / eighth / ninth / tenth",
    "bottom / lower / middle / upper / top",
)
_SCALES = (*_OPINIONS, *_DEGREES, *_OTHER_ORDERS)
_LAST = frozenset(
    [
        "don't know",
        "don’t know",
        "dont know",
        "not sure",
        "unsure",
        "no answer",
        "no theme",
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
_NEUTRAL = frozenset(
    [
        "neither agree nor disagree",
        "neither satisfied nor dissatisfied",
        "neutral",
        "neither",
        "undecided",
        "about the same",
        "about right",
        "ok",
    ]
)
_NUMBER_SCALES = ((1, 5), (1, 7), (0, 10))
# Waves of a survey are often called after their season.
_SEASONS = {"spring": 0.2, "summer": 0.4, "autumn": 0.6, "fall": 0.6, "winter": 0.8}
_SEASON = re.compile(rf"^({'|'.join(_SEASONS)})\s+(\d{{4}})$")
_NUMBERED_STEP = re.compile(r"^\d+\s*[-–:.)=]\s*(?=\D)")
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
    >>> natural_order(["Spring 2026", "Autumn 2025", "Spring 2025"])
    ['Spring 2025', 'Autumn 2025', 'Spring 2026']
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
    words = [_word(label) for label in every]
    last = [index for index, word in enumerate(words) if word in _LAST]
    inner = [index for index in range(len(every)) if words[index] not in _LAST]
    ranks = _ranks([folded[index] for index in inner]) if len(inner) >= 2 else None
    if ranks is None:
        return None
    ordered = sorted(range(len(inner)), key=lambda place: (ranks[place], every[inner[place]]))
    return [every[inner[place]] for place in ordered] + sorted(every[index] for index in last)


def scale_places(labels: Sequence[str], order: Sequence[str] = ()) -> dict[str, int] | None:
    """Return the numbers of a rating scale's words, 1 for its lowest; answers beside the scale have none.

    The order is the one given, else a known one; a step that nobody chose has no place.

    >>> scale_places(["Agree", "Disagree", "Strongly agree", "Strongly disagree", "Neither", "Don't know"])
    {'Strongly disagree': 1, 'Disagree': 2, 'Neither': 3, 'Agree': 4, 'Strongly agree': 5}
    >>> scale_places(["Poor", "Meh"]), scale_places(["Poor", "Meh"], ["Meh", "Poor"])
    (None, {'Meh': 1, 'Poor': 2})
    """
    if order:
        return {label: place for place, label in enumerate(order, 1) if not is_beside(label)}
    found = natural_order(labels)
    if found is None:
        return None
    steps = [label for label in found if not is_beside(label)]
    return {label: place for place, label in enumerate(steps, 1)}


def scale_family(labels: Sequence[str]) -> int | None:
    """Return which of the known rating scales all labels belong to, those beside it left out; None for none.

    >>> scale_family(["Agree", "Disagree"]) == scale_family(["Strongly agree", "Agree"]), scale_family(["a", "b"])
    (True, None)
    >>> scale_family(["small", "medium", "large"])
    """
    return _family(labels, len(_OPINIONS) + len(_DEGREES))


def has_two_sides(labels: Sequence[str]) -> bool:
    """Tell whether all labels are steps of an opinion, for or against something.

    >>> has_two_sides(["Agree", "Disagree"]), has_two_sides(["Often", "Never"]), has_two_sides(["small", "large"])
    (True, False, False)
    """
    return _family(labels, len(_OPINIONS)) is not None


def _family(labels: Sequence[str], among: int) -> int | None:
    folded = [_word(label) for label in labels if not is_beside(label)]
    every = _scales()[:among]
    return next((place for place, scale in enumerate(every) if folded and all(one in scale for one in folded)), None)


def words_off_the_scale(labels: Sequence[str]) -> tuple[list[str], list[str]] | None:
    """Return the labels of a known scale in order, and those that stand among them without a known place.

    None where the order is known, and where fewer than half of the labels are of one scale.

    >>> words_off_the_scale(["Good", "Poor", "Meh"]), words_off_the_scale(["Good", "Poor"])
    ((['Poor', 'Good'], ['Meh']), None)
    """
    steps = {label: _word(label) for label in labels if not is_beside(label)}
    if not 2 < len(steps) <= _MOST_STEPS or natural_order(labels) is not None:
        return None
    ratings = _scales()[: len(_OPINIONS) + len(_DEGREES)]
    held = [[label for label, word in steps.items() if word in scale] for scale in ratings]
    best = max(range(len(held)), key=lambda place: len(held[place]))
    known = held[best]
    if len(known) < max(2, len(steps) / 2) or len(known) == len(steps):
        return None
    scale = _scales()[best]
    return sorted(known, key=lambda label: scale[steps[label]]), sorted(set(steps) - set(known))


def is_beside(label: str) -> bool:
    """Tell whether an answer stands beside a scale: “Don't know”, “No answer”, “Other”.

    >>> is_beside("Don’t know"), is_beside("9 - Not sure"), is_beside("4 - Agree")
    (True, True, False)
    """
    return _word(label) in _LAST


def middle_of(labels: Sequence[str]) -> float:
    """Return how many of a scale's labels, in order, lie below its neutral point; half of one that is neutral itself.

    Words know their neutral step. Numbers stand on the usual scale that holds them (1 to 5, 1 to 7, 0 to 10); other
    labels are halved.

    >>> middle_of(["Disagree", "Neither", "Agree", "Strongly agree"]), middle_of(["3", "4", "5"]), middle_of(["a", "b"])
    (1.5, 0.5, 1.0)
    >>> middle_of(["Agree", "Strongly agree"])
    0.0
    """
    folded = [_word(label) for label in labels]
    for steps, neutral in _neutral_scales():
        if all(label in steps for label in folded):
            return sum(1.0 if steps[label] < neutral else 0.5 if steps[label] == neutral else 0.0 for label in folded)
    if all(label.isdigit() for label in folded) and folded:
        numbers = [int(label) for label in folded]
        low, high = next(((low, high) for low, high in _NUMBER_SCALES if low <= min(numbers) and max(numbers) <= high),
                         (min(numbers), max(numbers)))  # fmt: skip
        middle = (low + high) / 2
        return sum(1.0 if number < middle else 0.5 if number == middle else 0.0 for number in numbers)
    return len(labels) / 2


@cache
def _neutral_scales() -> tuple[tuple[dict[str, int], int], ...]:
    """The known scales that have a neutral step, with its rank."""
    found = []
    for scale in _scales()[: len(_SCALES)]:
        neutral = [rank for word, rank in scale.items() if word in _NEUTRAL]
        if neutral:
            found.append((scale, neutral[0]))
    return tuple(found)


def by_numbers_inside(labels: Iterable[str]) -> list[str]:
    """Return the labels as people sort them: by letters, numbers inside by their size.

    >>> by_numbers_inside(["Room 10", "Room 9", "Annex"])
    ['Annex', 'Room 9', 'Room 10']
    """
    return sorted(labels, key=_pieces)


def _pieces(label: str) -> list[tuple[int, float, str]]:
    parts = re.split(r"(\d+)", label.casefold())
    return [(0, float(part), "") if part.isdecimal() else (1, 0.0, part) for part in parts if part]


def _word(label: str) -> str:
    """Return a step of a scale without the number that may stand before it: “4 - Agree” is “agree”."""
    return _NUMBERED_STEP.sub("", _folded(label))


def _folded(label: str) -> str:
    return " ".join(label.casefold().replace("’", "'").split()).rstrip(".")


def _ranks(labels: list[str]) -> Sequence[float] | None:
    if all(_SEASON.match(label) for label in labels):
        seasons = [_SEASON.match(label) for label in labels]
        found = [float(one[2]) + _SEASONS[one[1]] for one in seasons if one]
        return found if len(set(found)) == len(found) else None
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
    for language in calendar_names.LANGUAGES:
        for what in ("days", "months"):
            for width in ("wide", "abbreviated"):
                forms = (calendar_names.names(what, width, context, language) for context in ("stand-alone", "format"))
                scales.append({_folded(name): rank for form in forms for rank, name in form.items()})
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
