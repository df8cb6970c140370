"""Filters of a question."""

from __future__ import annotations

import polars as pl

from ypsil.core.tables.conditions import Filter, condition
from ypsil.core.tables.model import Column


def keep_rows(frame: pl.DataFrame, columns: dict[str, Column], rules: tuple[Filter, ...]) -> pl.DataFrame:
    """Return the rows that pass every rule."""
    for rule in rules:
        frame = frame.filter(condition(frame, columns[rule.column].field, rule))
    return frame
