"""Steps: the operations that prepare a table, each a readable sentence, replayed on every arrival.

Every class of a step in a file of this room is one: nothing else names them all.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from ypsil.core.registry import classes_in, one_of
from ypsil.core.tables.steps.base import ALONE, Applied, Context, Input, Step, StepRefused

# In the order in which they are offered.
STEPS: tuple[type[Step], ...] = tuple(sorted(classes_in(__name__, __file__, Step), key=lambda step: step.offered_at))

if TYPE_CHECKING:
    AnyStep = Step
else:
    AnyStep = one_of(STEPS)

__all__ = ["ALONE", "STEPS", "AnyStep", "Applied", "Context", "Input", "Step", "StepRefused"]
