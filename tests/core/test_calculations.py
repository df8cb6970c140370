"""Calculations: what they mean, what they refuse and where, and that they agree with Python's own arithmetic."""

import datetime as dt
import math
from pathlib import Path

import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.factories import csv_table
from ypsil.core.tables.calculation import FUNCTIONS, CalculationRefused, compile_calculation, complete
from ypsil.core.tables.model import Field
from ypsil.core.tables.rows import Rows

ROWS = Rows.of_table(
    csv_table(
        "Day,Opened,Branch,Visits,Cost (£),Share,Open,Comes for\n"
        "2026-01-31,09:30,Alder Lane,120,300,45%,yes,Study; Events\n"
        "2026-02-28,14:00,Alder Lane,80,150.5,5%,no,Events\n"
        "2026-03-16,14:15,Dunmere,0,640,50%,no,Study; Events\n"
        "2026-12-28,,Dunmere,,20,,yes,Events; Study\n"
    )
)


def calculated(text, rows=ROWS):
    made = compile_calculation(text, rows.fields, today=dt.date(2026, 4, 1))
    return made.values(rows.frame).to_list()


def first(text):
    return calculated(text)[0]


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("1 + 2 * 3", 7), ("(1 + 2) * 3", 9), ("2 ^ 3 ^ 2", 512), ("-2 ^ 2", -4), ("7 - 2 - 1", 4), ("8 / 4 / 2", 1),
        ("Visits * 2", 240), ("visits × 2", 240), ('"Cost (£)" / Visits', 2.5), ("50% * Visits", 60),
        ("if Visits > 100 then 'busy' else 'quiet'", "busy"), ("if Visits <= 100 then 1 else if Open then 2 else 3", 2),
        ("Visits > 100 and not Open", False), ("Visits = 120 or Open = no", True), ("Visits <> 120", False),
        ("Branch & ': ' & Visits", "Alder Lane: 120"), ("Share & ''", "45%"), ("Open & '!'", "Yes!"),
        ("Branch in ('Dunmere', 'Alder Lane')", True), ("Visits is missing", False), ("Visits is not missing", True),
        ("Day > '2026-01-30'", True), ("Day + 1", dt.date(2026, 2, 1)), ("Day - date(2026, 1, 1)", 30),
        ("round(1.005, 2)", 1.01), ("round(-2.5)", -3), ("round(1234, -2)", 1200), ("round_down(-1.5)", -2),
        ("round_up(1.2)", 2), ("abs(-3)", 3), ("least(3, Visits, 5)", 3), ("greatest(3, Visits)", 120),
        ("remainder(10, 4)", 2), ("remainder(10, 0)", None), ("root(16)", 4), ("root(-1)", None), ("log(1)", 0),
        ("number('1,204')", 1204), ("number('none')", None), ("first_present(missing, 3)", 3),
        ("total(Visits)", 200), ("Visits / total(Visits, Branch)", 0.6), ("average(Visits, Branch)", 100),
        ("smallest(Visits)", 0), ("largest(Visits)", 120), ("rank(Visits)", 1), ("row_number()", 1),
        ("running_total(Visits)", 120), ("row_above(Visits)", None), ("text(Day)", "2026-01-31"),
        ("length(Branch)", 10), ("lower(Branch)", "alder lane"), ("upper('é')", "É"),
        ("title('alder lane')", "Alder Lane"),
        ("trim('  a   b ')", "a b"), ("left(Branch, 2)", "Al"), ("right(Branch, 4)", "Lane"),
        ("part(Branch, 7)", "Lane"),
        ("part(Branch, 2, 3)", "lde"), ("before(Branch, ' ')", "Alder"), ("after(Branch, ' ')", "Lane"),
        ("after('a-b-c', '-')", "b-c"), ("before('abc', '-')", "abc"), ("after('abc', '-')", None),
        ("replace(Branch, 'Lane', 'Road')", "Alder Road"), ("contains(Branch, 'LANE')", True),
        ("starts_with(Branch, 'Al')", True), ("ends_with(Branch, 'x')", False), ('holds("Comes for", \'Study\')', True),
        ('answers("Comes for")', 2), ("date('2026-03-31')", dt.date(2026, 3, 31)), ("date(2026, 2, 30)", None),
        ("today()", dt.date(2026, 4, 1)), ("year(Day)", 2026), ("quarter(Day)", 1), ("month(Day)", 1), ("week(Day)", 5),
        ("weekday(Day)", 6), ("day(Day)", 31), ("hour(Opened)", 9), ("start_of_year(Day)", dt.date(2026, 1, 1)),
        ("start_of_quarter(Day)", dt.date(2026, 1, 1)), ("start_of_month(Day)", dt.date(2026, 1, 1)),
        ("start_of_week(Day)", dt.date(2026, 1, 26)), ("days_between('2026-01-01', Day)", 30),
        ("months_between('2026-01-31', '2026-02-28')", 0), ("months_between('2026-01-28', '2026-03-28')", 2),
        ("add_days(Day, -30)", dt.date(2026, 1, 1)), ("add_months(Day, 1)", dt.date(2026, 2, 28)),
        ("'it''s'", "it's"), ("1 / 0", None), ("0 - 'x' is missing", "refused"),
    ],
)  # fmt: skip
def test_what_calculations_give(text, value):
    if value == "refused":
        with pytest.raises(CalculationRefused):
            first(text)
    elif isinstance(value, float):
        assert first(text) == pytest.approx(value)
    else:
        assert first(text) == value


def test_every_function_is_tried_above_and_its_example_is_understood():
    tried = {text.split("(")[0] for text, _ in test_what_calculations_give.pytestmark[0].args[1] if "(" in text}
    names = {"Visits", "Cost", "Change", "Area", "Size", "Code", "Branch", "Comment", "Name", "Comes for"}
    fields = {name: Field("category") for name in names} | {
        name: Field("number") for name in ("Visits", "Cost", "Change", "Area")
    }
    fields |= {name: Field("date") for name in ("Day", "Opened", "Closed", "Joined", "Left", "Month")}
    fields |= {"Comes for": Field("list")}
    for function in FUNCTIONS.values():
        assert function.name in tried | {"total", "holds", "answers"}
        compile_calculation(function.example, fields)


def test_what_rests_on_a_missing_value_is_missing_and_a_choice_takes_its_else():
    assert calculated("Visits + 1") == [121, 81, 1, None]
    assert calculated("if Visits > 100 then 1 else 0") == [1, 0, 0, 0]
    assert calculated("Branch & Visits")[3] == "Dunmere"


def test_units_are_kept_where_they_make_sense():
    def unit(text):
        return compile_calculation(text, ROWS.fields).unit

    assert unit('"Cost (£)" + 5') == "£"
    assert unit('"Cost (£)" / Visits') == "£"
    assert unit('"Cost (£)" / "Cost (£)"') is None
    assert unit("round(Share, 2)") == "%"
    assert unit("Visits * 2") is None


@pytest.mark.parametrize(
    ("text", "start", "message"),
    [
        ("Vists * 2", 0, "did you mean Visits?"),
        ("Visits * Cots", 9, "there is no column “Cots”"),
        ("Visits + Alder", 9, "'Alder'"),
        ("rond(Visits)", 0, "did you mean round?"),
        ("Visits +", 8, "ends too early"),
        ("Visits 2", 7, "write a sign"),
        ("(Visits", 7, "close the bracket"),
        ("Visits)", 6, "take the bracket out"),
        ("'open", 0, "never closed"),
        ("Branch + 1", 0, "join texts with &"),
        ("Visits > 'a'", 0, "do not go together"),
        ("Day > '31/03/2026'", 6, "write dates as"),
        ("if Visits then 1 else 2", 3, "must be yes or no"),
        ("if Open then 1", 14, "“else” is missing"),
        ("if Open then 1 else 'a'", 13, "do not go together"),
        ("1 < 2 < 3", 6, "two comparisons"),
        ("round()", 0, "round(Cost, 1)"),
        ("length(Visits)", 7, "needs a text"),
        ("Visits @ 2", 7, "no meaning"),
        ("", 0, "nothing is calculated"),
        ("Visits in ()", 0, "nothing to choose from"),
        ("\"Comes for\" = 'Study'", 0, "do not go together"),
        ("__import__('os')", 0, "there is no function"),
        ("(" * 200 + "1" + ")" * 200, 40, "nested too deeply"),
        ("-" * 500 + "1", 41, "too deeply"),
        ("1+" * 1500 + "1", 2000, "longer than"),
    ],
)
def test_what_is_not_understood_is_refused_at_its_place(text, start, message):
    with pytest.raises(CalculationRefused) as refusal:
        calculated(text)
    assert message in refusal.value.line()
    assert refusal.value.start == pytest.approx(start, abs=1)


def test_completion_knows_columns_functions_and_words_but_not_inside_a_text():
    def labels(text):
        return [found.label for found in complete(text, len(text), ROWS.fields)]

    assert labels("Vis") == ["Visits"]
    assert labels("2 * ro")[:2] == ["round", "round_down"]
    assert labels('"Cos') == ["Cost (£)"]
    assert complete('"Cos', 4, ROWS.fields)[0].insert == '"Cost (£)"'
    assert labels("'Vis") == []
    assert labels("Visits ") == []


_leaf = st.one_of(st.integers(0, 50).map(float), st.just("a"), st.just("b"))
_tree = st.recursive(_leaf, lambda part: st.tuples(st.sampled_from("+-*/"), part, part), max_leaves=12)


def _written(tree):
    return f"({_written(tree[1])} {tree[0]} {_written(tree[2])})" if isinstance(tree, tuple) else str(tree)


def _by_python(tree, values):
    if not isinstance(tree, tuple):
        return values.get(tree, tree)
    left, right = _by_python(tree[1], values), _by_python(tree[2], values)
    if left is None or right is None or (tree[0] == "/" and right == 0):
        return None
    return {"+": left + right, "-": left - right, "*": left * right, "/": left / right if right else None}[tree[0]]


@given(_tree, st.integers(-20, 20), st.integers(-20, 20))
def test_arithmetic_agrees_with_python(tree, a, b):
    frame = pl.DataFrame({"a": [a], "b": [b]})
    made = compile_calculation(_written(tree), {"a": Field("number"), "b": Field("number")})
    found = made.values(frame)[0]
    wanted = _by_python(tree, {"a": float(a), "b": float(b)})
    assert (found is None) == (wanted is None)
    assert wanted is None or math.isclose(found, wanted, rel_tol=1e-12, abs_tol=1e-9)


@given(st.text(max_size=40))
def test_any_text_is_a_calculation_or_a_clear_refusal(text):
    try:
        compile_calculation(text, ROWS.fields)
    except CalculationRefused as refusal:
        assert refusal.remedy
        assert 0 <= refusal.start <= refusal.end <= max(len(text), 1)


def test_the_guide_lists_every_function_as_it_is():
    guide = (Path(__file__).parents[2] / "docs/guide/calculations.md").read_text()
    for function in FUNCTIONS.values():
        assert f"| `{function.name}` | {function.says} | `{function.example}` |" in guide


LONG = {
    "a sum": " + ".join(["Visits"] * 60),
    "a ratio of ratios": "Visits" + " / (Visits" * 30 + ")" * 30,
    "dates": "add_days(Day, 1)" + " + (1" * 30 + ")" * 30,
    "texts": " & ".join(["Kind"] * 100),
    "tests": " and ".join(["Visits > 1"] * 50),
    "values": "Kind in (" + ", ".join(f"'v{place}'" for place in range(200)) + ")",
    "not": "not " * 30 + "Visits > 1",
    "choices": "if Visits > 1 then " * 30 + "1" + " else 2" * 30,
}


@pytest.mark.parametrize("name", LONG)
def test_what_reaches_the_engine_grows_with_the_calculation_and_is_never_deep(name):
    """Each operation is a step of its own: a part that is needed twice is not written twice, nor nested."""
    fields = {"Visits": Field("number"), "Kind": Field("category"), "Day": Field("date")}
    made = compile_calculation(LONG[name], fields)
    assert all(len(str(step)) < 1000 for _, step in made.steps if name != "values")
    assert sum(len(step.meta.root_names()) for _, step in made.steps) <= 5 * LONG[name].count(" ") + 10
    frame = pl.DataFrame({"Visits": [2.0, None], "Kind": ["v7", "x"], "Day": [dt.date(2026, 1, 1)] * 2})
    assert len(made.values(frame)) == 2


@pytest.mark.parametrize(
    "text",
    [" & ".join(["1"] * 300), "not " * 200 + "yes", "-" * 300 + "1", " + ".join(["1"] * 400), "(" * 90 + "1" + ")" * 90,
     "2" + "^2" * 300, "if yes then " * 150 + "1" + " else 2" * 60],
)  # fmt: skip
def test_what_is_too_long_or_too_deep_is_refused_in_words(text):
    with pytest.raises(CalculationRefused) as refusal:
        compile_calculation(text[:2000], {})
    assert any(
        said in refusal.value.line() for said in ("operations", "nested too deeply", "ends too early", "missing")
    )


def test_a_chain_of_the_longest_kind_is_reckoned():
    made = compile_calculation(" + ".join(["Visits"] * 121), {"Visits": Field("number")})
    assert made.values(pl.DataFrame({"Visits": [1.0, 2.0]})).to_list() == [121, 242]
