"""Timeline: what happened when, by true distance or evenly, along or down the page."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from typing import Literal

from pydantic import Field

from ypsil.core.drawing.colour import lifted
from ypsil.core.drawing.scene import Line, Rect, Shape
from ypsil.core.tiles.base import Offer
from ypsil.core.tiles.told.base import Laid, Setting, ToldTile, Words
from ypsil.core.tiles.told.entries import Told

Look = Literal["along", "down", "both sides"]
LOOKS = ("along the page", "down the page", "down the page, on both sides")
Spacing = Literal["true", "even"]
# How wide what is said of one is at least along the page, in times its type.
_LEAST_EM = 8.0
_DOT_EM = 0.85
_MOST_LEVELS = 4
_SIGN_EM = 2.0


class TimelineTile(ToldTile):
    offered_rank = 1
    called = "timeline"
    entry_is = "event"
    figure_is = "When"
    settings = ("look", "spacing", "colours", "size")
    type: Literal["timeline"] = "timeline"
    look: Look = Field("along", title="It runs", json_schema_extra={"labels": [*LOOKS]})
    spacing: Spacing = Field(
        "even",
        title="Distances",
        description="true ones need a date for each",
        json_schema_extra={"labels": ["as between the dates", "even"]},
    )

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return (Offer("A timeline", {"entries": [{}, {}, {}, {}]}, "along or down the page, by true dates or evenly"),)

    def _lay(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        is_true = self.spacing == "true" and len(told) > 1
        tight = ""
        if is_true and any(one.days is None for one in told):
            is_true, lacking = False, next(one for one in told if one.days is None)
            tight = f"“{lacking.entry.head or lacking.figure}” has no date, so distances are even."
        if is_true:
            told = sorted(told, key=lambda one: one.days or ())
        if self.look != "along" or width < 2 * _LEAST_EM * setting.em:
            laid = self._down(told, width, setting, is_true)
        elif is_true:
            laid = self._along_true(told, width, setting)
        else:
            laid = self._along_even(told, width, setting)
        return Laid(laid.shapes, laid.height, tight or laid.tight)

    def _words(self, one: Told, width: float, setting: Setting) -> Words:
        """The date in the colour of its dot, then what happened."""
        place = one.number - 1
        words = setting.words(one, width)
        if not one.figure:
            return words
        bold = setting.style.body(setting.text.size, bold=True)
        date = Words(((one.figure, bold, lifted(setting.colour(place), setting.style.paper)),), bold.line_height)
        return Words((*date.lines, *words.lines), date.height + words.height)

    def _mark(self, one: Told, x: float, y: float, setting: Setting) -> list[Shape]:
        """The round mark of an event, its middle at ``x`` and ``y``: its sign, or a dot."""
        colour = setting.colour(one.number - 1)
        size = _SIGN_EM * setting.em
        sign = setting.sign(one, x - size * 0.29, y - size * 0.29, size * 0.58, setting.ink_on(colour))
        size = size if sign else _DOT_EM * setting.em
        plate = Rect(x - size / 2, y - size / 2, size, size, colour, size / 2)
        return [plate, *sign]

    def _along_even(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        """Evenly along lines that are about as long, one below the other."""
        em = setting.em
        most = max(1, int(width / (_LEAST_EM * em)))
        lines = -(-len(told) // most)
        columns = -(-len(told) // lines)
        cell, mark = width / columns, _SIGN_EM * em
        shapes: list[Shape] = []
        y = 0.0
        for start in range(0, len(told), columns):
            line = told[start : start + columns]
            axis = y + mark / 2
            end = width if start + columns < len(told) else cell * (len(line) - 1) + mark
            shapes.append(Line(0, axis, max(end, mark), axis, setting.style.quiet, em / 5))
            words = [self._words(one, cell - 0.9 * em, setting) for one in line]
            for place, (one, said) in enumerate(zip(line, words, strict=True)):
                shapes += self._mark(one, cell * place + mark / 2, axis, setting)
                shapes += said.shapes(cell * place, y + mark + 0.3 * em)
            y += mark + 0.3 * em + max(said.height for said in words) + 1.3 * em
        return Laid(tuple(shapes), y - 1.3 * em)

    def _along_true(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        """By true distance along one line; words that would meet stand in turns above and below, and further off."""
        em, mark = setting.em, _SIGN_EM * setting.em
        first, last = _span(told)
        days = max(1, (last - first).days)
        room = min(max(_LEAST_EM * em, width / len(told) * 1.6), 14 * em, width)
        placed: list[tuple[Told, float, float, Words, int]] = []
        # The right end of the words of each level: 0 and even ones stand below the line, odd ones above it.
        ends = [-1.0] * _MOST_LEVELS
        tight = ""
        for one in told:
            start = one.days[0] if one.days else first
            x = mark / 2 + (width - mark) * (start - first).days / days
            left = min(max(0.0, x - room / 2), width - room)
            level = next((place for place, end in enumerate(ends) if left >= end), -1)
            if level < 0:
                level = min(range(_MOST_LEVELS), key=lambda place: ends[place])
                left = min(max(left, ends[level]), width - room)
                tight = tight or "Some events are too close together for their words. Run it down the page."
            ends[level] = left + room + 0.5 * em
            placed.append((one, x, left, self._words(one, room, setting), level))
        heights = [
            max((said.height for *_, said, at in placed if at == level), default=0.0) for level in range(_MOST_LEVELS)
        ]
        gap = 0.9 * em
        above = sum(heights[level] + gap for level in (1, 3) if heights[level])
        axis = above + mark / 2
        shapes: list[Shape] = [Line(0, axis, width, axis, setting.style.quiet, em / 5)]
        marks: list[Shape] = []
        for one, x, left, said, level in placed:
            nearer = heights[level - 2] + gap if level > 1 and heights[level - 2] else 0.0
            top = (
                axis + mark / 2 + gap / 2 + nearer
                if level % 2 == 0
                else axis - mark / 2 - gap / 2 - nearer - said.height
            )
            end = top if level % 2 == 0 else top + said.height
            shapes.append(Line(x, axis, x, end, setting.style.quiet, setting.context.page.zoom))
            # At the ends of the line the words begin, or end, there.
            if left <= 0:
                shapes += said.shapes(0, top)
            elif left >= width - room:
                shapes += said.shapes(width, top, "end")
            else:
                shapes += said.shapes(left + room / 2, top, "middle")
            if one.days and one.is_period:
                until = mark / 2 + (width - mark) * (one.days[1] - first).days / days
                bar = max(until - x, 0.5 * em)
                marks.append(Rect(x, axis - em / 4, bar, em / 2, setting.colour(one.number - 1), em / 4))
            marks += self._mark(one, x, axis, setting)
        below = sum(heights[level] + gap for level in (0, 2) if heights[level])
        return Laid((*shapes, *marks), axis + mark / 2 + below, tight)

    def _down(self, told: Sequence[Told], width: float, setting: Setting, is_true: bool) -> Laid:
        """Down a line, at its one side or in turns at both; true distances leave at least the room of the words."""
        em, mark = setting.em, _SIGN_EM * setting.em
        both = self.look == "both sides" and width >= 3 * _LEAST_EM * em
        axis = width / 2 if both else mark / 2
        room = (width / 2 if both else width) - mark / 2 - 0.9 * em - (0 if both else mark / 2)
        words = [self._words(one, room, setting) for one in told]
        first, last = _span(told)
        days = max(1, (last - first).days)
        # A true distance of the whole line is what its words take, and a third more.
        length = 1.33 * sum(max(mark, said.height) + em for said in words) / (2 if both else 1)
        shapes: list[Shape] = []
        marks: list[Shape] = []
        ends = [0.0, 0.0]
        y = 0.0
        for place, (one, said) in enumerate(zip(told, words, strict=True)):
            side = place % 2 if both else 0
            least = max(ends[side], y)
            if is_true and one.days:
                least = max(least, length * (one.days[0] - first).days / days)
            tall = max(mark, said.height)
            middle = least + mark / 2
            marks += self._mark(one, axis, middle, setting)
            if is_true and one.days and one.is_period:
                bar = max(em, length * (one.days[1] - one.days[0]).days / days)
                marks.insert(0, Rect(axis - em / 4, middle, em / 2, bar, setting.colour(one.number - 1), em / 4))
            top = least + max(0.0, (mark - setting.text.line_height) / 2)
            if both and side == 0:
                shapes += said.shapes(axis - mark / 2 - 0.7 * em, top, "end")
            else:
                shapes += said.shapes(axis + mark / 2 + 0.7 * em, top)
            ends[side] = top + tall + em
            y = least + (mark + 0.4 * em if both else tall + em)
        foot = max(max(ends) - em, y - em)
        line = Line(axis, mark / 2, axis, max(foot, mark), setting.style.quiet, em / 5)
        return Laid((line, *marks, *shapes), max(foot, mark))


def _span(told: Sequence[Told]) -> tuple[dt.date, dt.date]:
    """Return the first and the last day of all."""
    days = [one.days for one in told if one.days]
    if not days:
        return dt.date(2000, 1, 1), dt.date(2000, 1, 1)
    return min(first for first, _ in days), max(last for _, last in days)
