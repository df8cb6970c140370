"""Lists in a text: lines with a name and a number each, steps, and what happened when."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence

from ypsil.core.numbers.model import SHARE, Aside, Group, GroupKind, Number
from ypsil.core.numbers.sentences import PERIOD, Part, numbers_between, sentences
from ypsil.core.numbers.suiting import LONG_TABLE, VISUALS, is_whole, told_apart

_ITEM = re.compile(r"^\s*(?:[-*•–]|\(?(\d{1,3})[.)])\s+(.*)$")
_LINE = re.compile(
    r"^\s*(?:[-*•–]\s*)?(?P<label>[^\d:;\t|]{1,60}?|(?:1[5-9]|20|21)\d\d|Q[1-4] ?\d{0,4}|\w+ \d{4})\s*"
    r"(?:[:=|\t]|\s[-–—]\s|,|\s{2,})\s*(?P<rest>\S.*)$"
)
_FIRST = re.compile(r"\b(?:first|firstly|to begin with)\b", re.IGNORECASE)
_THEN = re.compile(
    r"[,;.]?\s*\b(?:first(?:ly)?|second(?:ly)?|third(?:ly)?|next|then|after that|afterwards|finally|at last|"
    r"last(?:ly)?)\b,?\s*",
    re.IGNORECASE,
)
_OPENS = re.compile(r"\s*(?:first(?:ly)?|to begin with)\b,?\s*", re.IGNORECASE)
_NEXT = re.compile(
    r"\s*(?:second(?:ly)?|third(?:ly)?|fourth(?:ly)?|next|then|after that|afterwards|finally|at last|last(?:ly)?)\b"
    r",?\s*",
    re.IGNORECASE,
)
_FEWEST = 2
_MOST_LABEL, _MOST_COLUMNS = 60, 4
_LONGEST_LINE = 200
_LONGEST_SAID = 300
_SHORT_SENTENCE = 160
_AT_ITS_HEAD = 4
Lined = tuple[int, int, str]


def lists_in(text: str, numbers: Sequence[Number]) -> Iterator[tuple[Group, set[int]]]:
    """Yield lists, each with where the numbers begin that it is made of: lines with a name and a number each are a
    comparison, parts or a series, numbered ones are steps."""
    run: list[Lined] = []
    for match in re.finditer(r"[^\n]+", text):
        line = (match.start(), match.end(), match.group())
        is_item = len(line[2]) < _LONGEST_LINE and bool(_ITEM.match(line[2]) or _LINE.match(line[2]))
        if is_item and run and text.count("\n", run[-1][1], line[0]) == 1:
            run.append(line)
            continue
        yield from _of_lines(run, numbers)
        run = [line] if is_item else []
    yield from _of_lines(run, numbers)


def _of_lines(run: Sequence[Lined], numbers: Sequence[Number]) -> Iterator[tuple[Group, set[int]]]:
    # What stands above a list names its columns.
    while run and not numbers_between(numbers, run[0][0], run[0][1]) and not _ITEM.match(run[0][2]):
        run = run[1:]
    if len(run) < _FEWEST:
        return
    inside = [numbers_between(numbers, start, end) for start, end, _ in run]
    named = [match for _, _, line in run if (match := _LINE.match(line))]
    if len(named) == len(run) and all(len(some) == 1 for some in inside):
        firsts = [some[0] for some in inside]
        if len({one.unit for one in firsts}) == 1:
            rows = [(_clean(match["label"]), one.value) for match, one in zip(named, firsts, strict=True)]
            kind = _kind_of(rows, firsts[0].unit)
            visuals = VISUALS[kind] if len(rows) <= LONG_TABLE else ("table", *VISUALS[kind][:2])
            yield (
                Group(run[0][0], run[-1][1], kind, tuple(told_apart(rows)), visuals, firsts[0].unit),
                {one.start for one in firsts},
            )
            return
    many = {len(some) for some in inside}
    if len(named) == len(run) and len(many) == 1 and 1 < (columns := many.pop()) <= _MOST_COLUMNS:
        # A table of letters: each of its columns is compared by itself.
        for place in range(columns):
            ones = [some[place] for some in inside]
            rows = [(_clean(match["label"]), one.value) for match, one in zip(named, ones, strict=True)]
            kind = _kind_of(rows, ones[0].unit)
            yield (
                Group(run[0][0], run[-1][1], kind, tuple(told_apart(rows)), VISUALS[kind], ones[0].unit),
                {one.start for one in ones},
            )
        return
    items = [match for _, _, line in run if (match := _ITEM.match(line)) and match[1]]
    if len(items) == len(run):
        steps = tuple((str(match[1]), match[2].strip()[:_LONGEST_SAID]) for match in items)
        yield Group(run[0][0], run[-1][1], "steps", steps, VISUALS["steps"]), set()


def _kind_of(rows: Sequence[tuple[str, float]], unit: str | None) -> GroupKind:
    if all(PERIOD.fullmatch(name) for name, _ in rows):
        return "series"
    return "parts" if unit in (SHARE, "%") and is_whole([value for _, value in rows], unit) else "comparison"


def _clean(label: str) -> str:
    return re.sub(r"^\s*(?:[-*•–]|\(?\d{1,3}[.)])\s*", "", label).strip()[:_MOST_LABEL]


def steps_in(part: Part) -> Group | None:
    """Return the steps that a sentence tells: first this, then that, finally the other."""
    begins = _FIRST.search(part.text)
    if begins is None:
        return None
    before = part.text[: begins.start()].strip(" ,;.")
    told = [piece for one in _THEN.split(part.text) if (piece := one.strip(" ,;.")) and piece != before]
    if len(told) <= _FEWEST:
        return None
    rows = tuple((str(place), piece[:_LONGEST_SAID]) for place, piece in enumerate(told, start=1))
    return Group(part.start, part.end, "steps", rows, VISUALS["steps"])


def steps_across(text: str) -> Iterator[Group]:
    """Yield the steps that sentences tell one after the other: First ..., Then ..., Finally ..."""
    run: list[Part] = []
    for part in sentences(text):
        goes_on = bool(run) and _NEXT.match(part.text) and not text[run[-1].end : part.start].strip()
        if goes_on:
            run.append(part)
            continue
        yield from _of_sentences(run)
        run = [part] if _OPENS.match(part.text) else []
    yield from _of_sentences(run)


def _of_sentences(run: Sequence[Part]) -> Iterator[Group]:
    if len(run) > _FEWEST:
        told = [_NEXT.sub("", _OPENS.sub("", part.text)).strip(" ,;.\n") for part in run]
        rows = tuple(
            (str(place), f"{said[:1].upper()}{said[1:]}"[:_LONGEST_SAID]) for place, said in enumerate(told, start=1)
        )
        yield Group(run[0].start, run[-1].end, "steps", rows, VISUALS["steps"])


def dates_in(text: str, asides: Sequence[Aside]) -> Iterator[Group]:
    """Yield what happened when: two dates at least, each with what is said of it in its line or sentence."""
    run: list[tuple[Part, str, str]] = []
    for part, when, what in _dated(text, asides):
        if run and text[run[-1][0].end : part.start].strip():
            yield from _of_dates(run)
            run = []
        run.append((part, when, what))
    yield from _of_dates(run)


def _of_dates(run: Sequence[tuple[Part, str, str]]) -> Iterator[Group]:
    if len(run) >= _FEWEST:
        rows = tuple((when, what) for _, when, what in run)
        yield Group(run[0][0].start, run[-1][0].end, "dates", rows, VISUALS["dates"])


def _dated(text: str, asides: Sequence[Aside]) -> Iterator[tuple[Part, str, str]]:
    """Yield the lines and sentences with one date each, the date, and what is said of it."""
    dates = [one for one in asides if one.kind == "date"]
    place = 0
    for part in _lines_and_sentences(text):
        while place < len(dates) and dates[place].start < part.start:
            place += 1
        inside = [one for one in dates[place : place + _FEWEST] if one.start < part.end]
        if len(inside) != 1:
            continue
        when = text[inside[0].start : inside[0].end]
        at = inside[0].start - part.start
        rest = re.sub(r"\s+", " ", f"{part.text[:at]} {part.text[at + len(when) :]}").strip(" ,;:.–—-*•\t")
        what = re.sub(r"^(?:In|On|Since|By|At)\b[\s,]*|\s\b(?:in|on|since|by|at)$", "", rest).strip(" ,;:.–—-")
        if what and (at <= _AT_ITS_HEAD or len(part.text) < _SHORT_SENTENCE):
            yield part, when.strip("() "), what[:_LONGEST_SAID]


def _lines_and_sentences(text: str) -> Iterator[Part]:
    for sentence in sentences(text):
        at = sentence.start
        for line in sentence.text.split("\n"):
            if line.strip():
                yield Part(at, at + len(line), line)
            at += len(line) + 1
