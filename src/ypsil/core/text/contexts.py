"""The answers that a term came from, with the term in its place, sorted by the words around it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ypsil.core.text.count import TermCounts
from ypsil.core.text.tokens import tokens_of

Side = Literal["after", "before"]
# Of answers that are longer than so many letters, those near the first few uses are shown.
_LONGEST, _NEAR, _MOST_TERMS = 1000, 120, 5


@dataclass(frozen=True, slots=True)
class Piece:
    """A stretch of an answer: the term, or what stands between."""

    text: str
    is_term: bool


@dataclass(frozen=True, slots=True)
class Context:
    """An answer with a term in it: its place among the texts, and its text in pieces."""

    answer: int
    pieces: tuple[Piece, ...]


def contexts_of(
    texts: Sequence[str | None], found: TermCounts, term: str, *, by: Side = "after", most: int | None = None
) -> list[Context]:
    """Return each text that holds a term, once, sorted by the words after its first use there or by those before.

    ``found`` are the terms of just these texts. Words before are compared from the term backwards.

    >>> from ypsil.core.text.count import count_terms
    >>> said = ["More warm rooms", "Warm coats and warm rooms", "Kind staff"]
    >>> for one in contexts_of(said, count_terms(said), "warm"):
    ...     print("".join(f"[{piece.text}]" if piece.is_term else piece.text for piece in one.pieces))
    [Warm] coats and [warm] rooms
    More [warm] rooms
    """
    uses = found.uses(term)
    corpus = uses.corpus
    firsts = uses.first_of_each_answer().sorted_by(by)
    shown = corpus.answers[firsts.starts[:most]].tolist()
    of_shown = np.isin(corpus.answers[uses.starts], shown)
    starts, ends = uses.starts[of_shown], uses.ends[of_shown]
    spans: dict[int, list[tuple[int, int]]] = {}
    for answer, first, last in zip(
        corpus.answers[starts].tolist(), corpus.first[starts].tolist(), corpus.last[ends].tolist(), strict=True
    ):
        spans.setdefault(answer, []).append((first, last))
    held = [texts[answer] or "" for answer in shown]
    return [
        Context(answer, shortened(pieces_of(text, tokens, spans[answer])))
        for answer, text, tokens in zip(shown, held, tokens_of(held).to_list(), strict=True)
    ]


def pieces_of(text: str, tokens: Sequence[str], spans: Sequence[tuple[int, int]]) -> tuple[Piece, ...]:
    """Return a text in pieces; ``spans`` are the first and last of its tokens that are marked, in their order."""
    # Tokens do not overlap and nothing between them looks like one, so each is the next one that is found.
    starts, at = [], 0
    for token in tokens:
        at = text.index(token, at)
        starts.append(at)
        at += len(token)
    pieces, end = [], 0
    for first, last in spans:
        begin, stop = starts[first], starts[last] + len(tokens[last])
        pieces += [Piece(text[end:begin], False), Piece(text[begin:stop], True)]
        end = stop
    return tuple(piece for piece in (*pieces, Piece(text[end:], False)) if piece.text)


def shortened(pieces: Sequence[Piece]) -> tuple[Piece, ...]:
    """Return the pieces of an answer with what stands near its first terms, where it is too long to be read through.

    >>> long = (Piece("word " * 200, False), Piece("bus", True), Piece(" and so on" * 90, False))
    >>> [len(piece.text) for piece in shortened(long)]
    [121, 3, 121]
    """
    if sum(len(piece.text) for piece in pieces) <= _LONGEST:
        return tuple(pieces)
    found: list[Piece] = []
    terms = 0
    for place, piece in enumerate(pieces):
        terms += piece.is_term
        is_over = terms > _MOST_TERMS
        if piece.is_term and not is_over:
            found.append(piece)
        elif not piece.is_term:
            before = piece.text[:_NEAR] if place else ""
            after = piece.text[-_NEAR:] if place + 1 < len(pieces) and terms < _MOST_TERMS else ""
            whole = len(piece.text) <= len(before) + len(after)
            found.append(piece if whole else Piece(f"{before}…{after}", False))
        if is_over or (terms == _MOST_TERMS and not piece.is_term):
            break
    return tuple(found)
