"""Headline numbers: what each says, and how one or several are set with equal sizes on one baseline."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.figures import SHARE_UNITS, ShortForm, decimals_for, format_number, scaled_by, short_form
from ypsil.core.visuals.shared.comparing import (
    Against,
    Compared,
    Course,
    Standard,
    State,
    compared,
    difference,
    state_of,
    way_of,
)
from ypsil.core.visuals.shared.exactness import SampleOptions, exactness
from ypsil.core.visuals.shared.settings import UnitOptions, setting
from ypsil.core.visuals.shared.summary import value_texts

_FACTORS = {"thousands": 1e3, "millions": 1e6, "billions": 1e9}
_NONE = "–"
_TREND_PLACES = 36


class HeadlineOptions(UnitOptions, SampleOptions):
    """What is said about headline numbers, one or several."""

    scale: Literal["by size", "as they are", "thousands", "millions", "billions"] = setting(
        "by size", "Shown in", "Numbers", "by size: 48,300,000 becomes 48.3M, all numbers of a tile alike"
    )
    against: Against = setting("period before", "Compared with", "Numbers")
    against_group: str = setting("", "The other group", "Numbers", "such as a branch", max_length=300)
    reporting: str = setting(
        "", "Who reports", "Names", "such as branches reporting; the last measure counts them", max_length=60
    )
    trend: bool = setting(True, "Small line of the periods, where there is room", "Marks")
    footnote: str = setting("", "Footnote", "Notes", max_length=300)


@dataclass(frozen=True, slots=True)
class Headline:
    """One headline number in words, with the line of its periods.

    ``direction`` is 1 for more than what it is compared with, −1 for less, 0 for as much, None where nothing compares;
    ``is_good`` tells whether that is welcome, None where it is neither.
    """

    label: str
    when: str
    figure: str
    change: str
    direction: int | None
    is_good: bool | None
    against: str
    state: State | None
    trend: tuple[float | None, ...]

    @property
    def said(self) -> str:
        """The number as a sentence."""
        label = f"{self.label}{', ' if self.when else ''}{self.when}"
        if self.figure == _NONE:
            return f"{label}: {self.against}."
        told = f"{label}: {self.figure}."
        compared_with = " ".join(part for part in (self.change, self.against) if part)
        return " ".join(part for part in (told, f"{compared_with}." if compared_with else "", self._state) if part)

    @property
    def _state(self) -> str:
        return f"{self.state}." if self.state else ""


def measures_of(answer: Answer, options: HeadlineOptions) -> tuple[list[AnswerColumn], AnswerColumn | None]:
    """Return the measures that are shown, and the one that counts who reports."""
    measures = answer.of("measure")
    if options.reporting and len(measures) > 1:
        return measures[:-1], measures[-1]
    return measures, None


def headlines(
    answer: Answer,
    shown: Sequence[Course],
    every: Sequence[Course],
    options: HeadlineOptions,
    standards: Sequence[Standard],
) -> list[Headline]:
    """Return each course's last value in words, one standard to each; ``every`` holds the groups to compare with."""
    forms = {
        kind: _form([one.now for one in shown if _kind(one) == kind], kind[0], options, answer.locale)
        for kind in {_kind(one) for one in shown}
    }
    counted = measures_of(answer, options)[1]
    return [
        _headline(
            answer,
            one,
            [other for other in every if other.measure is one.measure],
            forms[_kind(one)],
            counted,
            options,
            wanted,
        )
        for one, wanted in zip(shown, standards, strict=True)
    ]


def _kind(one: Course) -> tuple[str | None, bool]:
    """Return what numbers must share to be written alike: their unit, and whether they are amounts or means."""
    return one.measure.unit, one.measure.adds_up


def _form(values: list[float | None], unit: str | None, options: HeadlineOptions, locale: str) -> ShortForm:
    """Return how the numbers of one unit are written, all alike."""
    if options.scale in _FACTORS:
        return scaled_by(_FACTORS[options.scale], locale)
    is_free = options.scale == "by size" and unit not in SHARE_UNITS
    form = short_form(values, locale) if is_free else ShortForm(locale=locale)
    if form.factor == 1 and options.decimals is None and unit not in SHARE_UNITS:
        numbers = [value for value in values if value is not None]
        return ShortForm(decimals=decimals_for(numbers, unit=unit), locale=locale)
    return form


def _headline(
    answer: Answer,
    one: Course,
    every: Sequence[Course],
    form: ShortForm,
    counted: AnswerColumn | None,
    options: HeadlineOptions,
    wanted: Standard,
) -> Headline:
    if form.factor == 1 and options.scale == "by size":
        # Where the numbers of a row cannot be alike, a long one is short by itself.
        own = short_form([one.now], answer.locale)
        form = own if own.factor > 1 and one.measure.unit not in SHARE_UNITS else form

    def written(value: float) -> str:
        if one.measure.unit in SHARE_UNITS and options.decimals is None:
            return value_texts([value], one.measure)[0]
        return one.measure.prefix + form.text(value, unit=one.measure.unit, decimals=_decimals(one, options))

    wanted = replace(wanted, good=way_of(wanted.good, one.measure))
    name = one.measure.name + (f", {one.group}" if one.group else "")
    when = _when(answer, one, counted, options)
    if one.now is None:
        return Headline(name, when, _NONE, "", None, None, "no value", None, _trend(one, options))
    target = Compared(wanted.target, "the target of " + ("" if wanted.target is None else written(wanted.target)))
    held = compared(one, every, options.against, options.against_group, target)
    state = state_of(one.now, wanted)
    change, direction, is_good, against = "", None, None, ""
    if held is not None and held.value is None:
        against = f"no value for {held.words}"
    elif held is not None and held.value is not None:
        direction = (one.now > held.value) - (one.now < held.value)
        is_good = (direction > 0) == (wanted.good == "up") if direction and wanted.good != "neither" else None
        change = difference(
            one.now, held.value, one.measure.unit, _apart(one, held.value, form, options), answer.locale
        )
        against = f"against {held.words}"
    return Headline(name, when, written(one.now), change, direction, is_good, against, state, _trend(one, options))


def _apart(one: Course, other: float, form: ShortForm, options: HeadlineOptions) -> str:
    """Return how far a value is from another, in its own form; points for percentages."""
    far = abs((one.now or 0.0) - other)
    if one.measure.unit in SHARE_UNITS:
        points = round(far * 100, 1)
        places = 0 if points.is_integer() else 1
        places = places if options.decimals is None else options.decimals
        return format_number(points, decimals=places, locale=one.measure.locale)
    if form.factor == 1 and _decimals(one, options) is None:
        unit = one.measure.unit
        return format_number(far, decimals=decimals_for([far], unit=unit), unit=unit, locale=one.measure.locale)
    return form.text(far, unit=one.measure.unit, decimals=_decimals(one, options))


def _decimals(one: Course, options: HeadlineOptions) -> int | None:
    """Return the decimals that are set, else those that such values are usually given with."""
    return one.measure.decimals if options.decimals is None else options.decimals


def _when(answer: Answer, one: Course, counted: AnswerColumn | None, options: HeadlineOptions) -> str:
    """Return the period or group in words, who reports in it, how exact it is and its base."""
    parts = [one.names[-1]] if one.names else []
    if counted is not None:
        counts = [value for value in answer.values(counted) if value is not None]
        now = answer.values(counted)[-1]
        some, all_ = (format_number(count, locale=answer.locale) for count in (now or 0, max(counts, default=0)))
        parts.append(f"{some} of {all_} {options.reporting}")
    if one.row is not None and (exact := exactness(answer, one.measure, one.row, options)):
        parts.append(exact)
    if one.base is not None:
        parts.append(f"n = {format_number(one.base, locale=answer.locale)}")
    return ", ".join(parts)


def _trend(one: Course, options: HeadlineOptions) -> tuple[float | None, ...]:
    """Return the last values of a course along time, where a line of them says something."""
    values = one.values[-_TREND_PLACES:] if options.trend and one.starts else ()
    return values if sum(value is not None for value in values) > 2 else ()
