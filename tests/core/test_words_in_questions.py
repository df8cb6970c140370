"""Words as shares of answers, over time, from several columns, and what is offered for them."""

import random
import re
from dataclasses import replace
from datetime import date

import pandas as pd
import pytest

from tests.factories import ask, csv_table, report_table
from ypsil.core.errors import QuestionRefused
from ypsil.core.questions import parse_question
from ypsil.core.questions.offered import choices, offers
from ypsil.core.questions.sentence import sentence
from ypsil.core.report.suggest import suggest
from ypsil.core.tables.profile import profile
from ypsil.core.visuals import ranked

CHANCE = random.Random(7)
POOL = ("staff", "parking", "quiet", "chairs", "computers", "story")
ROWS = [
    (
        f"2026-{CHANCE.randint(1, 4):02d}-{CHANCE.randint(1, 28):02d}",
        CHANCE.choice(["yes", "no"]),
        " ".join(CHANCE.choices(POOL, k=CHANCE.randint(1, 4))) if CHANCE.random() > 0.1 else "",
        " ".join(CHANCE.choices(POOL, k=2)) if CHANCE.random() > 0.3 else "",
    )
    for _ in range(240)
]
TABLE = csv_table("Day,Again,Liked,Missed\n" + "\n".join(",".join(row) for row in ROWS))
FRAME = pd.DataFrame(ROWS, columns=["Day", "Again", "Liked", "Missed"])
LIKED = {"measures": [{"stat": "count"}], "per": [{"column": "Liked", "by": "word"}]}
SHARE = LIKED | {"measures": [{"stat": "share"}]}
MONTHS = {"split": {"column": "Day", "by": "month"}}
BOTH = {"columns": ["Liked", "Missed"], "name": "Column", "value": "Text"}
STACKED = {"measures": [{"stat": "count"}], "per": [{"column": "Text", "by": "word"}], "stack": BOTH}


def holding(texts):
    """In how many texts each word stands, by pandas."""
    words = texts.str.split().map(set).explode()
    return words.value_counts()


def test_the_share_of_answers_with_a_word_is_that_of_pandas():
    answered = FRAME.Liked[FRAME.Liked != ""]
    expected = (holding(answered) / len(answered)).to_dict()
    found = ask(SHARE, TABLE)
    assert dict(found.rows) == pytest.approx(expected)
    assert found.base == len(answered)
    assert found.bases_of(found.of("measure")[0]) == [len(answered)] * len(found.rows)
    assert [share for _, share in found.rows] == sorted(expected.values(), reverse=True)


def test_words_over_time_are_rows_of_periods_with_the_commonest_words():
    found = ask({**SHARE, **MONTHS, "keep": 3}, TABLE)
    assert [(column.name, column.role) for column in found.columns[:2]] == [("Day", "per"), ("Word in Liked", "split")]
    answered = FRAME[FRAME.Liked != ""]
    months = answered.groupby(answered.Day.str[5:7].astype(int))
    expected = {
        (date(2026, month, 1), word): holding(rows.Liked).get(word, 0) / len(rows)
        for month, rows in months
        for word in [row[0] for row in ask(SHARE, TABLE).rows[:3]]
    }
    assert {row[:2]: row[2] for row in found.rows} == pytest.approx(expected)
    assert ranked(found)[0][0].name == "line"
    assert len({row[1] for row in ask({**SHARE, **MONTHS}, TABLE).rows}) == 5
    counted = ask({**LIKED, **MONTHS, "keep": 1}, TABLE)
    uses = sum(len(re.findall(rf"\b{counted.rows[0][1]}\b", text)) for text in FRAME.Liked)
    assert sum(row[2] for row in counted.rows) == uses


def test_shares_do_not_mark_groups_and_sums_of_words_do_not_exist():
    keyness = {"split": {"column": "Again"}, "order": {"by": "keyness"}}
    with pytest.raises(QuestionRefused, match="are counted"):
        ask(SHARE | keyness, TABLE)
    with pytest.raises(QuestionRefused, match="only be counted"):
        ask(LIKED | {"measures": [{"stat": "count"}, {"stat": "share"}]}, TABLE)


def test_several_columns_are_counted_together_or_compared():
    together = dict(ask(STACKED, TABLE).rows)
    assert together == {word: sum(text.split().count(word) for text in [*FRAME.Liked, *FRAME.Missed]) for word in POOL}
    by_column = ask(STACKED | {"split": {"column": "Column"}}, TABLE)
    assert {row[:2]: row[2] for row in by_column.rows} == {
        (word, name): sum(text.split().count(word) for text in FRAME[name])
        for word in POOL
        for name in ("Liked", "Missed")
    }
    assert ask(STACKED, TABLE).base == int((FRAME[["Liked", "Missed"]] != "").sum().sum())
    # The list beside the tile reads the same texts.
    assert report_table(TABLE).rows(parse_question(STACKED)).height == 2 * TABLE.rows


def offered(question, label):
    given = profile(TABLE.frame, TABLE.columns)
    return next((offer.choices for offer in offers(parse_question(question), given) if offer.text == label), ())


def test_another_column_is_offered_and_taken_back_in_the_sentence():
    added = next(one.question for one in offered(LIKED, "and in the column …") if one.label == "Missed")
    assert sentence(added) == "Number of uses per word in Text, of the columns Liked and Missed"
    assert dict(ask(added.model_dump(exclude_none=True), TABLE).rows) == dict(ask(STACKED, TABLE).rows)
    stacked = choices(added, "stack", profile(TABLE.frame, TABLE.columns))
    without = next(one.question for one in stacked if one.label == "Missed")
    assert without == parse_question(LIKED)


def test_words_are_offered_over_time_and_compared_between_groups():
    labels = [one.label for one in offered(LIKED, "compared between …")]
    assert {"months of Day", "weeks of Day", "Again"} <= set(labels)
    over_time = next(one.question for one in offered(LIKED, "compared between …") if one.label == "months of Day")
    assert sentence(over_time) == "Share of answers per word in Liked, split by month of Day"
    grains = choices(over_time, "split-grain", profile(TABLE.frame, TABLE.columns))
    assert [one.label for one in grains if one.current] == ["month"]
    by_year = next(one.question for one in grains if one.label == "year")
    assert sentence(by_year) == "Share of answers per word in Liked, split by year of Day"
    assert choices(parse_question(LIKED), "split-grain", profile(TABLE.frame, TABLE.columns)) == []


def test_the_chooser_shows_words_compared_over_time_and_with_weights():
    table = report_table(TABLE)
    texts = profile(TABLE.frame, TABLE.columns)
    shown = {one.tile.visual for one in suggest("what people say", "t", table, as_text(texts)) if one.fits}
    assert shown >= {"cloud", "bar", "word_line", "line"}
    weights = csv_table(
        "Word,Points\n" + "\n".join(f"word{letter},{3 * place + 1}" for place, letter in enumerate("abcdefghijklmn"))
    )
    found = suggest("what people say", "t", report_table(weights), profile(weights.frame, weights.columns))
    assert found[0].tile.visual == "bar"
    assert any(one.tile.visual == "cloud" and one.fits for one in found)


def as_text(found):
    """The profile with its written columns taken for long answers."""
    columns = tuple(replace(one, kind="text") if one.name in ("Liked", "Missed") else one for one in found.columns)
    return replace(found, columns=columns)


def test_own_words_are_typed_in_the_sentence():
    given = profile(TABLE.frame, TABLE.columns)
    (choice,) = offered(LIKED, "without the words …")
    (blank,) = choice.blanks
    assert (blank.kind, blank.value, blank.path) == ("words", "", ("per", 0, "words", "leave_out"))
    words = {"leave_out": ["staff", "quiet"], "keep": ["the"], "together": ["opening hours"], "shortest": 4}
    question = parse_question(LIKED | {"per": [{"column": "Liked", "by": "word", "words": words}]})
    assert sentence(question) == (
        "Number of uses per word in Liked, of 4 letters or more, without “staff” and “quiet”, also “the”, "
        "keeping together “opening hours”"
    )
    none, typed = choices(question, "words-out", given)
    assert typed.blanks[0].value == "staff, quiet"
    assert "without" not in sentence(none.question)
    assert [one.label for one in choices(question, "words-shortest", given) if one.current] == ["of 4 letters or more"]


def test_where_no_word_is_left_it_is_said_why():
    table = csv_table("Id,Note\n" + "\n".join(f"{number},the and of it" for number in range(9)))
    question = LIKED | {"per": [{"column": "Note", "by": "word"}]}
    (said,) = ask(question, table).footnotes
    assert said.startswith(
        "None of the 36 words is left once small words such as “the”, numbers and words of fewer than 2"
    )
    empty = csv_table("Id,Note\n1,x\n2,\n3,\n")
    nothing = question | {"where": [{"column": "Note", "test": "empty"}]}
    assert ask(nothing, empty).footnotes == ("Nothing is written in “Note” here.",)
    assert ask(question | {"where": [{"column": "Id", "test": "in", "values": ["9"]}]}, empty).footnotes == ()
