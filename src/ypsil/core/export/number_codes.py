"""The number formats of office programs (ECMA-376, part 1, 18.8.31) that show values as a page does."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from ypsil.core.answers.model import AnswerColumn
from ypsil.core.figures import POINTS, SHARE_UNITS, decimals_for
from ypsil.core.tables.units import AMOUNTS_OF_MONEY

PERIOD_CODES = {"year": "yyyy", "month": "mmm yyyy", "day": "yyyy-mm-dd"}


def number_code(column: AnswerColumn, values: Sequence[Any]) -> str:
    """Return the number format that shows values of a column as the page does; nothing where they are texts.

    >>> number_code(AnswerColumn("Cost", "number", "measure", "£"), [1204.5])
    '"£"#,##0'
    """
    if column.role != "measure":
        return PERIOD_CODES.get(column.grain or "", "")
    numbers = [float(value) for value in values if isinstance(value, int | float) and not isinstance(value, bool)]
    shown = [100 * number for number in numbers] if column.unit in SHARE_UNITS else numbers
    places = column.decimals if column.decimals is not None else decimals_for(shown, unit=column.unit)
    behind = "." + "0" * places if places else ""
    if column.unit == POINTS:
        return f'0{behind}" pp"'
    if column.unit in SHARE_UNITS:
        return f"0{behind}%"
    unit = (column.unit or "").replace('"', "")
    if unit in AMOUNTS_OF_MONEY:
        return f'"{unit}"#,##0{behind}'
    return f'#,##0{behind} "{unit}"' if unit else f"#,##0{behind}"
