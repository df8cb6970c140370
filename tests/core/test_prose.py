"""Text with looks, lists and live figures: what it holds, and how it is set."""

import pytest
from pydantic import ValidationError

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Font, Line, Text
from ypsil.core.prose import Block, LiveFigure, Prose, Run, prose_of, simplest
from ypsil.core.prose.model import MOST_LETTERS
from ypsil.core.prose.setting import Manner, fitted, height_of, shapes_of
from ypsil.core.questions.model import Measure, Question
from ypsil.core.style import HouseStyle
from ypsil.core.tiles import TextTile
from ypsil.core.tiles.context import Context
from ypsil.core.visuals import Box

STYLE = HouseStyle()
BODY = Manner(Font("Source Sans 3", 20), STYLE.ink, STYLE)
TOTAL = LiveFigure(table="t", question=Question(measures=(Measure(stat="sum", column="Visits"),)))


def prose(*runs, kind="paragraph", level=0):
    return Prose(blocks=(Block(kind=kind, level=level, runs=tuple(Run(**run) for run in runs)),))


def texts(text, width=400.0, manner=BODY, said=()):
    return [shape for shape in shapes_of(text, said, width, manner) if isinstance(shape, Text)]


class TestWhatItHolds:
    def test_text_without_looks_is_stored_as_its_letters(self):
        tile = TextTile(text={"blocks": [{"runs": [{"text": "One"}, {"text": " line"}]}, {"runs": []}]})
        assert (tile.text, tile.plain) == ("One line\n", "One line\n")
        assert TextTile(text="as ever").text == "as ever"

    def test_neighbours_of_one_look_are_one_run_and_empty_ones_none(self):
        block = Block(
            runs=(Run(text="a", looks=("bold",)), Run(text=""), Run(text="b", looks=("bold",)), Run(text="c"))
        )
        assert [run.text for run in block.runs] == ["ab", "c"]

    def test_figures_say_what_they_are_given_in_reading_order(self):
        text = prose({"text": "From "}, {"figure": TOTAL}, {"text": " to "}, {"figure": TOTAL})
        assert text.plain(("1", "2")) == "From 1 to 2"
        assert text.plain() == "From … to …"

    @pytest.mark.parametrize("link", ["https://example.org/a?b=c", "mailto:a@example.org", "tel:+44", "#b1"])
    def test_links_lead_to_the_web_to_mail_to_a_phone_or_a_band(self, link):
        assert Run(text="x", link=link).link == link

    @pytest.mark.parametrize("link", ["javascript:alert(1)", "data:text/html,x", "//example.org", "a b", 'https://x"y'])
    def test_other_links_are_refused(self, link):
        with pytest.raises(ValidationError, match="a link begins with"):
            Run(text="x", link=link)

    def test_too_much_is_refused_in_words(self):
        with pytest.raises(ValidationError, match="20,000 letters"):
            TextTile(text="x" * (MOST_LETTERS + 1))
        with pytest.raises(ValidationError, match="at most 100 live figures"):
            prose(*({"figure": TOTAL} for _ in range(101)))
        assert len(TextTile(text="x\n" * (MOST_LETTERS // 2)).prose.blocks) == 2_000

    def test_a_live_figure_has_one_value(self):
        two = Question(measures=(Measure(stat="count"), Measure(stat="sum", column="Visits")))
        with pytest.raises(ValidationError, match="one measure"):
            LiveFigure(table="t", question=two)
        with pytest.raises(ValidationError, match="needs a question"):
            LiveFigure(table="t", question=TOTAL.question, take="name")

    def test_a_report_names_the_tables_of_its_figures(self):
        assert [one.table for one in TextTile(text=prose({"figure": TOTAL})).questions()] == ["t"]

    def test_plain_text_and_back(self):
        assert simplest(prose_of("two\n\nlines")) == "two\n\nlines"


class TestHowItIsSet:
    def test_plain_text_is_set_as_before(self):
        shapes = texts(prose_of("Visits rose"))
        assert [(one.x, one.y, one.text, one.font) for one in shapes] == [(0, 20, "Visits rose", BODY.font)]

    def test_looks_change_the_font_the_height_and_the_colour(self):
        text = prose(
            {"text": "a", "looks": ["bold"]}, {"text": "b", "looks": ["italic"]}, {"text": "2", "looks": ["above"]},
            {"text": "c", "colour": "accent"}, {"text": "i", "looks": ["below"]},
        )  # fmt: skip
        bold, italic, raised, coloured, lowered = texts(text)
        assert (bold.font.weight, italic.font.is_italic, coloured.fill) == (700, True, STYLE.accent)
        assert raised.y < bold.y < lowered.y and raised.font.size < bold.font.size

    def test_links_and_underlined_words_have_a_line_below_them(self):
        text = prose(
            {"text": "see "}, {"text": "here", "link": "https://example.org"}, {"text": " now", "looks": ["underline"]}
        )
        rules = [shape for shape in shapes_of(text, (), 400, BODY) if isinstance(shape, Line)]
        linked = next(one for one in texts(text) if one.link)
        assert len(rules) == 2 and rules[0].x1 == linked.x and rules[0].y1 > linked.y

    def test_a_text_begins_with_a_letter_where_its_space_ends(self):
        see, now = texts(prose({"text": "see", "looks": ["bold"]}, {"text": " now "}))
        gap = now.x - text_width("see", see.font)
        assert (now.text, gap) == ("now", pytest.approx(text_width(" ", now.font)))

    def test_items_hang_behind_their_sign_and_numbers_count_on_level_by_level(self):
        items = [("number", 0), ("number", 1), ("number", 1), ("number", 0), ("paragraph", 0), ("number", 0)]
        blocks = tuple(Block(kind=kind, level=level, runs=(Run(text="word " * 12),)) for kind, level in items)
        shapes = texts(Prose(blocks=blocks), width=300)
        signs = [one.text for one in shapes if one.text[0].isdigit()]
        assert signs == ["1.", "1.", "2.", "2.", "1."]
        first = [one for one in shapes if one.y <= 3 * BODY.font.line_height and one.text.startswith("word")]
        assert len({one.x for one in first}) == 1 and first[0].x > shapes[0].x

    def test_lines_stand_in_the_middle_or_at_the_end_and_hebrew_begins_at_the_right(self):
        (middle,) = texts(prose_of("word"), manner=Manner(BODY.font, STYLE.ink, STYLE, "middle"))
        (end,) = texts(prose_of("word"), manner=Manner(BODY.font, STYLE.ink, STYLE, "end"))
        (hebrew,) = texts(prose_of("שלום"))
        assert 0 < middle.x < end.x and hebrew.x > 300

    def test_columns_share_the_lines(self):
        text = prose_of("\n".join("line" for _ in range(7)))
        two = Manner(BODY.font, STYLE.ink, STYLE, columns=2)
        assert height_of(text, (), 400, two) == 4 * BODY.font.line_height
        left, right = (
            sum(one.x == x for one in texts(text, manner=two))
            for x in sorted({one.x for one in texts(text, manner=two)})
        )
        assert (left, right) == (4, 3)

    def test_type_gets_smaller_until_it_fits_and_no_smaller_than_its_least(self):
        text = prose_of("many words " * 30)
        size = fitted(text, (), 300, 200, BODY, 12).font.size
        assert 12 <= size < 20 and height_of(text, (), 300, BODY.sized(size)) <= 200
        assert height_of(text, (), 300, BODY.sized(size + 0.5)) > 200
        assert fitted(prose_of("x " * 5000), (), 300, 20, BODY, 12).font.size == 12

    def test_a_text_that_shrinks_needs_only_the_room_of_its_least_type(self):
        context = Context()
        grows, shrinks = (TextTile(text="many words " * 40, fits=fits).writes(context) for fits in ("grows", "shrinks"))
        assert shrinks.height(300, context) < grows.height(300, context)
        box = Box(300, shrinks.height(300, context))
        assert max(one.y for one in shrinks.scene(box, context).texts()) <= box.height

    def test_no_size_is_below_the_least_of_its_page(self):
        small = TextTile(text="note", role="note", size="smaller").writes(Context()).scene(Box(300, 40), Context())
        assert small.texts()[0].font.size >= 12


def test_a_page_of_many_texts_is_set_once():
    from ypsil.core.prose import setting

    text = prose_of("what is set once stays set " * 4)
    shapes_of(text, (), 321.0, BODY)
    before = setting._shapes.cache_info().hits
    assert shapes_of(text, (), 321.0, BODY) is shapes_of(prose_of("what is set once stays set " * 4), (), 321.0, BODY)
    assert setting._shapes.cache_info().hits == before + 2
