"""What a table offers to a question: its columns with their commonest values."""

from __future__ import annotations

from dataclasses import dataclass

import polars as pl

from ypsil.core.tables.model import Column, Kind

_SHOWN_VALUES = 60


@dataclass(frozen=True, slots=True)
class Profile:
    """A table's columns and, for those with labels, their values from the commonest down."""

    columns: tuple[Column, ...]
    values: dict[str, tuple[str, ...]]
    rows: int

    def of(self, *kinds: Kind) -> list[Column]:
        return [column for column in self.columns if column.kind in kinds]

    def column(self, name: str | None) -> Column | None:
        return next((column for column in self.columns if column.name == name), None)


def profile(frame: pl.DataFrame, columns: tuple[Column, ...]) -> Profile:
    """Return the profile of a frame; yes/no columns offer both words whether or not both occur."""
    values: dict[str, tuple[str, ...]] = {}
    for column in columns:
        if column.kind == "yesno":
            values[column.name] = ("Yes", "No")
        elif column.kind in ("category", "place", "list"):
            series = frame[column.name]
            flat = series.explode() if column.kind == "list" else series
            counted = flat.drop_nulls().value_counts().sort(["count", column.name], descending=[True, False])
            values[column.name] = tuple(counted[column.name].head(_SHOWN_VALUES).to_list())
    return Profile(columns, values, frame.height)
