"""What changed between two versions of a table."""

from __future__ import annotations

import difflib
from dataclasses import dataclass
from itertools import combinations

import polars as pl

from ypsil.core.tables.convert import as_text
from ypsil.core.tables.model import Field
from ypsil.core.tables.rows import Rows

_MOST_KEY_COLUMNS = 4
_KEY_CANDIDATES = 8
_SHOWN = 20
_LIKE = 0.5
_SAMPLE = 5_000


@dataclass(frozen=True, slots=True)
class Total:
    """A number column's sum in both versions; ``unit`` as it is written with."""

    column: str
    before: float
    after: float
    unit: str | None = None


@dataclass(frozen=True, slots=True)
class ChangedCell:
    """A cell of a row that both versions have: where, what it said and what it says."""

    key: tuple[str, ...]
    column: str
    before: str | None
    after: str | None


@dataclass(frozen=True, slots=True)
class Comparison:
    """Two versions side by side. ``key`` is what rows were found again by; empty where there is no key.

    Without a key, a row is the same when all its cells are. ``changed`` counts rows; ``cells`` are the
    first of them.
    """

    rows_before: int
    rows_after: int
    key: tuple[str, ...]
    added: int
    gone: int
    changed: int
    cells: tuple[ChangedCell, ...]
    columns_added: tuple[str, ...]
    columns_gone: tuple[str, ...]
    renamed: tuple[tuple[str, str], ...]
    kinds_changed: tuple[tuple[str, str, str], ...]
    totals: tuple[Total, ...]

    @property
    def same(self) -> bool:
        columns = self.columns_added or self.columns_gone or self.kinds_changed
        return not (columns or self.added or self.gone or self.changed)


def compare(before: Rows, after: Rows) -> Comparison:
    """Return what changed from one version to another.

    A column that is gone beside one that is new and alike is guessed to be renamed.
    """
    gone = [name for name in before.names if name not in after.fields]
    new = [name for name in after.names if name not in before.fields]
    renamed = guess_renames(before, after, gone, new)
    old_names = dict(renamed)
    fields = {old_names.get(name, name): field for name, field in before.fields.items()}
    before = Rows(before.frame.rename(old_names), fields)
    both = [name for name in after.names if name in before.fields]
    key = find_key(before, after, both)
    added, lost, changed, cells = _rows(before, after, both, key)
    return Comparison(
        before.frame.height,
        after.frame.height,
        key,
        added,
        lost,
        changed,
        cells,
        tuple(name for name in new if name not in old_names.values()),
        tuple(name for name in gone if name not in old_names),
        tuple(renamed),
        tuple(
            (name, before.fields[name].kind, after.fields[name].kind)
            for name in both
            if before.fields[name].kind != after.fields[name].kind
        ),
        tuple(
            Total(name, _sum(before, name), _sum(after, name), after.fields[name].unit)
            for name in both
            if before.fields[name].kind == after.fields[name].kind == "number"
        ),
    )


def _sum(rows: Rows, name: str) -> float:
    return float(rows.frame[name].sum() or 0)


def guess_renames(before: Rows, after: Rows, gone: list[str], new: list[str]) -> list[tuple[str, str]]:
    """Return pairs of an old and a new name that seem to mean the same column, the surest first.

    They are alike in name (Ratcliff/Obershelp ratio, Dr. Dobb's Journal, July 1988) and in what they hold.
    """
    scored = [
        (score, old, name) for old in gone for name in new if (score := _likeness(before, after, old, name)) >= _LIKE
    ]
    pairs: list[tuple[str, str]] = []
    for _, old, name in sorted(scored, key=lambda one: (-one[0], one[1], one[2])):
        if all(old != first and name != second for first, second in pairs):
            pairs.append((old, name))
    return pairs


def _likeness(before: Rows, after: Rows, old: str, new: str) -> float:
    one, other = before.fields[old], after.fields[new]
    words = {"category", "text", "place"}
    if one.kind != other.kind and not {one.kind, other.kind} <= words:
        return 0.0
    names = difflib.SequenceMatcher(None, old.casefold(), new.casefold()).ratio()
    return 0.5 * names + 0.5 * _overlap(before.frame[old], after.frame[new], one, other)


def _overlap(one: pl.Series, other: pl.Series, field: Field, other_field: Field) -> float:
    """Return how much of the values stands in both; of numbers also how far their middles agree."""
    first = set(as_text(one.drop_nulls().head(_SAMPLE), field).unique().to_list())
    second = set(as_text(other.drop_nulls().head(_SAMPLE), other_field).unique().to_list())
    if not first or not second:
        return 0.0
    return len(first & second) / min(len(first), len(second))


def find_key(before: Rows, after: Rows, both: list[str]) -> tuple[str, ...]:
    """Return the fewest columns, up to four, that tell every row of each version apart; none is empty.

    Numbers are amounts, not names, so they are no keys; a column that names itself an identifier comes first.
    """
    names = [name for name in both if after.fields[name].kind in ("category", "date", "place")]
    names = [name for name in names if before.fields[name].kind in ("category", "date", "place")]
    names = sorted(names, key=lambda name: -after.frame[name].n_unique())[:_KEY_CANDIDATES]
    names = [name for name in both if name in names]
    for size in range(1, min(_MOST_KEY_COLUMNS, len(names)) + 1):
        for chosen in combinations(names, size):
            if all(_tells_apart(rows.frame, chosen) for rows in (after, before)):
                return chosen
    return ()


def _tells_apart(frame: pl.DataFrame, names: tuple[str, ...]) -> bool:
    room = 1
    for name in names:
        room *= max(1, frame[name].n_unique())
    return room >= frame.height and frame.select(names).n_unique() == frame.height


def _rows(
    before: Rows, after: Rows, both: list[str], key: tuple[str, ...]
) -> tuple[int, int, int, tuple[ChangedCell, ...]]:
    """Return how many rows came, went and changed, and the first changed cells."""
    old, new = _texts(before, both), _texts(after, both)
    if not key:
        here, there = old.hash_rows(seed=1), new.hash_rows(seed=1)
        counts = pl.concat([_counted(here, "old"), _counted(there, "new")], how="align").fill_null(0)
        difference = counts["new"].cast(pl.Int64) - counts["old"].cast(pl.Int64)
        return int(difference.clip(0).sum()), int((-difference).clip(0).sum()), 0, ()
    others = [name for name in both if name not in key]
    joined = old.with_columns(pl.lit(True).alias("\x00old")).join(
        new.with_columns(pl.lit(True).alias("\x00new")), on=list(key), how="full", coalesce=True, suffix="\x00",
        nulls_equal=True, maintain_order="right",
    )  # fmt: skip
    added, gone = joined["\x00old"].null_count(), joined["\x00new"].null_count()
    shared = joined.filter(pl.col("\x00old") & pl.col("\x00new"))
    differs = {name: shared[name].ne_missing(shared[f"{name}\x00"]) for name in others}
    if not differs:
        return added, gone, 0, ()
    changed = int(pl.DataFrame(differs).select(pl.any_horizontal(pl.all())).to_series().sum())
    return added, gone, changed, tuple(_first_cells(shared, differs, key))


def _counted(hashes: pl.Series, name: str) -> pl.DataFrame:
    return hashes.alias("hash").value_counts(name=name)


def _texts(rows: Rows, names: list[str]) -> pl.DataFrame:
    return pl.DataFrame([as_text(rows.frame[name], rows.fields[name]).alias(name) for name in names])


def _first_cells(shared: pl.DataFrame, differs: dict[str, pl.Series], key: tuple[str, ...]) -> list[ChangedCell]:
    found = []
    for name, mask in differs.items():
        for row in shared.filter(mask).select(*key, name, f"{name}\x00").head(_SHOWN).rows():
            *place, old, new = row
            found.append(ChangedCell(tuple(str(part) for part in place), name, old, new))
    return found[:_SHOWN]
