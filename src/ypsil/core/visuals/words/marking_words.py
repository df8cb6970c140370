"""Words that mark groups: side by side, each group's own words, beside how often the others use them."""

from __future__ import annotations

from dataclasses import dataclass

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Line, Mark, Rect, Scene, Shape, Text
from ypsil.core.drawing.wrap import shorten
from ypsil.core.figures import format_number
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.horizontal import SMALLEST_PX
from ypsil.core.visuals.shared.settings import PaletteOptions, PatternOptions, setting
from ypsil.core.visuals.shared.summary import group_name
from ypsil.core.visuals.words.counted import named

_ACROSS = 3
_GAP_PX = 28.0
_ROW_PX = (17.0, 34.0)
_HEAD_PX = 40.0
_KEY_PX = 20.0
_PER = 100
_MOST_TIMES = 99


class MarkingOptions(PaletteOptions, PatternOptions):
    times: bool = setting(True, "How many times as often", "Numbers")


@dataclass(frozen=True, slots=True)
class _Mark:
    """A word of a group: how often in a hundred of its answers it stands there, and how often elsewhere."""

    word: str
    count: float
    here: float
    elsewhere: float
    locale: str

    def written(self, value: float, decimals: int = 0) -> str:
        return format_number(value, decimals=decimals, locale=self.locale)

    @property
    def times(self) -> str:
        """How many times as often it stands here."""
        if not self.elsewhere:
            return "only here"
        times = self.here / self.elsewhere
        return f"over {_MOST_TIMES}×" if times > _MOST_TIMES else f"{self.written(times, int(times < 10))}×"


def draw(answer: Answer, options: MarkingOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw a panel for each group: its words with bars as long as their use, and a tick at their use elsewhere."""
    panels = _panels(answer)
    across = min(_ACROSS if box.width >= 560 else 1, len(panels))
    down = -(-len(panels) // across)
    width = (box.width - (across - 1) * _GAP_PX) / across
    height = (box.height - _KEY_PX) / down
    most = max(len(marks) for _, _, marks in panels)
    step = min(_ROW_PX[1], max(_ROW_PX[0], (height - _HEAD_PX - 8) / max(1, most)))
    highest = max(max(mark.here, mark.elsewhere) for _, _, marks in panels for mark in marks)
    shapes: list[Shape] = []
    for place, (name, base, marks) in enumerate(panels):
        row, column = divmod(place, across)
        panel = _panel(name, base, marks, place, width, height, step, highest, options, style)
        shapes += [shape.moved(column * (width + _GAP_PX), row * height) for shape in panel]
    shapes += _key(box, style)
    return Scene(box.width, box.height, tuple(shapes), answer.sentence, _description(answer, panels))


def _panels(answer: Answer) -> list[tuple[str, int, list[_Mark]]]:
    """Return each group with its answers and the words that mark it."""
    per, split, measure = answer.of("per")[0], answer.of("split")[0], answer.of("measure")[0]
    bases = answer.bases_of(measure) or [0] * answer.height
    elsewhere = answer.exactness_of(measure, "elsewhere")
    found: dict[str, tuple[str, int, list[_Mark]]] = {}
    for word, group, count, base, away in zip(
        answer.values(per), answer.values(split), answer.values(measure), bases, elsewhere, strict=True
    ):
        name = named(group_name(group, split), split.name)
        mark = _Mark(str(word), float(count), _PER * float(count) / max(1, base), away or 0.0, measure.locale)
        found.setdefault(name, (name, base, []))[2].append(mark)
    return list(found.values())


def _panel(
    name: str,
    base: int,
    marks: list[_Mark],
    place: int,
    width: float,
    height: float,
    step: float,
    highest: float,
    options: MarkingOptions,
    style: HouseStyle,
) -> list[Shape]:
    heading, small = style.body(15, bold=True), style.body(12)
    font = style.body(min(14.0, max(SMALLEST_PX, step * 0.62)))
    fitting = max(1, int((height - _HEAD_PX) // step))
    shown = marks if len(marks) <= fitting else marks[: max(1, fitting - 1)]
    names = min(0.45 * width, max(text_width(mark.word, font) for mark in shown) + 10)
    ends = max(text_width(mark.times, small) for mark in shown) + 10 if options.times else 0.0
    reach = max(10.0, width - names - ends)
    answers = f"{format_number(base, locale=marks[0].locale)} answer{'s' if base != 1 else ''}"
    shapes: list[Shape] = [
        Text(0, 15, shorten(name, width, heading), heading, style.ink),
        Text(0, 31, answers, small, style.muted),
    ]
    for row, mark in enumerate(shown):
        top = _HEAD_PX + row * step
        baseline = top + step / 2 + font.size * 0.35
        written = shorten(mark.word, names - 6, font)
        shapes.append(Text(0, baseline, written, font, style.ink, title=mark.word if written != mark.word else ""))
        long = reach * mark.here / highest
        title = Mark(
            f"{mark.word}, {name}: {mark.written(mark.here, 1)} in 100 answers "
            f"({mark.written(mark.count)}), elsewhere {mark.written(mark.elsewhere, 1)}",
            mark.word,
            name,
        )
        shapes.append(Rect(names, top + step * 0.18, max(1.0, long), step * 0.64, style.colour(place), title=title))
        tick = names + reach * mark.elsewhere / highest
        shapes.append(Line(tick, top + step * 0.08, tick, top + step * 0.92, style.ink, 2))
        if options.times:
            end = max(long + names, tick) + 6
            shapes.append(Text(end, baseline, mark.times, small, style.muted))
    if len(shown) < len(marks):
        more = f"and {len(marks) - len(shown)} more"
        shapes.append(Text(0, _HEAD_PX + len(shown) * step + 12, more, small, style.muted))
    return shapes


def _key(box: Box, style: HouseStyle) -> list[Shape]:
    font = style.body(12)
    y = box.height - 5
    said = "uses in 100 answers of the group; the line: in 100 answers of all others"
    return [
        Rect(0, y - 9, 14, 9, style.quiet),
        Line(19, y - 11, 19, y + 2, style.ink, 2),
        Text(27, y, shorten(said, box.width - 27, font), font, style.muted),
    ]


def _description(answer: Answer, panels: list[tuple[str, int, list[_Mark]]]) -> str:
    said = [f"{name}: {', '.join(mark.word for mark in marks[:5])}" for name, _, marks in panels]
    return (
        f"Words that mark groups, from {format_number(answer.base, locale=answer.locale)} answers. {'. '.join(said)}."
    )


VISUAL = Visual(
    name="marking_words",
    label="Words that mark groups",
    purposes=("what people say",),
    purpose="the words that one group uses far more often than the others",
    needs=Needs(words="needed", split="needed", series=(1, 6), groups=(1, 100), marking=True),
    options=MarkingOptions,
    draw=draw,
    advice=(rule(0.95, "the words that tell the groups from each other"),),
    default_size=(16, 52),
)
