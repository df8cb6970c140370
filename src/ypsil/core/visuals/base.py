"""What a visual is: declared needs, a purpose, an options model and one draw function."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

from ypsil.core.drawing.scene import Scene
from ypsil.core.questions.model import Answer
from ypsil.core.style.house import HouseStyle

Purpose = Literal["how much", "how it changes", "share of a whole", "who is biggest", "what people say"]


class Options(BaseModel):
    """The options of a visual; each subclass lists its own."""

    model_config = ConfigDict(extra="forbid", frozen=True)


@dataclass(frozen=True, slots=True)
class Box:
    """The room a visual is drawn in, in px."""

    width: float
    height: float


@dataclass(frozen=True, slots=True)
class Needs:
    """What an answer must have: measures, a grouping column or none, a split or none, and how many groups."""

    measures: tuple[int, int] = (1, 1)
    per: tuple[int, int] = (1, 1)
    split: bool = False
    dates: Literal["any", "needed", "never"] = "any"
    groups: tuple[int, int] = (1, 60)
    shares: bool = False
    words: Literal["any", "needed"] = "any"


@dataclass(frozen=True, slots=True)
class Fit:
    """Whether a visual suits an answer, how well (higher is better), and why in a few words."""

    fits: bool
    score: float
    reason: str


@dataclass(frozen=True, slots=True)
class Visual:
    """An entry of the registry. ``draw(answer, options, box, style)`` returns the scene."""

    name: str
    label: str
    purposes: tuple[Purpose, ...]
    purpose: str
    needs: Needs
    options: type[Options]
    draw: Callable[[Answer, Any, Box, HouseStyle], Scene]
    best_for: Callable[[Answer], tuple[float, str]]
    default_size: tuple[int, int] = (8, 40)  # columns of the page's grid, rows of 8 px


def is_over_time(answer: Answer) -> bool:
    """Tell whether an answer has one row a period."""
    per = answer.of("per")
    return bool(per) and per[0].kind == "date"


def is_words(answer: Answer) -> bool:
    per = answer.of("per")
    return bool(per) and per[0].name.startswith("Word in ")


def group_count(answer: Answer) -> int:
    """Return how many different groups the first grouping column of an answer has."""
    per = answer.of("per")
    return len(set(answer.values(per[0]))) if per else len(answer.rows)
