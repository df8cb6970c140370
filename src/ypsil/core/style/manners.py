"""How all charts of a report are drawn, whatever they show."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field


class ChartManner(BaseModel):
    """The lines of the scale, the corners of bars (px), and how wide lines are, times what is usual."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    grid: Literal["lines", "none"] = "lines"
    corner: float = Field(0.0, ge=0, le=12)
    line: float = Field(1.0, ge=0.5, le=2)

    def corner_of(self, width: float, height: float) -> float:
        """Return the corner (px) of a bar of a size: never so round that its end is hard to see.

        >>> ChartManner(corner=6).corner_of(40, 8), ChartManner().corner_of(40, 8)
        (2.0, 0.0)
        """
        return min(self.corner, width / 4, height / 4)
