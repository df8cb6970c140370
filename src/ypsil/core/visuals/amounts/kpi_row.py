"""KPI row: several headline numbers with equal sizes on one baseline, whatever their lengths."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Annotated, cast, get_args

from pydantic import AfterValidator

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Scene
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.comparing import AS_SAID, Good, Standard, courses
from ypsil.core.visuals.shared.headline import HeadlineOptions, headlines, measures_of
from ypsil.core.visuals.shared.headline_cells import draw_headlines
from ypsil.core.visuals.shared.rooms import message_scene
from ypsil.core.visuals.shared.settings import setting

_MOST = 8


def _is_numbers(text: str) -> str:
    """Refuse anything but numbers between the semicolons."""
    for part in _parts(text):
        if part and not _is_number(part):
            raise ValueError(f"“{part}” is not a number; one number follows the other, as in 500; 0.4")
    return text


def _is_number(text: str) -> bool:
    try:
        return math.isfinite(float(text))
    except ValueError:
        return False


def _is_ways(text: str) -> str:
    for part in _parts(text):
        if part not in ("", *get_args(Good)):
            raise ValueError(f"“{part}” is not a way; the ways are {', '.join(get_args(Good))}")
    return text


def _parts(text: str) -> list[str]:
    return [part.strip() for part in text.split(";")]


Numbers = Annotated[str, AfterValidator(_is_numbers)]


class KpiRowOptions(HeadlineOptions):
    """What stands for each number by itself is a list with semicolons; a single value stands for all."""

    labels: str = setting(
        "", "Labels", "Names", "in place of the names, one after the other with a semicolon between", max_length=600
    )
    targets: Numbers = setting("", "Targets", "Numbers", "one for all, or one each: 5000; 0.5; 3", max_length=300)
    good: Annotated[str, AfterValidator(_is_ways)] = setting(
        AS_SAID,
        "Which way is good",
        "Colours",
        "as said of the table's column, up, down or neither; one for all, or one each: up; down",
        max_length=100,
    )
    on_track: Numbers = setting("", "On track from", "Notes", "one for all, or one each", max_length=300)
    act: Numbers = setting("", "Act from", "Notes", "one for all, or one each", max_length=300)


def draw(answer: Answer, options: KpiRowOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw the last value of each measure, or of each group of one measure.

    Of several measures, groups in an order (waves of a survey) run along as periods do.
    """
    measures = measures_of(answer, options)[0]
    every = courses(answer, measures, each_group=len(measures) == 1)
    if len(every) > _MOST:
        message = f"A row carries {_MOST} headline numbers, and there are {len(every)}. A bar chart shows them all."
        return message_scene(message, box, style, answer.sentence)
    found = headlines(answer, every, every, options, _standards(options, len(every)))
    if all(course.group for course in every) and len({course.measure.name for course in every}) == 1:
        found = [replace(one, label=course.group) for one, course in zip(found, every, strict=True)]
    for place, label in enumerate(_parts(options.labels)[: len(found)]):
        found[place] = replace(found[place], label=label or found[place].label)
    return draw_headlines(found, answer, options, box, style)


def _standards(options: KpiRowOptions, count: int) -> list[Standard]:
    targets, good, on_track, act = (
        _each(text, count) for text in (options.targets, options.good, options.on_track, options.act)
    )
    return [
        Standard(_number(target), cast(Good, way or AS_SAID), _number(on), _number(off))
        for target, way, on, off in zip(targets, good, on_track, act, strict=True)
    ]


def _each(text: str, count: int) -> list[str]:
    """Return one part for each number: the only one for all, nothing for those beyond the last."""
    parts = _parts(text)
    return parts * count if len(parts) == 1 else (parts + [""] * count)[:count]


def _number(text: str) -> float | None:
    return float(text) if text else None


VISUAL = Visual(
    name="kpi_row",
    label="Headline numbers in a row",
    purposes=("how much",),
    purpose="several numbers big, in equal sizes on one line",
    needs=Needs(measures=(1, _MOST), per=(0, 1), split="any", groups=(1, 100_000), one_unit=False),
    options=KpiRowOptions,
    draw=draw,
    advice=(
        rule(0.93, "{measures} numbers, shown big", measures=(2, _MOST), per=(0, 0)),
        rule(0.75, "the latest of {measures} numbers, each with its change", measures=(2, _MOST), time=True),
        rule(0.6, "the latest of {measures} numbers, each with its change", measures=(2, _MOST), ordered=True),
        rule(0.45, "the latest of {series} groups, side by side", time=True, split=True, series=(2, _MOST)),
        rule(0.45, "{groups} numbers, shown big", measures=(1, 1), time=False, split=False, groups=(2, 6)),
        rule(0.1, "several numbers big"),
    ),
    is_titled=False,
    default_size=(24, 20),
)
