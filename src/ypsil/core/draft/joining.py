"""Tables about the same things, made one where their key is certain: a page of both says more than two pages."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass

import polars as pl

from ypsil.core.draft.subjects import Subject
from ypsil.core.tables.model import Column
from ypsil.core.tables.profile import profile
from ypsil.core.tables.shown_names import in_words
from ypsil.core.tiles import ReportTable

_KEYS = ("category", "place", "text", "date")
# So many of the rows find their partner at least: a few may be misspelt.
_FOUND = 0.98
_FEWEST_KEYS = 2


@dataclass(frozen=True, slots=True)
class Joined:
    """A table that was added to another, and the column that both have."""

    table: str
    added: str
    by: str


@dataclass(frozen=True, slots=True)
class Join:
    """A table to which another can be added, by the column that both have, and the columns that it brings."""

    one: Subject
    other: Subject
    key: str
    columns: tuple[str, ...]


def joined(subjects: Sequence[Subject]) -> tuple[list[Subject], list[Joined]]:
    """Return tables, those about the same things as one, and what was joined.

    A table is added to another by a column that both have under one name, where it names each row of the added one once
    and nearly all rows of the other are found in it. Nothing is joined by guessing: not by numbers, nor by like values
    under other names.
    """
    left = list(subjects)
    said: list[Joined] = []
    while (pair := certain_join(left)) is not None:
        one, other, key = pair.one, pair.other, pair.key
        said.append(Joined(one.table.name, other.table.name, in_words(key)))
        left = [_one_of(one, other, key) if subject is one else subject for subject in left if subject is not other]
    return left, said


def certain_join(subjects: Sequence[Subject]) -> Join | None:
    """Return the first two of some tables of which one can be added to the other for certain; None where there are
    none."""
    for one in subjects:
        for other in subjects:
            key = None if one is other else _key(one, other)
            if key is not None:
                known = {column.name for column in one.profile.columns}
                return Join(one, other, key, tuple(name for name in _names(other) if name not in known))
    return None


def _names(subject: Subject) -> list[str]:
    return [column.name for column in subject.profile.columns]


def _key(one: Subject, other: Subject) -> str | None:
    """Return the column by which a table is added to another for certain; None where there is none."""
    if other.profile.rows > one.profile.rows or len(other.profile.columns) < _FEWEST_KEYS:
        return None
    for column in other.profile.columns:
        own = one.profile.column(column.name)
        if own is None or own.kind not in _KEYS or column.kind not in _KEYS or column.missing:
            continue
        if column.distinct == other.profile.rows >= _FEWEST_KEYS and _is_found(one, other, column.name):
            return column.name
    return None


def _is_found(one: Subject, other: Subject, key: str) -> bool:
    ours, theirs = one.table.frame()[key].drop_nulls(), other.table.frame()[key]
    if ours.dtype != theirs.dtype or not len(ours):
        return False
    return bool(ours.is_in(theirs.to_list()).mean() >= _FOUND)  # type: ignore[operator]


def _one_of(one: Subject, other: Subject, key: str) -> Subject:
    """Return a table with the columns of another beside its own."""
    known = {column.name for column in one.profile.columns}
    added: tuple[Column, ...] = tuple(column for column in other.table.columns if column.name not in known)
    more = other.table.frame().select(key, *(column.name for column in added))
    frame: pl.DataFrame = one.table.frame().join(more, on=key, how="left", maintain_order="left")
    columns = (*one.table.columns, *added)
    digest = hashlib.sha256(f"{one.table.digest}\0{other.table.digest}\0{key}".encode()).hexdigest()
    source = f"{one.table.source}; {other.table.source}, joined by {in_words(key)}"
    table = ReportTable(one.table.name, columns, lambda: frame, digest, source, one.table.read)
    return Subject(one.key, table, profile(frame, columns))
