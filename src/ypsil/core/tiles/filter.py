"""Filter: a column of a table by which readers choose what the page shows."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any, Literal, Self

from pydantic import Field, model_validator

from ypsil.core.choosing import Control, Offered
from ypsil.core.choosing.control import Way
from ypsil.core.drawing.rectangles import rounded
from ypsil.core.drawing.scene import Path, Scene, Shape, Text
from ypsil.core.drawing.wrap import wrap
from ypsil.core.questions.model import Measure, Per, Question
from ypsil.core.tables.shown_names import in_words
from ypsil.core.tiles.base import TO_PRESS, Asked, Offer, TileKind, waiting
from ypsil.core.tiles.chosen_rows import bars_of, counted, rows_said
from ypsil.core.tiles.context import Context, Drawn
from ypsil.core.visuals import Box

MOST_SPARED = 100
_ROW, _BARS, _AIR = 2.2, 3.0, 0.3
_CORNER_PX = 4.0
_KINDS = {"text": "free text"}
_GONE = "The column that readers choose by here is no longer there. Choose another beside the page."
_NO_WAY = (
    "Readers cannot choose by “{column}”: it holds {kind}. Choose another beside the page, or give it another kind."
)


class FilterTile(TileKind):
    offered_under = TO_PRESS
    offered_rank = 4
    called = "filter"
    settings = ("title", "reach", "takes", "by")
    type: Literal["filter"] = "filter"
    table: str = ""
    question: Question | None = Field(
        None, description="counts rows per the column by which readers choose; short: “column”, its name"
    )
    way: Literal["values", "amount", "period"] = Field("values", description="how rows are chosen by it: its height")
    title: str = Field("", max_length=200, title="What it is called", description="left empty: as its column")
    takes: Literal["several", "one"] = Field(
        "several", title="Of names, readers choose", json_schema_extra={"labels": ["several", "one at a time"]}
    )
    by: Literal["", "day", "week", "month", "quarter", "year"] = Field(
        "",
        title="Of dates, they choose",
        json_schema_extra={"labels": ["as suits the data", "days", "weeks", "months", "quarters", "years"]},
    )
    reach: Literal["page", "band"] = Field(
        "page", title="It filters", json_schema_extra={"labels": ["the whole page", "its own band"]}
    )
    spares: tuple[str, ...] = Field(
        (), max_length=MOST_SPARED, description="the tiles that stay as they are, whatever is chosen"
    )

    @model_validator(mode="before")
    @classmethod
    def _accept_short_form(cls, data: Any) -> Any:
        """``"column": "Branch"`` stands for the question that counts rows per branch."""
        if not isinstance(data, dict) or "column" not in data:
            return data
        named = str(data["column"])
        asked = Question(measures=(Measure(stat="count"),), per=(Per(column=named),)) if named else None
        return {name: value for name, value in data.items() if name != "column"} | {"question": asked}

    @property
    def column(self) -> str:
        """The column by which readers choose; empty while there is none."""
        return self.question.per[0].column if self.question is not None and self.question.per else ""

    @classmethod
    def offers(cls) -> tuple[Offer, ...]:
        hint = "readers choose names, amounts or a period, and the page follows"
        return (Offer("A filter for readers", {}, hint, sample={"title": "Branch"}, sample_height=90),)

    def usual_size(self) -> tuple[int, int]:
        return (6, 11)

    def chooses(self) -> Control | None:
        if not self.column:
            return None
        spares = frozenset(self.spares)
        return Control(self.id, self.table, self.column, self.title, self.takes, self.by, spares, self.reach)

    def joining(self, names: Mapping[str, str]) -> Self:
        """Return it leaving the tiles as they are that have other ids now."""
        return self.model_copy(update={"spares": tuple(names.get(name, name) for name in self.spares)})

    def is_open(self) -> bool:
        return not self.column

    def questions(self) -> list[Asked]:
        return [Asked(self.table, self.question)] if self.question is not None and self.column else []

    def fetches(self, box: Box, context: Context) -> int:
        table, offered = context.tables.get(self.table), self._offered(context)
        return 0 if table is None or offered is None else table.fetch(counted(offered))

    def least_height(self, width: float, context: Context) -> float:
        # Its stored way and not the table's: what the layout knows of a tile is the same wherever it is asked.
        return _height(self.way, context)

    def narrow_height(self, width: float, wide: Box, context: Context) -> float:
        return self.least_height(width, context)

    def draws(self, box: Box, context: Context) -> Drawn:
        offered = self._offered(context)
        if offered is None:
            return waiting(self._why_not(context), box, context) if self.column else self._sampled(box, context)
        return Drawn(self._drawn(offered, box, context))

    def _why_not(self, context: Context) -> str:
        table = context.tables.get(self.table)
        column = next((one for one in table.columns if one.name == self.column), None) if table else None
        return _GONE if column is None else _NO_WAY.format(column=column.name, kind=_KINDS.get(column.kind, "times"))

    def _offered(self, context: Context) -> Offered | None:
        control, table = self.chooses(), context.tables.get(self.table)
        return None if control is None or table is None else table.offered(control)

    def _drawn(self, offered: Offered, box: Box, context: Context) -> Scene:
        chosen = ", ".join(offered.words(context.choices.of(self.id), context.locale)) or "All"
        said = rows_said(offered, context)
        bars = bars_of(offered, Box(box.width, _BARS * context.page.text_px("body")), context)
        shapes = self._shapes(offered.name, chosen, said, bars, box, context)
        return Scene(box.width, box.height, shapes, f"Filter: {offered.name}", f"{chosen}. {said}.")

    def _sampled(self, box: Box, context: Context) -> Drawn:
        return Drawn(Scene(box.width, box.height, self._shapes(self.title, "All", "", (), box, context)))

    def _shapes(
        self, name: str, chosen: str, said: str, bars: Iterable[Shape], box: Box, context: Context
    ) -> tuple[Shape, ...]:
        style, em = context.style, context.page.text_px("body")
        label, body, note = context.font("label"), context.font("body"), context.font("note")
        said_in = wrap(" ".join(name.split()), box.width, label, most=1) if name.strip() else []
        shapes: list[Shape] = [Text(0, label.size, line, label, style.ink) for line in said_in]
        top = label.line_height + _AIR * em
        drawn = [shape.moved(0, top) for shape in bars]
        if drawn:
            shapes += drawn
            top += (_BARS + _AIR) * em
        high, pad, zoom = _ROW * em, 0.6 * em, context.page.zoom
        edge = rounded(max(1.0, box.width - zoom), high - zoom, _CORNER_PX * zoom)
        shapes.append(Path(edge, "none", style.muted, zoom, x=zoom / 2, y=top + zoom / 2))
        line = wrap(chosen, max(em, box.width - 2 * pad), body, most=1)
        shapes.append(Text(pad, top + (high + 0.7 * body.size) / 2, line[0] if line else "", body, style.ink))
        if said:
            shapes.append(Text(0, top + high + _AIR * em + note.size, said, note, style.muted))
        return tuple(shapes)

    def about(self) -> str:
        return "Readers of the page choose here. In the editor nothing is chosen." if self.column else ""

    def hints(self) -> str:
        return "" if self.column else "Choose beside the page what readers filter it by."

    def label(self) -> str:
        name = self.title.strip() or in_words(self.column)
        return f"Filter: {name}" if name else "A filter for readers"


def _height(way: Way, context: Context) -> float:
    """Return the height in px that a control needs: its name, a row or two of what is pressed, and what is said of it;
    of periods the bars as well."""
    em, label, note = context.page.text_px("body"), context.font("label"), context.font("note")
    rows, bars = (2, _BARS + _AIR) if way == "period" else (1, 0.0)
    return label.line_height + note.line_height + (_AIR + bars + rows * (_ROW + _AIR)) * em


def filter_by(table: str, column: str, **more: Any) -> FilterTile:
    """Return a filter by a column of a table."""
    return FilterTile.model_validate({"table": table, "column": column, **more})
