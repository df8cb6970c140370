"""Themes: found by their words, corrected by hand, kept for what arrives later, counted like any column."""

import re
from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.factories import ask, csv_table
from ypsil.core.answers import answer
from ypsil.core.questions import parse_question
from ypsil.core.tables.recipe import Recipe, replay
from ypsil.core.tables.recipe_changes import change_recipe
from ypsil.core.tables.rows import Rows
from ypsil.core.tables.steps import Context, StepRefused
from ypsil.core.tables.theme_changes import change_themes
from ypsil.core.text.themes import Decision, Theme, ThemeRules, answer_key, find_themes, marked_themes

STAFF = Theme(name="Staff", terms=("staff", "kind people"))
HOURS = Theme(name="Hours", terms=("opening hours", "Sunday"))
WORDS = ("staff", "hours", "opening", "sunday", "chairs", "warm", "kind", "people")


def carried(texts, rules=None, **more):
    return find_themes(texts, rules or ThemeRules(themes=(STAFF, HOURS), language="en", **more)).carried.tolist()


def test_an_answer_carries_each_theme_whose_words_or_phrases_stand_in_it():
    assert carried(["The staff, on a Sunday", "Kind people", "kind old people", "opening, hours"]) == [
        [True, True],
        [True, False],
        [False, False],
        [False, False],
    ]


def test_forms_of_a_word_count_as_one_unless_that_is_switched_off():
    assert carried(["Staffs", "an opening hour"]) == [[True, False], [False, True]]
    assert carried(["Staffs", "an opening hour"], forms=False) == [[False, False], [False, False]]
    # A language without stems: words as they are.
    assert carried(["staff"], ThemeRules(themes=(STAFF,), language="uk")) == [[True]]


@given(st.lists(st.lists(st.sampled_from(WORDS), max_size=8).map(" ".join), min_size=1, max_size=12))
def test_words_are_found_where_a_search_for_whole_words_finds_them(texts):
    themes = tuple(Theme(name=word, terms=(word,)) for word in (*WORDS, "opening hours"))
    found = carried(texts, ThemeRules(themes=themes, forms=False))
    # The standard library's word boundaries.
    assert found == [[bool(re.search(rf"\b{theme.name}\b", text)) for theme in themes] for text in texts]


def test_what_a_reader_decides_holds_for_every_answer_with_the_text():
    decisions = {
        answer_key("Too loud"): Decision(carries=("Staff",)),
        answer_key("No staff for miles"): Decision(lacks=("Staff",)),
        answer_key("Fine"): Decision(),
    }
    rules = ThemeRules(themes=(STAFF, HOURS), decisions=decisions)
    found = find_themes(["too  LOUD!", "No staff for miles", "Fine.", "Warm", None, " "], rules)
    assert found.carried.tolist()[:2] == [[True, False], [False, False]]
    assert found.uncoded.tolist() == [False, True, True, True, False, False]


def test_the_words_of_themes_are_marked_where_they_stand():
    pieces = marked_themes("On Sunday kind people, longer opening hours", ThemeRules(themes=(STAFF, HOURS)))
    assert [piece.text for piece in pieces if piece.is_term] == ["Sunday", "kind people", "opening hours"]
    both = Theme(name="Both", terms=("people",))
    joined = marked_themes("kind people", ThemeRules(themes=(STAFF, both)))
    assert [(piece.text, piece.is_term) for piece in joined] == [("kind people", True)]
    assert "".join(piece.text for piece in marked_themes("\U0001f642 מקום", ThemeRules())) == "\U0001f642 מקום"


SURVEY = """Branch,Answered,Comment
Dunmere,2026-01-03,Kind staff
Dunmere,2026-01-09,Open on Sunday please
Dunmere,2026-02-04,Staff and Sunday
Alder Lane,2026-02-11,Warm
Alder Lane,2026-02-12,
Alder Lane,2026-03-01,Lovely staff
"""


def themed(*changes, recipe=None):
    recipe = recipe or Recipe()
    for one in changes:
        recipe, _ = change_themes(recipe, one)
    return recipe


def put(theme, *terms, **more):
    return {"do": "put", "column": "Comment", "theme": theme, "terms": terms, "language": "en", **more}


TWO = themed(put("Staff", "staff"), put("Hours", "Sunday", "opening hours"))


def run(recipe, text=SURVEY):
    return replay(Rows.of_table(csv_table(text)), recipe.steps, Context(lambda uid: None, date(2026, 4, 1)))[-1]


def column(recipe, text=SURVEY):
    return run(recipe, text).rows.frame["Themes in Comment"].to_list()


def test_a_step_makes_a_column_of_themes_and_says_how_many_carry_none():
    assert column(TWO) == [["Staff"], ["Hours"], ["Staff", "Hours"], ["No theme"], None, ["Staff"]]
    assert run(TWO).notes == ("1 of 5 answers carry no theme",)
    assert run(TWO).rows.fields["Themes in Comment"].kind == "list"


def test_rules_and_decisions_are_applied_to_the_next_arrival():
    key = answer_key("Warm")
    recipe = themed(
        {"do": "decide", "of": "Themes in Comment", "key": key, "theme": "Staff", "carries": True}, recipe=TWO
    )
    assert column(recipe, "Comment\nwarm!\nA new staff\nCold\n") == [["Staff"], ["Staff"], ["No theme"]]


def test_a_column_that_holds_no_text_is_refused_and_one_that_is_taken():
    number = themed({**put("Staff", "staff"), "column": "Visits"})
    assert "number, and text or category or place is needed" in run(number, "Visits,Comment\n1,a\n").problem
    assert "already" in run(TWO, 'Comment,Themes in Comment\n"Kind staff",x\n').problem


def test_shares_of_themes_are_ordinary_questions():
    rows = run(TWO).rows
    of_answers = {"stat": "share", "within": "respondents"}
    per = {
        "measures": [of_answers],
        "per": [{"column": "Themes in Comment"}],
        "order": {"by": "value", "descending": True},
    }

    def asked(**more):
        return answer(rows.frame, rows.columns(), parse_question({**per, **more}))

    shares = asked()
    # Of five answers; what carries no theme comes last, however many that are.
    assert [(name, round(share, 9)) for name, share in shares.rows] == [
        ("Staff", 0.6),
        ("Hours", 0.4),
        ("No theme", 0.2),
    ]
    assert shares.base == 5
    assert [row[:2] for row in asked(split={"column": "Branch"}).rows if row[2] == 0.5] == [
        ("Staff", "Alder Lane"),
        ("No theme", "Alder Lane"),
    ]
    months = asked(per=[{"column": "Answered", "by": "month"}], split={"column": "Themes in Comment"}, order=None)
    assert (date(2026, 2, 1), "Staff", 0.5) in months.rows
    one = answer(
        rows.frame,
        rows.columns(),
        parse_question({"measures": [{"stat": "share", "column": "Themes in Comment", "values": ["Staff"]}]}),
    )
    assert one.rows[0][0] == pytest.approx(0.6)


def test_other_stands_last_among_several_answers_ordered_by_value():
    table = csv_table("Age,Comes for\n" + "12,Other; Study\n13,Other; Events\n14,Other\n15,Study; Events\n" * 6)
    found = ask({"measures": [{"stat": "count"}], "per": [{"column": "Comes for"}]}, table)
    assert found.rows == (("Events", 12), ("Study", 12), ("Other", 18))


def test_themes_are_put_together_taken_apart_renamed_and_removed():
    step = themed(put("staff", "helpers", "staff"), recipe=TWO).steps[0]
    assert step.themes[0].terms == ("staff", "helpers")
    step = themed({"do": "take", "of": step.into, "theme": "Hours", "term": "Sunday"}, recipe=TWO).steps[0]
    assert step.themes[1].terms == ("opening hours",)
    key = answer_key("Warm")
    of = {"of": step.into}
    decided = themed({"do": "decide", **of, "key": key, "theme": "Hours", "carries": True}, recipe=TWO)
    renamed = themed({"do": "rename", **of, "theme": "Hours", "name": "When it is open"}, recipe=decided).steps[0]
    assert renamed.decisions[key].carries == ("When it is open",)
    joined = themed({"do": "rename", **of, "theme": "Hours", "name": "staff"}, recipe=decided).steps[0]
    assert [(theme.name, theme.terms) for theme in joined.themes] == [("Staff", ("staff", "Sunday", "opening hours"))]
    assert joined.decisions[key].carries == ("Staff",)
    dropped = themed({"do": "drop", **of, "theme": "Hours"}, recipe=decided).steps[0]
    assert [theme.name for theme in dropped.themes] == ["Staff"]
    assert dropped.decisions[key] == Decision()


def test_a_decision_is_kept_only_where_it_differs_from_the_words():
    of = {"of": "Themes in Comment", "key": answer_key("Kind staff"), "theme": "Staff", "found": True}
    lacking = themed({"do": "decide", **of, "carries": False}, recipe=TWO)
    assert column(lacking)[0] == ["No theme"]
    again = themed({"do": "decide", **of, "carries": True}, recipe=lacking)
    assert again.steps[0].decisions == {of["key"]: Decision()}
    assert themed({"do": "unread", **of}, recipe=again).steps[0].decisions == {}
    assert column(again) == column(TWO)


@pytest.mark.parametrize(
    ("wanted", "said"),
    [
        (put("", "staff"), "has no name"),
        (put("x" * 61, "staff"), "too long"),
        (put("no theme", "staff"), "are called “No theme”"),
        (put("Staff", "?!"), "holds no word"),
        ({"do": "take", "of": "Themes in Comment", "theme": "Nowhere", "term": "x"}, "no such theme"),
        ({"do": "read", "of": "Themes in Comment", "key": "<b>"}, "which answer"),
        ({"do": "drop", "of": "Other themes", "theme": "Staff"}, "no such themes"),
        ({"do": "dance"}, "what to change"),
    ],
)
def test_changes_that_do_not_fit_are_refused_in_a_sentence(wanted, said):
    with pytest.raises(StepRefused, match=said):
        change_themes(TWO, wanted)


def test_changing_a_step_by_its_form_keeps_the_themes_and_decisions_that_the_form_does_not_show():
    form = {"type": "themes", "column": "Comment", "into": "About", "forms": False}
    changed, said = change_recipe(TWO, {"action": "replace", "at": 0, "step": form})
    assert changed.steps[0].themes == TWO.steps[0].themes
    assert changed.steps[0].language == "en"
    assert said == "Changed: Find themes in “Comment” as “About”: “Staff” and “Hours”"
