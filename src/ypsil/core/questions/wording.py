"""The words a question is said with: its measures, periods, tests and orders."""

from __future__ import annotations

from ypsil.core.figures import format_number
from ypsil.core.questions.model import Filter, Measure, Value

STAT_WORDS = {
    "sum": "total",
    "mean": "mean",
    "median": "median",
    "min": "lowest",
    "max": "highest",
    "first": "first",
    "last": "last",
    "std": "standard deviation",
    "count": "number",
    "distinct": "number of different",
    "share": "share",
}
ROWS = "rows"


def stat_word(measure: Measure) -> str:
    if measure.stat == "percentile":
        return f"{format_number(measure.p or 0)}th percentile"
    return STAT_WORDS[measure.stat or "count"]


def measure_name(measure: Measure) -> str:
    """Return the name of a measure as a column heading or label.

    >>> measure_name(Measure(stat="sum", column="Visits")), measure_name(Measure(stat="count"))
    ('Total Visits', 'Number of rows')
    >>> measure_name(Measure(stat="share", column="Recommend", values=("Yes",)))
    'Share of Recommend that is Yes'
    """
    if measure.name:
        return measure.name
    if measure.ratio:
        above, below = (measure_name(part) for part in measure.ratio)
        return f"{above} / {below}"
    word = stat_word(measure)
    if measure.stat == "share":
        if measure.values:
            return f"Share of {measure.column} that is {join_or(measure.values)}"
        return f"Share of all {measure.column or ROWS}"
    if measure.stat == "count":
        return f"Number of {measure.column or ROWS}"
    return f"{word[0].upper()}{word[1:]} {measure.column}"


def value_word(value: Value) -> str:
    if isinstance(value, bool):
        return "Yes" if value else "No"
    return value if isinstance(value, str) else format_number(value)


def join_or(values: tuple[Value, ...]) -> str:
    """Return values as "A", "A or B", "A, B or C"."""
    words = [value_word(value) for value in values]
    return words[0] if len(words) == 1 else ", ".join(words[:-1]) + " or " + words[-1]


def test_words(rule: Filter) -> tuple[str, str]:
    """Return a filter's test and its values as words: ``("is", "Adult")``."""
    if rule.test == "last":
        count = rule.count or 1
        return "is in", f"the last {count} {rule.by}s" if count != 1 else f"the last {rule.by}"
    words = {
        "in": "is",
        "not_in": "is not",
        "at_least": "is at least",
        "at_most": "is at most",
        "contains": "contains",
        "empty": "is missing",
        "not_empty": "is present",
    }
    if rule.test == "between":
        return "is between", f"{value_word(rule.values[0])} and {value_word(rule.values[1])}"
    return words[rule.test], join_or(rule.values) if rule.values else ""
