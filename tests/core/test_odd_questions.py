"""Questions made by chance, with odd values, of odd tables: answered and drawn, or refused in words, and nothing else.

More of them: ``FUZZ=5000 pytest tests/core/test_odd_questions.py``. Each is made from its number, so that a failure
can be made again.
"""

import datetime as dt
import io
import json
import math
import os
import random
from dataclasses import replace
from functools import cache

import polars as pl
import pytest

from tests.odd import ODD_NUMBERS, ODD_TEXTS
from ypsil.core.answers import answer
from ypsil.core.drawing import scene_to_svg
from ypsil.core.errors import YpsilError
from ypsil.core.questions import parse_question
from ypsil.core.questions.model import STATS
from ypsil.core.questions.offered import choices, offers
from ypsil.core.questions.sentence import sentence_parts
from ypsil.core.report import ReportTable
from ypsil.core.report.suggest import suggest
from ypsil.core.style import HouseStyle
from ypsil.core.tables.profile import profile
from ypsil.core.tables.read import read_table
from ypsil.core.visuals import VISUALS, Box, draw

MANY = int(os.environ.get("FUZZ", "400"))
STYLE = HouseStyle()
PURPOSES = sorted({purpose for entry in VISUALS.values() for purpose in entry.purposes})
KINDS = ("Day", "Time", "Clock", "Count", "Part", "Branch", "Open", "Kinds", "Said", "Nothing", "Year", "Odd")
DAYS = ("2024-02", "2024-02-30", "9999-12-31", "0001-01-01", "2024", "Q4 9999", "2024-W53", "9999-12")
TESTS = ("in", "not_in", "between", "at_least", "at_most", "contains", "empty", "not_empty", "last")
GRAINS = ("day", "week", "month", "quarter", "year", "weekday", "hour")
DATES, AMOUNTS = ("Day", "Time"), ("Count", "Part", "Year")
GROUPS = ("Branch", "Open", "Kinds", "Odd", "Nothing", "Clock", "Year")
ANY = (*DATES, *AMOUNTS, *GROUPS)
THEN = ("running_total", "change", "percent_change", "change_year", "percent_change_year", "moving_average", "index")
ODD_PARTS = (*(one for one in ODD_NUMBERS if isinstance(one, float)), None)
HOW = ("cold", "warm", "never open in the morning")
ODD_VALUES = (*ODD_TEXTS, *ODD_NUMBERS, True, "Alder", "Elm", "2024-02", "12:00", 2024, "9999", "1-1-1")


def some_rows(rows, chance, *, is_odd):
    def either(plain, odd):
        return chance.choice(odd) if is_odd and chance.random() < 0.3 else plain

    days = [dt.date(1, 1, 1), dt.date(9999, 12, 31), None, dt.date(1969, 12, 31), dt.date(2024, 2, 29)]
    return pl.DataFrame(
        {
            "Day": [either(dt.date(2024, 1 + at % 12, 1 + at % 28), days) for at in range(rows)],
            "Time": [
                either(dt.datetime(2024, 1, 1, at % 24), [dt.datetime.max, dt.datetime.min, None]) for at in range(rows)
            ],
            "Clock": [either(dt.time(at % 24, at % 60), [dt.time.max, dt.time.min, None]) for at in range(rows)],
            "Count": [either(at, [2**62, -(2**62), 0, None, 1]) for at in range(rows)],
            "Part": [either(at / 7, ODD_PARTS) for at in range(rows)],
            "Branch": [either(chance.choice(["Alder", "Elm", "Oak"]), [*ODD_TEXTS, None]) for _ in range(rows)],
            "Open": [chance.choice([True, False, None]) for _ in range(rows)],
            "Kinds": [either(["a", "b"], [[], None, ["²", ""]]) for _ in range(rows)],
            "Said": [either(f"The rooms are {chance.choice(HOW)} on day {at}.", ODD_TEXTS) for at in range(rows)],
            "Nothing": [None] * rows,
            "Year": [either(2000 + at % 20, [0, 9999, None, -5]) for at in range(rows)],
            "Odd": [chance.choice(ODD_TEXTS) for _ in range(rows)],
        },
        schema={
            "Day": pl.Date, "Time": pl.Datetime("us"), "Clock": pl.Time, "Count": pl.Int64, "Part": pl.Float64,
            "Branch": pl.String, "Open": pl.Boolean, "Kinds": pl.List(pl.String), "Said": pl.String,
            "Nothing": pl.String, "Year": pl.Int64, "Odd": pl.String,
        },
    )  # fmt: skip


@cache
def tables():
    """Return tables as they are read from a file that keeps any value: usual, odd, of one row, of none."""
    found = []
    for rows, is_odd in ((60, False), (60, True), (1, False), (1, True), (2, True), (400, True)):
        kept = io.BytesIO()
        some_rows(rows, random.Random(rows), is_odd=is_odd).write_parquet(kept)
        found.append(read_table(kept.getvalue(), "rows.parquet"))
    # A step may leave none of the rows.
    return (*found, replace(found[1], frame=found[1].frame.clear()))


def a_column(chance, fitting=KINDS):
    """Return a column, mostly one that fits; seldom one that is not there."""
    drawn = chance.random()
    return chance.choice(ODD_TEXTS) if drawn < 0.02 else chance.choice(fitting if drawn < 0.9 else KINDS)


def a_measure(chance, *, deep=0):
    if chance.random() < 0.1 and deep < 3:
        return {"ratio": [a_measure(chance, deep=deep + 1), a_measure(chance, deep=deep + 1)]}
    stat = chance.choice(STATS)
    made = {"stat": stat}
    if stat not in ("count", "share"):
        made["column"] = a_column(chance, ANY if stat in ("distinct", "first", "last") else AMOUNTS)
    if stat == "percentile":
        made["p"] = chance.choice([0, 50, 50, 99.999, 100, math.nan])
    if stat == "share" and chance.random() < 0.5:
        made |= {"column": a_column(chance, GROUPS), "of": chance.choice(["answered", "asked"])}
        made["values"] = [str(chance.choice(ODD_VALUES)) for _ in range(chance.choice([1, 2, 30]))]
    elif stat == "share":
        made["within"] = chance.choice(["all", "all", "split", "per"])
    if chance.random() < 0.15:
        made["then"] = chance.choice(THEN)
    if made.get("then") == "moving_average":
        made["window"] = chance.choice([2, 3, 1000])
    if chance.random() < 0.05:
        made["name"] = chance.choice(ODD_TEXTS)
    return made


def a_group(chance):
    drawn = chance.random()
    if drawn < 0.4:
        return {"column": a_column(chance, GROUPS)} | ({"missing": "shown"} if chance.random() < 0.3 else {})
    if drawn < 0.75:
        made = {"column": a_column(chance, DATES), "by": chance.choice(GRAINS)}
        return made | ({"gaps": chance.choice(["zero", "open"])} if chance.random() < 0.3 else {})
    if drawn < 0.88:
        by = {"bins": chance.choice([1, 7, 60, 10**9])}
        if chance.random() < 0.5:
            by = {"width": chance.choice([1, 0.1, 1e-300, 1e300, 1e18, 5e-324, math.inf])}
        return {"column": a_column(chance, AMOUNTS), "by": by}
    return {"column": a_column(chance, ("Said", "Odd")), "by": chance.choice(["word", "row"])}


def a_filter(chance):
    test = chance.choice(TESTS)
    if test == "last":
        count = chance.choice([1, 3, 3000, 10**6, 10**18])
        return {"column": a_column(chance, DATES), "test": test, "count": count, "by": chance.choice(GRAINS[:5])}
    bounds = test in ("between", "at_least", "at_most")
    column = a_column(chance, {"contains": ("Said", "Odd")}.get(test, (*AMOUNTS, *DATES, "Clock") if bounds else ANY))
    fitting = DAYS if column in DATES else ("12:00", "24:00") if column == "Clock" else ODD_NUMBERS
    some = fitting if bounds and chance.random() < 0.9 else ODD_VALUES
    count = {"between": 2, "empty": 0, "not_empty": 0}.get(test, 1)
    return {"column": column, "test": test, "values": [chance.choice(some) for _ in range(count)]}


def a_question(chance):
    made = {"measures": [a_measure(chance) for _ in range(chance.choice([1, 1, 1, 2, 3]))]}
    made["per"] = [a_group(chance) for _ in range(chance.choice([0, 1, 1, 1, 2, 3]))]
    if chance.random() < 0.2:
        made["split"] = a_group(chance)
    if chance.random() < 0.35:
        made["where"] = [a_filter(chance) for _ in range(chance.choice([1, 1, 2]))]
    if chance.random() < 0.25:
        by = chance.choice(["value", "name", "natural", "given", "value", "name", "keyness"])
        made["order"] = {"by": by, "descending": chance.random() < 0.5, "values": ["Elm", "²"] if by == "given" else []}
    if chance.random() < 0.2:
        made["keep"] = chance.choice([1, 2, 5, 10**6, 10**20])
        if chance.random() < 0.5:
            made["rest"] = chance.choice(ODD_TEXTS)
    if chance.random() < 0.03:
        columns = chance.sample(KINDS, chance.choice([2, 3]))
        made["stack"] = {"columns": columns, "name": "Day" if chance.random() < 0.2 else "Statement"}
    if chance.random() < 0.1:
        made["weight"] = a_column(chance, AMOUNTS)
    if chance.random() < 0.12:
        made["least_base"] = chance.choice([2, 5, 10_000])
    return made


def try_out(number):
    """Ask, say, draw and look at what could be asked instead."""
    chance = random.Random(f"question {number}")
    table = chance.choice(tables())
    question = parse_question(json.loads(json.dumps(a_question(chance))))
    found = answer(table.frame, table.columns, question)
    assert found.sentence
    json.dumps(found.rows, default=str)
    box = Box(chance.choice([60, 360, 1000]), chance.choice([60, 240, 800]))
    assert scene_to_svg(draw(chance.choice(list(VISUALS)), found, {}, box, STYLE)).startswith("<svg")
    if number % 8 == 0:
        known = profile(table.frame, table.columns)
        offers(question, known)
        for part in sentence_parts(question):
            if getattr(part, "slot", None):
                choices(question, part.slot, known)


@pytest.mark.parametrize("part", range(8))
def test_an_odd_question_is_answered_or_refused_in_words(part):
    answered = 0
    for number in range(part, MANY, 8):
        try:
            try_out(number)
            answered += 1
        except YpsilError as refused:
            assert refused.what and refused.remedy, number
        except BaseException as problem:
            pytest.fail(f"question {number}: {type(problem).__name__}: {problem}")
    assert answered > MANY // 40, "most of what is tried should be answered"


@pytest.mark.parametrize("purpose", PURPOSES)
def test_odd_tables_have_proposals_or_none(purpose):
    for table in tables():
        known = profile(table.frame, table.columns)
        shown = ReportTable("Rows", table.columns, lambda table=table: table.frame, str(table.rows), "Rows")
        for one in suggest(purpose, "t", shown, known):
            assert one
