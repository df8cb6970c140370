"""Stop words on real prose: the first article of the Universal Declaration of Human Rights (United Nations, 1948).

The translations are the official ones, as remembered; each word is in one of two lists, read by hand: those that carry
the meaning are counted, the others are not.
"""

import json
import re

import pytest

from ypsil.cli import main
from ypsil.core.text.stopwords import guess_language, stop_word_set

ARTICLES = {
    "en": "All human beings are born free and equal in dignity and rights. They are endowed with reason and conscience "
    "and should act towards one another in a spirit of brotherhood.",
    "de": "Alle Menschen sind frei und gleich an Würde und Rechten geboren. Sie sind mit Vernunft und Gewissen begabt "
    "und sollen einander im Geiste der Brüderlichkeit begegnen.",
    "fr": "Tous les êtres humains naissent libres et égaux en dignité et en droits. Ils sont doués de raison et de "
    "conscience et doivent agir les uns envers les autres dans un esprit de fraternité.",
    "es": "Todos los seres humanos nacen libres e iguales en dignidad y derechos y, dotados como están de razón y "
    "conciencia, deben comportarse fraternalmente los unos con los otros.",
    "it": "Tutti gli esseri umani nascono liberi ed eguali in dignità e diritti. Essi sono dotati di ragione e di "
    "coscienza e devono agire gli uni verso gli altri in spirito di fratellanza.",
    "pt": "Todos os seres humanos nascem livres e iguais em dignidade e em direitos. Dotados de razão e de "
    "consciência, devem agir uns para com os outros em espírito de fraternidade.",
    "nl": "Alle mensen worden vrij en gelijk in waardigheid en rechten geboren. Zij zijn begiftigd met verstand en "
    "geweten, en behoren zich jegens elkander in een geest van broederschap te gedragen.",
    "pl": "Wszyscy ludzie rodzą się wolni i równi pod względem swej godności i swych praw. Są oni obdarzeni rozumem i "
    "sumieniem i powinni postępować wobec innych w duchu braterstwa.",
    "sv": "Alla människor är födda fria och lika i värde och rättigheter. De har utrustats med förnuft och samvete och "
    "bör handla gentemot varandra i en anda av gemenskap.",
    "da": "Alle mennesker er født frie og lige i værdighed og rettigheder. De er udstyret med fornuft og samvittighed, "
    "og de bør handle mod hverandre i en broderskabets ånd.",
    "ru": "Все люди рождаются свободными и равными в своем достоинстве и правах. Они наделены разумом и совестью и "
    "должны поступать в отношении друг друга в духе братства.",
}
# Function words of these articles, beside which all others mean something.
FUNCTION = {
    "en": "all being are and in they with should towards one another a of",
    "de": "alle sind und an sie mit sollen einander im der",
    "fr": "tous les et en ils sont de doivent uns envers autres dans un",
    "es": "todos los e en y como están de deben unos con otros",
    "it": "tutti gli ed in e essi sono di devono uni verso altri",
    "pt": "todos os e em de devem uns para com outros",
    "nl": "alle worden en in zij zijn met zich een van te",
    "pl": "się i pod są oni wobec innych w",
    "sv": "alla är och i de har med en av",
    "da": "alle er og i de med mod en bør",
    "ru": "все и в они",
}
MEANING = {
    "en": "human beings born free equal dignity rights endowed reason conscience act spirit brotherhood",
    "de": "menschen frei gleich rechten geboren vernunft gewissen begabt geiste begegnen",
    "fr": "humains naissent libres égaux dignité droits raison conscience agir esprit fraternité",
    "es": "seres humanos nacen libres iguales dignidad derechos razón conciencia comportarse fraternalmente",
    "it": "umani nascono liberi eguali dignità diritti ragione coscienza agire spirito fratellanza",
    "pt": "humanos nascem livres iguais dignidade direitos razão consciência agir espírito fraternidade",
    "nl": "mensen vrij gelijk waardigheid rechten geboren verstand geweten geest broederschap gedragen",
    "pl": "ludzie rodzą wolni równi godności praw obdarzeni rozumem sumieniem duchu braterstwa",
    "sv": "människor födda fria värde rättigheter förnuft samvete handla anda gemenskap",
    "da": "mennesker født frie værdighed rettigheder fornuft samvittighed handle broderskabets ånd",
    "ru": "люди рождаются свободными равными достоинстве правах разумом совестью поступать духе братства",
}


@pytest.mark.parametrize("language", ARTICLES)
def test_function_words_are_left_out_and_words_with_a_meaning_are_not(language):
    stops = stop_word_set(language)
    assert not set(MEANING[language].split()) & stops
    assert set(FUNCTION[language].split()) <= stops


@pytest.mark.parametrize("language", ARTICLES)
def test_the_language_of_an_article_is_guessed(language):
    assert guess_language(re.findall(r"\w+", ARTICLES[language].lower())) == language


@pytest.mark.parametrize("word", ["ill", "well", "shell", "shed", "hell", "wed", "id"])
def test_words_that_look_like_contractions_are_counted(word):
    assert word not in stop_word_set("en")


@pytest.mark.parametrize("word", ["can", "may", "must", "also", "will", "just", "now", "get", "one", "im", "dont"])
def test_modal_and_filling_words_are_not_counted(word):
    assert word in stop_word_set("en")


def test_the_command_guesses_the_language_and_keeps_german_nouns(tmp_path, capsys):
    path = tmp_path / "answers.txt"
    path.write_text("Die Bücher und die Stühle sind gut.\nMehr Bücher und mehr Stühle, und die Bücher sind alt.\n")
    assert main(["words", str(path)]) == 0
    terms = [term["term"] for term in json.loads(capsys.readouterr().out)["terms"]]
    assert terms[:2] == ["Bücher", "Stühle"] and "und" not in terms
