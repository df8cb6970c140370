"""Sentences of many questions over many tables, kept as a file that is read as English whenever it changes.

After a change on purpose: ``python -m tests.core.test_sentences`` writes the file anew; then read it.
"""

from pathlib import Path

from ypsil.core.questions import parse_question
from ypsil.core.questions.sentence import sentence, sentence_parts

PAGE = Path(__file__).parent / "sentences" / "sentences.txt"

# Tables of different trades: their numbers, groups, dates and yes/no columns.
TABLES = {
    "visits": (["Visits", "Cost"], ["Branch", "Age band"], "Day", ("Open", "Yes")),
    "cities": (["GDP", "CO2", "Jobs"], ["Berlin district"], "Founded", ("Capital", "Yes")),
    "films": (["IMDB Rating", "US Gross"], ["Director", "Major Genre"], "Release Date", ("Rating", "PG")),
    "budget": (["Betrag (€)", "pH"], ["Amt"], "budgetYear", ("Genehmigt", "Yes")),
    "survey": (
        ["How old are you?", "Score"], ["What did you come for?", "Area"], "Asked on", ("Would you come again?", "Yes"),
    ),
}  # fmt: skip
STATS = ["sum", "mean", "median", "min", "max", "std", "first", "last", "count", "distinct"]
THENS = ["running_total", "change", "percent_change", "change_year", "percent_change_year", "moving_average", "index"]


def questions():
    for numbers, groups, day, (answer, value) in TABLES.values():
        first, other, group = numbers[0], numbers[-1], groups[-1]
        month = {"column": day, "by": "month"}
        one = {"stat": "sum", "column": first}
        share = {"stat": "share", "column": answer, "values": [value]}
        ratio = [one, {"stat": "sum", "column": other}]
        yield from ({"measures": [{"stat": stat, "column": first}]} for stat in STATS)
        yield {"measures": [{"stat": "percentile", "column": first, "p": 2.5}], "per": [{"column": group}]}
        yield {"measures": [{"stat": "percentile", "column": first, "p": 90}], "per": [{"column": group}]}
        yield {"measures": [{"stat": "count"}], "per": [{"column": group}], "split": {"column": answer}}
        yield {"measures": [share], "per": [month]}
        yield {"measures": [{**share, "of": "asked"}], "per": [{"column": group}]}
        yield {"measures": [{"stat": "share"}], "per": [{"column": group}]}
        yield {"measures": [{"stat": "share", "column": first}], "per": [{"column": group}]}
        yield {"measures": [{"stat": "share", "within": "respondents"}], "per": [{"column": group}]}
        for within in ("split", "per"):
            measure = {"stat": "share", "within": within}
            yield {"measures": [measure], "per": [{"column": group}], "split": {"column": answer}}
        yield from ({"measures": [{**one, "then": then}], "per": [month]} for then in THENS)
        yield {"measures": [{**one, "then": "change"}], "per": [{"column": day, "by": "year"}],
               "order": {"by": "value", "descending": True}, "keep": 3}  # fmt: skip
        yield {"measures": [{**one, "then": "change"}], "per": [{"column": groups[-1]}]}
        yield {
            "measures": [{**one, "then": "moving_average", "window": 4}],
            "per": [{"column": first, "by": {"bins": 8}}],
        }
        yield {"measures": [{"stat": "mean", "column": name} for name in numbers], "per": [{"column": group}]}
        yield {
            "measures": [{"stat": "sum", "column": name} for name in numbers],
            "per": [{"column": group, "by": "row"}],
        }
        yield {"measures": [{"ratio": ratio}], "per": [month]}
        yield {"measures": [{"ratio": ratio, "name": "Rate"}], "per": [month], "split": {"column": group}}
        yield {"measures": [{"ratio": [one, {"stat": "count"}], "name": "GDP a head", "then": "percent_change_year"}],
               "per": [month]}  # fmt: skip
        rules = [
            {"column": day, "test": "last", "count": 1, "by": "year"},
            {"column": group, "test": "not_in", "values": ["A"]},
        ]
        yield {"measures": [one], "per": [{"column": group}], "where": rules}
        yield {"measures": [{**one, "then": "change_year"}], "per": [month], "where": rules}
        between = {"column": day, "test": "between", "values": [1950, 1960]}
        yield {"measures": [one], "per": [{"column": day, "by": "year"}], "where": [between]}
        long = {"column": first, "test": "at_least", "values": [12500]}
        yield {"measures": [{"stat": "count"}], "where": [long, {"column": other, "test": "not_empty"}]}
        yield {
            "measures": [one],
            "per": [{"column": group, "missing": "shown"}],
            "keep": 3,
            "split": {"column": answer},
        }
        yield {"measures": [one], "per": [{"column": group}], "keep": 5, "rest": "Other", "order": {"by": "name"}}
        yield {"measures": [one], "per": [{"column": day, "by": "week", "gaps": "zero"}]}
        yield {"measures": [{"stat": "count"}], "per": [{"column": first, "by": {"width": 5}}]}
        yield {"measures": [{"stat": "count"}], "per": [{"column": group, "by": "word"}], "keep": 20}
        weekdays = {"column": day, "by": "weekday"}
        mean = {"stat": "mean", "column": first}
        yield {"measures": [mean], "per": [weekdays], "weight": other, "least_base": 10}


def lines():
    found = []
    for data in questions():
        question = parse_question(data)
        found += [sentence(question), "    " + "".join(part.text for part in sentence_parts(question))]
    return found


def test_the_sentences_are_those_that_were_read():
    assert lines() == PAGE.read_text(encoding="utf-8").splitlines()


def test_there_are_enough_of_them_and_none_has_a_fault_that_was_seen():
    said = lines()
    assert len(said) >= 400
    for fault in (
        " 1 values",
        "?.",
        "gDP",
        "cO2",
        "iMDB",
        ".50th",
        "ys ",
        "different Director",
        "of each Area per Area",
    ):
        assert not [line for line in said if fault in line], fault


if __name__ == "__main__":
    PAGE.write_text("\n".join(lines()) + "\n", encoding="utf-8")
