"""Word placement: checked on pixels that another library drew."""

import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFont

from ypsil.core.cloud import CloudWord, place_words
from ypsil.core.drawing.faces import SANS, face_path

TEXTS = ("library", "books", "hours", "staff", "warm", "reading", "room", "children", "story", "quiet", "bus", "study")
WORDS = [
    CloudWord(f"{text}{part}", 60 / (12 * part + rank + 1)) for part in range(5) for rank, text in enumerate(TEXTS)
]


def ink_of(word, size):
    image = Image.new("L", size, 0)
    font = ImageFont.truetype(str(face_path(SANS, 700)), word.size)
    ImageDraw.Draw(image).text((word.x, word.y), word.text, fill=255, font=font, anchor="ls")
    return np.asarray(image) > 64


@pytest.mark.parametrize("seed", range(1, 13))
@pytest.mark.parametrize("shape", ["rectangle", "ellipse"])
def test_no_two_words_overlap_and_none_leaves_the_plane(seed, shape):
    size = (500, 300)
    layout = place_words(WORDS, *size, family=SANS, seed=seed, shape=shape)
    margin = 40
    total = np.zeros((size[1] + 2 * margin, size[0] + 2 * margin), dtype=int)
    for word in layout.placed:
        moved = type(word)(word.text, word.weight, word.x + margin, word.y + margin, word.size, word.rank)
        total += ink_of(moved, (size[0] + 2 * margin, size[1] + 2 * margin))
    assert total.max() == 1
    assert total[margin:-margin, margin:-margin].sum() == total.sum()
    assert layout.ink == pytest.approx(total.sum() / (size[0] * size[1]), abs=0.03)


def test_the_same_seed_gives_the_same_picture_and_another_seed_another():
    first, again, other = (place_words(WORDS, 500, 300, family=SANS, seed=seed) for seed in (5, 5, 6))
    assert first == again
    assert first != other


def test_the_heaviest_word_is_the_largest_and_stands_in_the_middle():
    layout = place_words(WORDS, 600, 400, family=SANS)
    largest = max(layout.placed, key=lambda word: word.size)
    assert largest.text == WORDS[0].text
    ink = np.argwhere(ink_of(largest, (600, 400)))
    assert ink.mean(axis=0) == pytest.approx([200, 300], abs=40)


def test_areas_follow_weights_above_the_smallest_size():
    placed = place_words([CloudWord("aaa", 16), CloudWord("bbb", 4)], 600, 400, family=SANS).placed
    assert placed[0].size / placed[1].size == pytest.approx(2, rel=0.02)


@pytest.mark.parametrize(("sizing", "ratio"), [("area", 4), ("height", 16), ("log", 17 / 5)])
def test_sizes_follow_counts_as_chosen(sizing, ratio):
    words = [CloudWord("aaa", 2**17 - 1), CloudWord("bbb", 2**13 - 1 if sizing != "log" else 2**5 - 1)]
    placed = place_words(words, 900, 500, family=SANS, sizing=sizing).placed
    assert placed[0].size / placed[1].size == pytest.approx(ratio, rel=0.05)


def test_words_are_kept_between_the_smallest_and_the_largest_size():
    sizes = [word.size for word in place_words(WORDS, 600, 400, family=SANS, smallest=14, largest=30).placed]
    assert (max(sizes), min(sizes)) == (30, 14)
    tight = place_words(WORDS, 120, 60, family=SANS, smallest=20, largest=22)
    assert tight.left_out
    assert {word.size for word in tight.placed} <= {20.0, 20.5, 21.0, 21.5, 22.0}


def test_every_word_is_placed_or_listed_and_none_is_unreadably_small():
    many = [CloudWord(f"word{index}", 300 - index) for index in range(300)]
    layout = place_words(many, 200, 120, family=SANS)
    assert layout.left_out
    assert {word.text for word in layout.placed} | set(layout.left_out) == {word.text for word in many}
    assert min(word.size for word in layout.placed) >= 9


def test_nothing_and_a_word_too_long_for_the_plane_are_no_trouble():
    assert place_words([], 100, 100, family=SANS).placed == ()
    assert place_words([CloudWord("x" * 400, 1)], 100, 60, family=SANS).left_out == ("x" * 400,)


def test_words_that_a_family_lacks_are_placed_too():
    layout = place_words(
        [CloudWord("ספרייה", 3), CloudWord("مكتبة", 2), CloudWord("Łódź", 1)], 400, 200, family="Barlow Condensed"
    )
    assert len(layout.placed) == 3
