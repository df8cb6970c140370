"""Levels: a pyramid, steps that narrow, or stairs; widths are true where each level has a figure."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pydantic import Field

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Path, Shape, Text
from ypsil.core.tiles.base import Offer
from ypsil.core.tiles.told.base import COLOURS, Colours, Laid, Setting, ToldTile, Words
from ypsil.core.tiles.told.entries import Told

Look = Literal["pyramid", "narrowing", "stairs"]
LOOKS = ("a pyramid, the first on top", "narrowing downwards", "stairs, the first at the foot")
_LEAST_EM = 24.0


class LevelsTile(ToldTile):
    offered_rank = 4
    called = "levels"
    entry_is = "level"
    figure_is = "Figure"
    settings = ("look", "colours", "size")
    has_signs = False
    type: Literal["levels"] = "levels"
    look: Look = Field("pyramid", title="They stand as", json_schema_extra={"labels": [*LOOKS]})
    colours: Colours = Field("shades", title="Colours", json_schema_extra={"labels": [*COLOURS]})

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        return (
            Offer("A pyramid of levels", {"entries": [{}, {}, {}]}, "what rests on what"),
            Offer("Narrowing levels", {"entries": [{}, {}, {}], "look": "narrowing"}, "how many are left at each step"),
        )

    def _lay(self, told: Sequence[Told], width: float, setting: Setting) -> Laid:
        """The form takes a part of the width; what is said of each level stands beside it."""
        em = setting.em
        is_wide = width >= _LEAST_EM * em
        form = width * 0.46 if is_wide else width
        room = width - form - 1.2 * em
        beside = [setting.words(one, room, figure=False) if is_wide else Words() for one in told]
        within = [] if is_wide else [setting.words(one, form, figure=True) for one in told]
        least = 2.9 * em
        heights = [max(least, said.height + 0.9 * em) for said in beside]
        if not is_wide:
            heights = [least for _ in told]
        gap = em / 4
        shapes: list[Shape] = []
        y = 0.0
        total = sum(heights) + gap * (len(told) - 1)
        widths = self._widths(told, heights, gap, total, form)
        for place, (one, tall, (top, foot)) in enumerate(zip(told, heights, widths, strict=True)):
            colour = setting.colour(one.number - 1)
            left = 0.0 if self.look == "stairs" else (form - top) / 2
            below = 0.0 if self.look == "stairs" else (form - foot) / 2
            d = f"M{left:.2f} 0L{left + top:.2f} 0L{below + foot:.2f} {tall:.2f}L{below:.2f} {tall:.2f}Z"
            shapes.append(Path(d, colour, y=y))
            font = setting.big(1.3)
            middle = top / 2 if self.look == "stairs" else form / 2
            level = y + tall / 2 + font.size * 0.36 + (tall * 0.12 if place == 0 and self.look == "pyramid" else 0)
            said = one.figure or str(one.number)
            edge = (left + top + below + foot) / 2 + em / 4
            wide = text_width(said, font)
            if wide <= (top + foot) / 2 - em / 2:
                shapes.append(Text(middle, level, said, font, setting.ink_on(colour), "middle"))
            elif is_wide and edge + wide < form + 0.4 * em:
                shapes.append(Text(edge + em / 4, level, said, font, setting.style.ink))
                edge += wide + 0.8 * em
            elif is_wide:
                beside[place] = setting.words(one, room, figure=True)
            if is_wide and edge < form + 0.5 * em:
                rule = setting.style.grid
                shapes.append(
                    Path(f"M{edge:.2f} {tall / 2:.2f}L{form + 0.7 * em:.2f} {tall / 2:.2f}", "none", rule, em / 14, y=y)
                )
            if is_wide:
                shapes += beside[place].shapes(form + 1.2 * em, y + (tall - beside[place].height) / 2)
            else:
                shapes += within[place].shapes(form / 2, y + tall + 0.3 * em, "middle")
                y += within[place].height + 0.7 * em
            y += tall + gap
        return Laid(tuple(shapes), y - gap)

    def _widths(
        self, told: Sequence[Told], heights: Sequence[float], gap: float, total: float, form: float
    ) -> list[tuple[float, float]]:
        """Return how wide each level is at its top and at its foot."""
        amounts = [one.amount for one in told]
        known = [amount for amount in amounts if amount is not None and amount >= 0]
        if self.look != "pyramid" and len(known) == len(told) and max(known) > 0:
            wide = [form * max(0.02, amount / max(known)) for amount in known]
            if self.look == "stairs":
                return [(one, one) for one in wide]
            return [(one, one + (after - one) * 0.35) for one, after in zip(wide, [*wide[1:], wide[-1]], strict=True)]
        count = len(told)
        if self.look == "stairs":
            return [(form * (count - place) / count,) * 2 for place in range(count)]
        ends, y = [], 0.0
        for tall in heights:
            top, foot = y / total, (y + tall) / total
            if self.look == "narrowing":
                top, foot = 1 - 0.72 * top, 1 - 0.72 * foot
            ends.append((form * top, form * foot))
            y += tall + gap
        return ends
