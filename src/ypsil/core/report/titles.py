"""Headings of what is asked, short and in words."""

from __future__ import annotations

from ypsil.core.figures.capitals import lower_first
from ypsil.core.questions import Measure, Question
from ypsil.core.questions.model import Bins, Width
from ypsil.core.questions.wording import measure_name
from ypsil.core.tables.name_parts import with_part
from ypsil.core.tables.shown_names import in_words


def names_in(question: Question) -> dict[str, str]:
    """Return the columns that a question names, where readers see another name: in words, without the unit."""
    return {name: in_words(name) for name in question.columns() if in_words(name) != name}


def short_name(measure: Measure) -> str:
    """Return a measure's name without the word total, which headings do not need."""
    if measure.stat == "sum" and measure.column and not measure.name and measure.then is None:
        return measure.column
    if measure.stat == "share" and measure.column and measure.values == ("Yes",):
        return with_part(measure.column, "Yes")
    return measure_name(measure)


def _listed(names: list[str]) -> str:
    return " and ".join([", ".join(names[:-1]), names[-1]] if len(names) > 1 else names)


def title_for(question: Question) -> str:
    """Return a heading for a question.

    >>> from ypsil.core.questions import Measure, Per
    >>> title_for(Question(measures=[Measure(stat="sum", column="Visits")], per=[Per(column="Day", by="month")]))
    'Visits per month'
    """
    if question.per and question.per[0].by == "word":
        over = " over time" if question.split and question.split.grain else ""
        return f"Words in {question.per[0].column}{over}"
    first, *rest = question.measures
    others = (short_name(one) if one.stat == "sum" or one.name else lower_first(short_name(one)) for one in rest)
    title = _listed([short_name(first), *others])
    if question.each_row:
        measured = [measure.column or "" for measure in question.measures]
        by = question.split.column if question.split else question.per[0].column
        return _listed(measured) + (f" by {by}" if by not in measured else "")
    if question.per:
        per = question.per[0]
        if isinstance(per.by, Bins | Width):
            return f"How {per.column} spreads" if question.measures[0].stat == "count" else f"{title} by {per.column}"
        title += f" per {per.by if isinstance(per.by, str) else per.column}"
    title += f", by {question.split.column}" if question.split else ""
    # What is left out is said: two headings of the same words would hide that they differ.
    return title + "".join(
        f", last {one.count} {one.by}s" for one in question.where if one.test == "last" and one.count
    )
