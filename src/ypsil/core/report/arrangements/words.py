"""Arrangements of words: beginnings, steps, quotes, ends."""

from __future__ import annotations

from ypsil.core.report.arrangements.model import Arrangement, Sources, Words
from ypsil.core.style.grounds import Ground


def _steps(count: int, width: int) -> tuple[Words, ...]:
    found: list[Words] = []
    for step in range(count):
        left = step * width
        found += [
            Words((left, 0, width, 15), "big", text=str(step + 1), colour="accent"),
            Words((left, 16, width, 4), "label", "What is done?"),
            Words((left, 20, width, 14), "body", "How is it done?"),
        ]
    return tuple(found)


ARRANGEMENTS = (
    Arrangement(
        "cover",
        "A cover",
        "What it is about, large on a coloured ground, for whom and from when.",
        (
            Words((0, 4, 22, 14), "title", "What is it about, in one sentence?"),
            Words((0, 20, 18, 8), "lead", "For whom is it, and what should they take from it?"),
            Words((0, 31, 24, 4), "note", "Who made it, and when?"),
        ),
        Ground(colour="deep", to="accent", way="slope"),
    ),
    Arrangement(
        "headline",
        "A headline",
        "The message in a sentence, and one on what it stands on.",
        (
            Words((0, 0, 24, 8), "title", "What is the message, in one sentence?"),
            Words((0, 9, 18, 7), "lead", "What does it stand on?"),
        ),
    ),
    Arrangement(
        "steps",
        "Steps",
        "What is done, one after the other.",
        _steps(4, 6),
        Ground(colour="tint"),
    ),
    Arrangement(
        "quote",
        "A quote",
        "What somebody said, in their own words.",
        (
            Words((3, 2, 18, 14), "quote", "What did they say, in their own words?", align="middle"),
            Words((3, 18, 18, 4), "label", "Who said it?", align="middle", colour="accent"),
        ),
        Ground(colour="third-tint"),
        {"padding": 5},
    ),
    Arrangement(
        "questions-and-answers",
        "Questions and answers",
        "Three things that readers ask, each with its answer.",
        tuple(
            words
            for place, number in enumerate(("first", "second", "third"))
            for words in (
                Words((0, 15 * place, 9, 12), "heading", f"The {number} question", colour="accent"),
                Words((10, 15 * place, 14, 12), "body", "Its answer"),
            )
        ),
    ),
    Arrangement(
        "attention",
        "What needs attention",
        "One thing that must not be passed over.",
        (
            Words((0, 0, 24, 4), "label", text="Worth attention"),
            Words((0, 5, 24, 10), "heading", "What must not be passed over?"),
            Words((0, 14, 18, 9), "body", "Why, and what follows from it?"),
        ),
        Ground(colour="second"),
    ),
    Arrangement(
        "what-next",
        "What next",
        "What follows from it: three things to do.",
        (
            Words((0, 0, 24, 5), "heading", "What follows from it?"),
            *(
                Words((8 * place, 7, 8, 18), "body", f"The {number} thing to do, and who does it", card="paper")
                for place, number in enumerate(("first", "second", "third"))
            ),
        ),
        Ground(colour="deep"),
    ),
    Arrangement(
        "sources-and-credits",
        "Sources and credits",
        "Where the numbers come from, and who is to be thanked.",
        (
            Sources((0, 0, 15, 6)),
            Words((16, 0, 8, 6), "note", "Who is to be thanked, or asked?"),
        ),
        Ground(colour="wash"),
    ),
)
