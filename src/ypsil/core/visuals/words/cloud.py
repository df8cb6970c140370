"""Word cloud: words sized by how often they were used, the biggest in the middle of a shape."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

from pydantic import AfterValidator, Field, ValidationInfo

from ypsil.core.answers.model import Answer
from ypsil.core.cloud import (
    PLAIN_SHAPES,
    CloudLayout,
    CloudStyle,
    Directions,
    outline_of,
    place_rows,
    place_words,
)
from ypsil.core.drawing.colour import mix
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Font, Path, Rect, Scene, Shape
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.shared.icon_names import icon_or_picture
from ypsil.core.visuals.shared.legends import key_of
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

_DIRECTIONS = {
    "level": "level",
    "mostly level": "mostly level",
    "level and upright": "level and upright",
    "any": "any, within bounds",
}
_ARRANGEMENTS = {
    "middle": "the biggest in the middle",
    "colours": "those of one colour together",
    "rows": "rows from A to Z",
}
_BACKGROUNDS = {"none": "none", "pale": "pale", "dark": "dark"}
# Cells of 2 px.
# A cloud with less ink than this part of it, and a word wider than this, is held small by that word.
_MOSTLY_EMPTY, _WIDE = 0.15, 0.85
_AIR = {"tight": 1, "usual": 2, "airy": 4}
_PALE = 0.08
_NOTE_LINES = 2
_SMALL_PX = 22.0
_KEY_GAP_PX = 8.0


def _is_shape(name: str, info: ValidationInfo) -> str:
    return name if name in PLAIN_SHAPES else icon_or_picture(name, info)


class ShapedOptions(WordOptions):
    """How words are placed in a shape."""

    seed: int = Field(1, ge=1, le=9999, title="Arrangement", description="the same number gives the same picture")
    shape: Annotated[str, AfterValidator(_is_shape)] = setting(
        "rectangle", "Shape", "Marks", "bold ones hold larger words", shows="shape", max_length=80
    )
    outline: bool = setting(False, "Outline of the shape", "Marks")
    directions: Directions = setting("level", "Direction of words", "Marks", choices=_DIRECTIONS)
    most_turned: int = setting(30, "Turned at most (degrees)", "Marks", "for any direction", ge=5, le=90)
    air: Literal["tight", "usual", "airy"] = setting("usual", "Air between words", "Marks")
    background: Literal["none", "pale", "dark"] = setting("none", "Background", "Colours", choices=_BACKGROUNDS)

    def style(self, family: str, *, together: bool = False, repeat: bool = False) -> CloudStyle:
        """Return how words of a family are set."""
        return CloudStyle(
            family,
            shape=self.shape,
            sizing=self.sizing,
            smallest=self.smallest,
            largest=self.largest,
            directions=self.directions,
            most_turned=self.most_turned,
            air=_AIR[self.air],
            repeat=repeat,
            together=together,
            framed=self.outline or self.background != "none",
        )

    def ground(self, style: HouseStyle) -> str:
        """Return the colour that words stand on."""
        grounds = {"none": style.paper, "pale": mix(style.paper, style.accent, _PALE), "dark": style.ink}
        return grounds[self.background]

    def edge(self, width: float, height: float, style: HouseStyle) -> list[Shape]:
        """Return the ground and the outline of the shape, where they are wanted and the shape has some."""
        d = outline_of(self.shape, width, height)
        fill = self.ground(style) if self.background != "none" else "none"
        stroke = style.grid if self.outline and d else "none"
        if not d and fill != "none":
            # A picture fills its plane.
            return [Rect(0, 0, width, height, fill)]
        return [Path(d, fill, stroke, 1.5)] if fill != "none" or stroke != "none" else []


class CloudOptions(ShapedOptions):
    arrangement: Literal["middle", "colours", "rows"] = setting(
        "middle", "Order of words", "Marks", choices=_ARRANGEMENTS
    )
    repeat: bool = setting(False, "Repeat words until the shape is full", "Marks")


def layout(answer: Answer, options: CloudOptions, box: Box, style: HouseStyle) -> CloudLayout:
    """Place the words of an answer; each has a weight above zero."""
    return _placed(counted_words(answer), options, box, options.in_typeface(style))


def _placed(counted: CountedWords, options: CloudOptions, box: Box, style: HouseStyle) -> CloudLayout:
    together = options.arrangement == "colours"
    colours = Colours(options, counted, style, options.ground(style))
    every = colours.gathered(counted.words) if together else list(counted.words)
    words = [word for word in every if can_be_set(word.text, style)]
    unset = tuple(word.text for word in every if not can_be_set(word.text, style))
    set_in = options.style(style.heading_family, together=together, repeat=options.repeat)
    if options.arrangement == "rows":
        placed = place_rows(words, box.width, box.height, set_in)
    else:
        placed = place_words(words, box.width, box.height, set_in, seed=options.seed)
    return replace(placed, left_out=(*placed.left_out, *unset))


def draw(answer: Answer, options: CloudOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw the placed words, what their colours mean, and below them the names of those that found no room."""
    counted = counted_words(answer)
    style = options.in_typeface(style)
    colours = Colours(options, counted, style, options.ground(style))
    key: list[Shape] = []
    height = 0.0
    if counted.groups and colours.is_by_group:
        entries = [(group, style.colour(place)) for place, group in enumerate(counted.groups)]
        key, height = key_of(entries, box.width, style)
        height += _KEY_GAP_PX
    room = Box(box.width, max(1.0, box.height - height))
    placed = _placed(counted, options, room, style)
    notes: list[Shape] = []
    if placed.left_out:
        room = Box(box.width, max(1.0, room.height - note_height(_NOTE_LINES, style)))
        placed = _placed(counted, options, room, style)
        notes = [*notes_below(not_drawn(placed.left_out, style), box.width, box.height, _NOTE_LINES, style)]
    scene = cloud_scene(placed, answer, options, room, style)
    moved = [shape.moved(0, height) for shape in scene.shapes]
    notes = notes if placed.left_out else []
    return Scene(box.width, box.height, (*key, *moved, *notes), scene.name, scene.description, scene.hints)


def cloud_scene(placed: CloudLayout, answer: Answer, options: CloudOptions, box: Box, style: HouseStyle) -> Scene:
    """Return the scene of a layout."""
    style = options.in_typeface(style)
    colours = Colours(options, counted_words(answer), style, options.ground(style))
    unit = answer.of("measure")[0].unit
    words = [drawn_word(word, colours.of(word), style, unit, answer.locale) for word in placed.placed]
    return Scene(
        box.width,
        box.height,
        (*options.edge(box.width, box.height, style), *words),
        answer.sentence,
        described("Word cloud", answer, placed.placed, placed.left_out, style),
        _hints(placed, options, box, style),
    )


def _hints(placed: CloudLayout, options: CloudOptions, box: Box, style: HouseStyle) -> tuple[str, ...]:
    largest = max((word.size for word in placed.placed), default=0.0)
    is_thin = options.shape not in PLAIN_SHAPES and options.largest is None and largest < _SMALL_PX
    found = []
    if is_thin:
        found.append(f"This shape is thin, so even the largest word has only {largest:g} px; a bolder one holds more.")
    widest = max(placed.placed, key=lambda word: word.size * len(word.text), default=None)
    if widest is not None and options.shape == "rectangle" and placed.ink < _MOSTLY_EMPTY and not options.largest:
        font = Font(style.heading_family, widest.size, 700)
        if text_width(widest.text, font) > _WIDE * box.width:
            found.append(
                f"“{widest.text}” is as wide as the cloud, which keeps all words small: even out sizes, let words "
                "stand upright, or leave it out."
            )
    crowded = [text for text in placed.left_out if can_be_set(text, style)]
    if crowded:
        found.append(
            f"{len(crowded)} words find no room: make the tile larger, ask for fewer words, or even out sizes."
        )
    return tuple(found)


VISUAL = Visual(
    name="cloud",
    label="Word cloud",
    purposes=("what people say",),
    purpose="the words people used, at a glance; bars show them exactly",
    needs=Needs(words="any", dates="never", split="any", series=(1, 6), groups=(1, 400), classes="never",
                negative=False),
    options=CloudOptions,
    draw=draw,
    advice=(
        rule(0.62, "words at a glance, in the colours of their groups", words=True, split=True, groups=(15, MANY)),
        rule(0.3, "few words: bars are clearer", words=True, split=True),
        rule(0.9, "{groups} words at a glance; areas are compared only roughly", words=True, groups=(15, MANY)),
        rule(0.5, "few words: bars are clearer", words=True),
        rule(0.12, "areas are compared only roughly; for words with weights, to be seen at a glance"),
    ),
    default_size=(12, 48),
)  # fmt: skip
