"""Stems of words; tests/reference holds them against those that the makers of the rules publish."""

import pytest

from ypsil.core.errors import QuestionRefused
from ypsil.core.text.stems import LANGUAGES, stems_of
from ypsil.core.text.stopwords import languages

# Common practice, no source: a noun beside its plural or another case.
FORMS = {
    "el": ("βιβλιοθήκη", "βιβλιοθήκης"),
    "es": ("bibliotecas", "biblioteca"),
    "it": ("biblioteche", "biblioteca"),
    "sv": ("böcker", "böckerna"),
    "tr": ("kitaplar", "kitaplarda"),
    "cs": ("knihovna", "knihovny"),
    "pl": ("książka", "książki"),
    "hu": ("könyvek", "könyv"),
}


@pytest.mark.parametrize("language", FORMS)
def test_forms_of_a_word_are_one(language):
    one, other = stems_of(FORMS[language], language)
    assert one == other


def test_every_language_with_stems_has_small_words_and_each_gives_stems():
    assert set(LANGUAGES) <= set(languages())
    for language in sorted(LANGUAGES):
        assert stems_of(["library"], language)[0]
    with pytest.raises(QuestionRefused, match="cannot be merged by stem"):
        stems_of(["бібліотека"], "uk")
