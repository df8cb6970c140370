"""Whether a new version can be shown: a table is held while it lacks what its steps or its reports need."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import dataclass

from django.db import transaction

from ypsil.core.errors import YpsilError
from ypsil.core.tables.compare import guess_renames
from ypsil.core.tables.recipe import Recipe
from ypsil.web.compose.services import unmet_of
from ypsil.web.gather.models import Preparation, Table, Version
from ypsil.web.gather.preparing import base, columns_of, prepared, rows_of


@dataclass(frozen=True, slots=True)
class Lack:
    """What goes without: a tile of a report or a step, and why; ``report`` is the report's title, of a tile."""

    who: str
    reason: str
    report: str = ""


@dataclass(frozen=True, slots=True)
class GoneColumn:
    """A column that is not in the held version, the new column it is taken for, and whether it is needed."""

    name: str
    guess: str
    needed: bool


def show_or_hold(table: Table, version: Version) -> None:
    """Make a version the current one, or hold the table where it lacks something that was there before."""
    if table.current is None or not lacks(table, version):
        table.current, table.held = version, None
    else:
        table.held = version
    table.save(update_fields=["current", "held"])


def prepare_held(table: Table, recipe: Recipe) -> None:
    """Prepare a held version under a recipe that is about to be the table's, before anything is written."""
    if table.held is not None:
        with suppress(YpsilError):
            prepared(table, table.held, recipe)


def reconsider(table: Table) -> None:
    """Let a held version in when nothing is lacking any more."""
    if table.held is not None:
        show_or_hold(table, table.held)


def lacks(table: Table, version: Version) -> list[Lack]:
    """Return what a version leaves without an answer that the current version answers."""
    assert table.current is not None
    try:
        old, new = prepared(table), prepared(table, version)
    except YpsilError as problem:
        return [Lack("The file", problem.what)]
    return [*_failing_steps(table, old, new), *_tiles_without_answer(table, old, new)]


def _failing_steps(table: Table, old: Preparation, new: Preparation) -> list[Lack]:
    steps = [step for step in table.read_recipe().steps if step.on]
    before = [result["problem"] for result in old.results] or [""] * len(steps)
    after = [result["problem"] for result in new.results] or [""] * len(steps)
    return [
        Lack(f"The step “{step.sentence()}”", problem)
        for step, was, problem in zip(steps, before, after, strict=True)
        if problem and not was
    ]


def _tiles_without_answer(table: Table, old: Preparation, new: Preparation) -> list[Lack]:
    before = {(title, need.tile_id) for title, need in unmet_of(table.owner, table.uid, columns_of(old))}
    return [
        Lack(f"The tile “{need.tile_name}”", need.reason, title)
        for title, need in unmet_of(table.owner, table.uid, columns_of(new))
        if (title, need.tile_id) not in before
    ]


def by_report(found: list[Lack]) -> list[tuple[str, list[Lack]]]:
    """Return what goes without by report, in order; what is of none comes first."""
    groups: dict[str, list[Lack]] = {}
    for lack in found:
        groups.setdefault(lack.report, []).append(lack)
    return sorted(groups.items(), key=lambda group: bool(group[0]))


def gone_columns(table: Table, version: Version) -> tuple[list[GoneColumn], list[str]]:
    """Return the columns that a version's file no longer has, the needed ones first, and those it has instead."""
    assert table.current is not None
    reading = table.read_recipe().reading
    old, new = rows_of(base(table.current, reading)), rows_of(base(version, reading))
    gone = [name for name in old.names if name not in new.fields]
    fresh = [name for name in new.names if name not in old.fields]
    guesses = dict(guess_renames(old, new, gone, fresh))
    reasons = " ".join(lack.reason for lack in lacks(table, version))
    found = [GoneColumn(name, guesses.get(name, ""), f"“{name}”" in reasons) for name in gone]
    return sorted(found, key=lambda one: not one.needed), fresh


def make_current(table: Table, version: Version) -> None:
    """Let reports show a version, whatever it lacks."""
    prepared(table, version)
    with transaction.atomic():
        table.current, table.held = version, None
        table.save(update_fields=["current", "held"])
