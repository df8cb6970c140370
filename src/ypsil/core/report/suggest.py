""" "What should the reader see?": fitting visuals for a purpose, asked of the report's own data."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, get_args

from ypsil.core.answers.model import Answer
from ypsil.core.errors import YpsilError
from ypsil.core.questions import Question
from ypsil.core.report.proposed_questions import MOST_GROUPS_OF_PEOPLE, questions_for
from ypsil.core.report.titles import names_in, short_name, title_for
from ypsil.core.survey import SurveyItem, survey_figures, survey_items
from ypsil.core.tables.profile import Profile
from ypsil.core.tables.shown_names import said_in_words
from ypsil.core.tiles import ReportTable, VisualTile
from ypsil.core.visuals import VISUALS, fit, ranked
from ypsil.core.visuals.base import Purpose

PURPOSES: tuple[Purpose, ...] = get_args(Purpose)
_TIMES = 2
_FEW_ROWS = 2_000
_ASKED_FIRST = ("matrix", "rating", "several answers", "ticked columns", "recommendation", "ranking", "one answer")
_LONGEST_SURVEY = 300_000
# Kinds of survey question that other purposes show.
_NO_ANSWERS = ("written", "number")
# A drawing that suits so little is not proposed: it can still be chosen.
_LEAST_FITNESS = 0.08
_FEWEST_GROUPS = 3


@dataclass(frozen=True, slots=True)
class Suggestion:
    """A tile that could be added, its answer, and the reason for or against it."""

    tile: VisualTile
    answer: Answer
    fits: bool
    score: float
    reason: str


def suggest(purpose: Purpose, key: str, table: ReportTable, profile: Profile) -> list[Suggestion]:
    """Return tiles for a purpose, the best first, those that do not fit last."""
    if purpose == "what people answered":
        return _answered(key, table, profile)
    found = []
    seen: set[object] = set()
    for rank, question in enumerate(questions_for(purpose, profile)):
        try:
            given = table.answer(question)
        except YpsilError:
            continue
        # The last twelve months of a short table are the whole of it.
        key_of = (given.columns, _shown_rows(given, rank))
        if key_of in seen:
            continue
        seen.add(key_of)
        for entry, fitness in ranked(given):
            if purpose in entry.purposes and not (fitness.fits and fitness.score < _LEAST_FITNESS):
                tile = tile_for(key, question, entry.name)
                found.append(Suggestion(tile, given, fitness.fits, fitness.score - 0.03 * rank, fitness.reason))
    found.sort(key=lambda one: (not one.fits, -one.score))
    return _varied(found)


def _answered(key: str, table: ReportTable, profile: Profile) -> list[Suggestion]:
    """Return the figures that the questions of a survey call for: the first of each, then the second …"""
    if profile.rows > _LONGEST_SURVEY:
        return []
    items = [item for item in survey_items(table.frame(), profile.columns) if item.kind not in _NO_ANSWERS]
    groups = [item.name for item in items if item.kind == "one answer" and _can_group(item.name, profile)]
    found = []
    seen: set[object] = set()
    for rank, item in enumerate(sorted(items, key=lambda item: _rank_of(item, groups))):
        by = next((name for name in groups if name not in item.columns), None)
        for turn, figure in enumerate(survey_figures(item, by)):
            try:
                given = table.answer(figure.question)
            except YpsilError:
                continue
            # Where everybody answered, those asked are those who answered.
            shown = (item.name, figure.visual, _shown_rows(given, turn))
            if shown in seen:
                continue
            seen.add(shown)
            tile = tile_of(key, figure.question, figure.visual, figure.options, figure.title)
            fitness = fit(VISUALS[figure.visual], given)
            shown_name = figure.title or figure.options.get("label", "")
            named = item.said if item.name in shown_name else f"“{item.name}”, {item.said}"
            reason = f"{named}: {figure.reason}" if fitness.fits else fitness.reason
            score = 1.0 - 0.1 * turn - 0.01 * rank
            found.append(Suggestion(tile, given, fitness.fits, score, reason))
    return sorted(found, key=lambda one: (not one.fits, -one.score))


def _shown_rows(given: Answer, number: int) -> object:
    """Return what is the same for answers that show the same; those of many rows are told by their number."""
    return str(given.rows) if given.height <= _FEW_ROWS else number


def _rank_of(item: SurveyItem, groups: list[str]) -> int:
    """Return how early a question is shown: what was asked about comes before what people are grouped by."""
    if item.name in groups:
        return len(_ASKED_FIRST)
    return _ASKED_FIRST.index(item.kind) if item.kind in _ASKED_FIRST else len(_ASKED_FIRST) - 1


def _can_group(name: str, profile: Profile) -> bool:
    column = profile.column(name)
    return column is not None and _FEWEST_GROUPS <= column.distinct <= MOST_GROUPS_OF_PEOPLE


def _varied(found: list[Suggestion]) -> list[Suggestion]:
    """Leave out what shows more of the same: a visual comes twice at most, and once where it does not fit."""
    counted: dict[str, int] = {}
    kept = []
    for one in found:
        times = counted.get(one.tile.visual, 0)
        if times < (_TIMES if one.fits else 1):
            kept.append(one)
        counted[one.tile.visual] = times + 1
    return kept


def tile_of(key: str, question: Question, visual: str, options: dict[str, Any], title: str) -> VisualTile:
    """Return a tile that is given its options, with its title where the visual does not say its own label."""
    return VisualTile(
        table=key,
        question=question,
        visual=visual,
        options=options,
        title=title if VISUALS[visual].is_titled else "",
    )


def tile_for(key: str, question: Question, visual: str) -> VisualTile:
    """Return a tile with the title (or, for a figure, the label) that the question suggests."""
    entry = VISUALS[visual]
    names = names_in(question)
    if entry.is_titled:
        title = said_in_words(title_for(question), names)
        return VisualTile(table=key, question=question, visual=visual, title=title)
    has_label = "label" in entry.options.model_fields
    options = {"label": said_in_words(short_name(question.measures[0]), names)} if has_label else {}
    return VisualTile(table=key, question=question, visual=visual, options=options)
