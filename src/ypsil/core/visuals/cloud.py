"""Word cloud: words sized by how often they were used, the biggest in the middle of a shape."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from ypsil.core.cloud import (
    PLAIN_SHAPES,
    SMALLEST_PX,
    CloudLayout,
    CloudStyle,
    CloudWord,
    Directions,
    PlacedWord,
    Sizing,
    outline_of,
    place_words,
)
from ypsil.core.drawing.scene import Font, Path, Scene, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.figures import format_number
from ypsil.core.questions.model import Answer
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.percentages.icon import icon_or_picture
from ypsil.core.visuals.settings import PaletteOptions, setting

_SIZINGS = {"area": "the area follows it", "height": "the height follows it", "log": "evened out"}
_DIRECTIONS = {
    "level": "level",
    "mostly level": "mostly level",
    "level and upright": "level and upright",
    "any": "any, within bounds",
}
# Cells of 2 px.
_AIR = {"tight": 1, "usual": 2, "airy": 4}
_COLOURS = 4
_NOTE_PX = 12.0
_NOTE_LINES = 2
_SMALL_PX = 22.0
_NAMED = 12


def _is_shape(name: str) -> str:
    return name if name in PLAIN_SHAPES else icon_or_picture(name)


class CloudOptions(PaletteOptions):
    colours: dict[str, Annotated[int, Field(ge=1, le=8)]] = Field(
        {},
        max_length=400,
        description="words with a colour of the palette that is theirs, 1 to 8",
        json_schema_extra={"hidden": True},
    )
    seed: int = Field(1, ge=1, le=9999, title="Arrangement", description="the same number gives the same picture")
    shape: Annotated[str, AfterValidator(_is_shape)] = setting(
        "rectangle", "Shape", "Marks", "bold ones hold larger words", shows="shape", max_length=80
    )
    outline: bool = setting(False, "Outline of the shape", "Marks")
    directions: Directions = setting("level", "Direction of words", "Marks", choices=_DIRECTIONS)
    most_turned: int = setting(30, "Turned at most (degrees)", "Marks", "for any direction", ge=5, le=90)
    air: Literal["tight", "usual", "airy"] = setting("usual", "Air between words", "Marks")
    repeat: bool = setting(False, "Repeat words until the shape is full", "Marks")
    sizing: Sizing = setting("area", "Size by count", "Marks", choices=_SIZINGS)
    smallest: float = setting(SMALLEST_PX, "Smallest words (px)", "Marks", ge=SMALLEST_PX, le=40)
    largest: float | None = setting(
        None, "Largest word (px)", "Marks", "where it is left empty, as large as fits", ge=SMALLEST_PX, le=400
    )

    def style(self, family: str) -> CloudStyle:
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
            repeat=self.repeat,
        )


def layout(answer: Answer, options: CloudOptions, box: Box, style: HouseStyle) -> CloudLayout:
    """Place the words of an answer; each has a weight above zero."""
    column, per = answer.of("measure")[0], answer.of("per")[0]
    words = [
        CloudWord(str(word), float(count))
        for word, count in zip(answer.values(per), answer.values(column), strict=True)
        if isinstance(count, int | float) and count > 0
    ]
    return place_words(words, box.width, box.height, options.style(style.heading_family), seed=options.seed)


def draw(answer: Answer, options: CloudOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw the placed words; those that found no room are named below them."""
    placed = layout(answer, options, box, style)
    if not placed.left_out:
        return cloud_scene(placed, answer, options, box, style)
    font = style.body(_NOTE_PX)
    room = Box(box.width, max(1.0, box.height - (_NOTE_LINES + 0.5) * font.line_height))
    placed = layout(answer, options, room, style)
    lines = wrap(_without_room(placed), box.width, font, most=_NOTE_LINES) if placed.left_out else []
    top = box.height - len(lines) * font.line_height + font.size
    notes = [Text(0, top + row * font.line_height, line, font, style.muted) for row, line in enumerate(lines)]
    scene = cloud_scene(placed, answer, options, room, style)
    return Scene(box.width, box.height, (*scene.shapes, *notes), scene.name, scene.description, scene.hints)


def cloud_scene(placed: CloudLayout, answer: Answer, options: CloudOptions, box: Box, style: HouseStyle) -> Scene:
    """Return the scene of a layout."""
    edge: list[Shape] = []
    if options.outline and (d := outline_of(options.shape, box.width, box.height)):
        edge = [Path(d, stroke=style.grid, stroke_width=1.5)]
    words = [_word(word, options, style) for word in placed.placed]
    return Scene(
        box.width, box.height, (*edge, *words), answer.sentence, _description(answer, placed), _hints(placed, options)
    )


def _word(word: PlacedWord, options: CloudOptions, style: HouseStyle) -> Text:
    # Only once is a word a mark that readers reach.
    title = "" if word.is_repeat else f"{word.text}: {format_number(word.weight)}"
    fill = style.colour(options.colours.get(word.text, word.rank % _COLOURS + 1) - 1)
    font = Font(style.heading_family, word.size, 700)
    return Text(word.x, word.y, word.text, font, fill, title=title, angle=word.angle)


def _description(answer: Answer, placed: CloudLayout) -> str:
    words = [word for word in placed.placed if not word.is_repeat]
    first = ", ".join(f"{word.text} ({format_number(word.weight)})" for word in words[:5])
    text = f"Word cloud of {len(words)} words from {format_number(answer.base)} answers. Most used: {first}."
    if placed.left_out:
        text += f" Without room: {', '.join(placed.left_out)}."
    return text


def _without_room(placed: CloudLayout) -> str:
    named = ", ".join(placed.left_out[:_NAMED])
    more = len(placed.left_out) - _NAMED
    return f"Without room: {named}" + (f" and {more} more" if more > 0 else "")


def _hints(placed: CloudLayout, options: CloudOptions) -> tuple[str, ...]:
    largest = max((word.size for word in placed.placed), default=0.0)
    is_thin = options.shape not in PLAIN_SHAPES and options.largest is None and largest < _SMALL_PX
    found = []
    if is_thin:
        found.append(f"This shape is thin, so even the largest word has only {largest:g} px; a bolder one holds more.")
    if placed.left_out:
        found.append(
            f"{len(placed.left_out)} words find no room: make the tile larger, ask for fewer words, or even out sizes."
        )
    return tuple(found)


VISUAL = Visual(
    name="cloud",
    label="Word cloud",
    purposes=("what people say",),
    purpose="the words people used, at a glance",
    needs=Needs(words="needed", groups=(1, 400)),
    options=CloudOptions,
    draw=draw,
    advice=(
        rule(0.9, "{groups} words at a glance", groups=(15, MANY)),
        rule(0.5, "few words: bars are clearer"),
    ),
    default_size=(12, 48),
)
