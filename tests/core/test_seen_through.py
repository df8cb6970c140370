"""What is seen through: a tile, and all that stands in a group, in each kind of file."""

import io

import pytest
from PIL import Image

from tests.factories import DRAWN_FORMATS
from ypsil.core.export import FORMATS
from ypsil.core.export.page import page_to_png, page_to_svg
from ypsil.core.render import compose
from ypsil.core.report import ReportBody

PLACE = {"column": 0, "row": 0, "width": 24, "height": 12}


def page(opacity=1.0, **more):
    text = {"id": "t1", "type": "text", "role": "big", "text": "MMM", "place": PLACE, "opacity": opacity, **more}
    return compose(ReportBody.model_validate({"title": "x", "bands": [{"id": "b1", "tiles": [text]}]}), {})


def darkest(made):
    return Image.open(io.BytesIO(page_to_png(made, scale=1))).convert("L").getextrema()[0]


def test_letters_and_cards_let_through_what_lies_behind_them():
    assert darkest(page()) < 60 < darkest(page(0.55)) < 190 < darkest(page(0.25)) < 255
    carded = {"card": {"fill": "ink", "padding": 0}}
    assert darkest(page(0.4, **carded)) > darkest(page(**carded)) + 80


def test_what_stands_in_a_group_is_seen_through_with_it():
    text = {"id": "t1", "type": "text", "text": "A", "place": PLACE, "opacity": 0.5}
    group = {"id": "g1", "type": "group", "place": PLACE, "opacity": 0.5, "tiles": [text]}
    made = compose(ReportBody.model_validate({"title": "x", "bands": [{"id": "b1", "tiles": [group]}]}), {})
    assert made.tiles()[0].opacity == 0.25
    assert '<g opacity="0.25">' in page_to_svg(made)


@pytest.mark.parametrize("ending", DRAWN_FORMATS)
def test_each_kind_of_file_holds_it(ending):
    assert FORMATS[ending].page(page(0.4)) != FORMATS[ending].page(page())


@pytest.mark.parametrize("opacity", [0, 0.05, 1.5, float("nan")])
def test_other_values_are_refused(opacity):
    with pytest.raises(ValueError, match="opacity"):
        page(opacity)
