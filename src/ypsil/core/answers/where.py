"""Filters of a question."""

from __future__ import annotations

from collections.abc import Sequence

import polars as pl

from ypsil.core.tables.conditions import Filter, condition
from ypsil.core.tables.model import Column


def keep_rows(frame: pl.DataFrame, columns: dict[str, Column], rules: Sequence[Filter]) -> pl.DataFrame:
    """Return the rows that pass every rule, whatever order the rules are in."""
    return frame.filter(passes(frame, columns, rules)) if rules else frame


def passes(frame: pl.DataFrame, columns: dict[str, Column], rules: Sequence[Filter]) -> pl.Expr:
    """Return whether a row passes every rule; the last periods are counted back from the end of ``frame``."""
    return pl.all_horizontal(condition(frame, columns[rule.column].field, rule) for rule in rules)


def left_out_unsaid(frame: pl.DataFrame, columns: dict[str, Column], rules: Sequence[Filter]) -> list[str]:
    """Say how many rows a rule of what is not wanted leaves out because they have no value: nobody knows what it is."""
    notes = []
    for rule in rules:
        missing = frame[rule.column].null_count() if rule.test == "not_in" else 0
        if missing:
            rows = "1 row without" if missing == 1 else f"{missing:,} rows without"
            notes.append(f"{rows} {rule.column} {'is' if missing == 1 else 'are'} left out as well")
    return notes
