"""Star rating: a mean on a scale from 0 or 1 to a few, as that many stars, the last one filled in part."""

from __future__ import annotations

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.contours import level
from ypsil.core.drawing.icons import icon_path, icons
from ypsil.core.drawing.scene import Part, Scene, Shape
from ypsil.core.figures import format_number
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.percentages.cells import Form, draw_percentages
from ypsil.core.visuals.percentages.shown import SampledOptions, Shown, colour, each_shown
from ypsil.core.visuals.shared.icon_names import IconName
from ypsil.core.visuals.shared.rooms import message_scene
from ypsil.core.visuals.shared.settings import setting

_GAP = 0.12


class StarsOptions(SampledOptions):
    icon: IconName = setting("star", "Icon", "Marks", shows="icon", max_length=60)
    out_of: int = setting(5, "How many stars", "Numbers", "the highest rating", ge=3, le=10)


def draw(answer: Answer, options: StarsOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw each mean as stars filled by their area; a value beyond the stars is refused."""
    found = each_shown(answer, options, lambda value: f"{_number(value, options)} of {options.out_of}")
    beyond = next((one for one in found if one.value is not None and not 0 <= one.value <= options.out_of), None)
    if beyond is not None:
        said = f"{_number(beyond.value or 0, options)} does not fit on {options.out_of} stars; set how many there are."
        return message_scene(said, box, style, answer.sentence)
    step = icons()[options.icon].aspect + _GAP

    def stars(one: Shown, width: float, height: float) -> list[Shape]:
        shapes: list[Shape] = []
        for place in range(options.out_of):
            part = min(1.0, max(0.0, round((one.value or 0.0) - place, 6)))
            fill = colour(options, style) if part > 0 else style.quiet
            shape = icon_path(options.icon, place * step * height, 0, height, fill)
            if 0 < part < 1:
                shape.part = Part(level(shape.d, part, "right"), style.quiet, "right")
            shapes.append(shape)
        return shapes

    form = Form(options.out_of * step - _GAP, is_wide=True, figure_above=True, fills_a_whole=False)
    return draw_percentages(answer, found, options, box, style, form, stars)


def _number(value: float, options: StarsOptions) -> str:
    places = 1 if options.decimals is None else options.decimals
    return format_number(value, decimals=places, locale=options.in_locale)


VISUAL = Visual(
    name="stars",
    label="Stars",
    purposes=("how much", "what people answered"),
    purpose="a mean rating as stars",
    needs=Needs(measures=(1, 8), per=(0, 1), groups=(1, 8), negative=False, ratings=True),
    options=StarsOptions,
    draw=draw,
    advice=(
        rule(0.5, "a mean rating, as readers know it", measures=(1, 1), per=(0, 0)),
        rule(0.35, "mean ratings, as readers know them"),
    ),
    is_titled=False,
    default_size=(8, 18),
)
