"""How exact a figure of a sample is, in words: for all visuals that show single numbers big."""

from __future__ import annotations

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.survey import give_or_take, mean_interval, wilson_interval
from ypsil.core.visuals.base import Options
from ypsil.core.visuals.shared.settings import setting


class SampleOptions(Options):
    """Figures that can say how exact they are."""

    interval: bool = setting(False, "Say how exact it is", "Notes", "the 95% interval of a sample")
    population: int | None = setting(
        None, "Of how many people in all", "Notes", "where they are known: the interval narrows", ge=1, le=10**10
    )


def exactness(answer: Answer, measure: AnswerColumn, row: int, options: SampleOptions) -> str:
    """Return the interval of a share or mean in a row of an answer; nothing where it is not wanted or not known."""
    bases, value = answer.bases_of(measure), answer.values(measure)[row]
    if not options.interval or not bases or value is None:
        return ""
    base = answer.exactness_of(measure, "effective")[row] or float(bases[row])
    if measure.unit == "%":
        ends = wilson_interval(value, base, options.population)
    else:
        deviation = answer.exactness_of(measure, "deviation")[row]
        ends = mean_interval(value, deviation, base, options.population)
    return give_or_take(value, ends, share=measure.unit == "%") if ends else ""
