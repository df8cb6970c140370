"""Settings that several visuals share; the group says what they change."""

from __future__ import annotations

from collections.abc import Callable, Collection
from functools import cache
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, Field

from ypsil.core.figures import DEFAULT_LOCALE, LOCALES, format_number, locale_name
from ypsil.core.style.palettes import PALETTES
from ypsil.core.visuals.base import Options

Group = Literal["Numbers", "Names", "Axes", "Marks", "Colours", "Notes"]
Choices = dict[str, str] | Callable[[], dict[str, str]]
PAGE_LOCALE = "page"
# What options are checked with: the pictures that they can name.
PICTURES = "pictures"
ADDS_UP = "adds up to 100%"
BY_SIZE = "by size"


def setting(default: Any, title: str, group: Group, description: str = "", **limits: Any) -> Any:
    """Declare a setting with its name on the screen and the group it stands in.

    ``choices`` names the values of a text, each with what readers see of it, or returns them where that takes work;
    ``shows`` says what is chosen from by its looks (``icon``).
    """
    choices: Choices = limits.pop("choices", {})
    shows = limits.pop("shows", "")

    def said(schema: dict[str, Any]) -> None:
        schema["group"] = group
        if shows:
            schema["shows"] = shows
        named = choices() if callable(choices) else choices
        if named:
            schema |= {"enum": list(named), "labels": list(named.values())}

    return Field(default, title=title, description=description, json_schema_extra=said, **limits)


def one_of(choices: Collection[str], said: str) -> AfterValidator:
    """Return the check that a text is one of these; ``said`` begins what is told of any other."""

    def checked(text: str) -> str:
        if text not in choices:
            raise ValueError(f"{said} {', '.join(choices)}")
        return text

    return AfterValidator(checked)


@cache
def _locale_labels() -> dict[str, str]:
    written = {code: f"{format_number(1234.5, locale=code)} {locale_name(code)}" for code in LOCALES}
    return {PAGE_LOCALE: "as the page", **written}


class PaletteOptions(Options):
    """Drawings in the colours of a palette."""

    palette: Annotated[str, one_of(PALETTES, "the palettes are")] = setting(
        "house",
        "Colours",
        "Colours",
        "each palette is safe for colour-blind readers",
        choices={name: name for name in PALETTES},
    )


class PatternOptions(Options):
    """Drawings whose filled marks are told apart by colour."""

    patterns: bool = setting(False, "Patterns as well as colours", "Colours", "for print in grey, and colour blindness")


class NoteOptions(Options):
    """Drawings in which a mark can be explained."""

    note_at: str = setting("", "Note at", "Notes", "the name of a mark, such as a month", max_length=300)
    note: str = setting("", "What it says", "Notes", max_length=300)


class WrittenOptions(PaletteOptions):
    """How values are written, whatever they are."""

    decimals: int | None = setting(None, "Decimals", "Numbers", "as many as needed, unless said", ge=0, le=6)
    locale: Annotated[str, one_of((PAGE_LOCALE, *LOCALES), "the locales are")] = setting(
        PAGE_LOCALE, "Written as in", "Numbers", choices=_locale_labels
    )

    @property
    def in_locale(self) -> str:
        """The locale that is set, the usual one where it is the page's that nobody told."""
        return DEFAULT_LOCALE if self.locale == PAGE_LOCALE else self.locale


class UnitOptions(WrittenOptions):
    """What amounts are measured in."""

    unit: str = setting("", "Unit", "Numbers", "£, km, % (0.41 is 41%); empty: as the data has it", max_length=20)
    prefix: str = setting("", "Before each value", "Numbers", "such as about", max_length=20)


class NumberOptions(UnitOptions):
    """How amounts are written along an axis and on marks."""

    scale: Literal["by size", "as they are", "thousands", "millions", "billions"] = setting(
        "by size", "Shown in", "Numbers", "by size: long numbers short; the axis name says any other"
    )


class PartOptions(WrittenOptions):
    """How parts of 100% are written."""

    rounding: Literal["adds up to 100%", "each by itself"] = setting(
        "adds up to 100%", "Rounding of parts", "Numbers", "33, 33 and 33 become 34, 33 and 33"
    )


class MarkOptions(NumberOptions, NoteOptions):
    """One mark a value, with its value at it."""

    values_on_marks: bool = setting(True, "Values on the marks where they fit", "Marks")


class NamedAxisOptions(NumberOptions, NoteOptions):
    """Charts with a value axis."""

    axis_name: bool = setting(True, "Name of the values at the axis", "Axes")


class ReferenceOptions(NumberOptions, NoteOptions):
    """Charts that a target, a band or an average can be drawn across."""

    reference: float | None = setting(None, "Line at", "Notes", "a target or limit")
    reference_name: str = setting("", "Name of the line", "Notes", max_length=60)
    band_from: float | None = setting(None, "Band from", "Notes", "a usual range")
    band_to: float | None = setting(None, "Band to", "Notes")
    band_name: str = setting("", "Name of the band", "Notes", max_length=60)
    average: bool = setting(False, "Line at the average", "Notes")


class AxisOptions(NamedAxisOptions, ReferenceOptions):
    """Charts with a value axis and lines across."""


class EmphasisOptions(NumberOptions):
    """Charts in which one value can stand out."""

    emphasis: str = setting("", "Value to stand out", "Colours", "the others are drawn quiet", max_length=300)


class BarOptions(MarkOptions, ReferenceOptions, EmphasisOptions, PatternOptions):
    """Horizontal bars."""
