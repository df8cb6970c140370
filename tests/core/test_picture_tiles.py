"""Pictures in a place of the page: filling it or whole, with round corners, turned, in every kind of file."""

import io

import numpy as np
import pytest
from PIL import Image

from ypsil.core.drawing.picture_files import read_picture
from ypsil.core.export import FORMATS, page_to_png, page_to_svg
from ypsil.core.proof import findings_of
from ypsil.core.render import compose, heading_levels
from ypsil.core.report import ReportBody

PLACE = {"column": 0, "row": 0, "width": 24, "height": 46}
RED, BLUE = (214, 30, 40), (30, 60, 200)


def halves(width=400, height=200):
    """A picture whose left half is red and whose right half is blue."""
    image = Image.new("RGB", (width, height), RED)
    image.paste(BLUE, (width // 2, 0, width, height))
    file = io.BytesIO()
    image.save(file, "PNG")
    return read_picture(file.getvalue(), "halves.png")


PICTURE = halves()


def page(picture=PICTURE, **more):
    tile = {"id": "p1", "type": "picture", "picture": PICTURE.name, "aspect": 2, "place": PLACE, **more}
    report = ReportBody.model_validate({"title": "T", "bands": [{"id": "b1", "tiles": [tile]}]})
    return compose(report, {}, pictures={PICTURE.name: picture} if picture else {})


def pixels(made):
    view = made.tiles()[0]
    with Image.open(io.BytesIO(page_to_png(made, scale=1))) as opened:
        box = [round(one) for one in (view.x, view.y, view.x + view.scene.width, view.y + view.scene.height)]
        return np.asarray(opened.convert("RGB").crop(box)).astype(int)


def is_like(pixel, colour):
    return np.abs(pixel - colour).max() < 12


def test_one_that_fills_its_place_covers_all_of_it_and_is_cut_evenly():
    found = pixels(page())
    height, width, _ = found.shape
    # 2:1 in a place of about 2:1, cut by nothing or little: the halves meet in the middle.
    assert is_like(found[height // 2, 4], RED) and is_like(found[height // 2, width - 5], BLUE)
    assert is_like(found[4, width // 2 - 6], RED) and is_like(found[4, width // 2 + 6], BLUE)


@pytest.mark.parametrize(("height", "margins"), [(20, "sides"), (80, "above and below")])
def test_one_that_is_seen_whole_keeps_its_proportions_and_stands_in_the_middle(height, margins):
    made = page(fits="whole", place={**PLACE, "height": height})
    found = pixels(made)
    inked = np.abs(found - 255).max(axis=2) > 20
    rows, columns = np.flatnonzero(inked.any(axis=1)), np.flatnonzero(inked.any(axis=0))
    wide, high = columns[-1] - columns[0] + 1, rows[-1] - rows[0] + 1
    assert wide / high == pytest.approx(PICTURE.width / PICTURE.height, rel=0.02)
    left, right = columns[0], found.shape[1] - 1 - columns[-1]
    above, below = rows[0], found.shape[0] - 1 - rows[-1]
    assert abs(left - right) <= 2 and abs(above - below) <= 2
    assert (left > 20) == (margins == "sides") and (above > 20) == (margins != "sides")


def test_round_corners_let_the_page_be_seen():
    found = pixels(page(corner=40))
    assert is_like(found[1, 1], (255, 255, 255)) and is_like(found[60, 60], RED)


def test_the_left_of_a_picture_that_is_turned_by_180_degrees_is_at_the_right():
    found = pixels(page(turn=180))
    height, width, _ = found.shape
    assert is_like(found[height // 2, 20], BLUE) and is_like(found[height // 2, width - 20], RED)


@pytest.mark.parametrize("ending", list(FORMATS))
def test_each_kind_of_file_holds_it(ending):
    assert FORMATS[ending].page(page(alt="Red and blue")) != FORMATS[ending].page(
        page(alt="x", fits="whole", corner=90)
    )


def test_what_it_shows_is_told_and_an_ornament_is_passed_over():
    told = page_to_svg(page(alt="A red half and a blue one"))
    assert "<title>A red half and a blue one</title>" in told and 'role="img"' in told
    passed = page(is_ornament=True, alt="never told")
    assert 'role="img"' not in page_to_svg(passed) and "never told" not in page_to_svg(passed)
    assert heading_levels(passed) == {}


def test_the_proof_asks_for_words_unless_it_only_decorates():
    def asked(made):
        return any("no description" in one.said for one in findings_of(made))

    assert asked(page()) and asked(page(alt="   "))
    assert not asked(page(alt="Two halves")) and not asked(page(is_ornament=True))


def test_one_that_is_gone_says_so():
    made = page(picture=None)
    assert "no longer there" in made.problems()[0][1]


@pytest.mark.parametrize(("aspect", "rows"), [(2.0, 23), (0.001, None), (50.0, 6), (0.02, 90)])
def test_its_usual_place_has_its_proportions_within_bounds(aspect, rows):
    data = {"type": "picture", "picture": PICTURE.name, "aspect": aspect}
    if rows is None:
        with pytest.raises(ValueError, match="aspect"):
            ReportBody.model_validate({"title": "T", "bands": [{"tiles": [data]}]})
        return
    tile = ReportBody.model_validate({"title": "T", "bands": [{"tiles": [data]}]}).tiles()[0]
    assert tile.usual_size() == (12, rows)
