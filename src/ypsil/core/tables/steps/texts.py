"""Steps about what people wrote: the themes of their answers."""

from __future__ import annotations

from typing import Literal

import polars as pl
from pydantic import Field

from ypsil.core.figures import format_number
from ypsil.core.tables.model import Field as ColumnField
from ypsil.core.tables.rows import Rows
from ypsil.core.tables.steps.base import Applied, Context, Input, Step, need_free, need_kind, quoted
from ypsil.core.text.themes import MOST_THEMES, Carrying, Decision, Theme, ThemeRules, find_themes

WRITTEN = ("text", "category", "place")


class FindThemes(Step):
    """Tell of each answer which themes it carries; ``without`` is what those are called that carry none."""

    offered_at = 180
    title = "Find themes in what was written"
    purpose = "named groups of words, so that answers can be counted by what they are about"
    inputs = (
        Input("column", "Column", "column", kinds=WRITTEN),
        Input("into", "Name of the new column", "new_name"),
        Input("forms", "All forms of a word count as one", "yesno", optional=True),
        Input("without", "Answers without a theme are called", "text", optional=True),
    )
    type: Literal["themes"] = "themes"
    column: str
    into: str = Field(max_length=200)
    themes: tuple[Theme, ...] = Field((), max_length=MOST_THEMES)
    forms: bool = True
    without: str = Field("No theme", min_length=1, max_length=60)
    language: str | None = None
    decisions: dict[str, Decision] = {}

    @property
    def rules(self) -> ThemeRules:
        return ThemeRules(themes=self.themes, forms=self.forms, language=self.language, decisions=self.decisions)

    def apply(self, rows: Rows, context: Context) -> Applied:
        need_kind(rows, self.column, *WRITTEN)
        into = need_free(rows, self.into)
        found = find_themes(rows.frame[self.column].to_list(), self.rules)
        uncoded, answered = int(found.uncoded.sum()), int(found.answered.sum())
        said = f"{format_number(uncoded)} of {format_number(answered)} answers carry no theme"
        return Applied(rows.with_column(self._lists(found).alias(into), ColumnField("list")), (said,))

    def _lists(self, found: Carrying) -> pl.Series:
        """Return the names of each answer's themes; null where nothing was answered."""
        names = [*(theme.name for theme in self.themes), self.without]
        every = pl.DataFrame([*found.carried.T, found.uncoded], schema=[str(place) for place in range(len(names))])
        named = [pl.when(pl.col(str(place))).then(pl.lit(name)) for place, name in enumerate(names)]
        answered = pl.Series(found.answered)
        return every.select(pl.when(answered).then(pl.concat_list(named).list.drop_nulls())).to_series()

    def sentence(self) -> str:
        named = quoted(theme.name for theme in self.themes) if self.themes else "no themes yet"
        return f"Find themes in “{self.column}” as “{self.into}”: {named}"
