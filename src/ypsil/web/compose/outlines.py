"""A report out of a text: each paragraph with what shows its numbers best, to be chosen, and the page made of that."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from math import ceil

from django.utils.safestring import SafeString

from ypsil.core.document.model import Frame
from ypsil.core.errors import EditRefused, YpsilError
from ypsil.core.numbers import Group, Paragraph, outlined
from ypsil.core.numbers.model import SHARE
from ypsil.core.report import ReportBody
from ypsil.core.report.document import Band
from ypsil.core.style.grounds import Ground
from ypsil.core.tiles import KINDS, AnyTile, SourcesTile, TextTile
from ypsil.web.accounts.services import User
from ypsil.web.compose import typed_tiles
from ypsil.web.compose.numbers_in_texts import TOLD, cells_of_group, shown_of, told_of

MOST_LETTERS = 60_000
# More than that are asked for one by one, on the page.
MOST_DRAWN = 24
NOTHING = "text"
_MOST_CHOICES, _FEWEST_DATES = 5, 3
_MOST_TITLE = 200
_BULLETS = "-*•–"
_ITEM = re.compile(r"\s*(?P<sign>[-*•–]|\(?\d{1,3}[.)])\s+")
_COLUMNS, _CHART_ROWS, _LINE_ROWS, _LETTERS_OF_COLUMN = 24, 36, 3, 4.2


@dataclass(frozen=True, slots=True)
class Choice:
    """A way to show something of a paragraph: what it is called where it is chosen, in words, and how it looks."""

    value: str
    label: str
    drawing: SafeString


@dataclass(frozen=True, slots=True)
class Part:
    """A paragraph with the ways to show what is in it, and the one that is proposed."""

    place: int
    heading: str
    text: str
    choices: tuple[Choice, ...]
    proposed: str
    more: int


def parts_of(text: str) -> list[Part]:
    """Return the paragraphs of a text, each with what shows its numbers, steps and dates; raises EditRefused for a text
    that is empty or longer than can be laid out."""
    if not text.strip():
        raise EditRefused("there is no text", remedy="paste one")
    if len(text) > MOST_LETTERS:
        raise EditRefused(f"a text has at most {MOST_LETTERS:,} letters here", remedy="paste a part of it")
    drawn = 0
    found = []
    for place, paragraph in enumerate(outlined(text)):
        choices = _choices(paragraph) if drawn < MOST_DRAWN else []
        drawn += bool(choices)
        best = paragraph.groups[0] if paragraph.groups else None
        is_worth = best is not None and _is_worth(best)
        proposed = choices[0].value if choices and is_worth else NOTHING
        more = 0 if choices else len(paragraph.groups)
        found.append(Part(place, paragraph.heading, paragraph.text, tuple(choices), proposed, more))
    return found


def _is_worth(group: Group) -> bool:
    """Tell whether something is proposed, and not only offered: one number alone says little unless it is a share, and
    two dates may only be mentioned."""
    if group.kind == "single":
        return group.unit in ("%", SHARE)
    return group.kind != "dates" or len(group.rows) >= _FEWEST_DATES


def _choices(paragraph: Paragraph) -> list[Choice]:
    found: list[Choice] = []
    for number, group in enumerate(paragraph.groups[:_MOST_CHOICES]):
        if group.kind in TOLD:
            told = told_of(group)
            found.append(Choice(f"{number}:{TOLD[group.kind]}", told.says, told.drawing))
        else:
            looks = shown_of(group, paragraph.text).looks
            # Of the best there are several looks, of the others one each.
            some = looks[: 3 if not number else 1]
            found += [Choice(f"{number}:{look.visual}", look.label, look.drawing) for look in some]
    return found[:_MOST_CHOICES]


def page_of(author: User, title: str, text: str, chosen: Mapping[int, str]) -> ReportBody:
    """Return a page of a text: a band for each paragraph, with what was chosen of it beside its words. Numbers become
    tables of the author's own."""
    parts = outlined(text)
    called = (" ".join(title.split()) or _first_words(parts))[:_MOST_TITLE]
    head = TextTile(role="title", text=called, place=Frame(column=0, row=0, width=_COLUMNS, height=10))
    bands = [Band(message="Headline", ground=Ground(colour="deep", to="accent", way="slope"), tiles=(head,))]
    for place, paragraph in enumerate(parts):
        if not place and paragraph.heading == called:
            # It is the title already.
            paragraph = replace(paragraph, heading="")
            if not paragraph.text:
                continue
        shown = _shown(author, called, paragraph, chosen.get(place, NOTHING))
        bands.append(_band(paragraph, shown, is_left=bool(len(bands) % 2)))
    foot = SourcesTile(place=Frame(column=0, row=0, width=_COLUMNS, height=4))
    bands.append(Band(message="Sources", ground=Ground(colour="wash"), tiles=(foot,)))
    return ReportBody(title=called, bands=tuple(bands))


def _first_words(parts: list[Paragraph]) -> str:
    first = parts[0] if parts else None
    return (first.heading or first.text.split(". ")[0]) if first else "A text"


def _shown(author: User, title: str, paragraph: Paragraph, choice: str) -> AnyTile | None:
    """Return the tile of what was chosen; None for the text alone, and for what there is not."""
    number, _, name = choice.partition(":")
    if not number.isdecimal() or int(number) >= len(paragraph.groups):
        return None
    group: Group = paragraph.groups[int(number)]
    if group.kind in TOLD:
        content = told_of(group).content
        return KINDS[content["type"]].model_validate(content)
    typed = "\n".join("\t".join(row) for row in cells_of_group(group))
    try:
        return typed_tiles.start_for(author, paragraph.heading or title, typed, name)
    except YpsilError:
        return None


def _band(paragraph: Paragraph, shown: AnyTile | None, *, is_left: bool) -> Band:
    """Return the band of a paragraph: its heading, its words, and what shows them at one side."""
    tiles: list[AnyTile] = []
    top = 0
    if paragraph.heading:
        tiles.append(_text("heading", paragraph.heading, Frame(column=0, row=0, width=_COLUMNS, height=5)))
        top = 6
    wide = _COLUMNS if shown is None else _COLUMNS // 2
    rows = max(4, _LINE_ROWS * ceil(len(paragraph.text) / (wide * _LETTERS_OF_COLUMN)))
    if paragraph.text:
        at = Frame(column=0 if is_left or shown is None else _COLUMNS - wide, row=top, width=wide, height=rows)
        tiles.append(_text("body", paragraph.text, at))
    if shown is not None:
        beside = Frame(column=wide if is_left else 0, row=top, width=_COLUMNS - wide, height=_CHART_ROWS)
        tiles.append(shown.model_copy(update={"place": beside}))
    said = paragraph.heading or paragraph.text[:80]
    return Band(message=said[:500], tiles=tuple(tiles))


def _text(role: str, text: str, place: Frame) -> TextTile:
    """Return words as a tile; lines that are items of a list are such."""
    found = [(line, _ITEM.match(line)) for line in text.split("\n")]
    if not any(item for _, item in found):
        return TextTile.model_validate({"role": role, "text": text, "place": place})
    blocks = []
    for line, item in found:
        kind = "paragraph" if item is None else "bullet" if item["sign"] in _BULLETS else "number"
        said = line.strip() if item is None else line[item.end() :].strip()
        blocks.append({"kind": kind, "runs": [{"text": said}]})
    return TextTile.model_validate({"role": role, "text": {"blocks": blocks}, "place": place})
