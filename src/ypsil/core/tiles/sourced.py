"""What a page names as its sources, and how tiles point to them by small numbers."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from ypsil.core.prose.model import Run

MOST_POINTED = 6
_ADDRESS = re.compile(r"https?://[^\s<>\"]+|www\.[^\s<>\"]+", re.IGNORECASE)
# Signs that end a sentence rather than an address.
_AFTER = ".,;:!?)]}’”"


class Cite(BaseModel):
    """What a tile points to: a table, a source that somebody typed, by its id, or whom to thank for a picture."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    table: str = Field("", max_length=200)
    typed: str = Field("", max_length=16)
    thanks: str = Field("", max_length=200)

    @model_validator(mode="after")
    def _is_one(self) -> Cite:
        if sum(map(bool, (self.table, self.typed, self.thanks))) != 1:
            raise ValueError("a number points to one source")
        return self


@dataclass(frozen=True, slots=True)
class Source:
    """Where something on a page comes from: what tiles point to it by, what is said of it, and what it is."""

    cite: Cite | None
    words: str
    kind: Literal["table", "typed", "picture", "icons", "type"] = "table"


def numbers_of(cites: Sequence[Cite], sources: Sequence[Source]) -> tuple[int, ...]:
    """Return the numbers of what is pointed to, from 1, in rising order; what is not there has none.

    >>> numbers_of([Cite(table="b"), Cite(typed="gone")], [Source(Cite(table=one), one) for one in "ab"])
    (2,)
    """
    return tuple(number for number, source in enumerate(sources, 1) if source.cite is not None and source.cite in cites)


def with_addresses(words: str) -> Iterator[Run]:
    """Yield words as stretches of text, in which addresses lead to where they say.

    >>> [(run.text, run.link) for run in with_addresses("See www.example.org/a. Thanks")]
    [('See ', ''), ('www.example.org/a', 'https://www.example.org/a'), ('. Thanks', '')]
    """
    end = 0
    for found in _ADDRESS.finditer(words):
        said = found[0].rstrip(_AFTER)
        if found.start() > end:
            yield Run(text=words[end : found.start()])
        yield Run(text=said, link=said if "://" in said else f"https://{said}")
        end = found.start() + len(said)
    if end < len(words):
        yield Run(text=words[end:])
