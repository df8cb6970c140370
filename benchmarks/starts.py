"""Pages that are there at once: a draft, all templates with a long table, another style, numbers found in a text."""

from __future__ import annotations

import json
from pathlib import Path

import polars as pl

from benchmarks.timing import Job, Row, side_by_side
from ypsil.core.draft import Subject, draft
from ypsil.core.numbers import found_in
from ypsil.core.questions import parse_question
from ypsil.core.render import compose
from ypsil.core.report import Band, ReportBody, ReportTable, VisualTile, parse_edit
from ypsil.core.tables import ReadTable
from ypsil.core.tables.profile import profile
from ypsil.core.templates import filled, match, page_of, templates
from ypsil.core.tiles import drawings

_MARKED = Path(__file__).parents[1] / "tests/reference/marked_numbers.json"
_TILES = 60


def starts(small: ReadTable, large: ReadTable) -> list[Row]:
    """Measure drafts of both tables, and of the small one all templates; rows count once more for each run."""

    def subject(table: ReadTable) -> Subject:
        asked = ReportTable(table.name, table.columns, lambda: table.frame, "a", "a line")
        return Subject("t", asked, profile(table.frame, table.columns))

    def drafted(table: ReadTable) -> object:
        one = subject(table)
        made = draft([one], ReportBody(title="T"))
        return compose(made.body, {"t": one.table}, drawings())

    def gallery() -> object:
        one, memory = subject(small), drawings()
        fitting = [template for template in templates().values() if match(template, [one]).fits]
        pages = [filled(template, [one], ReportBody(title="T", page=page_of(template))).body for template in fitting]
        return [compose(page, {"t": one.table}, memory) for page in pages]

    def counted() -> object:
        return small.frame.select(pl.len())

    text = " ".join(one["text"] for one in json.loads(_MARKED.read_text()))[:3_000]
    return [
        side_by_side("a draft of 100,000 rows, drawn", lambda: drafted(small), "polars count", counted, "<3000 ms", 3),
        side_by_side("a draft of 1M rows, drawn", lambda: drafted(large), "polars count", counted, "<6000 ms", 3),
        side_by_side("all templates, 100,000 rows, drawn", gallery, "polars count", counted, "<4000 ms", 3),
        side_by_side(f"another style, {_TILES} tiles", _restyled(small), "polars count", counted, "<400 ms"),
        side_by_side("numbers of a page of text", lambda: found_in(text), "polars count", counted, "<700 ms"),
    ]


def _restyled(table: ReadTable) -> Job:
    """Return what dresses a report of many charts in one palette after the other."""
    asked = ReportTable(table.name, table.columns, lambda: table.frame, "a", "a line")
    question = parse_question({"measures": [{"stat": "sum", "column": "Visits"}], "per": [{"column": "Branch"}]})
    tiles = tuple(
        VisualTile(id=f"t{n}", table="t", question=question, visual="bar", title=f"{n}") for n in range(_TILES)
    )
    body = ReportBody(title="T", bands=(Band(id="b", tiles=tiles),))
    memory = drawings()
    number = 0

    def restyle() -> object:
        nonlocal number
        number += 1
        colour = f"#{(number * 7919) % (1 << 24):06x}"
        return compose(parse_edit({"type": "restyle", "from_colour": colour}).apply(body), {"t": asked}, memory)

    return restyle
