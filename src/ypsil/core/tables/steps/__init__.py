"""Steps: the operations that prepare a table, each a readable sentence, replayed on every arrival."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ypsil.core.tables.steps.base import ALONE, Applied, Context, Input, Step, StepRefused
from ypsil.core.tables.steps.cells import (
    Calculate,
    Classes,
    CorrectCell,
    FillDown,
    MergeSpellings,
    ReplaceValues,
)
from ypsil.core.tables.steps.columns import (
    ChangeKind,
    CombineColumns,
    DropColumns,
    KeepColumns,
    OrderValues,
    Rename,
    SayWhichWayIsGood,
    SplitColumn,
)
from ypsil.core.tables.steps.other_tables import LookUp, StackTable
from ypsil.core.tables.steps.shape import ColumnsIntoRows, RowsIntoColumns, Transpose
from ypsil.core.tables.steps.texts import FindThemes
from ypsil.core.tables.steps.which_rows import KeepRows, RemoveDuplicates, RowPerAnswer, Sort, Take

# In the order in which they are offered.
STEPS: tuple[type[Step], ...] = (
    Rename, ChangeKind, OrderValues, SayWhichWayIsGood,
    KeepColumns, DropColumns, KeepRows, FillDown, ReplaceValues, MergeSpellings,
    SplitColumn,
    CombineColumns, ColumnsIntoRows, RowsIntoColumns, Transpose, Calculate, Classes, FindThemes, RowPerAnswer,
    RemoveDuplicates, Sort, Take, LookUp, StackTable, CorrectCell,
)  # fmt: skip

AnyStep = Annotated[
    Rename | ChangeKind | OrderValues | SayWhichWayIsGood
    | KeepColumns | DropColumns | KeepRows | FillDown | ReplaceValues
    | MergeSpellings | SplitColumn | CombineColumns | ColumnsIntoRows | RowsIntoColumns | Transpose | Calculate
    | Classes | FindThemes | RowPerAnswer | RemoveDuplicates | Sort | Take | LookUp | StackTable | CorrectCell,
    Field(discriminator="type"),
]  # fmt: skip

__all__ = ["ALONE", "STEPS", "AnyStep", "Applied", "Context", "Input", "Step", "StepRefused"]
