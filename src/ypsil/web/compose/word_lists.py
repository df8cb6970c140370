"""The list beside a cloud: the terms of a tile, the answers that each came from, and what can be done with it."""

from __future__ import annotations

import json
from dataclasses import dataclass

from ypsil.core.answers.words import DEFAULT_TERMS, CountedWords, count_words
from ypsil.core.cache import Cache
from ypsil.core.figures import format_share
from ypsil.core.questions.model import Question
from ypsil.core.questions.offered import Choice, worded
from ypsil.core.report import ReportTable, VisualTile
from ypsil.core.style import HouseStyle
from ypsil.core.text.around import likely_slips, neighbours
from ypsil.core.text.contexts import Context, Side, contexts_of
from ypsil.core.text.count import Term
from ypsil.core.text.repeats import Repeat, repeats
from ypsil.core.visuals import visual
from ypsil.web.compose.margin import Item, items_of

SHOWN_ANSWERS = 100
_COLOURS = 8
_FEW_TEXTS, _FEW_WORDS = 200, 20_000


@dataclass(frozen=True, slots=True)
class TermLine:
    """A term with its count, the number of answers that hold it, and their share of all answers in words."""

    term: str
    count: int
    answers: int
    share: str


@dataclass(frozen=True, slots=True)
class TermList:
    """The terms that a tile shows, what rarer ones may be slips of, and what was settled about single ones; of few
    texts also what they repeat."""

    lines: list[TermLine]
    answers: int
    slips: list[Item]
    settled: list[Item]
    repeated: list[Repeat]
    is_short: bool


@dataclass(frozen=True, slots=True)
class Swatch:
    """A colour that a term can be given: how it is called, what it looks like, and the edit that gives it."""

    label: str
    fill: str
    edit: str
    current: bool


@dataclass(frozen=True, slots=True)
class TermPanel:
    """One term: its line, what can be done with it, and the first of its answers."""

    line: TermLine
    items: list[Item]
    colours: list[Swatch]
    contexts: list[Context]
    by: Side


def term_list(tile: VisualTile, table: ReportTable) -> TermList:
    """Return the list beside a tile that asks per word; raises as the question's answer does."""
    counted = counted_words(tile.question, table)
    found = counted.found
    lines = [_line(term, found.responses) for term in found.first(tile.question.keep or DEFAULT_TERMS)]
    slips = [
        Choice(
            f"“{slip.rare.term}” as “{slip.meant.term}”",
            worded.merged(tile.question, slip.rare.term, slip.meant.term),
        )
        for slip in likely_slips(found)
    ]
    # What one person wrote, rather than answers of many.
    is_short = found.responses <= _FEW_TEXTS and found.tokens <= _FEW_WORDS
    return TermList(
        lines,
        found.responses,
        items_of(tile, slips),
        items_of(tile, worded.settled(tile.question)),
        repeats(counted.texts, language=found.language) if is_short else [],
        is_short,
    )


def term_panel(tile: VisualTile, table: ReportTable, name: str, by: Side, style: HouseStyle) -> TermPanel | None:
    """Return what there is about one term, or nothing where it is not counted."""
    counted = counted_words(tile.question, table)
    term = next((term for term in counted.found.terms if term.term == name), None)
    if term is None:
        return None
    phrases = [phrase.term for phrase in neighbours(counted.found, name)]
    return TermPanel(
        _line(term, counted.found.responses),
        items_of(tile, worded.about(tile.question, name, phrases)),
        _swatches(tile, name, style) if "colours" in visual(tile.visual).options.model_fields else [],
        contexts_of(counted.texts, counted.found, name, by=by, most=SHOWN_ANSWERS),
        by,
    )


def _bytes_of(counted: CountedWords) -> int:
    # A letter of the texts stands in them and in what was counted; a term has a few numbers.
    return 3 * sum(len(text or "") for text in counted.texts) + 200 * len(counted.found.terms)


_counted: Cache[str, CountedWords] = Cache("counted words", 1 << 27, _bytes_of)


def counted_words(question: Question, table: ReportTable) -> CountedWords:
    """Count the words that a question is about, once for the list and for each term chosen in it."""
    key = f"{table.digest} {question.digest()}"
    return _counted.get_or_make(key, lambda: count_words(table.rows(question), question))


def _line(term: Term, answers: int) -> TermLine:
    return TermLine(term.term, term.count, term.responses, format_share(term.responses / max(1, answers)))


def _swatches(tile: VisualTile, name: str, style: HouseStyle) -> list[Swatch]:
    given: dict[str, int] = tile.options.get("colours") or {}
    own = next((colour for term, colour in given.items() if term.casefold() == name.casefold()), None)
    style = style.coloured(tile.options.get("palette", "house"))
    others = {term: colour for term, colour in given.items() if term.casefold() != name.casefold()}

    def edit(colours: dict[str, int]) -> str:
        return json.dumps({"type": "set_options", "tile": tile.id, "options": {"colours": colours}})

    swatches = [
        Swatch(f"Colour {number}", style.colour(number - 1), edit(others | {name: number}), own == number)
        for number in range(1, _COLOURS + 1)
    ]
    return [Swatch("As the others", "", edit(others), own is None), *swatches]
