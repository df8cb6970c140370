"""KPI tile: one number big, with its label, what it is compared with, its state and the line of its periods."""

from __future__ import annotations

from dataclasses import replace

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.scene import Scene
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Needs, Visual, rule
from ypsil.core.visuals.shared.comparing import AS_SAID, Course, Good, Standard, courses, unsaid
from ypsil.core.visuals.shared.headline import HeadlineOptions, headlines, measures_of
from ypsil.core.visuals.shared.headline_cells import draw_headlines
from ypsil.core.visuals.shared.rooms import message_scene
from ypsil.core.visuals.shared.settings import setting


class KpiOptions(HeadlineOptions):
    label: str = setting("", "Label", "Names", "in place of the measure's name", max_length=300)
    target: float | None = setting(None, "Target", "Numbers", "such as 5000, or 0.5 for 50%")
    good: Good = setting(AS_SAID, "Which way is good", "Colours", "as said of the table's column")
    on_track: float | None = setting(None, "On track from", "Notes", "a value, or 0.5 for 50%")
    act: float | None = setting(None, "Act from", "Notes", "what lies between is to be watched")
    group: str = setting("", "Group shown", "Names", "where there are several: the first, unless said", max_length=300)


def draw(answer: Answer, options: KpiOptions, box: Box, style: HouseStyle) -> Scene:
    """Draw the last value of one group, or of all; the others are there to compare with."""
    every = courses(answer, measures_of(answer, options)[0])
    one = _chosen(every, options.group)
    if one is None:
        names = ", ".join(course.group for course in every[:8])
        return message_scene(f"There is no group “{options.group}”. There are: {names}.", box, style, answer.sentence)
    wanted = Standard(options.target, options.good, options.on_track, options.act)
    found = headlines(answer, [one], every, options, [wanted])
    if options.label:
        found = [replace(headline, label=options.label) for headline in found]
    scene = draw_headlines(found, answer, options, box, style)
    return replace(scene, hints=(*scene.hints, *(unsaid(options.good, one.measure) if found[0].change else ())))


def _chosen(every: list[Course], group: str) -> Course | None:
    """Return the course of a group; the first one where none is named."""
    return next((course for course in every if group in ("", course.group)), None)


VISUAL = Visual(
    name="kpi",
    label="Headline number",
    purposes=("how much",),
    purpose="one number big, with its change against the period before",
    needs=Needs(measures=(1, 2), per=(0, 1), split="any", split_measures=1, groups=(1, 100_000), one_unit=False),
    options=KpiOptions,
    draw=draw,
    advice=(
        rule(0.1, "the first measure only; a row of headline numbers shows all", measures=(2, 2)),
        rule(0.7, "the latest value and its change", time=True, split=False),
        rule(0.3, "one group's latest value and its change", time=True),
        rule(0.95, "one number, shown big", per=(0, 0)),
        rule(0.25, "one group's value against another's"),
    ),
    is_titled=False,
    default_size=(6, 20),
)
