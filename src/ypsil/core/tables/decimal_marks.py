"""What a column does not show about its decimal mark, the other columns of its file may."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ypsil.core.tables.kinds import Judged, judge
from ypsil.core.tables.layout import Laid
from ypsil.core.tables.numbers_in_text import Mark, marks_may_part_thousands
from ypsil.core.tables.reading import Reading

_UNSURE = "decimal-mark-ambiguous"


def with_marks_of_others(columns: Sequence[Judged], laid: Laid, reading: Reading) -> list[Judged]:
    """Return the columns, those with "1.204" or "1,204" alone read as the sure ones of the same file are.

    Where others have a decimal comma, a point parts thousands and a comma begins decimals; where others have a
    decimal point, it does so here.
    """
    comma = any(_has(one, "decimal-comma") for one in columns)
    point = any(one.values.dtype.is_float() and not _has(one, _UNSURE, "decimal-comma") for one in columns)
    if comma == point:
        return list(columns)
    return [_settled(one, "," if comma else ".", laid, reading) for one in columns]


def _settled(one: Judged, mark: Mark, laid: Laid, reading: Reading) -> Judged:
    name = one.column.name
    if name in reading.decimals:
        return one
    if mark == ".":
        return replace(one, remarks=tuple(remark for remark in one.remarks if remark.code != _UNSURE))
    is_whole = one.column.kind == "number" and one.values.dtype.is_integer() and _has(one, "numbers-as-text")
    if _has(one, _UNSURE) or (is_whole and marks_may_part_thousands(laid.cells[name].unique(), ",")):
        flags = laid.text_cells[name] if laid.text_cells is not None else None
        told = reading.model_copy(update={"decimals": {**reading.decimals, name: mark}})
        return judge(name, laid.cells[name], laid.row_numbers, flags, told)
    return one


def _has(one: Judged, *codes: str) -> bool:
    return any(remark.code in codes for remark in one.remarks)
