"""A version's rows under a recipe: read from its file, then prepared step by step, each kept by content."""

from __future__ import annotations

import datetime as dt
import hashlib
from collections.abc import Callable
from dataclasses import asdict, dataclass
from typing import Any

from django.db import IntegrityError, transaction

from ypsil.core.tables import Column, ReadTable, frame_to_blob
from ypsil.core.tables.profile import Profile, profile
from ypsil.core.tables.read import Way
from ypsil.core.tables.reading import Reading
from ypsil.core.tables.recipe import Recipe, StepResult, replay
from ypsil.core.tables.rows import Rows
from ypsil.core.tables.steps import Context, StepRefused
from ypsil.web.gather.blobs import content, forget_unused, frame_of, keep, remember_frame
from ypsil.web.gather.models import Preparation, Table, Version
from ypsil.web.gather.read_apart import read_apart

Progress = Callable[[float], None]
_KEPT_OF_A_VERSION = 4


def columns_of(preparation: Preparation) -> tuple[Column, ...]:
    return tuple(Column(**data | {"order": tuple(data.get("order", ()))}) for data in preparation.columns)


def rows_of(preparation: Preparation) -> Rows:
    return Rows.of(frame_of(preparation.rows_blob_id), columns_of(preparation))


def base(version: Version, reading: Reading, progress: Progress | None = None) -> Preparation:
    """Return a version as it is read, before any step; the file is read where that is not kept.

    Raises UnreadableFile where the file cannot be read this way.
    """
    found = version.preparations.filter(digest=reading.digest()).first()
    if found is not None:
        return found
    data = content(version.original_id)
    table, way = read_apart(data, version.file_name, sheet=version.sheet or None, reading=reading, progress=progress)
    return _keep_base(version, reading, table, way)


@dataclass(frozen=True, slots=True)
class Worked:
    """Rows with what takes long to work out of them: their profile, and their bytes as they are kept."""

    rows: Rows
    columns: tuple[Column, ...]
    profile: Profile
    stored: bytes

    @classmethod
    def out(cls, rows: Rows, columns: tuple[Column, ...]) -> Worked:
        return cls(rows, columns, profile(rows.frame, columns), frame_to_blob(rows.frame))


@dataclass(frozen=True, slots=True)
class Arrived:
    """A file that was read, worked out before anything is written: as it was read, and after the steps of a recipe."""

    table: ReadTable
    way: Way
    base: Worked
    after: Worked | None
    results: list[StepResult]


def work_out(read: ReadTable, way: Way, recipe: Recipe, table: Table | None) -> Arrived:
    """Do all that takes long with a file, so that other writers need not wait while it is stored."""
    rows = Rows.of_table(read)
    steps = tuple(step for step in recipe.steps if step.on)
    results = replay(rows, steps, Context(_Others(table, ()).rows)) if steps and table is not None else []
    after = Worked.out(results[-1].rows, results[-1].rows.columns()) if results else None
    return Arrived(read, way, Worked.out(rows, read.columns), after, results)


def keep_arrived(version: Version, recipe: Recipe, arrived: Arrived) -> None:
    """Keep a version's rows as they were read, and after the steps where they were worked out."""
    _keep_base(version, recipe.reading, arrived.table, arrived.way, arrived.base)
    if arrived.after is not None:
        digest = _Others(version.table, ()).digest(recipe)
        _keep(version, digest, arrived.after, is_base=False, results=_said(arrived.results))


def _keep_base(
    version: Version, reading: Reading, table: ReadTable, way: Way, worked: Worked | None = None
) -> Preparation:
    return _keep(
        version,
        reading.digest(),
        worked or Worked.out(Rows.of_table(table), table.columns),
        is_base=True,
        remarks=[remark.as_json() for remark in table.remarks],
        sheets=list(table.sheets),
        encoding=way.encoding,
        separator=way.separator,
    )


def _said(results: list[StepResult]) -> list[dict[str, Any]]:
    return [{"notes": list(one.notes), "problem": one.problem, "place": one.place} for one in results]


def prepared(
    table: Table,
    version: Version | None = None,
    recipe: Recipe | None = None,
    *,
    within: tuple[str, ...] = (),
    progress: Progress | None = None,
) -> Preparation:
    """Return the rows of a table's version (the current one) after all steps of a recipe (its own) that are on.

    ``within`` are the tables on whose behalf this one is prepared, so that loops are found.
    """
    version = version or table.current
    assert version is not None
    recipe = recipe or table.read_recipe()
    steps = tuple(step for step in recipe.steps if step.on)
    if not steps:
        return base(version, recipe.reading, progress)
    others = _Others(table, within)
    digest = others.digest(recipe)
    found = version.preparations.filter(digest=digest).first()
    if found is not None:
        return found
    first = base(version, recipe.reading, progress)
    results = replay(rows_of(first), steps, Context(others.rows), progress)
    if within and others.loops:
        # The table that asked cannot be prepared this way; its own step says so.
        raise others.loops[0]
    rows = results[-1].rows
    return _keep(version, digest, Worked.out(rows, rows.columns()), is_base=False, results=_said(results))


def rows_after(table: Table, version: Version, recipe: Recipe, count: int) -> tuple[Rows, list[StepResult]]:
    """Return a version's rows after its first ``count`` steps, without keeping them."""
    rows = rows_of(base(version, recipe.reading))
    results = replay(rows, recipe.steps[:count], Context(_Others(table, ()).rows))
    return (results[-1].rows if results else rows), results


class _Others:
    """The other tables that a table's steps look into; loops that are found on the way are kept."""

    def __init__(self, table: Table, within: tuple[str, ...]) -> None:
        self.table = table
        self.within = within
        self.loops: list[StepRefused] = []

    def prepared(self, uid: str) -> tuple[str, Preparation]:
        found = Table.objects.filter(owner=self.table.owner_id, uid=uid).select_related("current").first()
        if found is None or found.current is None:
            raise StepRefused("the other table is not there any more", remedy="choose another or take the step away")
        if uid == self.table.uid or uid in self.within:
            what = f"“{found.name}” looks into “{self.table.name}” itself, so neither could be prepared"
            self.loops.append(StepRefused(what, remedy="take one of the two look-ups away"))
            raise self.loops[-1]
        return found.name, prepared(found, within=(*self.within, self.table.uid))

    def rows(self, uid: str) -> tuple[str, Rows]:
        name, preparation = self.prepared(uid)
        return name, rows_of(preparation)

    def digest(self, recipe: Recipe) -> str:
        """Return the key of what a recipe gives, with the rows of the tables that it looks into."""
        seen = [recipe.digest()]
        if recipe.uses_today():
            seen.append(dt.date.today().isoformat())
        for uid in recipe.other_tables():
            try:
                name, preparation = self.prepared(uid)
                seen.append(f"{uid}:{name}:{preparation.rows_blob_id}")
            except StepRefused as problem:
                seen.append(problem.line())
        return hashlib.sha256("\n".join(seen).encode()).hexdigest() if len(seen) > 1 else recipe.digest()


def _keep(version: Version, digest: str, worked: Worked, *, is_base: bool, **fields: Any) -> Preparation:
    found = worked.profile
    try:
        with transaction.atomic():
            made = Preparation.objects.create(
                version=version,
                digest=digest,
                is_base=is_base,
                rows_blob=keep(worked.stored),
                row_count=worked.rows.frame.height,
                columns=[asdict(column) for column in worked.columns],
                values=found.values,
                grains=found.grains,
                ends=found.ends,
                spreads={name: one.as_json() for name, one in found.spreads.items()},
                **fields,
            )
            _forget_older(version)
            remember_frame(made.rows_blob_id, worked.rows.frame)
            return made
    except IntegrityError:
        # Another request prepared the same in the meantime.
        return version.preparations.get(digest=digest)


def _forget_older(version: Version) -> None:
    """Keep the latest few preparations of a version; others are made again when they are needed."""
    older = list(version.preparations.filter(is_base=False)[_KEPT_OF_A_VERSION:])
    older += list(version.preparations.filter(is_base=True)[_KEPT_OF_A_VERSION:])
    digests = {one.rows_blob_id for one in older}
    Preparation.objects.filter(pk__in=[one.pk for one in older]).delete()
    forget_unused(digests)
