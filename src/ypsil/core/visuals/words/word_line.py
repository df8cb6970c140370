"""Words in a line: read like a text, each as large as it was used, with its number."""

from __future__ import annotations

from dataclasses import replace

from ypsil.core.answers.model import Answer
from ypsil.core.cloud import CloudLayout, CloudStyle, place_rows
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Font, Scene, Shape, Text
from ypsil.core.figures import format_number
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.shared.settings import setting
from ypsil.core.visuals.words.counted import (
    Colours,
    CountedWords,
    WordOptions,
    can_be_set,
    counted_words,
    described,
    drawn_word,
    not_drawn,
    note_height,
    notes_below,
)

_NUMBER_PX, _NUMBER_GAP_PX = 12.0, 4.0


class LineOptions(WordOptions):
    counts: bool = setting(True, "The number beside each word", "Numbers")


def draw(answer: Answer, options: LineOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw the words in the answer's order, row below row, as large as fits."""
    counted = counted_words(answer)
    style = options.in_typeface(style)
    numbers = _numbers(answer, counted, options)
    placed = _placed(counted, numbers, options, box, style)
    notes: list[Text] = []
    if placed.left_out:
        placed = _placed(counted, numbers, options, Box(box.width, box.height - note_height(1, style)), style)
        notes = (
            notes_below(not_drawn(placed.left_out, style), box.width, box.height, 1, style) if placed.left_out else []
        )
    colours = Colours(options, counted, style, style.paper)
    unit = answer.of("measure")[0].unit
    shapes: list[Shape] = []
    for word in placed.placed:
        shapes.append(drawn_word(word, colours.of(word), style, unit, answer.locale))
        if numbers:
            x = word.x + text_width(word.text, style.heading(word.size)) + _NUMBER_GAP_PX
            shapes.append(Text(x, word.y, numbers[word.text], _number_font(style), style.muted))
    hints = (f"{len(placed.left_out)} words find no room: make the tile larger.",) if placed.left_out else ()
    said = described("Words in a line", answer, placed.placed, placed.left_out, style)
    return Scene(box.width, box.height, (*shapes, *notes), answer.sentence, said, hints)


def _number_font(style: HouseStyle) -> Font:
    return style.body(_NUMBER_PX)


def _numbers(answer: Answer, counted: CountedWords, options: LineOptions) -> dict[str, str]:
    unit = answer.of("measure")[0].unit
    if not options.counts:
        return {}
    return {word.text: format_number(word.weight, unit=unit, locale=answer.locale) for word in counted.words}


def _placed(
    counted: CountedWords, numbers: dict[str, str], options: LineOptions, box: Box, style: HouseStyle
) -> CloudLayout:
    font = _number_font(style)
    words = [word for word in counted.words if can_be_set(word.text, style)]
    tails = [2 * _NUMBER_GAP_PX + text_width(numbers[word.text], font) if numbers else 0.0 for word in words]
    set_in = CloudStyle(
        style.heading_family,
        sizing=options.sizing,
        smallest=options.smallest,
        largest=options.largest,
        air=2,
    )
    placed = place_rows(words, box.width, box.height, set_in, as_given=True, tails=tails, middle=False)
    unset = (word.text for word in counted.words if word not in words)
    return replace(placed, left_out=(*placed.left_out, *unset))


VISUAL = Visual(
    name="word_line",
    label="Words in a line",
    purposes=("what people say",),
    purpose="words in their order, sizes and numbers for how often they were used",
    needs=Needs(dates="never", classes="never", groups=(1, 200), negative=False),
    options=LineOptions,
    draw=draw,
    advice=(
        rule(0.66, "{groups} words in order, with their numbers", words=True, groups=(8, MANY)),
        rule(0.4, "few words: bars are clearer", words=True),
        rule(0.08, "for words with weights"),
    ),
    default_size=(16, 36),
)
