"""Settings that several visuals share; the group says what they change."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field

from ypsil.core.visuals.base import Options

Group = Literal["Numbers", "Names", "Axes", "Marks", "Colours", "Notes"]


def setting(default: Any, title: str, group: Group, description: str = "", **limits: Any) -> Any:
    """Declare a setting with its name on the screen and the group it stands in."""
    return Field(default, title=title, description=description, json_schema_extra={"group": group}, **limits)


class NumberOptions(Options):
    """How values are written."""

    decimals: int | None = setting(None, "Decimals", "Numbers", "as many as needed, unless said", ge=0, le=6)
    scale: Literal["as they are", "thousands", "millions", "billions"] = setting(
        "as they are", "Shown in", "Numbers", "the axis name says so"
    )


class MarkOptions(NumberOptions):
    """One mark a value, with its value at it."""

    values_on_marks: bool = setting(True, "Values on the marks where they fit", "Marks")


class NamedAxisOptions(NumberOptions):
    """Charts with a value axis."""

    axis_name: bool = setting(True, "Name of the values at the axis", "Axes")


class LineAcrossOptions(NumberOptions):
    """Charts that a target or an average can be drawn across."""

    reference: float | None = setting(None, "Line at", "Notes", "a target or limit")
    reference_name: str = setting("", "Name of the line", "Notes", max_length=60)
    average: bool = setting(False, "Line at the average", "Notes")


class AxisOptions(NamedAxisOptions, LineAcrossOptions):
    """Charts with a value axis and lines across."""


class EmphasisOptions(NumberOptions):
    """Charts in which one value can stand out."""

    emphasis: str = setting("", "Value to stand out", "Colours", "the others are drawn quiet", max_length=300)


class BarOptions(MarkOptions, LineAcrossOptions, EmphasisOptions):
    """Level bars."""
