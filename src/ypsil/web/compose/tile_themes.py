"""Themes from the words that a tile counts: what there are, and ticked words put into one."""

from __future__ import annotations

import json
from dataclasses import dataclass

from ypsil.core.errors import QuestionRefused
from ypsil.core.questions.model import Measure, Order, Per, Question
from ypsil.core.report import ReportBody, VisualTile
from ypsil.core.tables.theme_changes import theme_steps
from ypsil.web.accounts.services import User
from ypsil.web.gather.actions.change_themes import change_themes
from ypsil.web.gather.services import Arrival, Table


@dataclass(frozen=True, slots=True)
class TileThemes:
    """The themes of the column that a tile counts words in: their names, the column they make, and the edit that
    draws how many answers carry each."""

    column: str
    names: list[str]
    of: str
    draw: str


def themes_beside(tile: VisualTile, table: Table, document: ReportBody) -> TileThemes | None:
    """Return the themes beside a tile's list of words; none where it counts several columns."""
    if tile.question.words is None or tile.question.stack:
        return None
    column = tile.question.per[0].column
    steps = [step for _, step in theme_steps(table.read_recipe()) if step.column == column and step.on]
    if not steps:
        return TileThemes(column, [], "", "")
    step = steps[-1]
    return TileThemes(column, [theme.name for theme in step.themes], step.into, _drawing(tile, step.into, document))


def _drawing(tile: VisualTile, into: str, document: ReportBody) -> str:
    of_people = Measure(stat="share", within="respondents", name="Share of answers")
    question = Question(
        measures=(of_people,),
        per=(Per(column=into),),
        where=tile.question.where,
        order=Order(by="value", descending=True),
    )
    drawn = VisualTile(table=tile.table, question=question, visual="bar", title=into)
    band = next(band.id for band in document.bands if any(one.id == tile.id for one in band.tiles))
    added = drawn.model_dump(mode="json", exclude={"id", "place"}, exclude_defaults=True) | {"type": "visual"}
    return json.dumps({"type": "add_tile", "band": band, "tile": added})


def put(tile: VisualTile, table: Table, user: User, theme: str, terms: list[str]) -> tuple[str, Arrival | None]:
    """Put terms of a tile into a theme, with what is counted as one of them; see ``change_themes``.

    Raises QuestionRefused or StepRefused with nothing changed.
    """
    words = tile.question.words
    if words is None or tile.question.stack:
        raise QuestionRefused("themes are made of the words of one column", remedy="choose a tile that counts words")
    if not terms:
        raise QuestionRefused("no word is ticked", remedy="tick the words that are about the same")
    variants = [variant for variant, name in words.merges.items() if name in terms]
    return change_themes(
        user,
        table.uid,
        {
            "do": "put",
            "column": tile.question.per[0].column,
            "theme": theme,
            "terms": [*terms, *variants],
            "language": words.language,
        },
    )
