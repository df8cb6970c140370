"""Stems beside those that the makers of the rules publish."""

import pytest

from ypsil.core.errors import QuestionRefused
from ypsil.core.text import languages
from ypsil.core.text.stems import LANGUAGES, stems_of

# The sample vocabularies on the pages of the English, German, French and Russian stemmers (snowballstem.org,
# M. F. Porter); values from memory. The whole vocabularies are not at hand without the network.
PUBLISHED = {
    "en": """consign consign consigned consign consigning consign consignment consign consist consist consisted consist
        consistency consist consistent consist consistently consist consisting consist consists consist consolation
        consol consolations consol consolatory consolatori console consol consoled consol consoles consol consolidate
        consolid consolidated consolid consolidating consolid consoling consol consolingly consol consols consol
        consonant conson consort consort consorted consort consorting consort conspicuous conspicu conspicuously
        conspicu conspiracy conspiraci conspirator conspir conspirators conspir conspire conspir conspired conspir
        conspiring conspir constable constabl constables constabl constance constanc constancy constanc constant
        constant knack knack knackeries knackeri knacks knack knag knag knave knave knaves knave knavish knavish
        kneaded knead kneading knead knee knee kneel kneel kneeled kneel kneeling kneel kneels kneel knees knee knell
        knell knelt knelt knew knew knick knick knife knife knight knight knightly knight knights knight knit knit
        knits knit knitted knit knitting knit knives knive knob knob knobs knob knock knock knocked knock knocker
        knocker knockers knocker knocking knock knocks knock knot knot knots knot""",
    "de": """aufeinander aufeinand aufeinanderfolge aufeinanderfolg aufeinanderfolgen aufeinanderfolg
        kategorie kategori kategorien kategori kategorisch kategor kategorische kategor""",
    "fr": """continu continu continua continu continuait continu continuant continu continue continu majestueuse majestu
        majestueux majestu main main mains main""",
    "ru": """книга книг книги книг книгу книг""",
}


@pytest.mark.parametrize("language", PUBLISHED)
def test_stems_are_those_that_are_published(language):
    listed = PUBLISHED[language].split()
    words, stems = listed[::2], listed[1::2]
    assert stems_of(words, language) == stems


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
