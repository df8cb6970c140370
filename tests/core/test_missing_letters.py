"""Letters that no shipped typeface has are said, before readers see boxes."""

import pytest

from ypsil.core.drawing.faces import lacking
from ypsil.core.proof import findings_of
from ypsil.core.render import compose
from ypsil.core.report import ReportBody


def said(text):
    tile = {"id": "t", "type": "text", "role": "heading", "text": text}
    page = compose(ReportBody.model_validate({"title": "T", "bands": [{"id": "b", "tiles": [tile]}]}), {})
    return [one for one in findings_of(page) if "No typeface here has" in one.said]


@pytest.mark.parametrize("text", ["图书馆", "สวัสดี", "A party 🎉", "Two 👩‍👧 of us"])
def test_scripts_and_signs_that_are_not_there_are_a_problem_with_the_letters_named(text):
    [found] = said(text)
    assert found.kind == "problem" and found.tile == "t"
    assert any(letter in found.said for letter in text if ord(letter) > 0x300)


@pytest.mark.parametrize(
    "text", ["Plain", "Ünïcödé – “quoted”, ½ €", "Ελληνικά Русский", "שלום", "مرحبا", "A\nB\tC", ""]
)
def test_what_can_be_set_is_not_mentioned(text):
    assert said(text) == []


def test_each_is_named_once_and_of_many_the_first():
    assert lacking("图图书", "Source Sans 3", 700) == "图书"
    [found] = said("".join(chr(0x4E00 + place) for place in range(40)))
    assert "…" in found.said and len(found.said) < 140
