"""The words a question is said with: its measures, periods, tests and orders."""

from __future__ import annotations

from ypsil.core.figures import decimals_kept, format_number
from ypsil.core.figures.capitals import lower_first
from ypsil.core.questions.model import Bins, Measure, Per, Question, Width
from ypsil.core.tables.conditions import join_or
from ypsil.core.tables.dates_in_text import says_year

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
    "distinct": "number of different values",
    "share": "share",
    "score": "mean score",
    "recommendation": "recommendation score",
}
ROWS = "rows"
RESPONDENTS = "respondents"
DEFAULT_WINDOW = 3


def stat_word(measure: Measure) -> str:
    """Return a statistic's word.

    >>> stat_word(Measure(stat="percentile", column="Age", p=22)), stat_word(Measure(stat="sum", column="Age"))
    ('22nd percentile', 'total')
    >>> stat_word(Measure(stat="percentile", column="Age", p=2.5))
    '2.5th percentile'
    """
    if measure.stat == "percentile":
        return f"{_ordinal(measure.p or 0)} percentile"
    return STAT_WORDS[measure.stat or "count"]


def _ordinal(number: float) -> str:
    whole = int(number)
    if whole != number or whole % 100 in (11, 12, 13):
        return f"{format_number(number, decimals=decimals_kept([number], most=4))}th"
    return f"{whole}" + {1: "st", 2: "nd", 3: "rd"}.get(whole % 10, "th")


def measure_name(measure: Measure, question: Question | None = None) -> str:
    """Return the name of a measure as a column heading or label; ``question`` tells along what it goes.

    >>> measure_name(Measure(stat="sum", column="Visits")), measure_name(Measure(stat="count"))
    ('Total Visits', 'Number of rows')
    >>> measure_name(Measure(stat="share", column="Recommend", values=("Yes",)))
    'Share of Recommend that is Yes'
    >>> measure_name(Measure(stat="sum", column="Visits", then="moving_average"))
    'Moving average of total Visits over 3 periods'
    """
    plain = _plain_name(measure, question)
    if measure.then is None or measure.name:
        return plain
    if measure.then == "running_total":
        running = {"sum": spoken(measure.column), "count": plain[len("Number of ") :]}.get(measure.stat or "")
        return f"Running total of {running}" if running else f"Running {lower_first(plain)}"
    if measure.then == "moving_average":
        word = period_word(question)
        periods = f"{measure.window or DEFAULT_WINDOW} {word}{'es' if word.endswith('s') else 's'}"
        return f"Moving average of {lower_first(plain)} over {periods}"
    if measure.then == "index":
        return f"{plain} as an index (first {period_word(question)} = 100)"
    return f"{then_words(measure, question).capitalize()} {lower_first(plain)}"


def _plain_name(measure: Measure, question: Question | None) -> str:
    if measure.name:
        return measure.name
    if measure.ratio:
        above, below = (measure_name(part) for part in measure.ratio)
        return f"{above} / {below}"
    if question and question.each_row and measure.column:
        return measure.column
    if measure.stat == "share":
        if measure.values:
            return f"Share of {spoken(measure.column)} that is {join_or(measure.values)}{of_words(measure)}"
        return f"Share of {whole_words(measure, question)}"
    return f"{stat_word(measure).capitalize()}{joint(measure)}{spoken(measure.column)}"


def joint(measure: Measure) -> str:
    """Return what stands between a statistic and its column in a name; what is counted of a column are rows with it."""
    if measure.stat == "count" and measure.column is not None:
        return " of rows with "
    return " of " if measure.stat in _WITH_OF else " "


_WITH_OF = frozenset({"count", "distinct", "score", "recommendation", "percentile", "std"})


def spoken(column: str | None) -> str:
    """Return a column's name as it stands in a sentence: in quotes where it is one itself.

    >>> spoken("Visits"), spoken("Would you come again?"), spoken(None)
    ('Visits', '“Would you come again?”', 'rows')
    """
    if column is None:
        return ROWS
    is_sentence = column.rstrip()[-1:] in _ENDS or ": " in column or ", " in column or column.count(" ") >= _LONG_NAME
    return f"“{column}”" if is_sentence else column


_ENDS, _LONG_NAME = frozenset("?!.:…"), 5


def of_words(measure: Measure) -> str:
    """Return what a share of values is taken of, where that is not those who answered."""
    return " among all asked" if measure.of == "asked" else ""


def whole_words(measure: Measure, question: Question | None) -> str:
    """Return what a part is a part of: all of it, or that of its split value or group."""
    what = spoken(measure.column)
    if measure.is_of_respondents:
        return RESPONDENTS
    if measure.within == "split" and question and question.split:
        return f"the {what} of each {spoken(question.split.column)}"
    if measure.within == "per" and question and question.per:
        first = question.per[0]
        return f"the {what} of each {first.grain or spoken(first.column)}"
    return f"all {what}"


def then_words(measure: Measure, question: Question | None) -> str:
    """Return what is done with a measure along its periods, ready to stand before the measure's name."""
    period = period_word(question)
    return {
        "running_total": "running total of",
        "change": f"change from the {period} before in",
        "percent_change": f"percentage change from the {period} before in",
        "change_year": "change from a year before in",
        "percent_change_year": "percentage change from a year before in",
        "moving_average": f"{measure.window or DEFAULT_WINDOW}-{period} moving average of",
        "index": f"index (first {period} = 100) of",
    }[measure.then or "running_total"]


def period_word(question: Question | None) -> str:
    """Return the word for one step along the answer: its period, or its group."""
    if question is None or not question.per:
        return "period"
    first = question.per[0]
    if isinstance(first.by, Bins | Width):
        return "class"
    if first.by is None:
        # A column of years is grouped by them without being told.
        return "year" if says_year(first.column) else "step"
    return first.grain or "row"


def classes_words(per: Per) -> str:
    """Return how numbers fall into classes, in brackets; nothing for other groups.

    >>> classes_words(Per(column="Age", by={"bins": 12})), classes_words(Per(column="Age", by={"width": 5}))
    ('(in 12 classes)', '(each 5 wide)')
    """
    if isinstance(per.by, Bins):
        return f"(in {per.by.bins} classes)" if per.by.bins > 1 else "(in one class)"
    return f"(each {format_number(per.by.width)} wide)" if isinstance(per.by, Width) else ""
