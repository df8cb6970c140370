"""The words a question is said with: its measures, periods, tests and orders."""

from __future__ import annotations

from ypsil.core.figures import format_number
from ypsil.core.questions.model import Measure
from ypsil.core.tables.conditions import join_or

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
