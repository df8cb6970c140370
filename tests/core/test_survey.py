"""Surveys: what columns are recognised as, what shares rest on, weights, small groups, columns asked alike."""

import json
from collections import Counter
from dataclasses import replace

import numpy as np
import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import linprog

from tests.core.test_visuals import STYLE
from tests.factories import ask, codes, csv_table, report_table
from ypsil.core.drawing import Rect
from ypsil.core.errors import QuestionRefused
from ypsil.core.questions import parse_question
from ypsil.core.questions.offered import choices, offers
from ypsil.core.questions.sentence import sentence_parts
from ypsil.core.report.suggest import suggest
from ypsil.core.survey import cross_table, give_or_take, survey_figures, survey_items, wilson_interval
from ypsil.core.tables.profile import profile
from ypsil.core.tables.recipe import parse_recipe
from ypsil.core.tables.rows import Rows
from ypsil.core.tables.steps import ALONE
from ypsil.core.visuals import Box, draw

SCALE = ["Strongly disagree", "Disagree", "Neither agree nor disagree", "Agree", "Strongly agree"]
YES = {"stat": "share", "column": "Come again", "values": ["Yes"]}


def table(**columns):
    """A table with these columns, empty cells as they are."""
    rows = zip(*columns.values(), strict=True)
    lines = [";".join(columns), *(";".join("" if cell is None else str(cell) for cell in row) for row in rows)]
    return csv_table("\n".join(lines) + "\n")


def items(given):
    return {item.name: item for item in survey_items(given.frame, given.columns)}


def cells(answer):
    return {row[:-1] if len(row) > 2 else row[0]: row[-1] for row in answer.rows}


def repeated(values, times=6):
    return list(values) * times


@pytest.mark.parametrize(
    ("values", "kind", "said"),
    [
        (SCALE, "rating", "a rating from Strongly disagree to Strongly agree"),
        (["Never", "Sometimes", "Often", "Always", "Rarely"], "rating", "a rating from Never to Always"),
        (["Very satisfied", "Dissatisfied", "Satisfied", "Neutral", "Satisfied"], "rating", "a rating from Diss"),
        (["Very likely", "Unlikely", "Likely", "Unlikely", "Likely"], "rating", "a rating from Unlikely"),
        (["Important", "Not important", "Very important", "Important", "Important"], "rating", "a rating from Not"),
        ([1, 2, 3, 4, 5], "rating", "a rating from 1 to 5"),
        ([0, 3, 5, 8, 2], "rating", "a rating from 0 to 10"),
        ([0, 3, 5, 7, 2], "number", "numbers"),
        (["1 - Disagree", "2 - Neither", "3 - Agree", "9 - Not sure", "3 - Agree"], "rating", "a rating from 1 - Dis"),
        (["Yes", "No", "Yes", "Yes", "No"], "one answer", "one answer each"),
        (["Bus", "Car", "Foot", "Bus", "Car"], "one answer", "one answer each"),
        ([130.5, 8.25, 40, 33, 99], "number", "numbers"),
    ],
)
def test_a_column_is_recognised_as_its_kind_of_question(values, kind, said):
    item = items(table(Asked=repeated(values), Other=repeated("abcde")))["Asked"]
    assert item.kind == kind
    assert item.said.startswith(said)


def test_a_recommendation_score_is_given_in_whole_points():
    given = table(**{"How likely to recommend us": [10, 10, 9, 8, 7, 3, 0]})
    answer = ask({"measures": [{"stat": "recommendation", "column": "How likely to recommend us"}]}, given)
    assert answer.rows[0][0] == pytest.approx(100 / 7)
    assert "14" in [text.text for text in draw("kpi", answer, {}, Box(300, 200), STYLE).texts()]
    finer = draw("kpi", answer, {"decimals": 1}, Box(300, 200), STYLE)
    assert "14.3" in [text.text for text in finer.texts()]


def test_a_question_from_0_to_10_about_recommending_is_one():
    given = table(**{"How likely to recommend us": repeated(range(11)), "Age": repeated(range(20, 31))})
    assert items(given)["How likely to recommend us"].kind == "recommendation"


def test_ratings_on_one_scale_side_by_side_are_a_matrix():
    given = table(**{"We are: Kind": repeated(SCALE), "We are: Quick": repeated(SCALE[::-1]), "Age": repeated("abcde")})
    matrix = items(given)["We are"]
    assert (matrix.kind, matrix.short) == ("matrix", ("Kind", "Quick"))
    assert list(matrix.answers) == SCALE


def test_ticked_columns_and_lists_are_several_answers():
    ticks = {f"Comes for: {what}": repeated(["yes", "no", "no"]) for what in ("Books", "Study", "Papers")}
    given = table(**ticks, Likes=repeated(["tea|cake", "tea", "cake|rolls"]))
    found = items(given)
    assert found["Comes for"].kind == "ticked columns"
    assert found["Likes"].kind == "several answers"


@pytest.mark.parametrize(("tick", "lack"), [("yes", "no"), (1, 0), ("x", None), ("Books", None)])
def test_ticks_in_columns_are_counted_of_the_people_who_ticked_any(tick, lack):
    books, study, papers = [tick, tick, lack, lack], [tick, lack, lack, tick], [lack, lack, lack, tick]
    columns = {"Comes for: Books": books, "Comes for: Study": study, "Comes for: Papers": papers}
    given = table(Area=list("abcd") * 3, **{name: cells * 3 for name, cells in columns.items()})
    item = items(given)["Comes for"]
    assert item.kind == "ticked columns"
    answer = ask(survey_figures(item)[0].question.model_dump(exclude_none=True), given)
    people = 4 if lack is not None else 3
    assert cells(answer) == pytest.approx({"Books": 2 / people, "Study": 2 / people, "Papers": 1 / people})


def test_a_column_of_ones_and_gaps_alone_is_no_question():
    given = table(Checked=[1, None, 1, 1, None] * 3, Flag=[0, 1, 1, 0, 1] * 3, Area=list("abcab") * 3)
    assert "Checked" not in items(given)
    assert items(given)["Flag"].kind == "number"


def test_places_given_once_each_are_a_ranking():
    orders = [(1, 2, 3), (2, 1, 3), (3, 1, 2), (1, 3, 2), (2, 3, 1)]
    columns = dict(zip(("Tea", "Cake", "Rolls"), zip(*repeated(orders), strict=True), strict=True))
    found = list(items(table(**columns)).values())
    assert [item.kind for item in found] == ["ranking"]


def test_each_kind_of_question_has_figures_that_can_be_drawn():
    given = table(
        **{
            "Area": repeated(["Coast", "Hills", "Town", "Town", "Coast"], 20),
            "We are: Kind": repeated([*SCALE[:-1], "Don't know"], 20),
            "We are: Quick": repeated(SCALE, 20),
            "Come again": repeated(["Yes", "No", "Yes", "Yes", None], 20),
            "Likes": repeated(["tea|cake", "tea", "cake|rolls", "tea|rolls", "cake"], 20),
            "How likely to recommend us": repeated([10, 9, 8, 3, 10], 20),
            "Rating": repeated([1, 2, 3, 4, 5], 20),
        }
    )
    kinds = set()
    for item in survey_items(given.frame, given.columns):
        for figure in survey_figures(item, "Area"):
            kinds.add(item.kind)
            scene = draw(figure.visual, ask(figure.question.model_dump(exclude_none=True), given), figure.options,
                         Box(640, 420), STYLE)  # fmt: skip
            assert "Choose" not in scene.description, (item.name, figure.visual, scene.description)
    assert kinds == {"one answer", "matrix", "several answers", "recommendation", "rating"}


def test_the_figures_of_a_survey_are_suggested_with_their_reasons():
    given = table(Rating=repeated([1, 2, 3, 4, 5]), Area=repeated(["Coast", "Hills", "Town", "Town", "Coast"]))
    found = suggest("what people answered", "t", report_table(given), profile(given.frame, given.columns))
    assert found[0].reason == "a rating from 1 to 5: all steps of the scale in one strip, in order"
    assert found[0].fits
    assert {one.tile.visual for one in found} >= {"share_strip", "ring", "stars", "diverging_bar", "cross_table"}


ANSWERED = table(**{"Come again": ["Yes", "Yes", "No", None, "Yes", None], "Area": list("aabbab")})


def test_a_share_rests_on_those_who_answered_or_on_all_asked():
    answered, asked = ask({"measures": [YES]}, ANSWERED), ask({"measures": [YES | {"of": "asked"}]}, ANSWERED)
    assert (answered.rows[0][0], answered.base) == (0.75, 4)
    assert (asked.rows[0][0], asked.base) == (0.5, 6)
    assert "among all asked" in asked.sentence


def test_those_who_gave_no_answer_can_stand_as_a_group_of_their_own():
    per = {"column": "Come again", "missing": "shown"}
    answer = ask({"measures": [{"stat": "count"}], "per": [per]}, ANSWERED)
    assert cells(answer) == {"Yes": 3, "No": 1, "No answer": 2}
    assert not answer.notes


LIKES = table(Likes=["tea|cake", "tea", "cake|rolls", None, "tea|cake"] * 4, Area=list("aabbb") * 4)
OF_PEOPLE = {"stat": "share", "within": "respondents"}


def test_several_answers_are_shares_of_people_and_exceed_100_percent():
    answer = ask({"measures": [OF_PEOPLE], "per": [{"column": "Likes"}]}, LIKES)
    assert cells(answer) == {"tea": 0.75, "cake": 0.75, "rolls": 0.25}
    assert answer.base == 16
    assert "add up to more than 100%" in answer.notes[-1]


def test_several_answers_of_a_group_are_shares_of_its_people():
    answer = ask({"measures": [OF_PEOPLE], "per": [{"column": "Area"}], "split": {"column": "Likes"}}, LIKES)
    assert cells(answer)["a", "tea"] == 1
    assert cells(answer)["b", "rolls"] == 0.5
    assert set(answer.bases_of(answer.of("measure")[0])) == {8}


def test_words_of_a_scale_have_a_mean_score_without_those_beside_it():
    given = table(Said=[SCALE[0], SCALE[4], SCALE[3], "Don't know", None, *SCALE])
    answer = ask({"measures": [{"stat": "score", "column": "Said"}]}, given)
    assert answer.rows[0][0] == pytest.approx((1 + 5 + 4 + 15) / 8)
    assert answer.bases_of(answer.of("measure")[0]) == [8]


def test_a_scale_with_unknown_words_asks_once_and_remembers():
    given = table(Food=repeated(["Poor", "Meh", "Good", "Excellent", "Fair"]))
    score = {"measures": [{"stat": "score", "column": "Food"}]}
    assert "scale-order-unknown" in codes(given)
    with pytest.raises(QuestionRefused, match="order of the answers in “Food” is not known"):
        ask(score, given)
    step = {"type": "order_values", "column": "Food", "values": ["Meh", "Poor", "Fair", "Good", "Excellent"]}
    rows = parse_recipe({"steps": [step]}).steps[0].apply(Rows.of_table(given), ALONE).rows
    ordered = replace(given, frame=rows.frame, columns=rows.columns())
    assert ask(score, ordered).rows[0][0] == 3
    per = ask({"measures": [{"stat": "count"}], "per": [{"column": "Food"}]}, ordered)
    assert list(cells(per)) == ["Meh", "Poor", "Fair", "Good", "Excellent"]
    assert items(ordered)["Food"].kind == "rating"


def test_mixed_scales_are_not_stacked():
    given = table(Staff=repeated([1, 3, 5]), Stock=repeated([0, 7, 10]))
    stack = {"columns": ["Staff", "Stock"]}
    question = {"measures": [{"stat": "mean", "column": "Answer"}], "per": [{"column": "Statement"}], "stack": stack}
    with pytest.raises(QuestionRefused, match="“Staff” is rated up to 5 and “Stock” up to 10"):
        ask(question, given)


MATRIX = table(
    **{"Likes: Tea": ["Agree", "Agree", None], "Likes: Cake": ["Disagree", "Agree", None], "Area": list("aab")}
)
STACK = {"columns": ["Likes: Tea", "Likes: Cake"]}
PER_STATEMENT = {"measures": [{"stat": "count"}], "per": [{"column": "Statement"}], "split": {"column": "Answer"}}


def test_columns_asked_alike_stand_below_each_other_for_one_question():
    answer = ask(PER_STATEMENT | {"stack": STACK}, MATRIX)
    assert cells(answer) == {("Tea", "Agree"): 2, ("Cake", "Disagree"): 1, ("Cake", "Agree"): 1}
    assert answer.base == 2, "people, not rows"
    assert answer.sentence.endswith("of the columns Likes: Tea and Cake")


def test_filters_of_stacked_columns_come_before_and_after():
    where = [{"column": "Area", "test": "in", "values": ["a"]}, {"column": "Answer", "test": "in", "values": ["Agree"]}]
    assert cells(ask(PER_STATEMENT | {"stack": STACK, "where": where}, MATRIX)) == {
        ("Tea", "Agree"): 2,
        ("Cake", "Agree"): 1,
    }


@pytest.mark.parametrize(
    ("change", "message"),
    [
        ({"stack": STACK | {"name": "Area"}, "per": [{"column": "Area"}]}, "there is a column “Area” already"),
        ({"stack": STACK, "per": [{"column": "Likes: Tea"}]}, "“Likes: Tea” is stacked"),
        ({"stack": {"columns": ["Likes: Tea", "Gone"]}}, "Gone"),
    ],
)
def test_a_stack_that_does_not_go_together_is_refused(change, message):
    with pytest.raises(Exception, match=message):
        ask(PER_STATEMENT | change, MATRIX)


WEIGHED = table(Area=list("aabb"), **{"Come again": ["Yes", "No", "Yes", "Yes"]}, Weight=["1.5", "0.5", "2", None])


def test_weights_count_people_as_often_as_they_say():
    answer = ask({"measures": [YES], "weight": "Weight"}, WEIGHED)
    assert answer.rows[0][0] == pytest.approx(3.5 / 4)
    assert answer.base == 3
    assert "1 row has no Weight" in answer.notes
    counted = ask({"measures": [{"stat": "count"}], "per": [{"column": "Area"}], "weight": "Weight"}, WEIGHED)
    assert cells(counted) == {"a": 2, "b": 2}
    assert "weighted by Weight" in counted.sentence


@pytest.mark.parametrize(
    ("weights", "measure", "message"),
    [
        (["1", "-0.5", "1", "1"], YES, "1 row has a negative weight in “Weight”, such as -0.5"),
        (["1", "1", "1", "1"], {"stat": "median", "column": "Weight"}, "“median” is not weighted here"),
        (list("abcd"), YES, "weights are numbers"),
    ],
)
def test_weights_that_cannot_be_are_refused(weights, measure, message):
    given = table(**{"Come again": ["Yes", "No", "Yes", "Yes"]}, Weight=weights)
    with pytest.raises(QuestionRefused, match=message):
        ask({"measures": [measure], "weight": "Weight"}, given)


@pytest.mark.parametrize("stat", ["share", "mean", "score", "recommendation", "count"])
def test_nobody_at_all_divides_by_nothing(stat):
    given = csv_table("Area;Rating;Weight\na;;0\nb;;0\nc;;0\n")
    measure = {"stat": stat, "column": "Rating"} | ({"values": ["5"]} if stat == "share" else {})
    frame = given.frame.with_columns(pl.col("Rating").cast(pl.Float64))
    columns = tuple(replace(one, kind="number") if one.name == "Rating" else one for one in given.columns)
    given = replace(given, frame=frame, columns=columns)
    for weight in (None, "Weight"):
        value = ask({"measures": [measure], "weight": weight}, given).rows[0][0]
        assert value is None or value == 0


def groups_of(**sizes):
    names = [name for name, size in sizes.items() for _ in range(size)]
    return table(Area=names, **{"Come again": ["Yes" if place % 3 else "No" for place in range(len(names))]})


def test_small_groups_are_hidden_and_one_alone_takes_the_next_with_it():
    answer = ask({"measures": [YES], "per": [{"column": "Area"}], "least_base": 10}, groups_of(a=30, b=20, c=12, d=4))
    shown = cells(answer)
    assert {name for name, value in shown.items() if value is None} == {"c", "d"}
    assert list(shown)[-2:] == ["c", "d"] or set(list(shown)[-2:]) == {"c", "d"}, "their rank tells nothing"
    assert "fewer than 10 people are hidden" in answer.notes[-1]
    assert "1 of them so that the others cannot be worked out" in answer.notes[-1]
    assert not any(answer.bases_of(answer.of("measure")[0])[-2:]), "nor do their bases"


@pytest.mark.parametrize("stat", ["median", "max", "sum", "mean", "std"])
def test_a_group_is_as_large_as_its_values_are_many(stat):
    given = table(Area=["a"] * 30 + ["b"] * 30 + ["c"] * 30, Age=[*range(30), *range(30), *range(4), *[None] * 26])
    question = {"measures": [{"stat": stat, "column": "Age"}], "per": [{"column": "Area"}], "least_base": 10}
    assert cells(ask(question, given))["c"] is None


def test_large_groups_stay_and_several_small_ones_need_no_companion():
    big = ask({"measures": [YES], "per": [{"column": "Area"}], "least_base": 10}, groups_of(a=30, b=20))
    assert None not in cells(big).values()
    two = ask({"measures": [YES], "per": [{"column": "Area"}], "least_base": 10}, groups_of(a=30, b=20, c=4, d=4))
    assert {name for name, value in cells(two).items() if value is None} == {"c", "d"}


def test_rare_answers_are_shown_as_shares_and_hidden_as_counts():
    given = groups_of(a=60, b=90, c=15)
    share = ask({"measures": [YES], "per": [{"column": "Area"}], "least_base": 10}, given)
    assert None not in cells(share).values(), "four who said no among many give nobody away"
    question = {"measures": [{"stat": "count"}], "per": [{"column": "Area"}], "split": {"column": "Come again"}}
    counts = cells(ask(question | {"least_base": 10}, given))
    assert counts["c", "No"] is None, "five people"
    assert {key for key, value in counts.items() if value is not None} == {("b", "Yes"), ("b", "No")}


TABLES_OF_COUNTS = st.lists(st.lists(st.integers(1, 40), min_size=2, max_size=5), min_size=2, max_size=6).map(
    lambda rows: [row[: min(map(len, rows))] for row in rows]
)


@given(TABLES_OF_COUNTS, st.sampled_from([5, 10, 20]))
def test_nobody_who_knows_all_sums_can_work_out_a_hidden_count(counts, least):
    """An attack by linear programming (scipy): each hidden count must be able to be more than one number."""
    pairs = [(f"g{row}", f"s{at}") for row, one in enumerate(counts) for at, n in enumerate(one) for _ in range(n)]
    given = table(Area=[area for area, _ in pairs], Said=[said for _, said in pairs])
    question = {"measures": [{"stat": "count"}], "per": [{"column": "Area"}], "split": {"column": "Said"}}
    found = cells(ask(question | {"least_base": least}, given))
    truth = Counter(pairs)
    assert all(value is None or value >= least for value in found.values())
    hidden = [cell for cell, value in found.items() if value is None]
    lines = {name for cell in hidden for name in cell}
    equations = [[float(name in cell) for cell in hidden] for name in lines]
    sums = [sum(truth[cell] for cell in hidden if name in cell) for name in lines]
    for place in range(len(hidden)):
        wanted = np.eye(len(hidden))[place]
        low, high = (linprog(side * wanted, A_eq=equations, b_eq=sums, bounds=(0, None)).fun for side in (1, -1))
        assert low + 1e-6 < -high


@given(st.lists(st.integers(1, 60), min_size=2, max_size=8))
def test_no_group_is_ever_hidden_alone(sizes):
    given = groups_of(**{f"g{place}": size for place, size in enumerate(sizes)})
    answer = ask({"measures": [YES], "per": [{"column": "Area"}], "least_base": 10}, given)
    hidden = [name for name, value in cells(answer).items() if value is None]
    assert len(hidden) != 1
    assert all(f"g{place}" in hidden for place, size in enumerate(sizes) if size < 10)


def test_every_word_of_a_survey_sentence_offers_what_fits_and_what_fits_can_be_asked():
    given = table(
        Area=repeated("aabbc"), Weight=repeated(["1.2", "0.8", "1.1", "0.9", "1.3"]),
        **{"We: Kind": repeated(SCALE), "We: Quick": repeated(SCALE)}, Score=repeated([0, 4, 10, 9, 8]),
    )  # fmt: skip
    known = profile(given.frame, given.columns)
    stack = {"columns": ["We: Kind", "We: Quick"]}
    asked = [
        PER_STATEMENT | {"stack": stack, "least_base": 5},
        {"measures": [OF_PEOPLE], "per": [{"column": "Area"}], "weight": "Weight"},
        {"measures": [{"stat": "score", "column": "We: Kind"}], "per": [{"column": "Area"}]},
        {"measures": [{"stat": "recommendation", "column": "Score"}]},
    ]
    for data in asked:
        question = parse_question(data)
        parts = sentence_parts(question)
        words = {part.slot: part.text for part in parts if part.slot}
        assert {"stack", "least", "weight", "stat:0"} & set(words)
        for slot in words:
            found = choices(question, slot, known)
            assert any(choice.current for choice in found) or slot.startswith(("keep", "order")), (slot, words[slot])
            for choice in found:
                ask(json.loads(choice.question.model_dump_json(exclude_none=True)), given)
        for offer in offers(question, known):
            for choice in offer.choices:
                ask(json.loads(choice.question.model_dump_json(exclude_none=True)), given)


def test_a_diverging_chart_is_centred_on_the_neutral_answer_also_where_a_step_is_missing():
    given = table(Area=["a"] * 10, Said=["Neither agree nor disagree"] * 4 + ["Agree"] * 3 + ["Strongly agree"] * 3)
    question = {"measures": [{"stat": "count"}], "per": [{"column": "Area"}], "split": {"column": "Said"}}
    scene = draw("diverging_bar", ask(question, given), {}, Box(600, 200), STYLE)
    bars = {shape.title.split(", ")[1]: shape for shape in scene.shapes if isinstance(shape, Rect) and shape.title}
    middle = next(shape.x1 for shape in scene.shapes if type(shape).__name__ == "Line")
    neutral = bars["Neither agree nor disagree"]
    assert neutral.x + neutral.width / 2 == pytest.approx(middle, abs=1)
    assert bars["Agree"].x > middle


def test_those_who_do_not_know_stand_apart_from_for_and_against():
    given = table(Area=["a"] * 9, Said=["Disagree"] * 3 + ["Agree"] * 3 + ["Don't know"] * 3)
    question = {"measures": [{"stat": "count"}], "per": [{"column": "Area"}], "split": {"column": "Said"}}
    scene = draw("diverging_bar", ask(question, given), {}, Box(600, 200), STYLE)
    bars = {shape.title.split(", ")[1]: shape for shape in scene.shapes if isinstance(shape, Rect) and shape.title}
    assert bars["Don't know"].x > bars["Agree"].x + bars["Agree"].width + 3
    assert bars["Agree"].width == pytest.approx(bars["Disagree"].width, rel=0.05)


def cross(data, **options):
    question = {"measures": [{"stat": "count"}], "per": [{"column": "Area"}], "split": {"column": "Come again"}}
    return draw("cross_table", ask(question, data), options, Box(560, 300), STYLE)


def test_a_cross_table_shows_shares_people_and_only_differences_beyond_chance():
    far = table(Area=["a"] * 60 + ["b"] * 60, **{"Come again": ["Yes"] * 50 + ["No"] * 10 + ["Yes"] * 20 + ["No"] * 40})
    scene = cross(far)
    assert {"83%", "17%", "33%", "67%", "60", "120"} <= {text.text for text in scene.texts()}
    assert "a says “Yes” more often than all" in scene.description
    assert "The groups answer differently (chi-square 30.9, 1 degree of freedom, p < 0.001)." in scene.description
    near = table(Area=["a"] * 20 + ["b"] * 20, **{"Come again": ["Yes"] * 12 + ["No"] * 8 + ["Yes"] * 10 + ["No"] * 10})
    assert "No single difference stands out beyond chance. The differences may be chance" in cross(near).description


def test_a_weighted_cross_table_counts_people_and_judges_chance_by_their_effective_base():
    far = {"Area": ["a"] * 60 + ["b"] * 60, "Come again": ["Yes"] * 50 + ["No"] * 10 + ["Yes"] * 20 + ["No"] * 40}
    question = {"measures": [{"stat": "count"}], "per": [{"column": "Area"}], "split": {"column": "Come again"}}

    def weighted(weights):
        answer = ask(question | {"weight": "Weight"}, table(**far, Weight=weights))
        return draw("cross_table", answer, {}, Box(560, 300), STYLE)

    plain, doubled = cross(table(**far)).description, weighted(["2.0"] * 120)
    assert "chi-square 30.9" in plain
    assert "chi-square 30.9" in doubled.description, "weights that are all alike change nothing"
    assert {"60", "120", "83%"} <= {text.text for text in doubled.texts()}
    uneven = weighted(["0.2", "3.8"] * 60)
    assert "60" in [text.text for text in uneven.texts()]
    assert float(uneven.description.split("chi-square ")[1].split(",")[0]) < 25


def test_sums_are_no_people():
    given = table(Area=list("aabb"), Kind=list("xyxy"), Visits=[40, 10, 20, 40])
    question = {"measures": [{"stat": "sum", "column": "Visits"}], "per": [{"column": "Area"}]}
    scene = draw("cross_table", ask(question | {"split": {"column": "Kind"}}, given), {}, Box(560, 300), STYLE)
    assert "it counts people" in scene.description


def test_readers_are_told_what_is_hidden_and_what_exceeds_100_percent():
    question = {"measures": [YES], "per": [{"column": "Area"}], "least_base": 10}
    scene = draw("bar", ask(question, groups_of(a=30, b=20, c=4, d=4)), {}, Box(600, 300), STYLE)
    assert "Groups of fewer than 10 people are hidden: c, d." in [text.text for text in scene.texts()]
    assert scene.description.endswith("are hidden: c, d.")
    several = draw("bar", ask({"measures": [OF_PEOPLE], "per": [{"column": "Likes"}]}, LIKES), {}, Box(600, 300), STYLE)
    assert "add up to more than 100%" in several.description
    small = draw("bar", ask(question, groups_of(a=30, b=20, c=4, d=4)), {}, Box(200, 70), STYLE)
    assert small.description.endswith("are hidden: c, d."), "also where there is no room for it"


def test_answers_beside_a_scale_differ_in_colour_and_the_base_is_that_of_the_table():
    said = ["Agree", "Disagree", "Don't know", None] * 10
    given = table(Area=list("aabb") * 10, Said=said)
    question = {"measures": [{"stat": "count"}], "per": [{"column": "Area"}]}
    shown = ask(question | {"split": {"column": "Said", "missing": "shown"}}, given)
    scene = draw("share_bar", shown, {}, Box(600, 300), STYLE)
    bars = {shape.title.split(", ")[1]: shape.fill for shape in scene.shapes if isinstance(shape, Rect) and shape.title}
    assert len(bars) == len(set(bars.values())) == 4
    answered = draw("cross_table", ask(question | {"split": {"column": "Said"}}, given), {}, Box(600, 300), STYLE)
    assert "(n = 30)" in answered.description


def test_small_expected_counts_make_the_test_doubtful():
    few = table(Area=list("aaaabbbb"), **{"Come again": ["Yes", "No"] * 4})
    assert "Some expected counts are below 5, so this is doubtful" in cross(few).description


def test_an_interval_is_said_with_the_figure():
    given = table(**{"Come again": ["Yes"] * 58 + ["No"] * 42})
    answer = ask({"measures": [YES]}, given)
    scene = draw("ring", answer, {"interval": True, "label": "come again"}, Box(300, 300), STYLE)
    assert scene.description == "come again: 58% (nearly six in ten, give or take 10 points, n = 100)."
    every = draw("ring", answer, {"interval": True, "population": 100, "label": "all"}, Box(300, 300), STYLE)
    assert "all were asked" in every.description


@given(st.floats(0, 1), st.integers(1, 100_000))
def test_an_interval_holds_its_share_and_stays_on_the_scale(share, base):
    low, high = wilson_interval(share, base)
    assert 0 <= low <= share + 1e-9
    assert share - 1e-9 <= high <= 1
    assert give_or_take(share, (low, high), share=True)


def test_empty_rows_and_columns_of_a_cross_table_are_no_trouble():
    made = cross_table([[0, 0], [3, 5]])
    assert made.shares[0] == (None, None)
    assert made.test is None
    assert made.signs[0] == (0, 0)


def test_names_of_things_are_no_answers():
    names = csv_table("Event,Visitors\n" + "".join(f"Evening {place},{place * 37 + 400}\n" for place in range(12)))
    assert [item.name for item in survey_items(names.frame, names.columns)] == ["Visitors"]
    repeated = csv_table("Event\n" + "Story time\nCrafts\nMusic\n" * 4)
    assert [item.kind for item in survey_items(repeated.frame, repeated.columns)] == ["one answer"]


def test_means_of_ratings_stand_on_the_whole_scale_and_titles_read_well():
    text = (
        "Please rate: [Food],Please rate: [Queue],Would you come again?\n" + "4,5,yes\n3,4,no\n4,4,yes\n2,4,yes\n" * 5
    )
    table = csv_table(text)
    matrix, again = survey_items(table.frame, table.columns)
    means = next(figure for figure in survey_figures(matrix) if figure.visual == "dot_plot")
    assert (means.title, means.options) == ("Please rate: means", {"lowest": 1.0, "highest": 5.0})
    scene = draw("dot_plot", ask(means.question.model_dump(mode="json"), table), means.options, Box(500, 300), STYLE)
    ticks = [shown.text for shown in scene.texts()]
    assert {"1", "5"} <= set(ticks)
    assert survey_figures(again)[0].options == {"label": "Would you come again? Yes"}


@pytest.mark.parametrize("name", ["ring", "icon_row", "kpi", "percent_bar", "filled_numerals"])
@pytest.mark.parametrize("rows", ["A,\nB,\n", "A,Yes\nB,No\n"])
def test_a_base_of_nought_is_said_plainly(name, rows):
    yes = {"stat": "share", "column": "Again", "values": ["Yes"]}
    nobody = [{"column": "Branch", "test": "in", "values": ["Nowhere"]}]
    found = ask({"measures": [yes], "where": nobody}, csv_table("Branch,Again\n" + rows * 3))
    assert found.base == 0
    said = " ".join(text.text for text in draw(name, found, {}, Box(400, 240), STYLE).texts())
    assert "has a value to work this out from" in said


def test_a_recommendation_score_of_a_short_scale_is_doubted():
    found = ask({"measures": [{"stat": "recommendation", "column": "Rate"}]}, table(Rate=[1, 2, 3, 4, 5] * 4))
    assert found.notes == ("no answer in Rate is above 5: is it asked from 0 to 10?",)


def test_a_cross_table_with_a_hidden_cell_shows_nothing_of_its_row():
    given = groups_of(a=60, b=90, c=15)
    question = {"measures": [{"stat": "count"}], "per": [{"column": "Area"}], "split": {"column": "Come again"}}
    scene = draw("cross_table", ask(question | {"least_base": 10}, given), {}, Box(560, 300), STYLE)
    rows = {text.cell[0]: [] for text in scene.texts() if text.cell}
    for text in scene.texts():
        if text.cell:
            rows[text.cell[0]].append(text.text)
    shown = {row[0]: row[1:] for row in rows.values() if len(row) == 4}
    assert shown["b"] == ["67%", "33%", "90"]
    assert shown["a"] == shown["c"] == ["–", "–", "–"], "not 0%"
