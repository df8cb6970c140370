"""Numbers that belong together: what a sentence or a list compares, parts, follows or tells in order, as rows of a
small table, with the visuals that suit, the best first."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence

from ypsil.core.numbers.counted import VERBS
from ypsil.core.numbers.lists import dates_in, lists_in, steps_across, steps_in
from ypsil.core.numbers.model import SHARE, Aside, Group, GroupKind, Number
from ypsil.core.numbers.sentences import PERIOD, Part, numbers_between, sentences
from ypsil.core.numbers.suiting import OF_A_SHARE, VISUALS, is_whole, told_apart

_CHANGED = re.compile(
    r"\b(?:rose|risen|rise|rising|fell|fallen|fall|falling|grew|grown|grow|increased?|increasing|decreased?|dropped|"
    r"drop|declined?|climbed|jumped|sank|shrank|went|gone|changed|moved|up|down|cut|raised|lifted|reduced|from)\b",
    re.IGNORECASE,
)
# How many letters apart numbers stand that belong together.
_FARTHEST = 90
_MOST_NAMED = 6
# What is longer is a table, and stands in lines.
_MOST_TOGETHER = 60
_MOST_LABEL = 60


def groups_in(text: str, numbers: Sequence[Number], asides: Sequence[Aside]) -> list[Group]:
    """Return how the numbers of a text go together, in its order. Every number is in one of them at least."""
    found: list[Group] = []
    taken: set[int] = set()
    for group, used in lists_in(text, numbers):
        found.append(group)
        taken |= used
    found += dates_in(text, asides)
    found += steps_across(text)
    told = [(one.start, one.end) for one in found if one.kind == "steps"]
    for part in sentences(text):
        inside = [one for one in numbers_between(numbers, part.start, part.end) if one.start not in taken]
        found += _of_sentence(part, inside, text)
        steps = steps_in(part)
        if steps is not None and not any(start <= part.start < end for start, end in told):
            found.append(steps)
    return sorted(found, key=lambda one: (one.start, one.end))


def _of_sentence(part: Part, numbers: Sequence[Number], text: str) -> Iterator[Group]:
    """Yield what the numbers of a sentence say: a change, parts, a series, a comparison, or each by itself."""
    shown: set[int] = set()
    for run in _runs(numbers, text):
        names = _labels(run, text, part)
        rows = [(name, one.value) for name, one in zip(names, run, strict=True)]
        kind = _kind_of(run, rows, text)
        if kind == "single":
            continue
        if kind == "change":
            rows = _ends(run, rows, text, part)
        elif kind == "series":
            rows = [
                (_period_of(one, run, text, part) or name, value) for one, (name, value) in zip(run, rows, strict=True)
            ]
        shown |= {one.start for one in run}
        yield Group(
            run[0].start if kind != "comparison" else _start_of(run[0], text, part), run[-1].end, kind,
            tuple(told_apart(rows)), VISUALS[kind], run[0].unit,
        )  # fmt: skip
    for one in (one for one in numbers if one.start not in shown):
        name = _label(one, text, part)
        yield Group(one.start, one.end, "single", ((name, one.value),), _alone(one), one.unit)


def _alone(one: Number) -> tuple[str, ...]:
    is_share = one.unit == SHARE or (one.unit == "%" and 0 <= one.value <= 100)
    return OF_A_SHARE if is_share else VISUALS["single"]


def _runs(numbers: Sequence[Number], text: str) -> list[list[Number]]:
    """Return numbers in one unit that follow each other in a sentence, two at least."""
    found: list[list[Number]] = []
    for one in numbers:
        last = found[-1] if found else None
        if last is not None and len(last) < _MOST_TOGETHER and last[-1].unit == one.unit and _goes_on(last, one, text):
            last.append(one)
        else:
            found.append([one])
    return [run for run in found if len(run) > 1]


def _goes_on(run: Sequence[Number], one: Number, text: str) -> bool:
    """Tell whether a number says more of what those before it say: it counts the same, or is named otherwise."""
    last, link = run[-1], text[run[-1].end : one.start]
    if len(link) > _FARTHEST:
        return False
    is_same = bool(last.of and one.of and last.of.lower() == one.of.lower())
    if not is_same and last.of and one.of and _is_clause(link) and _is_clause(f",{_rest(text, one.end)}"):
        # Each has a verb of its own: they say two things.
        return False
    if one.unit is None and not is_same and last.of and one.of:
        # 28 plants on 5 beds: two things in no unit are compared only where each has its own name before it.
        return _is_named_before(last, text) and _is_named_before(one, text)
    return True


def _rest(text: str, at: int) -> str:
    """Return the rest of a sentence, as far as it can say more of a number."""
    return text[at : at + _FARTHEST].split(".")[0]


def _is_clause(text: str) -> bool:
    """Tell whether words are a sentence of their own: they have a verb, and a comma."""
    return bool(re.search("[,;]", text)) and any(word.lower() in VERBS for word in re.findall("[A-Za-z]+", text))


def _is_named_before(one: Number, text: str) -> bool:
    before = text[max(0, one.start - 40) : one.start]
    return one.of is not None and one.of.lower() in before.lower()


def _kind_of(run: Sequence[Number], rows: Sequence[tuple[str, float]], text: str) -> GroupKind:
    link = text[max(0, run[0].start - 40) : run[0].start]
    between = text[run[0].end : run[1].start]
    if len(run) == 2 and re.fullmatch(r"[^.;]{0,40}?\bto\b[^.;]{0,20}", between) and _CHANGED.search(link):
        return "change"
    if len(run) == 2 and re.fullmatch(r"\s*(?:[-–—]|to|and)\s*", between) and run[0].of == run[1].of:
        # The two ends of a range, and no two things.
        return "single"
    periods = [_period_of(one, run, text, None) for one in run]
    if all(periods) and len(set(periods)) == len(run) and len({(one.of or "").lower() for one in run if one.of}) <= 1:
        return "series"
    if run[0].unit in (SHARE, "%") and is_whole([value for _, value in rows], run[0].unit):
        return "parts"
    names = {name.lower() for name, _ in rows if name}
    return "comparison" if len(names) > 1 or len(run) > 2 else "single"


def _labels(run: Sequence[Number], text: str, part: Part) -> list[str]:
    """Return what the numbers of a run are called: what each counts, where that tells them apart; else what stands
    after each, or before."""
    counted = [one.of or "" for one in run]
    if all(counted) and len({name.lower() for name in counted}) == len(run):
        return counted
    after = [_after(one, run, text, part) for one in run]
    if all(after) and len({name.lower() for name in after}) == len(run):
        return after
    return [_label(one, text, part) for one in run]


def _after(one: Number, run: Sequence[Number], text: str, part: Part) -> str:
    """Return the words after a number, up to the next mark or the next number."""
    place = run.index(one)
    stop = run[place + 1].start if place + 1 < len(run) else part.end
    said = re.split(r"[,;:.()\n]", text[one.end : stop])[0]
    words = re.sub(r"\s+(?:and|or|but|while|to)\s*$", "", said).split()
    return " ".join(words[:_MOST_NAMED])[:_MOST_LABEL]


def _label(one: Number, text: str, part: Part) -> str:
    """Return what a number is called: what it counts, or what stands before it."""
    name = one.of or ""
    if not name:
        before = text[max(part.start, one.start - _FARTHEST) : one.start]
        name = " ".join(re.split(r"[,;:.(]", before)[-1].split()[-4:])
    return name[:_MOST_LABEL] or one.text


def _start_of(one: Number, text: str, part: Part) -> int:
    begin = max(part.start, one.start - _FARTHEST)
    at = text[begin : one.start].lower().rfind(one.of.lower()) if one.of else -1
    return begin + at if at >= 0 else one.start


def _ends(run: Sequence[Number], rows: Sequence[tuple[str, float]], text: str, part: Part) -> list[tuple[str, float]]:
    """Return the two ends of a change with when they were, where that is said. A time before both is that of the
    later one."""
    first, second = (_said_after(one, run, text) for one in run)
    second = second or ("" if first else _said_before(run[0], run, text, part))
    names = [first or "before", second or "after"]
    return [(name, value) for name, (_, value) in zip(names, rows, strict=True)]


def _period_of(one: Number, run: Sequence[Number], text: str, part: Part | None) -> str:
    """Return the month, the year or the day that a number is of: it stands right after it, or right before."""
    return _said_after(one, run, text) or _said_before(one, run, text, part)


def _said_after(one: Number, run: Sequence[Number], text: str) -> str:
    place = run.index(one)
    stop = run[place + 1].start if place + 1 < len(run) else min(len(text), one.end + 60)
    after = re.match(
        r"[^.;\d]{0,30}?\b(?:in|on|for|by|during|of|at)\s+(?:the\s+)?(?P<when>[^,.;]{1,30})", text[one.end : stop]
    )
    if after and (found := PERIOD.match(after["when"])):
        return found.group()
    bracket = re.match(r"\s*\(([^)]{1,20})\)", text[one.end : stop])
    found = PERIOD.match(bracket[1]) if bracket else None
    return found.group() if found else ""


def _said_before(one: Number, run: Sequence[Number], text: str, part: Part | None) -> str:
    place = run.index(one)
    start = run[place - 1].end if place else max(part.start if part else 0, one.start - 60)
    before = text[start : one.start]
    every = [found for found in PERIOD.finditer(before) if re.fullmatch(r"[^.;]{0,24}", before[found.end() :])]
    return every[-1].group() if every else ""
