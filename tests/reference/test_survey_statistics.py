"""Figures of surveys against general-purpose libraries, textbooks and a published open survey."""

import numpy as np
import pandas as pd
import polars as pl
import pytest
import statsmodels.api as sm
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats
from statsmodels.stats.proportion import confint_proportions_2indep, proportion_confint
from statsmodels.stats.weightstats import DescrStatsW

from tests.factories import ask, csv_table
from ypsil.core.figures import whole_parts
from ypsil.core.survey import cross_table, difference_interval, margin_of_error, mean_interval, wilson_interval
from ypsil.core.survey.crosstab import chi_square
from ypsil.core.tables.read import read_table


@given(st.integers(1, 5000), st.floats(0, 1))
def test_wilson_is_that_of_statsmodels(base, part):
    count = round(base * part)
    assert wilson_interval(count / base, base) == pytest.approx(
        proportion_confint(count, base, method="wilson"), abs=1e-9
    )


@given(st.integers(1, 300), st.integers(1, 300), st.floats(0, 1), st.floats(0, 1))
def test_differences_are_those_of_newcombe_in_statsmodels(first, second, part, other):
    one, two = round(first * part), round(second * other)
    ours = difference_interval(one / first, first, two / second, second)
    theirs = confint_proportions_2indep(one, first, two, second, method="newcomb", compare="diff")
    assert ours == pytest.approx(theirs, abs=1e-6)


def test_newcombes_own_example():
    """R. G. Newcombe (1998), table II, case (a), method 10: 56/70 and 48/80 give 0.0524 to 0.3339."""
    assert difference_interval(56 / 70, 70, 48 / 80, 80) == pytest.approx((0.0524, 0.3339), abs=5e-5)


def test_the_margin_of_1000_at_one_half_is_3_1_points():
    """The value of every textbook of survey sampling: 1.96 times the root of 0.25 / 1000."""
    assert margin_of_error(0.5, 1000) == pytest.approx(0.031, abs=0.0005)


def test_the_correction_of_finite_populations():
    """Cochran, Sampling Techniques (1977), chapter 2: the variance is multiplied by (N - n) / (N - 1).

    The numbers are worked by hand: n = 400 of N = 2,000 at 50% give 4.9 points times the root of 1600 / 1999.
    """
    assert margin_of_error(0.5, 400, 2000) == pytest.approx(0.049 * (1600 / 1999) ** 0.5, abs=2e-5)


@given(st.lists(st.integers(0, 10), min_size=2, max_size=60).filter(lambda values: len(set(values)) > 1))
def test_intervals_of_means_are_those_of_scipy(values):
    mean, error = np.mean(values), stats.sem(values)
    theirs = stats.t.interval(0.95, len(values) - 1, loc=mean, scale=error)
    assert mean_interval(float(mean), float(np.std(values, ddof=1)), len(values)) == pytest.approx(theirs)


@given(st.lists(st.lists(st.integers(1, 80), min_size=3, max_size=3), min_size=2, max_size=5))
def test_chi_square_is_that_of_scipy(counts):
    ours, theirs = chi_square(np.array(counts, dtype=float)), stats.chi2_contingency(counts, correction=False)
    assert (ours.statistic, ours.freedom, ours.probability) == pytest.approx(
        (theirs.statistic, theirs.dof, theirs.pvalue), abs=1e-9
    )
    few = theirs.expected_freq < 5
    assert ours.is_doubtful == bool(few.mean() > 0.2 or theirs.expected_freq.min() < 1)


WEIGHTED = pd.DataFrame({"Score": [1, 5, 4, 3, 5, 2, 4], "Weight": [0.5, 1.5, 2.0, 1.0, 0.7, 1.1, 0.2]})


def weighted(measure):
    table = csv_table(WEIGHTED.to_csv(index=False))
    answer = ask({"measures": [measure], "weight": "Weight"}, table)
    return answer, answer.of("measure")[0]


def test_weighted_means_are_those_of_statsmodels():
    answer, _ = weighted({"stat": "mean", "column": "Score"})
    assert answer.rows[0][0] == pytest.approx(DescrStatsW(WEIGHTED["Score"], weights=WEIGHTED["Weight"]).mean)


def test_the_effective_base_of_weights_is_kishs():
    answer, measure = weighted({"stat": "mean", "column": "Score"})
    weights = WEIGHTED["Weight"]
    assert answer.exactness_of(measure, "effective")[0] == pytest.approx(weights.sum() ** 2 / (weights**2).sum())


def test_the_recommendation_score_of_a_table_worked_by_hand():
    """Twenty answers: eight of 9 or 10, five of 7 or 8, seven of 0 to 6. 40% less 35% are 5 points."""
    answers = [10] * 5 + [9] * 3 + [8] * 2 + [7] * 3 + [6, 5, 5, 3, 2, 0, 0]
    table = csv_table("Asked\n" + "\n".join(map(str, answers)) + "\n")
    assert ask({"measures": [{"stat": "recommendation", "column": "Asked"}]}, table).rows[0][0] == pytest.approx(5)


@pytest.mark.parametrize(
    ("votes", "seats", "wanted"),
    [
        # Wikipedia, “Largest remainder method”, example with the Hare quota, 100,000 votes for 10 seats.
        ([47_000, 16_000, 15_900, 12_000, 6_000, 3_100], 10, [5, 2, 1, 1, 1, 0]),
        # Alabama's paradox in its smallest form (Wikipedia, “Apportionment paradox”): 6, 6 and 2 for 10 seats, then 11.
        ([6, 6, 2], 10, [4, 4, 2]),
        ([6, 6, 2], 11, [5, 5, 1]),
    ],
)
def test_rounding_is_the_allocation_of_seats_by_hare_quota(votes, seats, wanted):
    """Parts of a whole of so many units are seats; both examples are from memory of these pages."""
    parts = [vote / sum(votes) for vote in votes]
    # A whole of 10 (11) seats is asked as parts that are rounded to tenths (elevenths) of it.
    made = whole_parts([part * seats / 100 for part in parts] + [1 - seats / 100])
    assert [round(part * 100) for part in made[:-1]] == wanted


@pytest.fixture(scope="module")
def affairs():
    """A published survey: R. C. Fair, A Theory of Extramarital Affairs (1978), the magazine survey of 1974 with 6,366
    answers, in the public domain, as it ships with statsmodels."""
    return sm.datasets.fair.load_pandas().data


def test_a_published_survey_is_tabulated_as_pandas_does(affairs):
    data = affairs.assign(group="children " + affairs["children"].round().astype(int).astype(str))
    data = data[["group", "rate_marriage"]].astype({"rate_marriage": int})
    table = read_table(data.to_csv(index=False).encode(), "survey.csv")
    question = {"measures": [{"stat": "count"}], "per": [{"column": "group"}], "split": {"column": "rate_marriage"}}
    answer = ask(question, table)
    wanted = pd.crosstab(data["group"], data["rate_marriage"])
    found = {(group, rate): count for group, rate, count in answer.rows}
    assert found == {(group, rate): int(n) for group, row in wanted.iterrows() for rate, n in row.items() if n}
    by_row = pd.crosstab(data["group"], data["rate_marriage"], normalize="index")
    ours = cross_table(wanted.to_numpy(), "row")
    assert np.allclose(np.array(ours.shares, dtype=float), by_row.to_numpy())
    by_column = pd.crosstab(data["group"], data["rate_marriage"], normalize="columns")
    assert np.allclose(np.array(cross_table(wanted.to_numpy(), "column").shares, dtype=float), by_column.to_numpy())
    assert ours.test.statistic == pytest.approx(stats.chi2_contingency(wanted, correction=False).statistic)


def test_the_mean_score_of_a_published_survey_is_pandas_mean(affairs):
    frame = pl.from_pandas(affairs[["rate_marriage"]])
    table = read_table(frame.write_csv().encode(), "survey.csv")
    answer = ask({"measures": [{"stat": "score", "column": "rate_marriage"}]}, table)
    assert answer.rows[0][0] == pytest.approx(affairs["rate_marriage"].mean())
