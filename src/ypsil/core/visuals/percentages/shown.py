"""The shares that a percentage figure shows, with their labels, and what is said of them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Annotated

from ypsil.core.answers.model import Answer
from ypsil.core.figures import DEFAULT_LOCALE, format_number, format_share, share_in_words
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Needs
from ypsil.core.visuals.shared.exactness import SampleOptions, exactness
from ypsil.core.visuals.shared.settings import WrittenOptions, one_of, setting
from ypsil.core.visuals.shared.summary import group_name

MOST = 8
_COLOURS = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth")
BY_HAND = "typed by hand"


class FigureOptions(WrittenOptions):
    """What is said about a figure, how exact it is, and its colour."""

    label: str = setting("", "Label", "Names", "in place of the measure's name", max_length=300)
    sub_label: str = setting("", "Second line", "Names", max_length=300)
    colour: Annotated[str, one_of(_COLOURS, "the colours are")] = setting(
        "first", "Colour", "Colours", "of the palette", choices={name: name for name in _COLOURS}
    )


class SampledOptions(FigureOptions, SampleOptions):
    """Figures of a sample, which can say how exact they are."""


class PercentOptions(SampledOptions):
    """A percentage, of the data or typed by hand."""

    typed: float | None = setting(
        None, "Percentage by hand", "Numbers", "58 for 58%, in place of the data; the figure says so", ge=-1e6, le=1e6
    )


@dataclass(frozen=True, slots=True)
class Shown:
    """One figure (a percentage is a fraction of 1; None where it is missing), its label, and how many values it rests
    on. ``words`` is the value as people say it."""

    label: str
    value: float | None
    text: str
    base: int | None
    is_typed: bool = False
    note: str = ""
    words: str = ""
    locale: str = DEFAULT_LOCALE

    @property
    def share(self) -> float:
        return self.value or 0.0

    @property
    def foot(self) -> str:
        """What stands below in small letters: a note, and the base or that the number was typed by hand."""
        counted = f"n = {format_number(self.base, locale=self.locale)}" if self.base else "no answers"
        base = "" if self.base is None else counted
        return ", ".join(part for part in (self.note, BY_HAND if self.is_typed else base) if part)

    @property
    def said(self) -> str:
        """The percentage as a sentence, as people say it and with its base."""
        notes = ", ".join(part for part in (self.words, self.foot) if part)
        return f"{self.label}: {self.text}{f' ({notes})' if notes else ''}."


# What percentage figures share: shares, of a few groups at most.
NEEDS = Needs(measures=(1, MOST), per=(0, 1), groups=(1, MOST), shares=True, one_unit=False)


def shown(answer: Answer, options: PercentOptions) -> list[Shown]:
    """Return the percentages of an answer, one for each measure and group, or the one that is typed by hand."""
    if options.typed is not None:
        value, name = options.typed / 100, options.label or answer.of("measure")[0].name
        return [Shown(name, value, percent_text(value, options), None, True, words=share_in_words(value))]
    found = each_shown(answer, options, lambda value: percent_text(value, options))
    return [one if one.value is None else replace(one, words=share_in_words(one.value)) for one in found]


def each_shown(answer: Answer, options: FigureOptions, text: Callable[[float], str]) -> list[Shown]:
    """Return the values of an answer, one for each measure and group, each written by ``text``."""
    measures, per = answer.of("measure"), answer.of("per")
    found = []
    for measure in measures:
        bases = answer.bases_of(measure)
        for row, value in enumerate(answer.values(measure)):
            name = group_name(answer.values(per[0])[row], per[0]) if per else options.label or measure.name
            if per and len(measures) > 1:
                name = f"{measure.name}, {name}"
            base = bases[row] if bases else None if per else answer.base
            note = exactness(answer, measure, row, options) if isinstance(options, SampleOptions) else ""
            found.append(
                Shown(name, value, "–" if value is None else text(value), base, note=note, locale=answer.locale)
            )
    return found


def heading(answer: Answer, options: FigureOptions) -> str:
    """Return what several figures have in common, as it is set or what is measured; nothing for a single one, which
    carries the label itself, and for several measures, which are named one by one."""
    if not answer.of("per") or getattr(options, "typed", None) is not None:
        return ""
    measures = answer.of("measure")
    return options.label or (measures[0].name if len(measures) == 1 else "")


def outside(found: list[Shown]) -> str:
    """Return why figures that fill a whole cannot show these percentages; nothing where they can."""
    beyond = next((one for one in found if not 0 <= one.share <= 1), None)
    if beyond is None:
        return ""
    which = "more than the whole" if beyond.share > 1 else "less than nothing"
    return f"{beyond.text} is {which}, which cannot be filled in. A percentage bar or a gauge shows it."


def colour(options: FigureOptions, style: HouseStyle) -> str:
    return style.colour(_COLOURS.index(options.colour))


def percent_text(value: float, options: WrittenOptions) -> str:
    """Return a percentage with as many decimals as are set, else with as many as it needs."""
    if options.decimals is None:
        return format_share(value, locale=options.in_locale)
    return format_number(value, decimals=options.decimals, unit="%", locale=options.in_locale)
