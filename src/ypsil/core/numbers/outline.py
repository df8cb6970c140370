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
            heading = match["words"].strip() if match else block
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
    """Yield what stands between empty lines; where there are none, each line is a paragraph, and lists stay whole."""
    tidy = text.replace("\r\n", "\n").replace("\r", "\n")
    parts = [part for part in re.split(r"\n\s*\n", tidy) if part.strip()]
    for part in parts:
        yield from _lines(part.split("\n")) if len(parts) == 1 else _headed(part)


def _headed(part: str) -> Iterator[str]:
    """Yield a heading that stands right above its paragraph, and that."""
    first, _, rest = part.partition("\n")
    if rest.strip() and _is_heading(first) and not _ITEM.match(rest):
        yield first.strip()
        yield rest.strip()
    else:
        yield part.strip()


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
