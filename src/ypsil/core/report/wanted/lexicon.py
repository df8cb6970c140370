"""The words that are understood where somebody says which value they want, as data. English, by common practice."""

from __future__ import annotations

from ypsil.core.figures import Grain
from ypsil.core.questions.model import Stat

Phrase = tuple[str, ...]


def _table(rows: dict[str, str]) -> dict[Phrase, str]:
    """Return each phrase of a row, as its words, with what it means."""
    return {tuple(one.split()): meaning for meaning, said in rows.items() for one in said.split(", ")}


def _phrases(said: str) -> tuple[Phrase, ...]:
    return tuple(tuple(one.split()) for one in said.split(", "))


STATS: dict[Phrase, Stat] = _table(  # type: ignore[assignment]
    {
        "sum": "total, sum, sum of, sum total, altogether, in all, all together, overall",
        "mean": "average, mean, on average",
        "median": "median, typical",
        "max": "highest, maximum, max, peak, record, largest single, most in one",
        "min": "lowest, minimum, min, smallest single",
        "count": "number, number of, how many, count, count of, amount of rows, rows, answers, responses, entries",
        "share": "share, share of, percentage, percentage of, proportion, proportion of, per cent of, percent of, "
        "part of",
        "distinct": "different, distinct, number of different, how many different",
    }
)
PICKED: dict[Phrase, str] = _table(
    {
        "most": "best, top, leading, largest, biggest, busiest, strongest, most, most popular, highest",
        "least": "worst, weakest, smallest, quietest, least, fewest, lowest, least popular",
    }
)
# Words that may stand for a statistic or for who is meant: what they are is told by what stands beside them.
EITHER = {("highest",), ("lowest",)}
CHANGES: dict[Phrase, str] = _table(
    {
        "percent": "change, change in, growth, growth in, growth of, rise, rise in, increase, increase in, fall, "
        "fall in, drop in, decrease, decrease in, decline, decline in, percent change, percentage change",
        "difference": "difference, difference in, how many more, how much more, how many fewer, how much less, more, "
        "fewer, absolute change",
        "times": "how many times, times as many, times as much",
    }
)
COMPARED = _phrases("compared with, compared to, versus, vs, against, than, on, over, on the, over the")
# Before a unit of time.
NEWEST = ("this", "current", "latest", "newest", "most recent")
BEFORE = ("last", "previous", "past", "former", "prior")
BEFORE_THAT: dict[Phrase, Grain] = {
    tuple(f"{the}{unit} {word}".split()): unit
    for unit in ("year", "quarter", "month", "week", "day")
    for the in ("the ", "a ", "")
    for word in ("before", "earlier", "ago")
}
UNITS: dict[str, Grain] = {
    word: unit for unit in ("year", "quarter", "month", "week", "day") for word in (unit, f"{unit}s", f"{unit}'s")
}
NUMBERS = {
    "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10,
    "twelve": 12,
}  # fmt: skip
WHETHER = _phrases("whether, rose or fell, up or down, risen or fallen, above or below, if")
COUNTED = _phrases("rows, answers, responses, entries, records, people")
BOUNDING = frozenset({"above", "below", "over", "under", "than", "more", "less", "least", "most"})
EXCEPT = ("except", "without", "but", "not", "excluding")
EVER: tuple[Phrase, ...] = tuple(
    tuple(one.split()) for one in ("so far", "to date", "ever", "of all time", "since the start")
)
# Plurals that no ending tells.
PLURALS = {"children": "child", "people": "person", "men": "man", "women": "woman", "pupils": "pupil"}
# Words that say nothing by themselves.
SILENT = frozenset({
    "a", "all", "an", "and", "are", "as", "at", "be", "been", "between", "by", "did", "do", "does", "each", "for",
    "from", "give", "had", "has", "have", "how", "in", "is", "it", "its", "many", "me", "much", "of", "on", "our",
    "over", "per", "please", "show", "that", "the", "their", "there", "these", "they", "this", "those", "to", "was",
    "we", "were", "what", "when", "where", "which", "while", "who", "with",
})  # fmt: skip
