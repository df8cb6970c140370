"""Diverging bars: parts for and against on two sides of a middle line, as rating scales are shown."""

from __future__ import annotations

from dataclasses import dataclass

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scales import LinearScale
from ypsil.core.drawing.scene import Line, Rect, Scene, Shape
from ypsil.core.drawing.stacks import shares
from ypsil.core.style.house import HouseStyle
from ypsil.core.tables.natural_order import is_beside, middle_of
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.grid import grid_of
from ypsil.core.visuals.shared.horizontal import horizontal_plot
from ypsil.core.visuals.shared.legends import key_of
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.rooms import Room, value_inside
from ypsil.core.visuals.shared.scale_colours import scale_colours
from ypsil.core.visuals.shared.settings import NoteOptions, PartOptions, PatternOptions, setting
from ypsil.core.visuals.shared.stacking import texts_of_parts
from ypsil.core.visuals.shared.summary import describe


class DivergingOptions(PartOptions, PatternOptions, NoteOptions):
    values_on_marks: bool = setting(True, "Values on the marks where they fit", "Marks")


def draw(answer: Answer, options: DivergingOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw each group's series as parts of 100%, the lower half to the left, a middle series across the line."""
    grid = grid_of(answer)
    made = shares([one.values for one in grid.series])
    names = [one.name for one in grid.series]
    colours = scale_colours(names, style)
    sides = _Sides(tuple(place for place, name in enumerate(names) if not is_beside(name)), names)
    spans = [sides.spans([row[index] for row in made]) for index in range(len(grid.names))]
    reach = max([0.1, *(abs(end) for row in spans for span in row if span for end in span)])
    named = list(zip(names, colours, strict=True))
    key, top = key_of(named, box.width, style)
    plot = horizontal_plot(grid, (0, 1), [], box, style, rows=1, head=top, has_legend=False, value_room=False)
    apart = _Apart.of(made, sides, plot.left, box)
    scale = LinearScale((-reach, reach), (plot.left + 4, apart.left - 4))
    written = texts_of_parts(made, options)
    # Behind the bars: it shows between them, and strikes no value through.
    middle = Line(scale(0), plot.top, scale(0), box.height, style.ink, 1)
    shapes: list[Shape] = [*key, *plot.shapes, middle]
    font = style.body(min(12.0, max(9.0, plot.bands.width * 0.7)), bold=True)
    for index, row in enumerate(spans):
        texts = [row_texts[index] for row_texts in written]
        for number, span in enumerate(row):
            if span is None:
                continue
            y = plot.bands.start(index)
            ends = apart if number in sides.beside else scale
            room = Room(ends(span[0]), y, max(ends(span[1]) - ends(span[0]) - 1, 0.5), plot.bands.width)
            title = mark_title(grid.names[index], texts[number], series=grid.series[number].name)
            shapes.append(Rect(room.x, room.y, room.width, room.height, colours[number], title=title))
            if options.values_on_marks:
                shapes += value_inside(texts[number], room, colours[number], font, style)
    said = describe(answer, "Diverging bars")
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, said, nameless=plot.nameless)


@dataclass(frozen=True, slots=True)
class _Sides:
    """Which series are steps of the scale, from the lowest; the others are neither for nor against."""

    steps: tuple[int, ...]
    names: list[str]

    @property
    def beside(self) -> list[int]:
        return [place for place in range(len(self.names)) if place not in self.steps]

    def spans(self, parts: list[float | None]) -> list[tuple[float, float] | None]:
        """Return where each part lies, the scale's neutral point at zero; those beside it start from zero anew."""
        middle = middle_of([self.names[place] for place in self.steps])
        values = [part or 0.0 for part in parts]
        at = -sum(values[place] * min(1.0, max(0.0, middle - rank)) for rank, place in enumerate(self.steps))
        found: dict[int, tuple[float, float]] = {}
        for place in self.steps:
            found[place] = (at, at + values[place])
            at += values[place]
        at = 0.0
        for place in self.beside:
            found[place] = (at, at + values[place])
            at += values[place]
        return [found[place] if parts[place] else None for place in range(len(parts))]


@dataclass(frozen=True, slots=True)
class _Apart:
    """The room at the right for answers beside the scale; called with a share, it tells the place (px)."""

    left: float
    px_a_share: float

    @classmethod
    def of(cls, made: list[list[float | None]], sides: _Sides, left: float, box: Box) -> _Apart:
        widest = max((sum(row[index] or 0.0 for place, row in enumerate(made) if place in sides.beside)
                      for index in range(len(made[0]))), default=0.0) if made else 0.0  # fmt: skip
        if not widest:
            return cls(box.width, 0.0)
        room = (box.width - left) * min(0.3, widest / (1 + widest))
        return cls(box.width - room, room / widest)

    def __call__(self, share: float) -> float:
        return self.left + share * self.px_a_share


VISUAL = Visual(
    name="diverging_bar",
    label="Bars to both sides",
    purposes=("share of a whole", "what people answered"),
    purpose="how many are for and against, on a rating scale",
    needs=Needs(measures=(1, 7), split="any", groups=(1, 40), series=(2, 13), parts=True),
    options=DivergingOptions,
    draw=draw,
    advice=(
        rule(0.2, "time reads from left to right", time=True),
        rule(0.6, "a scale of {series} steps, centred on its middle", series=(3, 7)),
        rule(0.35, "two sides: for and against"),
    ),
)
