"""What a headline number is compared with: the period before, a year before, a target, another group, the average."""

from __future__ import annotations

import datetime as dt
import statistics
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, cast

from ypsil.core.answers.model import Answer, AnswerColumn
from ypsil.core.figures import (
    DEFAULT_LOCALE,
    SHARE_UNITS,
    Grain,
    format_change,
    format_number,
    format_period,
    period_before,
    year_before,
)
from ypsil.core.visuals.base import is_over_time
from ypsil.core.visuals.shared.summary import group_name

# Beyond ten times as much, a percentage tells no one anything.
_MOST_TIMES = 10
Good = Literal["as said", "up", "down", "neither"]
AS_SAID: Good = "as said"
Against = Literal["period before", "year before", "target", "another group", "average", "nothing"]
State = Literal["On track", "Watch", "Act"]


@dataclass(frozen=True, slots=True)
class Course:
    """One measured amount of one group along its periods, or along groups in an order; the last value is the present.

    ``names`` says where each value stands; ``starts`` are the periods, empty where there are none. ``base`` is how
    many values the last one rests on, of shares and means, ``row`` where it stands in the answer.
    """

    measure: AnswerColumn
    group: str
    values: tuple[float | None, ...]
    names: tuple[str, ...] = ()
    starts: tuple[dt.date, ...] = ()
    grain: Grain = "day"
    base: int | None = None
    row: int | None = None

    @property
    def now(self) -> float | None:
        return self.values[-1]


@dataclass(frozen=True, slots=True)
class Compared:
    """The value that a headline number is held against (missing where there is none), and what it is."""

    value: float | None
    words: str


def courses(answer: Answer, measures: Sequence[AnswerColumn], *, each_group: bool = False) -> list[Course]:
    """Return what an answer measured, one course for each measure and group.

    Periods, and groups in an order (waves of a survey), run along a course; groups without order, or ``each_group``,
    are courses of their own.
    """
    per, split = answer.of("per"), answer.of("split")
    found = []
    for measure in measures:
        values, bases = answer.values(measure), _bases(answer, measure)
        if not per:
            found.append(Course(measure, "", tuple(values), base=bases[-1], row=len(values) - 1))
        elif is_over_time(answer) or (per[0].ordered and not split and not each_group):
            found += _along(answer, measure, per[0])
        else:
            members = [
                ", ".join(group_name(value, column) for value, column in zip(cells, (*per, *split), strict=True))
                for cells in zip(*(answer.values(column) for column in (*per, *split)), strict=True)
            ]
            cells = zip(members, values, bases, range(answer.height), strict=True)
            found += [Course(measure, name, (value,), base=base, row=row) for name, value, base, row in cells]
    return found


def _bases(answer: Answer, measure: AnswerColumn) -> Sequence[int | None]:
    found = answer.bases_of(measure)
    return [None] * answer.height if found is None else found


def _along(answer: Answer, measure: AnswerColumn, along: AnswerColumn) -> list[Course]:
    """Return one course for each value of the split, all of them along the same places."""
    split = answer.of("split")
    rows = zip(
        answer.values(split[0]) if split else [None] * answer.height,
        answer.values(along),
        zip(answer.values(measure), _bases(answer, measure), range(answer.height), strict=True),
        strict=True,
    )
    nothing = (None, None, None)
    cells = {(member, place): value for member, place, value in rows}
    places = list(dict.fromkeys(answer.values(along)))
    members = answer.members(split[0]) if split else [None]
    names = tuple(group_name(place, along) for place in places)
    starts = tuple(places) if is_over_time(answer) else ()
    return [
        Course(
            measure,
            group_name(member, split[0]) if split else "",
            tuple(cells.get((member, place), nothing)[0] for place in places),
            names,
            starts,
            along.grain or "day",
            *cells.get((member, places[-1]), nothing)[1:],
        )
        for member in members
    ]


@dataclass(frozen=True, slots=True)
class Standard:
    """What is wanted of a headline number: its target, which way is good, and from where it is on track or to act."""

    target: float | None = None
    good: Good = AS_SAID
    on_track: float | None = None
    act: float | None = None


def way_of(good: str, measure: AnswerColumn) -> Good:
    """Return which way is good: as it is set, else as somebody said of the table's column, else neither: a name tells
    nothing about it."""
    return cast(Good, good) if good != AS_SAID else measure.good or "neither"


def unsaid(good: str, measure: AnswerColumn) -> tuple[str, ...]:
    """Return what the author could say, where nobody said which way is good."""
    if good != AS_SAID or measure.good is not None:
        return ()
    return (
        f"Nobody has said which way of “{measure.name}” is good, so changes have no colour of good or bad. "
        "Say it once on the table's page, with the step “Say which way is good”.",
    )


def compared(one: Course, others: Sequence[Course], against: Against, group: str, target: Compared) -> Compared | None:
    """Return what a course's last value is held against, or None for nothing.

    The average is that of all earlier periods, or of all groups where there are several. Where values do not add
    up (ratios, means), the middle one is taken: a mean of ratios would be none of the whole.
    """
    if against == "target":
        return target if target.value is not None else None
    if against == "another group":
        other = next((other for other in others if other.group == group), None)
        return Compared(other.now if other else None, group) if group else None
    if against == "average":
        return _average(one, others)
    return _earlier(one, against) if against in ("period before", "year before") and one.names else None


def _earlier(one: Course, against: str) -> Compared | None:
    if not one.starts:
        return Compared(one.values[-2], one.names[-2]) if against == "period before" and len(one.names) > 1 else None
    now = one.starts[-1]
    start = period_before(now, one.grain) if against == "period before" else year_before(now, one.grain)
    if start is None:
        return None
    return Compared(dict(zip(one.starts, one.values, strict=True)).get(start), format_period(start, one.grain))


def _average(one: Course, others: Sequence[Course]) -> Compared | None:
    is_among_groups = len(others) > 1
    found = [other.now for other in others] if is_among_groups else list(one.values[:-1])
    values = [value for value in found if value is not None]
    if not values:
        return None
    noun = "groups" if is_among_groups else f"{one.grain}s before" if one.starts else "before"
    which = f"of {'' if is_among_groups else 'the '}{format_number(len(values), locale=one.measure.locale)} {noun}"
    if one.measure.adds_up:
        return Compared(statistics.fmean(values), f"the average {which}")
    return Compared(statistics.median(values), f"the middle one {which}")


def difference(now: float, before: float, unit: str | None, written: str, locale: str = DEFAULT_LOCALE) -> str:
    """Return a change in words: the difference, and how much that is of what was before.

    ``written`` is the size of the difference as text. Between percentages, the difference is points and has no
    percentage of its own.

    >>> difference(230, 200, None, "30"), difference(0.41, 0.36, "%", "5")
    ('+30 (+15%)', '+5 points')
    >>> difference(5_000, 1, None, "4,999")
    '+4,999'
    """
    sign = "+" if now > before else "−" if now < before else "±"
    if unit in SHARE_UNITS:
        return f"{sign}{written} points"
    percent = format_change(before, now, locale=locale) if abs(now - before) <= _MOST_TIMES * abs(before) else None
    return f"{sign}{written} ({percent})" if percent and percent.strip("+−") != "0%" else f"{sign}{written}"


def state_of(value: float, wanted: Standard) -> State | None:
    """Return where a value stands between two limits, both included; None where neither is set.

    With both set, the higher one says which way is good.

    >>> [state_of(value, Standard(on_track=100, act=80)) for value in (100, 90, 80)]
    ['On track', 'Watch', 'Act']
    >>> [state_of(value, Standard(on_track=2.5, act=3)) for value in (2.5, 2.8, 3.1)]
    ['On track', 'Watch', 'Act']
    """
    on_track, act = wanted.on_track, wanted.act
    if on_track is None and act is None:
        return None
    both = on_track is not None and act is not None and on_track != act
    up = on_track > act if both else wanted.good != "down"  # type: ignore[operator]
    sign = 1 if up else -1
    if on_track is not None and value * sign >= on_track * sign:
        return "On track"
    if act is not None and value * sign <= act * sign:
        return "Act"
    return "Watch" if on_track is not None else "On track"
