"""What words are drawn as: their colours and grounds, groups, rows with numbers, clouds at one scale."""

import re

import pytest

from tests.factories import ask, csv_table
from ypsil.core.cloud import PlacedWord
from ypsil.core.drawing import scene_to_svg
from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.drawing.scene import Path, Rect, Text
from ypsil.core.style import HouseStyle
from ypsil.core.visuals import Box, draw, fit, visual

STYLE, BOX = HouseStyle(), Box(520, 300)
NOTES = csv_table(
    "Id,Age,Note\n"
    + "\n".join(
        f"{number},{'young' if number % 5 < 3 else 'old'},{text}"
        for number, text in enumerate(
            [
                "warm rooms and kind staff",
                "loud rooms",
                "kind staff and kind driver",
                "warm chairs \U0001f44d",
                "loud bus",
            ]
            * 9
        )
    )
)
WORDS = {"measures": [{"stat": "count"}], "per": [{"column": "Note", "by": "word"}]}
SPLIT = WORDS | {"split": {"column": "Age"}}
MARKING = SPLIT | {"order": {"by": "keyness", "descending": True}}
WEIGHTED = csv_table(
    "Word,Points\n" + "\n".join(f"word{letter},{place + 1}" for place, letter in enumerate("abcdefghijklmn"))
)


def drawn(name, question=WORDS, table=NOTES, box=BOX, **options):
    return draw(name, ask(question, table), options, box, STYLE)


def words_in(scene):
    return [shape for shape in scene.shapes if isinstance(shape, Text) and shape.font.weight == 700 and shape.title]


@pytest.mark.parametrize("background", ["none", "pale", "dark"])
@pytest.mark.parametrize("colouring", ["rank", "group", "value", "hue"])
@pytest.mark.parametrize("palette", ["house", "sea", "earth", "berry"])
def test_every_word_can_be_read_on_its_ground(background, colouring, palette):
    scene = drawn("cloud", background=background, colouring=colouring, palette=palette, colours={"kind": 8})
    ground = next((shape.fill for shape in scene.shapes if isinstance(shape, Path | Rect)), STYLE.paper)
    assert (ground != STYLE.paper) == (background != "none")
    # WCAG 2.2, success criterion 1.4.3.
    assert min(contrast_ratio(word.fill, ground) for word in words_in(scene)) >= 4.49


def test_colours_follow_the_count_or_vary_within_one_hue():
    by_value = {word.text: word.fill for word in words_in(drawn("cloud", colouring="value"))}
    contrast = {text: contrast_ratio(fill, STYLE.paper) for text, fill in by_value.items()}
    assert contrast["kind"] > contrast["rooms"] > contrast["bus"]
    shades = {word.fill for word in words_in(drawn("cloud", colouring="hue"))}
    assert len(shades) > 2


def test_words_of_a_split_have_the_colour_of_the_group_that_uses_them_most():
    answer = ask(SPLIT, NOTES)
    counts = {(word, age): count for word, age, count in answer.rows}
    totals = {age: sum(count for (_, one), count in counts.items() if one == age) for age in ("old", "young")}
    scene = drawn("cloud", SPLIT)
    key = {text.text: rect.fill for rect, text in zip(scene.shapes[:4:2], scene.shapes[1:4:2], strict=True)}
    for word in words_in(scene):
        most = max(totals, key=lambda age: counts[word.text, age] / totals[age])
        assert word.fill == key[most], word.text


def test_words_without_letters_are_named_and_nothing_empty_is_drawn():
    for name in ("cloud", "word_line"):
        scene = drawn(name)
        assert "No typeface here has: \U0001f44d" in scene.description
        assert "\U0001f44d" not in [word.text for word in words_in(scene)]
    only = csv_table("Id,Note\n" + "\n".join(f"{number},\U0001f44d" for number in range(30)))
    assert "No typeface here has" in drawn("cloud", table=only).description
    ages = csv_table("Age,Note\n" + "\n".join(f"{'ab'[number % 2]},\U0001f44d" for number in range(30)))
    assert "No typeface" in drawn("compared_clouds", SPLIT, ages).description


def test_rows_from_a_to_z_in_a_cloud():
    scene = drawn("cloud", arrangement="rows", largest=30)
    placed = [PlacedWord(word.text, 1, word.x, word.y, 1, 0) for word in words_in(scene)]
    found = sorted(placed, key=lambda word: (round(word.y), word.x))
    assert [word.text for word in found] == sorted(word.text for word in placed)


def test_a_line_of_words_keeps_the_order_of_the_answer_and_says_each_count():
    scene = drawn("word_line")
    shown = words_in(scene)
    assert [word.text for word in shown] == [row[0] for row in ask(WORDS, NOTES).rows if row[0] != "\U0001f44d"]
    numbers = [shape.text for shape in scene.texts() if shape.text.isdigit()]
    assert numbers == [re.search(r"\d+$", word.title).group() for word in shown]
    named = drawn("word_line", WORDS | {"order": {"by": "name"}}, counts=False)
    assert [word.text for word in words_in(named)] == sorted(word.text for word in words_in(named))
    assert not [shape for shape in named.texts() if shape.text.isdigit()]


def test_clouds_side_by_side_have_one_scale():
    scene = drawn("compared_clouds", SPLIT, box=Box(900, 360))
    part = [(float(re.search(r"([\d.]+) in 100", word.title).group(1)), word.font.size) for word in words_in(scene)]
    # The height of letters follows the square root of the share, as the area follows the share.
    scales = [size / share**0.5 for share, size in part if size > 12]
    assert max(scales) / min(scales) < 1.12
    assert "Equal sizes" in scene.shapes[-1].text
    marking = drawn("compared_clouds", MARKING, box=Box(900, 360))
    assert marking.description.startswith("Word clouds of")
    crowded = drawn("compared_clouds", SPLIT, box=Box(130, 120))
    assert "Without room" in crowded.shapes[-1].text
    assert crowded.hints


def test_a_word_that_keeps_all_others_small_is_named():
    question = {"measures": [{"stat": "sum", "column": "Points"}], "per": [{"column": "Word"}]}
    long = csv_table("Word,Points\nStraßenbahnhaltestellenüberdachung,50\nwarm,9\nquiet,7\nkind,5\n")
    hints = drawn("cloud", question, long).hints
    assert len(hints) == 1
    assert hints[0].startswith("“Straßenbahnhaltestellenüberdachung” is as wide as the cloud")
    assert drawn("cloud", question, WEIGHTED).hints == ()
    assert drawn("cloud", question, long, shape="ellipse", largest=14).hints == ()


def test_words_that_come_with_weights_can_be_a_cloud_but_bars_are_advised():
    question = {"measures": [{"stat": "sum", "column": "Points"}], "per": [{"column": "Word"}]}
    scene = drawn("cloud", question, WEIGHTED)
    sizes = {word.text: word.font.size for word in words_in(scene)}
    assert max(sizes, key=sizes.get) == "wordn"
    assert "14 rows" in scene.description
    given = ask(question, WEIGHTED)
    assert fit(visual("bar"), given).score > fit(visual("cloud"), given).score
    assert "roughly" in fit(visual("cloud"), given).reason


def test_every_drawing_of_words_is_whole_on_a_phone_and_reads_in_svg():
    for name, question in (("cloud", SPLIT), ("word_line", WORDS), ("compared_clouds", MARKING)):
        svg = scene_to_svg(drawn(name, question, box=Box(330, 240)))
        assert svg.startswith("<svg")
        assert "NaN" not in svg


@pytest.mark.parametrize(("name", "question"), [("cloud", WORDS), ("word_line", WORDS), ("compared_clouds", SPLIT)])
def test_words_are_set_in_the_typeface_of_headings_or_of_text(name, question):
    style = HouseStyle(heading_family="Noto Serif", body_family="Barlow Condensed")
    for typeface, family in (("headings", "Noto Serif"), ("text", "Barlow Condensed")):
        scene = draw(name, ask(question, NOTES), {"typeface": typeface}, BOX, style)
        assert {word.font.family for word in words_in(scene)} == {family}
