"""Part of a part: one strip for the whole, and one of its parts drawn out into a strip of its own below."""

from __future__ import annotations

from dataclasses import dataclass

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Path, Rect, Scene, Shape, Text
from ypsil.core.drawing.svg import number as px
from ypsil.core.drawing.wrap import wrap
from ypsil.core.figures import format_number
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.percentages.shown import percent_text
from ypsil.core.visuals.shared.marks import mark_title
from ypsil.core.visuals.shared.rooms import message_scene
from ypsil.core.visuals.shared.settings import WrittenOptions, setting
from ypsil.core.visuals.shared.summary import group_name, short_number, told

_LABEL_PX, _FIGURE_PX = 15.0, 26.0
_LINK_PX = 30.0


class PartOfPartOptions(WrittenOptions):
    part: str = setting("", "Part", "Names", "of the first column: the largest, unless said", max_length=300)
    inner: str = setting("", "Part of that part", "Names", "of the second column", max_length=300)
    label: str = setting("", "Label of the part", "Names", "in place of its name", max_length=300)
    inner_label: str = setting("", "Label of the part of it", "Names", "in place of its name", max_length=300)
    thickness: float = setting(36, "Thickness", "Marks", "of the strips, in px", ge=12, le=120)


@dataclass(frozen=True, slots=True)
class _Share:
    """A part of a whole with its label, both amounts, and what the whole is called."""

    label: str
    amount: float
    whole: float
    text: str

    @property
    def share(self) -> float:
        return self.amount / self.whole if self.whole else 0.0


def draw(answer: Answer, options: PartOfPartOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw the share of the part in the whole, and below it the share of the inner part in the part."""
    first, second = answer.of("per")
    totals, inner = _amounts(answer)
    part = _chosen(options.part, totals)
    if part is None:
        return _unknown(options.part, list(totals), first.name, answer, box, style)
    name = _chosen(options.inner, inner[part])
    if name is None:
        return _unknown(options.inner, list(inner[part]), second.name, answer, box, style)
    outer = _share(options.label or part, totals[part], sum(totals.values()), options)
    within = _share(options.inner_label or name, inner[part][name], totals[part], options)
    shapes = _drawn(outer, within, options, box, style)
    whole, part = (format_number(one.whole, locale=answer.locale) for one in (outer, within))
    said = f"{outer.label} {outer.text} of {whole}; of these, {within.label} {within.text} of {part}"
    return Scene(box.width, box.height, tuple(shapes), f"{outer.label}, {within.label}", told(answer, "Strips", said))


def _amounts(answer: Answer) -> tuple[dict[str, float], dict[str, dict[str, float]]]:
    """Return the amount of each part, and within each part of each value of the second column."""
    first, second = answer.of("per")
    inner: dict[str, dict[str, float]] = {}
    rows = zip(*(answer.values(column) for column in (first, second, answer.of("measure")[0])), strict=True)
    for part, name, value in rows:
        inner.setdefault(group_name(part, first), {})[group_name(name, second)] = float(value or 0)
    return {part: sum(names.values()) for part, names in inner.items()}, inner


def _chosen(name: str, amounts: dict[str, float]) -> str | None:
    if not name:
        return max(amounts, key=lambda one: amounts[one])
    return name if name in amounts else None


def _unknown(name: str, names: list[str], column: str, answer: Answer, box: Box, style: HouseStyle) -> Scene:
    message = f"There is no “{name}” in {column}. There are: {', '.join(names[:8])}."
    return message_scene(message, box, style, answer.sentence)


def _share(label: str, amount: float, whole: float, options: PartOfPartOptions) -> _Share:
    share = amount / whole if whole else 0.0
    return _Share(label, amount, whole, percent_text(share, options))


def _drawn(outer: _Share, within: _Share, options: PartOfPartOptions, box: Box, style: HouseStyle) -> list[Shape]:
    """The strip of the whole, what leads from its part to the strip below, and that strip."""
    above = _words(outer, box.width, style, options.in_locale)
    below = _words(within, box.width, style, options.in_locale)
    words = above[-1].y + below[-1].y + 16
    tall = max(8.0, min(options.thickness, (box.height - words - _LINK_PX) / 2))
    link = max(6.0, min(_LINK_PX, box.height - words - 2 * tall))
    shapes: list[Shape] = [*above]
    y = above[-1].y + 8
    wide = max(1.0, outer.share * box.width)
    shapes += [
        Rect(0, y, box.width, tall, style.grid),
        Rect(0, y, wide, tall, style.accent, title=mark_title(outer.label, outer.text)),
        Path(f"M0 0L{px(wide)} 0L{px(box.width)} {px(link)}L0 {px(link)}Z", fill=style.accent, y=y + tall, opacity=0.2),
    ]
    y += tall + link
    shapes += [
        Rect(0, y, box.width, tall, style.accent),
        Rect(
            0, y, max(1.0, within.share * box.width), tall, style.colour(1), title=mark_title(within.label, within.text)
        ),
    ]
    return shapes + [text.moved(0, y + tall + 2) for text in below]


def _words(one: _Share, width: float, style: HouseStyle, locale: str) -> list[Text]:
    """The percentage with its label behind it and the base, in as many lines as they need."""
    figure, font = style.heading(_FIGURE_PX), style.body(_LABEL_PX)
    wide = text_width(one.text, figure) + 8
    said = f"{one.label} (n = {short_number(one.whole, locale)})"
    lines = wrap(said, width - wide, font, most=3)
    y = figure.size
    found = [Text(0, y, one.text, figure, style.ink)]
    for place, line in enumerate(lines):
        found.append(Text(wide, y + place * font.line_height, line, font, style.ink))
    return found


VISUAL = Visual(
    name="part_of_part",
    label="Part of a part",
    purposes=("share of a whole",),
    purpose="a share of a whole, and a share of that share",
    needs=Needs(per=(2, 2), groups=(1, 60), negative=False, parts=True),
    options=PartOfPartOptions,
    draw=draw,
    advice=(rule(0.5, "one part of the whole, and one part of that"),),
    default_size=(12, 26),
)
