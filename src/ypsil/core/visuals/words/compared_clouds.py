"""Clouds side by side: the words of each group in a cloud of its own, all at one scale."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ypsil.core.answers.model import Answer
from ypsil.core.cloud import CloudLayout, CloudWord, place_words
from ypsil.core.drawing.scene import Mark, Scene, Shape, Text
from ypsil.core.drawing.wrap import shorten
from ypsil.core.figures import format_number
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.rooms import message_scene
from ypsil.core.visuals.shared.summary import group_name
from ypsil.core.visuals.words.cloud import ShapedOptions
from ypsil.core.visuals.words.counted import (
    Colours,
    CountedWords,
    can_be_set,
    drawn_word,
    named,
    note_height,
    notes_below,
)

_GAP_PX = 28.0
_HEAD_PX = 40.0
_NARROW_PX = 560.0
_ACROSS = 3
_PER = 100


class ComparedOptions(ShapedOptions):
    """Clouds of several groups."""


@dataclass(frozen=True, slots=True)
class _Panel:
    """A group, how many of its answers there are, where that is known, and its words by their use in a hundred."""

    name: str
    base: int
    words: tuple[CloudWord, ...]


def draw(answer: Answer, options: ComparedOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw a cloud for each group; the same share of a group's answers has the same size everywhere."""
    style = options.in_typeface(style)
    panels = _panels(answer, style)
    if not panels:
        return message_scene("No typeface here has the letters of these words.", box, style, answer.sentence)
    across = min(_ACROSS if box.width >= _NARROW_PX else 1, len(panels))
    down = -(-len(panels) // across)
    width = (box.width - (across - 1) * _GAP_PX) / across
    height = (box.height - note_height(1, style)) / down
    room = Box(width, max(1.0, height - _HEAD_PX - 8))
    layouts = _at_one_scale(panels, options, room, style)
    shapes: list[Shape] = []
    for place, (panel, placed) in enumerate(zip(panels, layouts, strict=True)):
        row, column = divmod(place, across)
        drawn = _panel(panel, placed, place, options, room, style, answer.locale)
        shapes += [shape.moved(column * (width + _GAP_PX), row * height) for shape in drawn]
    missing = [
        f"{panel.name}: {', '.join(one.left_out)}" for panel, one in zip(panels, layouts, strict=True) if one.left_out
    ]
    of_answers = all(panel.base for panel in panels)
    whole = "a group's answers" if of_answers else "what a group wrote of these words"
    said = f"Without room: {'; '.join(missing)}" if missing else f"Equal sizes stand for equal shares of {whole}"
    shapes += notes_below(said, box.width, box.height, 1, style)
    hints = ("Some words find no room: make the tile larger, or ask for fewer words.",) if missing else ()
    described = ". ".join(f"{one.name}: {', '.join(word.text for word in one.words[:5])}" for one in panels)
    base = format_number(answer.base, locale=answer.locale)
    description = f"Word clouds of {len(panels)} groups, from {base} answers. {described}."
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, description, hints)


def _panels(answer: Answer, style: HouseStyle) -> list[_Panel]:
    per, split, measure = answer.of("per")[0], answer.of("split")[0], answer.of("measure")[0]
    bases = answer.bases_of(measure) or [0] * answer.height
    rows = zip(answer.values(per), answer.values(split), answer.values(measure), bases, strict=True)
    found: dict[str, tuple[int, list[tuple[str, float]]]] = {}
    for word, member, count, base in rows:
        name = named(group_name(member, split), split.name)
        found.setdefault(name, (base, []))[1].append((str(word), float(count or 0)))
    panels = []
    for place, (name, (base, counts)) in enumerate(found.items()):
        # Without the answers of each group, its words are measured against each other.
        whole = (
            base if base and measure.unit != "%" else 1 if measure.unit == "%" else sum(count for _, count in counts)
        )
        words = [
            CloudWord(word, _PER * count / (whole or 1), place)
            for word, count in counts
            if count > 0 and can_be_set(word, style)
        ]
        panels.append(_Panel(name, base, tuple(sorted(words, key=lambda word: (-word.weight, word.text)))))
    return [panel for panel in panels if panel.words]


def _at_one_scale(panels: list[_Panel], options: ComparedOptions, room: Box, style: HouseStyle) -> list[CloudLayout]:
    """Place the words of each panel, none larger than its weight allows in the panel with least room."""
    set_in = options.style(style.heading_family)
    power = 0.5 if set_in.sizing == "area" else 1.0

    def part(panel: _Panel) -> float:
        highest = max(one.words[0].weight for one in panels)
        return 1.0 if set_in.sizing == "log" else float((panel.words[0].weight / highest) ** power)

    def placed(panel: _Panel, largest: float | None) -> CloudLayout:
        style_of_panel = replace(set_in, largest=largest)
        return place_words(panel.words, room.width, room.height, style_of_panel, seed=options.seed)

    first = [placed(panel, options.largest) for panel in panels]
    tops = [max((word.size for word in one.placed), default=set_in.smallest) for one in first]
    scale = min(top / part(panel) for panel, top in zip(panels, tops, strict=True))
    return [
        one if top <= scale * part(panel) + 0.5 else placed(panel, max(set_in.smallest, scale * part(panel)))
        for panel, one, top in zip(panels, first, tops, strict=True)
    ]


def _panel(
    panel: _Panel,
    placed: CloudLayout,
    place: int,
    options: ComparedOptions,
    room: Box,
    style: HouseStyle,
    locale: str,
) -> list[Shape]:
    heading, small = style.body(15, bold=True), style.body(12)
    counted = CountedWords(panel.words, (panel.name,))
    colours = Colours(options, counted, style, options.ground(style))
    shapes: list[Shape] = [Text(0, 15, shorten(panel.name, room.width, heading), heading, style.ink)]
    if panel.base:
        said = f"{format_number(panel.base, locale=locale)} answer{'s' if panel.base != 1 else ''}"
        shapes.append(Text(0, 31, said, small, style.muted))
    shapes += [shape.moved(0, _HEAD_PX) for shape in options.edge(room.width, room.height, style)]
    for word in placed.placed:
        text = drawn_word(word, colours.of(word), style).moved(0, _HEAD_PX)
        often = f"{format_number(word.weight, decimals=1, locale=locale)} in 100"
        text.title = Mark(f"{word.text}, {panel.name}: {often}", word.text, panel.name)
        shapes.append(text)
    return shapes


VISUAL = Visual(
    name="compared_clouds",
    label="Clouds side by side",
    purposes=("what people say",),
    purpose="the words of each group in a cloud of its own",
    needs=Needs(words="needed", split="needed", series=(1, 6), groups=(1, 400)),
    options=ComparedOptions,
    draw=draw,
    advice=(
        rule(0.7, "the words that mark each group, at a glance; bars compare them exactly", marking=True),
        rule(0.5, "the words of each group, at a glance"),
    ),
    default_size=(24, 44),
)
