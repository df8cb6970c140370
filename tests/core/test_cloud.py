"""Word placement: checked on pixels that another library drew (Pillow)."""

import io
import math
import time

import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFont, features

from ypsil.core.cloud import CloudStyle, CloudWord, outline_of, place_rows, place_words
from ypsil.core.cloud.masks import word_mask
from ypsil.core.cloud.shapes import open_cells
from ypsil.core.drawing.faces import HUMANIST, SANS, face_path
from ypsil.core.drawing.picture_files import read_picture
from ypsil.core.drawing.pictures import named
from ypsil.core.errors import DrawingRefused

TEXTS = ("library", "books", "hours", "staff", "warm", "reading", "room", "children", "story", "quiet", "bus", "study")
WORDS = [
    CloudWord(f"{text}{part}", 60 / (12 * part + rank + 1)) for part in range(5) for rank, text in enumerate(TEXTS)
]
MARGIN, FINER = 60, 4


def ink_on(plane, word):
    """Count a word where it has ink on a plane with a margin around it.

    It is drawn four times as large and made smaller, as SVG and PDF are drawn: small letters are not fitted to px.
    """
    font = ImageFont.truetype(str(face_path(SANS, 700)), word.size * FINER)
    reach = math.ceil(max(map(abs, font.getbbox(word.text, anchor="ls"))) / FINER) + 2
    x, y = word.x + MARGIN, word.y + MARGIN
    # A word that is turned may reach as far upwards as a level one to the right.
    high = reach if word.angle else min(reach, math.ceil(1.5 * word.size))
    left, top = math.floor(x) - reach, math.floor(y) - high
    at = ((x - left) * FINER, (y - top) * FINER)
    image = Image.new("L", (2 * reach * FINER, 2 * high * FINER), 0)
    ImageDraw.Draw(image).text(at, word.text, fill=255, font=font, anchor="ls")
    if word.angle:
        image = image.rotate(-word.angle, Image.Resampling.BILINEAR, center=at)
    found = np.asarray(image.reduce(FINER)) > 64
    ink = np.argwhere(found)
    if len(ink):
        (above, before), (below, after) = ink.min(axis=0), ink.max(axis=0) + 1
        assert top + above >= 0 and left + before >= 0
        plane[top + above : top + below, left + before : left + after] += found[above:below, before:after]


def ink_of(words, size):
    """Return how many words have ink where, on a plane of a size with a margin around it."""
    plane = np.zeros((size[1] + 2 * MARGIN, size[0] + 2 * MARGIN), int)
    for word in words:
        ink_on(plane, word)
    return plane


def ink_of_all(layout, size):
    return ink_of(layout.placed, size)


def inside(total):
    return total[MARGIN:-MARGIN, MARGIN:-MARGIN]


@pytest.mark.parametrize("seed", range(1, 101))
def test_no_two_words_overlap_and_none_leaves_the_shape_in_a_hundred_runs(seed):
    directions = ("level", "mostly level", "level and upright", "any")[seed % 4]
    shape = ("rectangle", "ellipse", "rounded", "heart", "book")[seed % 5]
    size = (400, 260)
    style = CloudStyle(SANS, shape=shape, directions=directions, smallest=9, repeat=seed % 10 == 0)
    layout = place_words(WORDS[:30], *size, style, seed=seed)
    total = ink_of_all(layout, size)
    assert total.max() == 1
    assert inside(total).sum() == total.sum()
    # Half a cell of 2 px: the edge of a shape runs through cells.
    shaped = np.kron(open_cells(shape, size[0] // 2, size[1] // 2), np.ones((2, 2), bool))
    assert not (inside(total).astype(bool) & ~shaped).any()
    assert layout.ink == pytest.approx(total.sum() / shaped.sum(), abs=0.05)


def test_the_same_seed_gives_the_same_picture_and_another_seed_another():
    first, again, other = (place_words(WORDS, 500, 300, CloudStyle(SANS), seed=seed) for seed in (5, 5, 6))
    assert first == again
    assert first != other


def test_the_heaviest_word_is_the_largest_and_stands_in_the_middle():
    layout = place_words(WORDS, 600, 400, CloudStyle(SANS))
    largest = max(layout.placed, key=lambda word: word.size)
    assert largest.text == WORDS[0].text
    ink = np.argwhere(inside(ink_of([largest], (600, 400))))
    assert ink.mean(axis=0) == pytest.approx([200, 300], abs=40)


def middles(layout):
    return {word.text: (word.x, word.y, word.angle) for word in layout.placed}


def test_words_keep_their_side_and_direction_when_the_data_changes():
    size, style = (600, 400), CloudStyle(SANS, directions="level and upright")
    before = middles(place_words(WORDS, *size, style, seed=2))
    chance = np.random.default_rng(4)
    changed = [CloudWord(word.text, word.weight * chance.uniform(0.85, 1.15)) for word in WORDS[3:]]
    after = middles(place_words([*changed, CloudWord("newcomer", 30), CloudWord("another", 8)], *size, style, seed=2))
    other = middles(place_words(WORDS, *size, style, seed=3))
    stayed = [name for name in before if name in after]

    def moved(places):
        away = [math.dist(before[name][:2], places[name][:2]) for name in stayed]
        return float(np.median(away)) / math.hypot(*size)

    assert all(before[name][2] == after[name][2] for name in stayed)
    assert moved(after) < 0.4 * moved(other), "beside a new arrangement"


def test_areas_follow_weights_above_the_smallest_size():
    placed = place_words([CloudWord("aaa", 16), CloudWord("bbb", 4)], 600, 400, CloudStyle(SANS)).placed
    assert placed[0].size / placed[1].size == pytest.approx(2, rel=0.02)


@pytest.mark.parametrize(("sizing", "ratio"), [("area", 4), ("height", 16), ("log", 17 / 5)])
def test_sizes_follow_counts_as_chosen(sizing, ratio):
    words = [CloudWord("aaa", 2**17 - 1), CloudWord("bbb", 2**13 - 1 if sizing != "log" else 2**5 - 1)]
    placed = place_words(words, 900, 500, CloudStyle(SANS, sizing=sizing)).placed
    assert placed[0].size / placed[1].size == pytest.approx(ratio, rel=0.05)


def test_words_are_kept_between_the_smallest_and_the_largest_size():
    style = CloudStyle(SANS, smallest=14, largest=30)
    sizes = [word.size for word in place_words(WORDS, 600, 400, style).placed]
    assert (max(sizes), min(sizes)) == (30, 14)
    tight = place_words(WORDS, 120, 60, CloudStyle(SANS, smallest=20, largest=22))
    assert tight.left_out
    assert {word.size for word in tight.placed} <= {20.0, 20.5, 21.0, 21.5, 22.0}


def test_every_word_is_placed_or_listed_and_none_is_unreadably_small():
    many = [CloudWord(f"word{index}", 300 - index) for index in range(300)]
    layout = place_words(many, 200, 120, CloudStyle(SANS))
    assert layout.left_out
    assert {word.text for word in layout.placed} | set(layout.left_out) == {word.text for word in many}
    assert min(word.size for word in layout.placed) >= 9


def test_in_a_thin_shape_all_words_are_small_rather_than_the_first_missing():
    words = [CloudWord("readers", 99), *WORDS[:12]]
    placed = place_words(words, 600, 420, CloudStyle(SANS, shape="flower")).placed
    assert placed[0].text == "readers"
    assert placed[0].size < 30


def test_two_words_fill_a_large_page_in_bounded_time_and_number():
    started = time.perf_counter()
    layout = place_words([CloudWord("alder", 5), CloudWord("branch", 3)], 1200, 1700, CloudStyle(SANS, repeat=True))
    # It took half a minute; on a busy machine it may take a few seconds.
    assert time.perf_counter() - started < 15
    again = [word for word in layout.placed if word.is_repeat]
    assert 500 < len(again) <= 2000 and {word.text for word in again} == {"alder", "branch"}
    assert layout.ink > 0.25


def test_repeated_words_fill_the_shape_and_are_told_from_the_first():
    once = place_words(WORDS[:8], 400, 300, CloudStyle(SANS, shape="heart"))
    again = place_words(WORDS[:8], 400, 300, CloudStyle(SANS, shape="heart", repeat=True))
    assert again.ink > 1.1 * once.ink
    firsts = [word for word in again.placed if not word.is_repeat]
    assert tuple(firsts) == once.placed
    for word in again.placed:
        first = next(one for one in firsts if one.text == word.text)
        assert word.size <= first.size


def test_air_keeps_words_apart():
    sizes = [place_words(WORDS, 500, 300, CloudStyle(SANS, air=air)).placed[0].size for air in (1, 2, 4)]
    assert sizes[0] > sizes[1] > sizes[2]


def test_words_reach_the_edges_of_a_rectangle_but_for_a_framed_one():
    def from_edges(style):
        ink = inside(ink_of_all(place_words(WORDS, 400, 260, style), (400, 260)))
        return [np.flatnonzero(ink.any(axis=axis))[place] for axis in (0, 1) for place in (0, -1)]

    left, right, top, bottom = from_edges(CloudStyle(SANS, repeat=True))
    assert 1 <= max(left, top) <= 2
    assert 397 <= right <= 398
    assert 257 <= bottom <= 258
    left, right, top, bottom = from_edges(CloudStyle(SANS, repeat=True, framed=True))
    assert min(left, top) >= 2
    assert right <= 397
    assert bottom <= 257


def test_a_tight_cloud_is_mostly_words():
    chance = np.random.default_rng(3)
    texts = ["".join(chance.choice(list("abcdefghijklmnoprstuvy"), chance.integers(3, 11))) for _ in range(200)]
    words = [CloudWord(text, 300 // (rank + 1) ** 0.8 + 1) for rank, text in enumerate(texts)]
    layout = place_words(words, 1000, 600, CloudStyle(SANS))
    assert not layout.left_out
    assert inside(ink_of_all(layout, (1000, 600))).mean() > 0.37


def test_mostly_level_leaves_the_first_words_level():
    placed = place_words(WORDS, 500, 300, CloudStyle(SANS, directions="mostly level")).placed
    upright = [word for word in placed if word.angle]
    assert 0 < len(upright) < len(placed) / 2
    assert all(not word.angle for word in placed[:3])


def test_any_direction_keeps_within_its_bounds():
    angles = {
        word.angle for word in place_words(WORDS, 500, 300, CloudStyle(SANS, directions="any", most_turned=20)).placed
    }
    assert min(angles) >= -20
    assert max(angles) <= 20
    assert len(angles) > 4


def picture_of(draw, size=(80, 80), ground="white"):
    image = Image.new("RGB", size, ground)
    draw(ImageDraw.Draw(image))
    file = io.BytesIO()
    image.save(file, "PNG")
    return read_picture(file.getvalue(), "shape.png")


def test_words_fill_the_dark_part_of_a_picture():
    picture = picture_of(lambda pen: pen.rectangle((0, 0, 39, 79), fill="#222222"))
    shape = named(picture.name, {picture.name: picture})
    layout = place_words(WORDS[:20], 300, 300, CloudStyle(SANS, shape=shape))
    ink = inside(ink_of_all(layout, (300, 300)))
    assert ink[:, :150].sum() == ink.sum() > 0


@pytest.mark.parametrize(
    ("ground", "said"), [("white", "next to nothing dark"), ("#cccccc", "next to nothing dark")], ids=["white", "pale"]
)
def test_a_picture_without_anything_dark_is_refused(ground, said):
    picture = picture_of(lambda pen: None, ground=ground)
    shape = named(picture.name, {picture.name: picture})
    with pytest.raises(DrawingRefused, match=said):
        place_words(WORDS, 300, 300, CloudStyle(SANS, shape=shape))


def test_an_unknown_shape_and_a_picture_that_is_gone_are_refused():
    with pytest.raises(DrawingRefused, match="no shape"):
        place_words(WORDS, 300, 300, CloudStyle(SANS, shape="of things to come"))
    with pytest.raises(DrawingRefused, match="no longer there"):
        place_words(WORDS, 300, 300, CloudStyle(SANS, shape="picture:" + "0" * 64))


@pytest.mark.parametrize(("shape", "part"), [("rectangle", 1), ("ellipse", math.pi / 4), ("rounded", 0.98)])
def test_plain_shapes_have_the_area_that_geometry_gives_them(shape, part):
    # Of a rounded rectangle 300 by 200 the corners of radius r = 44 lack (4 - pi) r².
    expected = 1 - (4 - math.pi) * 44**2 / 60_000 if shape == "rounded" else part
    assert open_cells(shape, 300, 200).mean() == pytest.approx(expected, abs=0.005)
    assert outline_of(shape, 300, 200).endswith("Z")


def test_nothing_and_a_word_too_long_for_the_plane_are_no_trouble():
    assert place_words([], 100, 100, CloudStyle(SANS)).placed == ()
    assert place_words([CloudWord("x" * 400, 1)], 100, 60, CloudStyle(SANS)).left_out == ("x" * 400,)


def test_words_that_a_family_lacks_are_placed_too():
    words = [CloudWord("ספרייה", 3), CloudWord("مكتبة", 2), CloudWord("Łódź", 1)]
    assert len(place_words(words, 400, 200, CloudStyle("Barlow Condensed")).placed) == 3


@pytest.mark.parametrize("seed", range(1, 31))
def test_rows_neither_overlap_nor_leave_the_shape(seed):
    shape = ("rectangle", "ellipse", "heart", "book")[seed % 4]
    size, chance = (420, 280), np.random.default_rng(seed)
    words = [CloudWord(word.text, float(chance.integers(1, 90))) for word in WORDS[: 10 + seed]]
    layout = place_rows(words, *size, CloudStyle(SANS, shape=shape), as_given=seed % 2 == 0, middle=seed % 3 == 0)
    total = ink_of_all(layout, size)
    shaped = np.kron(open_cells(shape, size[0] // 2, size[1] // 2), np.ones((2, 2), bool))
    assert total.max() == 1
    assert inside(total).sum() == total.sum()
    assert not (inside(total).astype(bool) & ~shaped).any()
    assert len(layout.placed) + len(layout.left_out) == len(words)
    assert layout.ink == pytest.approx(total.sum() / shaped.sum(), abs=0.05)


def reading_order(layout):
    return [word.text for word in sorted(layout.placed, key=lambda word: (round(word.y), word.x))]


def test_rows_are_read_from_a_to_z_or_as_given_and_sizes_follow_the_weights():
    words = [CloudWord("pear", 4), CloudWord("Apple", 1), CloudWord("zoo", 16), CloudWord("bus", 9)]
    from_a = place_rows(words, 300, 200, CloudStyle(SANS))
    assert reading_order(from_a) == ["Apple", "bus", "pear", "zoo"]
    given = place_rows(words, 300, 200, CloudStyle(SANS), as_given=True)
    assert reading_order(given) == ["pear", "Apple", "zoo", "bus"]
    sizes = {word.text: word.size for word in given.placed}
    assert sizes["zoo"] == pytest.approx(2 * sizes["pear"], abs=1)
    assert [word.rank for word in sorted(given.placed, key=lambda word: word.rank)] == [0, 1, 2, 3]
    crowded = place_rows(WORDS, 110, 50, CloudStyle(SANS))
    kept = {word.text for word in crowded.placed}
    weights = {word.text: word.weight for word in WORDS}
    assert min(weights[text] for text in kept) >= max(weights[text] for text in crowded.left_out)


def test_words_of_one_group_stand_together():
    words = [CloudWord(word.text, word.weight, rank % 3) for rank, word in enumerate(WORDS)]
    layout = place_words(words, 600, 400, CloudStyle(SANS, together=True), seed=4)
    group = {word.text: word.group for word in words}

    def apart(groups):
        """The mean distance of words from the middle of their group."""
        away = []
        for number in range(3):
            places = np.array([(w.x, w.y) for w in layout.placed if groups[w.text] == number])
            away.append(np.hypot(*(places - places.mean(axis=0)).T).mean())
        return np.mean(away)

    shuffled = dict(zip(group, np.random.default_rng(1).permutation(list(group.values())), strict=True))
    assert apart(group) < 0.75 * apart(shuffled)


RIGHT_TO_LEFT = {"הספריה": "Noto Sans Hebrew", "المكتبة": "Noto Sans Arabic", "كتب": "Noto Sans Arabic"}


@pytest.mark.skipif(not features.check("raqm"), reason="Pillow sets Arabic letters apart without its shaper")
@pytest.mark.parametrize("text", RIGHT_TO_LEFT)
def test_right_to_left_words_are_shaped_as_another_library_shapes_them(text):
    size = 48.0
    mask = word_mask(text, HUMANIST, 700, size)
    font = ImageFont.truetype(str(face_path(RIGHT_TO_LEFT[text], 700)), size)
    height, width = mask.ink.shape
    image = Image.new("L", (width, height), 0)
    ImageDraw.Draw(image).text((mask.baseline_x, mask.baseline_y), text, fill=255, font=font, anchor="ls")
    drawn = np.asarray(image) > 64
    # Within two px of each other: strokes are thin, and small letters are fitted to whole px there.
    assert (drawn & ~grown(mask.ink)).sum() <= 0.01 * drawn.sum()
    assert (mask.ink & ~grown(drawn)).sum() <= 0.01 * mask.ink.sum()


def grown(ink):
    """Return the ink with all px that are two or fewer rows and columns away from some."""
    height, width = ink.shape
    wider = np.pad(ink, 2)
    shifted = [wider[down : down + height, right : right + width] for down in range(5) for right in range(5)]
    return np.logical_or.reduce(shifted)


def test_words_of_several_scripts_are_set_from_several_faces():
    mixed, hebrew, latin = (word_mask(text, HUMANIST, 700, 40.0) for text in ("bus ספר", "ספר", "bus "))
    assert mixed.ink.shape[1] == pytest.approx(hebrew.ink.shape[1] + latin.ink.shape[1], abs=12)
    assert mixed.ink_px == pytest.approx(hebrew.ink_px + latin.ink_px, rel=0.1)
