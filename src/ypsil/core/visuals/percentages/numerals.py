"""Filled numerals: a share as its own digits, filled to that part of their area."""

from __future__ import annotations

from dataclasses import replace

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.contours import level
from ypsil.core.drawing.icons import icon_path, icons
from ypsil.core.drawing.letters import Letters, letters
from ypsil.core.drawing.pictures import is_picture_name, picture
from ypsil.core.drawing.scene import Cover, Motif, Part, Path, Scene, Shape
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Visual, rule
from ypsil.core.visuals.percentages.cells import Form, draw_percentages
from ypsil.core.visuals.percentages.shown import NEEDS, PercentOptions, Shown, colour, shown
from ypsil.core.visuals.shared.icon_names import IconOrPicture
from ypsil.core.visuals.shared.settings import setting

_SIZE_PX = 100.0
_EDGE_PX = 1.5
_MOTIF_SIZE = 0.1


class NumeralOptions(PercentOptions):
    picture: IconOrPicture = setting(
        "",
        "Picture inside the digits",
        "Marks",
        "your own, or an icon again and again",
        shows="picture",
        max_length=80,
    )


def draw(answer: Answer, options: NumeralOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw each share in digits of one size, filled from the bottom by area, with an edge around the rest."""
    found = shown(answer, options)
    font = style.heading(_SIZE_PX)
    widest, highest = (max(_extent(letters(one.text, font), axis) for one in found) for axis in (0, 1))

    def numerals(one: Shown, width: float, height: float) -> list[Shape]:
        size = _SIZE_PX * min((width - 2 * _EDGE_PX) / widest, (height - 2 * _EDGE_PX) / highest)
        outline = letters(one.text, font.sized(round(size, 2)))
        left, _, _, bottom = outline.bounds
        fill = colour(options, style)
        part = Part(level(outline.d, one.share, "up"), style.grid)
        x = (width - _extent(outline, 0)) / 2 - left
        y = height - _EDGE_PX - bottom
        # The edge lies below, so that what overlaps within a letter is covered.
        edge = Path(outline.d, stroke=fill, stroke_width=2 * _EDGE_PX, x=x, y=y)
        if is_picture_name(options.picture):
            covered = Path(outline.d, fill=fill, x=x, y=y, motif=_cover(options.picture, outline))
            veil = Path(outline.d, fill=style.paper, x=x, y=y, part=replace(part, rest=style.paper, is_veil=True))
            return [edge, covered, veil]
        digits: list[Shape] = [edge, Path(outline.d, fill=fill, x=x, y=y, part=part)]
        if options.picture:
            digits.append(Path(outline.d, fill=style.paper, x=x, y=y, motif=_motif(options.picture, size, style)))
        return digits

    return draw_percentages(answer, found, options, box, style, Form(widest / highest), numerals)


def _cover(name: str, outline: Letters) -> Cover:
    """Return a picture that lies behind all the digits of a figure."""
    left, top, right, bottom = outline.bounds
    return Cover(picture(name), left, top, right - left, bottom - top)


def _motif(icon: str, size: float, style: HouseStyle) -> Motif:
    """Return an icon so small that several stand in the stroke of a digit."""
    square = max(6.0, size * _MOTIF_SIZE)
    tall = square * 0.5 / max(1.0, icons()[icon].aspect)
    return Motif(icon, icon_path(icon, 0, 0, tall, style.paper).d, round(square, 2), style.paper)


def _extent(outline: Letters, axis: int) -> float:
    return max(1.0, outline.bounds[axis + 2] - outline.bounds[axis])


VISUAL = Visual(
    name="filled_numerals",
    label="Filled numerals",
    purposes=("share of a whole",),
    purpose="a share as its own digits, filled",
    needs=NEEDS,
    options=NumeralOptions,
    draw=draw,
    advice=(
        rule(0.66, "the number itself, filled to its share", measures=(1, 1), per=(0, 0)),
        rule(0.28, "the numbers themselves, filled to their shares"),
    ),
    is_titled=False,
    default_size=(8, 26),
)
