"""Word cloud: words sized by how often they were used, the biggest in the middle."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field

from ypsil.core.cloud import SMALLEST_PX, CloudLayout, CloudWord, Sizing, place_words
from ypsil.core.drawing.scene import Font, Scene, Text
from ypsil.core.figures import format_number
from ypsil.core.questions.model import Answer
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import MANY, Box, Needs, Visual, rule
from ypsil.core.visuals.settings import PaletteOptions, setting

_SIZINGS = {"area": "the area follows it", "height": "the height follows it", "log": "evened out"}


class CloudOptions(PaletteOptions):
    colours: dict[str, Annotated[int, Field(ge=1, le=8)]] = Field(
        {},
        max_length=400,
        description="words with a colour of the palette that is theirs, 1 to 8",
        json_schema_extra={"hidden": True},
    )
    seed: int = Field(1, ge=1, le=9999, title="Arrangement", description="the same number gives the same picture")
    shape: Literal["rectangle", "ellipse"] = Field("rectangle", title="Shape")
    sizing: Sizing = setting("area", "Size by count", "Marks", choices=_SIZINGS)
    smallest: float = setting(SMALLEST_PX, "Smallest words (px)", "Marks", ge=SMALLEST_PX, le=40)
    largest: float | None = setting(None, "Largest word (px)", "Marks", "where it is left empty, as large as fits",
                                    ge=SMALLEST_PX, le=400)  # fmt: skip


def layout(answer: Answer, options: CloudOptions, box: Box, style: HouseStyle) -> CloudLayout:
    """Place the words of an answer; each has a weight above zero."""
    column, per = answer.of("measure")[0], answer.of("per")[0]
    words = [
        CloudWord(str(word), float(count))
        for word, count in zip(answer.values(per), answer.values(column), strict=True)
        if isinstance(count, int | float) and count > 0
    ]
    return place_words(
        words,
        box.width,
        box.height,
        family=style.heading_family,
        seed=options.seed,
        shape=options.shape,
        sizing=options.sizing,
        smallest=options.smallest,
        largest=options.largest,
    )


def draw(answer: Answer, options: CloudOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw the placed words; those that did not fit are listed in the description."""
    return cloud_scene(layout(answer, options, box, style), answer, box, style, options.colours)


def cloud_scene(
    placed: CloudLayout, answer: Answer, box: Box, style: HouseStyle, colours: Mapping[str, int] | None = None
) -> Scene:
    """Return the scene of a layout; ``colours`` has the words whose colour of the palette (from 1) is their own."""
    own = colours or {}
    shapes = tuple(
        Text(
            word.x,
            word.y,
            word.text,
            Font(style.heading_family, word.size, 700),
            style.colour(own.get(word.text, word.rank % 4 + 1) - 1),
            title=f"{word.text}: {format_number(word.weight)}",
        )
        for word in placed.placed
    )
    return Scene(box.width, box.height, shapes, answer.sentence, _description(answer, placed))


def _description(answer: Answer, placed: CloudLayout) -> str:
    first = ", ".join(f"{word.text} ({format_number(word.weight)})" for word in placed.placed[:5])
    text = f"Word cloud of {len(placed.placed)} words from {format_number(answer.base)} answers. Most used: {first}."
    if placed.left_out:
        text += f" Without room: {', '.join(placed.left_out)}."
    return text


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
