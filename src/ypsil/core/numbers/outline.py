"""A whole text as an outline: its paragraphs, each with the one thing in it that is shown best."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ypsil.core.numbers.asides import asides_in
from ypsil.core.numbers.finding import numbers_in
from ypsil.core.numbers.groups import groups_in
from ypsil.core.numbers.model import Group, GroupKind

MOST_PARAGRAPHS = 100
_LONGEST_HEADING, _MOST_WORDS = 90, 12
_MARK = re.compile(r"^\s*(?:#{1,6}\s+|\d{1,2}(?:\.\d{1,2})*[.)]?\s+(?=[A-Z]))?(?P<words>\S.*)$")
_ITEM = re.compile(r"^\s*(?:[-*•–]|\(?\d{1,3}[.)])\s")
# What says more comes first; of two of a kind, the one with more rows.
_RANKS: dict[GroupKind, int] = {
    "series": 6, "parts": 5, "comparison": 4, "dates": 3, "steps": 3, "change": 2, "single": 1,
}  # fmt: skip
_WORTH = 0.5
# Lines of signs: what was drawn under headings and round tables of letters.
_RULE = re.compile(r"[-=_*~#+|.: ]{3,}")
_ROW = re.compile(r"\s*\S[^:|\t]*?(?:\s{2,}|[:|\t]\s+)[-+£$€]?\d[\d.,%]*(?:\s|$)")
# A line that is shorter than so many letters is one by itself, and one that is by so much shorter than another stands
# above it (common practice, no source).
_LEAST_WIDTH, _SHORT = 45, 0.6


@dataclass(frozen=True, slots=True)
class Paragraph:
    """A paragraph under its heading, where it has one; ``groups`` are what its numbers, steps and dates say, the best
    to show first. Places of groups are those in ``text``."""

    heading: str
    text: str
    groups: tuple[Group, ...]


def outlined(text: str) -> list[Paragraph]:
    """Return the paragraphs of a text, at most 100; what stands on a line of its own, short and without a full stop,
    is the heading of what follows.

    >>> [(one.heading, one.groups[0].kind) for one in outlined("Loans\\n\\nLoans rose from 120 to 180 in May.")]
    [('Loans', 'change')]
    """
    found: list[Paragraph] = []
    heading = ""
    for block in _blocks(text):
        if _is_heading(block):
            if heading:
                found.append(Paragraph(heading, "", ()))
            match = _MARK.match(block)
            heading = (match["words"] if match else block).strip().strip("*_").strip()
            continue
        found.append(Paragraph(heading, block, tuple(_groups(block))))
        heading = ""
    if heading:
        found.append(Paragraph(heading, "", ()))
    return found[:MOST_PARAGRAPHS]


def _groups(text: str) -> list[Group]:
    groups = groups_in(text, numbers_in(text), asides_in(text))
    return sorted(groups, key=lambda group: -(_RANKS[group.kind] + _WORTH * min(len(group.rows), 8)))


def _blocks(text: str) -> Iterator[str]:
    """Yield what stands between empty lines; where there are none, each line is a paragraph, and lists stay whole.
    Lines that were broken to a width are one again; what is only drawn with signs says nothing."""
    tidy = text.replace("\r\n", "\n").replace("\r", "\n")
    parts = [part for part in re.split(r"\n\s*\n", tidy) if part.strip()]
    for part in parts:
        lines = [line for line in part.split("\n") if not _RULE.fullmatch(line.strip()) and line.strip()]
        if not lines:
            continue
        if len(parts) == 1 and not _is_broken(lines):
            yield from _lines(lines)
        else:
            yield from _headed(lines)


def _headed(lines: Sequence[str]) -> Iterator[str]:
    """Yield a heading that stands right above its paragraph, and that."""
    first, rest = lines[0].strip(), lines[1:]
    if rest and _is_heading(first) and _stands_above(first, rest):
        yield first
        lines = rest
    yield _whole(lines)


def _stands_above(first: str, rest: Sequence[str]) -> bool:
    """Tell whether a line is no beginning of the lines below it: it is much shorter, and they begin a sentence."""
    begins = rest[0].strip()[:1]
    longest = max(len(line.strip()) for line in rest)
    return first.startswith("#") or (not _is_own(rest[0]) and not begins.islower() and len(first) < _SHORT * longest)


def _is_broken(lines: Sequence[str]) -> bool:
    """Tell whether lines are those of one paragraph that was broken to a width: all but the last are about as long, and
    some go on in small letters."""
    lengths = [len(line.rstrip()) for line in lines[:-1]]
    goes_on = sum(line.strip()[:1].islower() for line in lines[1:])
    return len(lines) > 1 and min(lengths) > _LEAST_WIDTH and min(lengths) > _SHORT * max(lengths) and goes_on > 0


def _whole(lines: Sequence[str]) -> str:
    """Return a paragraph without the breaks that only its width made; items of a list, and lines that are short or that
    end a sentence, stay lines of their own."""
    found: list[str] = []
    for line in lines:
        was_full = bool(found) and len(found[-1]) >= _LEAST_WIDTH
        goes_on = bool(found) and (was_full or line.strip()[:1].islower())
        if goes_on and not _is_own(line) and not _is_row(found[-1]):
            found[-1] = f"{found[-1]} {line.strip()}"
        else:
            found.append(line.rstrip())
    return "\n".join(found).strip()


def _is_own(line: str) -> bool:
    return bool(_ITEM.match(line)) or _is_row(line)


def _is_row(line: str) -> bool:
    """Tell whether a line is the row of a table of letters: a name, and numbers in columns."""
    return bool(_ROW.match(line))


def _lines(lines: Sequence[str]) -> Iterator[str]:
    held: list[str] = []
    for line in lines:
        if held and not _ITEM.match(line):
            yield "\n".join(held)
            held = []
        if _ITEM.match(line):
            held.append(line.rstrip())
        elif line.strip():
            yield line.strip()
    if held:
        yield "\n".join(held)


def _is_heading(block: str) -> bool:
    """Tell whether a block is a heading: one short line that does not end as a sentence or a list does."""
    line = block.strip()
    if "\n" in line or len(line) > _LONGEST_HEADING:
        return False
    if line.startswith("#"):
        return True
    ends = re.search(r"[.!?:;,…]$", line)
    return not _ITEM.match(line) and not ends and len(line.split()) <= _MOST_WORDS and not numbers_in(line)
