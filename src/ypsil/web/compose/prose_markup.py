"""Prose as HTML: for those who read it out or on a phone, and as data for the editor."""

from __future__ import annotations

import json
from collections.abc import Iterator, Sequence
from itertools import groupby

from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

from ypsil.core.prose import Block, Prose, Run
from ypsil.core.tiles import Context, Written

_TAGS = {"bold": "strong", "italic": "em", "underline": "u", "above": "sup", "below": "sub"}
_LISTS = {"bullet": "ul", "number": "ol"}


def prose_markup(prose: Prose, said: Sequence[str], *, in_line: bool) -> SafeString:
    """Return prose as HTML; ``in_line`` as it may stand in a heading: its paragraphs are lines, and lists are none."""
    words = iter(said)
    if in_line:
        return mark_safe("\n".join(_runs(block, words) for block in prose.blocks))
    # Only lists stand further in: paragraphs between them end them.
    return mark_safe("".join(_grouped(list(prose.blocks), words, 0)))


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
    markup: str = escape(text)
    for look in run.looks:
        markup = f"<{_TAGS[look]}>{markup}</{_TAGS[look]}>"
    return f'<a href="{escape(run.link)}">{markup}</a>' if run.link else markup


def typed_as_data(written: Written, context: Context) -> dict[str, str]:
    """Return what the editor needs to type into a text: its prose as JSON, what its live figures say, and the type it
    is set in."""
    said = written.said(context)
    return {
        "prose": json.dumps(written.prose.model_dump(mode="json", exclude_defaults=True)),
        "said": json.dumps([{"text": one.text, "problem": one.problem} for one in said]),
        "role": written.role,
        "align": written.align,
        "columns": str(written.columns),
        "scale": str(written.scale),
    }
