"""The order that the groups of an answer stand in, and which of them are kept."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import polars as pl

from ypsil.core.answers.groups import Group
from ypsil.core.errors import QuestionRefused
from ypsil.core.questions.model import Order
from ypsil.core.tables.natural_order import by_numbers_inside, is_beside, natural_order

Totals = Callable[[str], pl.DataFrame]


def members_in_order(
    found: pl.Series, group: Group, order: Order | None, kept: bool, totals: Totals
) -> tuple[list[Any], bool]:
    """Return a group's values in the order they are shown in, and whether that order is the values' own.

    ``found`` are the different values there are; ``totals(key)`` gives the first measure for each. Unless asked
    otherwise, time, numbers and classes stand in their order, labels with an order of their own (weekdays,
    ratings, sizes, age bands) in that, and others from the highest value down; so do all where only some are
    ``kept``.
    """
    if order is None:
        own = _own_order(found, group, kept)
        if own is not None:
            return own, True
    order = order or Order(by="value", descending=True)
    if order.by == "name":
        return found.sort(descending=order.descending).to_list(), group.in_time_order
    if order.by == "natural":
        return _in_natural_order(found, group, order.descending), True
    if order.by == "given":
        known = found.sort().to_list()
        given = [value for value in order.values if value in known]
        return given + [value for value in known if value not in given], bool(given)
    ranked = totals(group.key).sort(["measure0", group.key], descending=[order.descending, False], nulls_last=True)
    members = ranked[group.key].to_list()
    if group.explode:
        # Of several answers what stands beside them ("Other", "No theme") comes last (common practice, no source).
        members.sort(key=is_beside)
    return members + [member for member in group.members if member not in set(members)], False


def order_along(found: pl.Series, group: Group, order: Order | None) -> list[Any] | None:
    """Return a group's values in the order in which one follows another; None where they have none.

    Names and amounts put values in a row to look at, but a change from one to the next means nothing there.
    """
    if group.members or group.given or group.in_time_order:
        return _own_order(found, group, kept=False)
    if order is not None and order.by == "given":
        known = set(found.to_list())
        given = [value for value in order.values if value in known]
        return [*given, *sorted(known.difference(given))] if given else None
    return natural_order(found.to_list())


def _own_order(found: pl.Series, group: Group, kept: bool) -> list[Any] | None:
    if group.members:
        return list(group.members)
    if group.given:
        return _as_given(found, group)
    if group.in_time_order:
        return found.sort().to_list()
    return natural_order(found.to_list()) if found.dtype == pl.String and not kept else None


def _as_given(found: pl.Series, group: Group) -> list[Any]:
    """Return the values in the order that somebody gave the column; new ones stand behind, those beside it last."""
    there = set(found.drop_nulls().to_list())
    new = [value for value in by_numbers_inside(there) if value not in group.given]
    ordered = [value for value in group.given if value in there] + new
    return sorted(ordered, key=is_beside)


def _in_natural_order(found: pl.Series, group: Group, descending: bool) -> list[Any]:
    if group.members:
        members = list(group.members)
    elif group.given:
        members = _as_given(found, group)
    elif found.dtype == pl.String:
        members = natural_order(found.to_list()) or by_numbers_inside(found.to_list())
    else:
        members = found.sort().to_list()
    return members[::-1] if descending else members


@dataclass(frozen=True, slots=True)
class Cut:
    """The members that are kept, what is said of the others, and where these stand together, how they are named."""

    members: list[Any]
    note: str
    named: pl.Expr | None = None


def keep_first(group: Group, members: list[Any], keep: int, rest: str | None, kind: pl.DataType) -> Cut:
    """Cut the members to the first ``keep``, or put all others together under ``rest``; say which."""
    cut = len(members) - keep
    members = members[:keep]
    if rest is None:
        return Cut(members, f"{cut:,} more of {group.column.name} are not shown")
    if kind != pl.String:
        raise QuestionRefused(
            f"“rest” needs named groups, and {group.column.name} holds {group.column.kind}",
            remedy="leave “rest” out",
        )
    inside = pl.col(group.key).is_in(members)
    named = pl.when(inside).then(pl.col(group.key)).otherwise(pl.lit(rest)).alias(group.key)
    ordered = [member for member in members if member != rest] + [rest]
    return Cut(ordered, f"{cut:,} of {group.column.name} stand together as {rest}", named)
