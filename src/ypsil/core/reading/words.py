"""Prose as HTML, for those who have it read out or read it on a phone."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import groupby

from ypsil.core.drawing.svg import escaped
from ypsil.core.prose import Block, Prose, Run

_TAGS = {"bold": "strong", "italic": "em", "underline": "u", "above": "sup", "below": "sub"}
_LISTS = {"bullet": "ul", "number": "ol"}


def prose_markup(prose: Prose, said: Sequence[str], *, in_line: bool) -> str:
    """Return prose as HTML; ``in_line`` as it may stand in a heading: its paragraphs are lines, and lists are none."""
    words = iter(said)
    if in_line:
        return "\n".join(_runs(block, words) for block in prose.blocks)
    # Only lists stand further in: paragraphs between them end them.
    return "".join(_grouped(list(prose.blocks), words, 0))


def _grouped(blocks: list[Block], words: Iterator[str], level: int) -> Iterator[str]:
    for kind, group in groupby(blocks, lambda block: block.kind if block.level <= level else "deeper"):
        found = list(group)
        if kind == "deeper":
            yield from _grouped(found, words, level + 1)
        elif kind in _LISTS:
            yield f"<{_LISTS[kind]}>{''.join(f'<li>{_runs(one, words)}</li>' for one in found)}</{_LISTS[kind]}>"
        else:
            yield from (f"<p>{_runs(one, words)}</p>" for one in found)


def _runs(block: Block, words: Iterator[str]) -> str:
    return "".join(_run(run, run.text if run.figure is None else next(words, "")) for run in block.runs)


def _run(run: Run, text: str) -> str:
    markup = escaped(text)
    for look in run.looks:
        markup = f"<{_TAGS[look]}>{markup}</{_TAGS[look]}>"
    return f'<a href="{escaped(run.link)}">{markup}</a>' if run.link else markup
