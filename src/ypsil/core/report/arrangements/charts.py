"""Arrangements round charts, tables and clouds."""

from __future__ import annotations

from ypsil.core.report.arrangements.model import Arrangement, Later, Shown, Words
from ypsil.core.style.grounds import Ground

_TREND = ("line", "area", "column")
_RANKED = ("bar", "ranked_list", "lollipop")

ARRANGEMENTS = (
    Arrangement(
        "chart-and-remarks",
        "A chart with three remarks",
        "One chart, and beside it three things to see in it.",
        (
            Words((0, 0, 24, 5), "heading", "What does the chart show?"),
            Shown((0, 6, 15, 48), "how it changes", "The chart", _TREND),
            Words((16, 6, 8, 14), "body", "What should readers see first?", card="wash"),
            Words((16, 23, 8, 14), "body", "What stands out?", card="wash"),
            Words((16, 40, 8, 14), "body", "What is it to them?", card="wash"),
        ),
    ),
    Arrangement(
        "two-sides",
        "Two sides compared",
        "Two of a kind, drawn alike so that they can be compared.",
        (
            Words((0, 0, 11, 5), "heading", "The one side", colour="second"),
            Words((13, 0, 11, 5), "heading", "The other side", colour="third"),
            Shown((0, 6, 12, 40), "who is biggest", "The one side, drawn", _RANKED, card="second-tint"),
            Shown((12, 6, 12, 40), "who is biggest", "The other side, drawn", _RANKED, card="third-tint"),
        ),
    ),
    Arrangement(
        "ranked-list",
        "A ranked list",
        "Who is first, and who follows.",
        (
            Words((0, 0, 24, 5), "heading", "Who leads?"),
            Shown((0, 6, 16, 46), "who is biggest", "The list", ("ranked_list", "bar", "lollipop")),
            Words((17, 8, 7, 24), "lead", "What does the first do better?"),
        ),
    ),
    Arrangement(
        "cloud-and-words",
        "A cloud with its words",
        "What people write, as a cloud, and the words most used, counted.",
        (
            Words((0, 0, 24, 5), "heading", "What do they write about?"),
            Shown((0, 6, 14, 48), "what people say", "The cloud", ("cloud",)),
            Shown((15, 6, 9, 48), "what people say", "The words counted", ("word_line", "bar", "ranked_list")),
        ),
    ),
    Arrangement(
        "table-and-lesson",
        "A table with its lesson",
        "All numbers, and the one thing to take from them.",
        (
            Words((0, 0, 24, 8), "lead", "What is to be learnt from the table?"),
            Shown((0, 9, 24, 44), "who is biggest", "The table", ("table",)),
        ),
        Ground(colour="wash"),
    ),
    Arrangement(
        "timeline",
        "A timeline",
        "How it went over time, with three moments under it.",
        (
            Shown((0, 0, 24, 40), "how it changes", "How it went", _TREND),
            Words((0, 43, 8, 4), "label", "When was the first moment?", colour="accent"),
            Words((0, 47, 8, 9), "body", "What happened?"),
            Words((8, 43, 8, 4), "label", "When was the second?", colour="accent"),
            Words((8, 47, 8, 9), "body", "What happened?"),
            Words((16, 43, 8, 4), "label", "When was the third?", colour="accent"),
            Words((16, 47, 8, 9), "body", "What happened?"),
        ),
    ),
    Arrangement(
        "spread",
        "How it is spread",
        "How many are small, usual and large, and what that means.",
        (
            Shown((0, 0, 16, 44), "how it spreads", "How it is spread", ("histogram", "box", "strip")),
            Words((17, 4, 7, 28), "lead", "Where do most of them stand?"),
        ),
    ),
    Arrangement(
        "two-things",
        "How two things relate",
        "Two measures against each other, and what goes together.",
        (
            Words((0, 4, 7, 28), "lead", "What goes together?"),
            Shown((8, 0, 16, 48), "what goes together", "The two measures", ("scatter", "bubble")),
        ),
    ),
    Arrangement(
        "map-place",
        "A place on the map",
        "Where it is, and what is to be known of it.",
        (
            Later((0, 0, 15, 46), "A map, or a picture of the place", card="tint"),
            Words((16, 2, 8, 6), "heading", "Where is it?"),
            Words((16, 10, 8, 20), "body", "What is to be known of the place?"),
        ),
    ),
    Arrangement(
        "picture-and-text",
        "A picture and text",
        "A picture that shows what it is about, beside a few lines.",
        (
            Later((0, 0, 12, 40), "A picture of what it is about", card="tint"),
            Words((13, 4, 11, 6), "heading", "What is to be seen?"),
            Words((13, 12, 11, 22), "body", "What does it tell?"),
        ),
    ),
)
