"""Text as it is typed: paragraphs and items of lists, each of stretches in one look, with live figures among them."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Discriminator, Field, Tag, field_validator, model_validator

from ypsil.core.questions.model import Question

MOST_LETTERS = 20_000
MOST_BLOCKS = 2_000
MOST_FIGURES = 100

Look = Literal["bold", "italic", "underline", "above", "below"]
LOOKS: tuple[Look, ...] = ("bold", "italic", "underline", "above", "below")
TextColour = Literal["", "accent", "second", "third", "fourth", "quiet"]
# Addresses that a link may lead to: of the web, of mail, of a phone, or a band of the page itself.
_LINK = re.compile(r"(https?://|mailto:|tel:)[^\s<>\"]+|#[a-z0-9]{1,16}", re.IGNORECASE)
# What stands for a figure where nobody has worked it out.
UNKNOWN = "…"


class _Model(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class Shown(_Model):
    """How a live figure is written: its decimals (None: as many as it needs), short or in full, its sign, its unit."""

    places: int | None = Field(None, ge=0, le=6)
    form: Literal["full", "short"] = "full"
    sign: Literal["usual", "always", "never"] = "usual"
    has_unit: bool = True


class Words(_Model):
    """Words that a live figure is written with in place of its number: by whether it is above ``at``, below it, or no
    further from it than ``within``."""

    above: str = Field("rose", max_length=200)
    level: str = Field("stayed level", max_length=200)
    below: str = Field("fell", max_length=200)
    at: float = Field(0.0, allow_inf_nan=False)
    within: float = Field(0.0, ge=0, allow_inf_nan=False)

    def of(self, value: float) -> str:
        """Return the words for a value.

        >>> Words().of(0.16), Words().of(-2), Words(at=100, within=5).of(103)
        ('rose', 'fell', 'stayed level')
        """
        if abs(value - self.at) <= self.within:
            return self.level
        return self.above if value > self.at else self.below


class LiveFigure(_Model):
    """A value in a sentence that follows the data: one number or one name out of the answer to a question.

    ``take`` tells whether the measured value is said, the name of its group, or the day on which the table was read;
    ``pick`` tells of which row of the answer; ``year_so_far`` is the part by which the periods of the newest year,
    together, are more than the same ones of the year before. With ``against`` the value is compared with that of a
    second question: how much more it is, by which part, how many times as much, or what part of it.
    """

    table: str = Field(max_length=200)
    question: Question
    take: Literal["value", "name", "read"] = "value"
    pick: Literal["first", "last", "before_last", "year_so_far"] = "first"
    against: Question | None = None
    compared: Literal["difference", "percent", "times", "share"] = "percent"
    shown: Shown = Shown()
    words: Words | None = None

    @model_validator(mode="after")
    def _one_value(self) -> LiveFigure:
        if len(self.question.measures) != 1 or self.question.split is not None or len(self.question.per) > 1:
            raise ValueError("a live figure has one measure, and groups by one column at most")
        if self.take == "name" and not self.question.per:
            raise ValueError("the name of a group needs a question “per” something")
        has_periods = bool(self.question.per and self.question.per[0].grain)
        if self.pick == "year_so_far" and not (has_periods and self.take == "value"):
            raise ValueError("a year is compared by its periods, such as months")
        if self.against is not None and (self.take == "name" or len(self.against.measures) != 1):
            raise ValueError("only one value is compared with one other")
        return self

    def questions(self) -> Iterator[Question]:
        yield self.question
        if self.against is not None:
            yield self.against


class Run(_Model):
    """A stretch of text in one look, or a live figure."""

    text: str = Field("", max_length=MOST_LETTERS)
    figure: LiveFigure | None = None
    looks: tuple[Look, ...] = ()
    colour: TextColour = ""
    link: str = Field("", max_length=2_000)

    @field_validator("looks")
    @classmethod
    def _in_order(cls, looks: tuple[Look, ...]) -> tuple[Look, ...]:
        return tuple(look for look in LOOKS if look in looks and not (look == "below" and "above" in looks))

    @field_validator("link")
    @classmethod
    def _leads_somewhere(cls, link: str) -> str:
        link = link.strip()
        if link and not _LINK.fullmatch(link):
            raise ValueError("a link begins with https://, http://, mailto:, tel: or # and the band it leads to")
        return link

    @model_validator(mode="after")
    def _is_one(self) -> Run:
        if self.figure is not None and self.text:
            raise ValueError("a live figure has no text of its own")
        return self

    @property
    def is_plain(self) -> bool:
        return not (self.figure or self.looks or self.colour or self.link)

    def looks_like(self, other: Run) -> bool:
        return (self.looks, self.colour, self.link) == (other.looks, other.colour, other.link)


class Block(_Model):
    """A paragraph, or an item of a list that stands ``level`` steps further in."""

    kind: Literal["paragraph", "bullet", "number"] = "paragraph"
    level: int = Field(0, ge=0, le=3)
    runs: tuple[Run, ...] = ()

    @field_validator("runs")
    @classmethod
    def _joined(cls, runs: tuple[Run, ...]) -> tuple[Run, ...]:
        """Neighbours of one look are one run."""
        joined: list[Run] = []
        for run in runs:
            if run.figure is None and not run.text:
                continue
            before = joined[-1] if joined else None
            if before and run.figure is None and before.figure is None and before.looks_like(run):
                joined[-1] = before.model_copy(update={"text": before.text + run.text})
            else:
                joined.append(run)
        return tuple(joined)

    @model_validator(mode="after")
    def _has_no_breaks(self) -> Block:
        if any("\n" in run.text for run in self.runs):
            raise ValueError("each paragraph is a block of its own")
        return self

    @property
    def is_plain(self) -> bool:
        return self.kind == "paragraph" and all(run.is_plain for run in self.runs)


class Prose(_Model):
    """Text with its looks, its lists and its live figures."""

    blocks: tuple[Block, ...] = Field((), max_length=MOST_BLOCKS)

    @model_validator(mode="after")
    def _not_too_long(self) -> Prose:
        if sum(len(run.text) for run in self.runs()) > MOST_LETTERS:
            raise ValueError(f"a text has at most {MOST_LETTERS:,} letters")
        if sum(1 for _ in self.figures()) > MOST_FIGURES:
            raise ValueError(f"a text has at most {MOST_FIGURES} live figures")
        return self

    @staticmethod
    @lru_cache(maxsize=4096)
    def of(text: str) -> Prose:
        """Return plain text as prose: each of its lines is a paragraph."""
        lines = text.split("\n") if text else []
        # Lines beyond the most there are stay together in the last.
        if len(lines) > MOST_BLOCKS:
            lines = [*lines[: MOST_BLOCKS - 1], " ".join(lines[MOST_BLOCKS - 1 :])]
        return Prose(blocks=tuple(Block(runs=(Run(text=line),)) for line in lines))

    @property
    def is_plain(self) -> bool:
        return all(block.is_plain for block in self.blocks)

    def runs(self) -> Iterator[Run]:
        for block in self.blocks:
            yield from block.runs

    def figures(self) -> Iterator[LiveFigure]:
        """Yield its live figures in reading order."""
        for run in self.runs():
            if run.figure is not None:
                yield run.figure

    def plain(self, said: tuple[str, ...] = ()) -> str:
        """Return it without looks; ``said`` are its live figures in words, in reading order."""
        words = iter(said)
        return "\n".join(
            "".join(run.text if run.figure is None else next(words, UNKNOWN) for run in block.runs)
            for block in self.blocks
        )


def _which(text: Any) -> str:
    return "plain" if isinstance(text, str) else "prose"


# Text as a document holds it: without looks and figures it is nothing but its letters.
Text = Annotated[Annotated[str, Tag("plain")] | Annotated[Prose, Tag("prose")], Discriminator(_which)]


def prose_of(text: Text) -> Prose:
    return Prose.of(text) if isinstance(text, str) else text


def simplest(text: Text) -> Text:
    """Return text as it is stored: prose that has no looks as plain text.

    >>> simplest(Prose.of("Two\\nlines"))
    'Two\\nlines'
    """
    return text.plain() if isinstance(text, Prose) and text.is_plain else text
