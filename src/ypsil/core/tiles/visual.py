"""Visual: the answer to a question of a table, drawn."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field

from ypsil.core.drawing.pictures import is_picture_name
from ypsil.core.questions.model import Question
from ypsil.core.questions.sentence import sentence
from ypsil.core.tiles.base import Asked, TileKind
from ypsil.core.visuals import checked_options, visual


class VisualTile(TileKind):
    type: Literal["visual"] = "visual"
    table: str
    question: Question
    visual: str
    options: dict[str, Any] = Field(default_factory=dict)
    title: str = Field("", max_length=500)
    alt: str = Field("", max_length=2_000, description="stands for the drawing; left out: written from the data")

    def usual_size(self) -> tuple[int, int]:
        return visual(self.visual).default_size

    def asks(self) -> Asked:
        return Asked(self.table, self.question)

    def label(self) -> str:
        return self.title or sentence(self.question)

    def pictures(self) -> list[str]:
        return [value for value in self.options.values() if isinstance(value, str) and is_picture_name(value)]

    def check(self) -> None:
        checked_options(self.visual, self.options)
