"""The report on the readers' survey: shares with how exact they are, a rating matrix, a cross-table, two waves."""

from __future__ import annotations

from typing import Any

from ypsil.core.report import Band, ReportBody, SourcesTile, TextTile
from ypsil.demo.reports import place, visual

ASPECTS = ["Staff", "Choice of books", "Opening hours", "Computers"]
STACK = {"columns": [f"Satisfied with: {aspect}" for aspect in ASPECTS], "name": "Aspect", "value": "Satisfied"}
RECOMMEND = {"stat": "share", "column": "Would recommend", "values": ["Yes"]}
PER_WAVE = {"per": [{"column": "Wave"}]}
# What the comments are about, and the words that tell it.
THEMES = {
    "Staff": ("staff", "driver", "friendly", "patient", "kind"),
    "Books": ("new books", "choice", "large print", "audio books"),
    "Rooms and quiet": ("reading room", "quiet", "chairs", "garden", "study corner"),
    "Computers and wifi": ("computers", "wifi"),
    "Opening hours": ("opening hours", "evening", "Sunday"),
    "For children": ("story time", "children", "craft"),
    "Getting in": ("parking", "lift", "pushchair"),
}
THEMES_COLUMN = "Themes in Comment"
TEN = "How likely to recommend us (0 to 10)"


def survey_report(survey: str, waves: str) -> ReportBody:
    """Return the report over this spring's survey and over both waves."""
    bands = (
        _headline(waves),
        _shares(survey, waves),
        _matrix(survey),
        _groups(survey),
        _themes(waves),
        _words(survey),
        _foot(),
    )
    return ReportBody(title="What readers told us this spring", bands=bands)


def _headline(waves: str) -> Band:
    return Band(
        message="Headline",
        tiles=(
            TextTile(role="title", text="What readers told us this spring", place=place(0, 0, 24, 8)),
            TextTile(
                role="body",
                text="618 readers answered, in every branch and on the book bus. Each share says how many answered.",
                place=place(0, 8, 20, 4),
            ),
            visual(
                waves,
                "kpi_row",
                {
                    "measures": [
                        {"stat": "count"},
                        RECOMMEND,
                        {"stat": "mean", "column": "Rating"},
                        {"stat": "recommendation", "column": TEN},
                    ],
                    **PER_WAVE,
                },
                place(0, 13, 24, 24),
                options={
                    "labels": "Answers; Would recommend us; Mean rating of 5; Recommendation score",
                    "good": "neither; up; up; up",
                    "interval": True,
                },
            ),
        ),
    )


def _shares(survey: str, waves: str) -> Band:
    interval = {"interval": True, "label": "would recommend their library"}
    return Band(
        message="Eight in ten would recommend us",
        tiles=(
            TextTile(role="heading", text="Eight in ten would recommend us", place=place(0, 0, 24, 5)),
            visual(
                survey, "icon_row", {"measures": [RECOMMEND], "weight": "Weight"}, place(0, 6, 9, 20), options=interval,
            ),
            visual(
                waves, "percent_bar", {"measures": [RECOMMEND], **PER_WAVE}, place(0, 28, 9, 20),
                options={"label": "Both waves at one scale", "interval": True},
            ),
            visual(
                survey, "share_strip", {"measures": [{"stat": "count"}], "per": [{"column": "Rating"}]},
                place(10, 6, 14, 18), options={"label": "Rating, from 1 to 5"},
            ),
            visual(
                survey, "stars",
                {"measures": [{"stat": "mean", "column": "Rating"}], "per": [{"column": "Age"}], "least_base": 30},
                place(10, 26, 14, 22), options={"label": "Mean rating by age"},
            ),
        ),
    )  # fmt: skip


def _matrix(survey: str) -> Band:
    steps = {"measures": [{"stat": "count"}], "per": [{"column": "Aspect"}], "split": {"column": "Satisfied"}}
    best = {
        "stat": "share",
        "column": "Satisfied",
        "values": ["Satisfied", "Very satisfied"],
        "name": "Satisfied or very",
    }
    known: dict[str, Any] = {"where": [{"column": "Satisfied", "test": "not_in", "values": ["Don't know"]}]}
    highest = {"by": "value", "descending": True}
    return Band(
        message="Staff are why people come, hours are why they do not",
        tiles=(
            TextTile(role="heading", text="Staff delight, opening hours do not", place=place(0, 0, 24, 5)),
            visual(
                survey, "diverging_bar", {**steps, "stack": STACK}, place(0, 6, 15, 40),
                title="How satisfied are you with …",
            ),
            visual(
                survey, "bar",
                {"measures": [best], "per": [{"column": "Aspect"}], "order": highest, "stack": STACK, **known},
                place(16, 6, 8, 40), title="Satisfied or very satisfied, of those with an opinion",
            ),
        ),
    )  # fmt: skip


def _groups(survey: str) -> Band:
    respondents = {"stat": "share", "within": "respondents", "name": "Share of respondents"}
    return Band(
        message="What differs, and what may be chance",
        tiles=(
            TextTile(role="heading", text="Ratings hardly differ between branches", place=place(0, 0, 24, 5)),
            visual(
                survey, "cross_table",
                {"measures": [{"stat": "count"}], "per": [{"column": "Branch"}], "split": {"column": "Rating"}},
                place(0, 6, 14, 48), title="Ratings by branch, in percent of each branch",
            ),
            visual(
                survey, "bar",
                {"measures": [respondents], "per": [{"column": "Comes for"}]},
                place(15, 6, 9, 48), title="What readers come for (several answers)",
            ),
        ),
    )  # fmt: skip


def _themes(waves: str) -> Band:
    carried = {"stat": "share", "within": "respondents", "name": "Share of comments"}
    highest = {"by": "value", "descending": True}
    per: dict[str, Any] = {"measures": [carried], "per": [{"column": THEMES_COLUMN}], "order": highest}
    return Band(
        message="One comment in three is about rooms and quiet",
        tiles=(
            TextTile(role="heading", text="One comment in three is about rooms and quiet", place=place(0, 0, 24, 5)),
            visual(
                waves, "bar", {**per, "where": [{"column": "Wave", "test": "in", "values": ["Spring 2026"]}]},
                place(0, 6, 11, 44), title="This spring, in percent of all comments",
            ),
            visual(
                waves, "dumbbell", {**per, "split": {"column": "Wave"}}, place(12, 6, 12, 44),
                title="This spring against the autumn before",
            ),
        ),
    )  # fmt: skip


def _words(survey: str) -> Band:
    words = {"column": "Comment", "by": "word", "words": {"find_phrases": "sure", "leave_out": ["please"]}}
    return Band(
        message="Those who would not recommend us ask for large print and find things slow",
        tiles=(
            TextTile(
                role="heading",
                text="What those write who would recommend us, and those who would not",
                place=place(0, 0, 24, 5),
            ),
            visual(
                survey, "marking_words",
                {"measures": [{"stat": "count"}], "per": [words], "split": {"column": "Would recommend"},
                 "order": {"by": "keyness", "descending": True}, "keep": 8},
                place(0, 6, 24, 32),
            ),
        ),
    )  # fmt: skip


def _foot() -> Band:
    note = (
        "Weighted shares count each age group as large as it is among readers. “Give or take” is the 95% interval of a "
        "sample. Arrows stand where a branch differs from all readers by more than chance."
    )
    return Band(
        message="How to read this",
        tiles=(
            TextTile(role="note", text=note, place=place(0, 0, 24, 5)),
            SourcesTile(place=place(0, 6, 24, 5)),
        ),
    )
