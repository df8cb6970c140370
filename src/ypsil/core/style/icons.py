"""How all icons of a report are drawn: their line and their look, set together."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field


class IconManner(BaseModel):
    """The manner of the icons of a report: the width of their line on a plane of 24, one tone or two, their size in
    their place, and whether coloured pictures are in their own colours or in shades of the style's."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    look: Literal["line", "two tones"] = Field(
        "two tones", title="Icons are", json_schema_extra={"labels": ["lines", "in two tones"]}
    )
    stroke: float = Field(1.8, ge=0.8, le=3.2, title="Their line is as wide as")
    size: float = Field(1.0, ge=0.6, le=1.15, title="Their size")
    coloured: Literal["own", "style"] = Field(
        "own", title="Coloured pictures are", json_schema_extra={"labels": ["in their own colours", "in the style's"]}
    )
