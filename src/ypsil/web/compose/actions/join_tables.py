"""Bring the columns of one table into another that it belongs to."""

from __future__ import annotations

from collections.abc import Sequence

from ypsil.core.draft import certain_join
from ypsil.core.errors import YpsilError
from ypsil.web.accounts.services import User
from ypsil.web.compose import gallery
from ypsil.web.gather.actions.change_recipe import change_recipe
from ypsil.web.gather.services import Table


def join_tables(asker: User, tables: Sequence[str]) -> tuple[Table, Table]:
    """Look up the columns of one of the asker's tables in another, where their key is certain; return the one that has
    them now, and the other. Raises YpsilError where no two of them go together."""
    chosen = gallery.chosen_among(gallery.tables_with_rows(asker), tables)
    join = certain_join(gallery.subjects_for(chosen))
    if join is None or not join.columns:
        raise YpsilError("no two of these tables go together for certain", remedy="look columns up in a table by hand")
    by_uid = {table.uid: table for table in chosen}
    one, other = by_uid[join.one.key], by_uid[join.other.key]
    key = [{"here": join.key, "there": join.key}]
    step = {"type": "look_up", "table": other.uid, "table_name": other.name, "columns": [*join.columns], "key": key}
    change_recipe(asker, one.uid, {"action": "add", "step": step})
    return one, other
