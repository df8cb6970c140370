"""Counts of words and phrases against scikit-learn's CountVectorizer; association and keyness against textbooks and
scipy."""

import re

import numpy as np
import pytest
from scipy import stats
from sklearn.feature_extraction.text import CountVectorizer

from ypsil.core.text.association import keyness, pair_likelihood, pmi
from ypsil.core.text.count import count_terms
from ypsil.core.text.settings import WordSettings

# A. Lincoln, the Gettysburg Address (1863), in the public domain; written down from memory.
ADDRESS = """\
Four score and seven years ago our fathers brought forth on this continent, a new nation, conceived in Liberty, and
dedicated to the proposition that all men are created equal.
Now we are engaged in a great civil war, testing whether that nation, or any nation so conceived and so dedicated, can
long endure. We are met on a great battle-field of that war. We have come to dedicate a portion of that field, as a
final resting place for those who here gave their lives that that nation might live. It is altogether fitting and
proper that we should do this.
But, in a larger sense, we can not dedicate, we can not consecrate, we can not hallow this ground. The brave men,
living and dead, who struggled here, have consecrated it, far above our poor power to add or detract. The world will
little note, nor long remember what we say here, but it can never forget what they did here. It is for us the living,
rather, to be dedicated here to the unfinished work which they who fought here have thus far so nobly advanced.
"""
ANSWERS = [line for line in ADDRESS.replace(",\n", ", ").split("\n") if line]
WORD = r"[^\W_]+(?:['\-][^\W_]+)*"


@pytest.mark.parametrize("length", [1, 2, 3])
def test_counts_are_those_of_countvectorizer(length):
    # A phrase of ours ends at a comma or a stop; to the other, each clause is a text of its own.
    clauses = [clause for answer in ANSWERS for clause in re.split(r"[.,]", answer)]
    other = CountVectorizer(ngram_range=(length, length), token_pattern=WORD)
    sums = other.fit_transform(clauses).sum(axis=0).A1.tolist()
    wanted = dict(zip(other.get_feature_names_out().tolist(), sums, strict=True))
    found = count_terms(ANSWERS, WordSettings(phrase_length=length, keep_stop_words=True, case="lower"))
    assert {term.term: term.count for term in found.terms} == wanted


def test_answers_that_hold_a_word_are_those_of_countvectorizer():
    other = CountVectorizer(token_pattern=WORD, binary=True)
    sums = other.fit_transform(ANSWERS).sum(axis=0).A1.tolist()
    found = count_terms(ANSWERS, WordSettings(keep_stop_words=True, count="responses", case="lower"))
    assert {term.term: term.responses for term in found.terms} == dict(
        zip(other.get_feature_names_out().tolist(), sums, strict=True)
    )


# C. D. Manning and H. Schütze, Foundations of Statistical Natural Language Processing (1999): the first rows of the
# tables of likelihood ratios (5.12) and of mutual information (5.14), in a text of 14,307,668 words; from memory.
TEXTBOOK_TOKENS = 14_307_668


def test_the_likelihood_of_a_pair_is_that_of_the_textbook():
    # "most powerful": 12,593 and 932 words, 150 times together.
    assert float(pair_likelihood(150, 12_593, 932, TEXTBOOK_TOKENS)) == pytest.approx(1291.42, rel=1e-3)


def test_the_mutual_information_of_a_pair_is_that_of_the_textbook():
    # "Ayatollah Ruhollah": 42 and 20 words, always together.
    assert float(pmi(20, 42, 20, TEXTBOOK_TOKENS)) == pytest.approx(18.38, abs=0.005)


@pytest.mark.parametrize(
    ("together", "first", "second", "tokens"), [(8, 30, 40, 1000), (1, 9, 7, 90), (20, 20, 25, 400)]
)
def test_the_likelihood_of_a_pair_is_that_of_scipy(together, first, second, tokens):
    table = [[together, first - together], [second - together, tokens - first - second + together]]
    wanted = stats.chi2_contingency(table, correction=False, lambda_="log-likelihood").statistic
    assert float(pair_likelihood(together, first, second, tokens)) == pytest.approx(wanted)


@pytest.mark.parametrize(
    ("here", "there", "size_here", "size_there"), [(40, 10, 900, 1200), (3, 0, 50, 70), (2, 9, 80, 90)]
)
def test_keyness_is_the_likelihood_of_scipy_with_a_sign(here, there, size_here, size_there):
    share = (here + there) / (size_here + size_there)
    expected = [size_here * share, size_there * share]
    wanted = stats.power_divergence([here, there], expected, lambda_="log-likelihood").statistic
    sign = np.sign(here / size_here - there / size_there)
    assert float(keyness(here, there, size_here, size_there)) == pytest.approx(sign * wanted)
