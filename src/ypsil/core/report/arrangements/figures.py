"""Arrangements round numbers."""

from __future__ import annotations

from ypsil.core.report.arrangements.model import Arrangement, Shown, Words
from ypsil.core.style.grounds import Ground
from ypsil.core.visuals.base import Purpose

_FIGURE = ("kpi",)
_TREND = ("line", "area", "column")
_ASKED: Purpose = "what people answered"
_SHARE = ("ring", "percent_grid", "filled_icon", "gauge", "percent_bar")

ARRANGEMENTS = (
    Arrangement(
        "one-number",
        "One big number",
        "A single number that carries the page, and a sentence on what it means.",
        (
            Shown((0, 0, 11, 30), "how much", "The number that matters most", _FIGURE),
            Words((12, 4, 12, 10), "heading", "What does the number mean?"),
            Words((12, 12, 12, 10), "body", "Why did it come to that?"),
        ),
        Ground(colour="accent"),
    ),
    Arrangement(
        "three-figures",
        "Three figures",
        "Three numbers side by side, each on a card.",
        (
            Shown((0, 0, 8, 25), "how much", "The first number", _FIGURE, card=""),
            Shown((8, 0, 8, 25), "how much", "The second number", _FIGURE, card=""),
            Shown((16, 0, 8, 25), "how much", "The third number", _FIGURE, card=""),
        ),
    ),
    Arrangement(
        "figure-and-chart",
        "A figure with its chart",
        "A number as it is now, beside how it came there.",
        (
            Shown((0, 0, 8, 40), "how much", "The number as it is now", _FIGURE, card="tint"),
            Shown((8, 0, 16, 40), "how it changes", "How it came there", _TREND),
        ),
    ),
    Arrangement(
        "before-and-after",
        "Before and after",
        "How it was, how it is, and what made the difference.",
        (
            Words((0, 0, 11, 4), "label", "When was before?", text="Before"),
            Words((0, 4, 11, 16), "big", "The number before", colour="quiet"),
            Words((13, 0, 11, 4), "label", "When is after?", text="After"),
            Words((13, 4, 11, 16), "big", "The number after", colour="accent"),
            Words((0, 21, 24, 6), "lead", "What made the difference?"),
        ),
    ),
    Arrangement(
        "people-and-shares",
        "People and shares",
        "Two shares of people, drawn so that they can be counted.",
        (
            Shown(
                (0, 0, 12, 40),
                "share of a whole",
                "How many of them",
                ("percent_grid", "ring", "icon_row"),
                also=_ASKED,
            ),
            Shown((12, 0, 12, 40), "share of a whole", "How many others", _SHARE, also=_ASKED),
        ),
        Ground(colour="second-tint"),
    ),
    Arrangement(
        "share-and-parts",
        "A share and its parts",
        "One share large, and beside it what the whole is made of.",
        (
            Shown((0, 0, 9, 38), "share of a whole", "The share that matters", _SHARE, also=_ASKED),
            Shown((10, 0, 14, 38), "who is biggest", "What the whole is made of", ("bar", "ranked_list", "lollipop")),
        ),
    ),
)
