"""Questions of which people gave several answers, against pandas, statsmodels and scipy on a made-up survey.

Each option has its own base, the people of its group; there is no chi-square test; differences are those of two
proportions (statsmodels proportions_ztest), corrected by Holm (statsmodels multipletests).
"""

import numpy as np
import pandas as pd
import polars as pl
import pytest
from scipy import stats
from statsmodels.stats.multitest import multipletests
from statsmodels.stats.proportion import proportions_ztest

from ypsil.core.answers import answer
from ypsil.core.questions import parse_question
from ypsil.core.style import HouseStyle
from ypsil.core.survey import cross_table
from ypsil.core.survey.crosstab import holm
from ypsil.core.tables.model import Column
from ypsil.core.visuals import Box, draw

COLUMNS = (Column("Age", "category"), Column("Likes", "list"))
CHANCES = {"Young": [0.8, 0.5, 0.5], "Mid": [0.5, 0.5, 0.5], "Old": [0.4, 0.5, 0.7]}
OPTIONS = ["Talks", "Films", "Walks"]


@pytest.fixture(scope="module")
def survey():
    """944 people, of whom some gave no answer, most several."""
    chance = np.random.default_rng(1)
    ages = chance.choice(list(CHANCES), 944, p=[0.4, 0.35, 0.25]).tolist()
    likes = [[o for o, p in zip(OPTIONS, CHANCES[age], strict=True) if chance.random() < p] or None for age in ages]
    return pl.DataFrame({"Age": ages, "Likes": likes})


@pytest.fixture(scope="module")
def by_pandas(survey):
    """People of each age who answered, and how many of them gave each answer."""
    frame = pd.DataFrame(survey.to_dict(as_series=False)).dropna()
    long = frame.explode("Likes")
    return frame["Age"].value_counts(), pd.crosstab(long["Age"], long["Likes"])


def ask(survey, **question):
    measures = {"measures": [{"stat": "count"}]}
    return answer(survey, COLUMNS, parse_question(measures | question))


def rows_of(scene, names):
    texts = [text.text for text in scene.texts()]
    width = len(names) + 1
    found = {}
    for row in (*OPTIONS, *CHANCES, "All", "People"):
        if row in texts[width:]:
            place = texts.index(row, width)
            found[row] = texts[place + 1 : place + 1 + width]
    return found


@pytest.mark.parametrize("measure", [{"stat": "count"}, {"stat": "share", "within": "respondents"}])
def test_each_option_has_the_people_of_its_group_as_base(survey, by_pandas, measure):
    people, counts = by_pandas
    found = ask(survey, measures=[measure], per=[{"column": "Age"}], split={"column": "Likes"})
    scene = draw("cross_table", found, {}, Box(560, 300), HouseStyle())
    names = found.members(found.of("split")[0])
    for age, cells in rows_of(scene, names).items():
        base = people.sum() if age == "All" else people[age]
        gave = counts.sum() if age == "All" else counts.loc[age]
        assert cells == [*(f"{gave[name] / base:.0%}" for name in names), str(base)]
    assert "no chi-square test" in scene.description


def test_answers_below_each_other_have_the_same_bases(survey, by_pandas):
    people, counts = by_pandas
    measure = {"stat": "share", "within": "respondents"}
    found = ask(survey, measures=[measure], per=[{"column": "Likes"}], split={"column": "Age"})
    scene = draw("cross_table", found, {}, Box(560, 300), HouseStyle())
    ages = found.members(found.of("split")[0])
    rows = rows_of(scene, ages)
    assert rows["People"] == [*(str(people[age]) for age in ages), str(people.sum())]
    for option in OPTIONS:
        shares = [f"{counts.loc[age, option] / people[age]:.0%}" for age in ages]
        assert rows[option] == [*shares, str(counts[option].sum())]


def differences(counts, people):
    """Return the probabilities that statsmodels gives each group's share beside that of all other groups."""
    found = []
    for row in range(len(counts)):
        for column in range(counts.shape[1]):
            chosen = counts[row, column], counts[:, column].sum() - counts[row, column]
            found.append(proportions_ztest(chosen, (people[row], people.sum() - people[row]))[1])
    return np.array(found)


def test_arrows_are_corrected_for_their_number(survey, by_pandas):
    people, counts = by_pandas
    bases = people[counts.index].to_numpy()
    made = cross_table(counts.to_numpy(), "row", bases.tolist(), one_each=False)
    rejected = multipletests(differences(counts.to_numpy(), bases), 0.05, "holm")[0]
    assert [sign != 0 for row in made.signs for sign in row] == rejected.tolist()
    assert made.test is None
    # Of one option, not every group can differ upwards.
    assert all({-1, 1} <= set(column) or not any(column) for column in zip(*made.signs, strict=True))


def test_holm_is_that_of_statsmodels():
    chance = np.random.default_rng(7)
    for _ in range(12):
        given = chance.random(12) ** 3
        assert holm(given).tolist() == sorted(given[multipletests(given, 0.05, "holm")[0]])


def test_without_differences_hardly_a_table_has_an_arrow_and_none_beside_a_test_that_finds_nothing():
    chance = np.random.default_rng(11)
    with_arrows = 0
    for _ in range(300):
        counts = chance.multinomial(120, [0.25] * 4, size=5)
        made = cross_table(counts.tolist())
        any_sign = any(map(any, made.signs))
        with_arrows += any_sign
        assert not (any_sign and stats.chi2_contingency(counts, correction=False).pvalue >= 0.05)
    assert with_arrows <= 0.05 * 300


def test_what_stands_together_counts_people_and_not_answers(survey):
    question = {"per": [{"column": "Likes"}], "keep": 1, "rest": "Others"}
    share = ask(survey, measures=[{"stat": "share", "within": "respondents"}], **question)
    first, rest = share.rows
    answered = survey.drop_nulls()
    others = answered.filter(pl.col("Likes").list.set_difference([first[0]]).list.len() > 0).height
    assert rest == ("Others", pytest.approx(others / answered.height))
    assert ask(survey, **question).rows[1] == ("Others", others)
