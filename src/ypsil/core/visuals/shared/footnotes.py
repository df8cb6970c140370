"""What readers must know, below any drawing: hidden groups, shares that exceed 100%, names that have no room."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Font, Scene, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.figures import DEFAULT_LOCALE, format_number
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box

NOTE_PX = 12.0
_GAP_PX = 6.0
_MOST_LINES = 3
_LEAST_LEFT_PX = 60.0
# What the lines below a drawing take at most.
NOTES_PX = 1.3 * NOTE_PX * _MOST_LINES + _GAP_PX


@dataclass(frozen=True, slots=True)
class Footnotes:
    """The lines below a drawing, and the room that is left above them; none where too little would be left."""

    lines: tuple[str, ...]
    font: Font
    room: Box
    said: str


def footnotes(answer: Answer, box: Box, style: HouseStyle, *more: str) -> Footnotes:
    """Return what stands below the drawing of an answer, ``more`` after it; the description has it in any case."""
    said = " ".join(f"{note}." for note in (*answer.footnotes, *more))
    font = style.body(NOTE_PX)
    lines = tuple(wrap(said, box.width, font, most=_MOST_LINES)) if said else ()
    height = box.height - len(lines) * font.line_height - (_GAP_PX if lines else 0)
    if height < _LEAST_LEFT_PX:
        return Footnotes((), font, box, said)
    return Footnotes(lines, font, replace(box, height=height), said)


def left_out_words(scene: Scene, locale: str = DEFAULT_LOCALE) -> tuple[str, ...]:
    """Return what is said of the names and groups that a drawing leaves out; nothing where all stand there.

    >>> left_out_words(Scene(100, 100, (), nameless=1200))
    ('1,200 names have no room here',)
    """
    found = []
    nameless, undrawn = (format_number(count, locale=locale) for count in (scene.nameless, scene.undrawn))
    if scene.nameless:
        found.append(f"{nameless} {'name has' if scene.nameless == 1 else 'names have'} no room here")
    if scene.undrawn:
        found.append(f"{undrawn} {'is' if scene.undrawn == 1 else 'are'} not drawn for want of a value")
    return tuple(found)


def with_footnotes(scene: Scene, notes: Footnotes, box: Box, style: HouseStyle) -> Scene:
    """Return a drawing with its notes below it and at the end of its description."""
    if not notes.said:
        return scene
    first = box.height - 4 - (len(notes.lines) - 1) * notes.font.line_height
    texts = tuple(
        Text(0, first + place * notes.font.line_height, line, notes.font, style.muted)
        for place, line in enumerate(notes.lines)
    )
    description = f"{scene.description} {notes.said}"
    return replace(scene, height=box.height, shapes=(*scene.shapes, *texts), description=description)
