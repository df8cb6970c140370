"""A column as its different texts and which of them each row holds.

What a cell means depends on its text alone, so every rule is applied to each different text once. A column of
a million cells seldom has more than a few thousand of them.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import polars as pl

_SAMPLE = 2_000


@dataclass(frozen=True, slots=True)
class Encoded:
    """``texts`` are trimmed and never empty; ``codes`` has a position in them a row, null where a cell is empty.

    ``counts`` says how many rows hold each text. Two texts may be the same where cells differed in outer spaces.
    """

    texts: pl.Series
    codes: pl.Series
    counts: np.ndarray

    @property
    def present(self) -> int:
        """How many rows hold a text."""
        return int(self.counts.sum())

    def spread(self, values: pl.Series) -> pl.Series:
        """Return a value for each row from one for each text."""
        return values.gather(self.codes)

    def weight(self, marked: pl.Series) -> int:
        """Return how many rows hold one of the marked texts (a Boolean series; null counts as not)."""
        return int(self.counts[marked.fill_null(False).to_numpy()].sum())

    def rows(self, marked: pl.Series) -> pl.Series:
        """Return which rows hold one of the marked texts."""
        return self.spread(marked.fill_null(False)).fill_null(False)

    def without(self, marked: pl.Series) -> Encoded:
        """Return the column with the marked texts taken as missing."""
        keep = ~marked.fill_null(False)
        position = pl.Series(np.cumsum(keep.to_numpy()) - 1).set(~keep, None)
        return Encoded(self.texts.filter(keep), self.spread(position), self.counts[keep.to_numpy()])


def encode(cells: pl.Series) -> Encoded:
    """Return a String column encoded; cells of nothing but spaces count as empty."""
    texts, codes = _different(cells)
    trimmed = texts.str.strip_chars()
    counts = np.bincount(codes.drop_nulls().to_numpy(), minlength=len(texts))
    encoded = Encoded(trimmed, codes, counts)
    blank = trimmed == ""
    return encoded.without(blank) if blank.any() else encoded


def _different(cells: pl.Series) -> tuple[pl.Series, pl.Series]:
    sample = cells.head(_SAMPLE)
    if len(cells) > _SAMPLE and sample.n_unique() > 0.6 * _SAMPLE and cells.n_unique() > 0.5 * len(cells):
        # Nearly every cell is its own text: numbering the cells is the cheaper encoding.
        present = cells.is_not_null()
        return cells.filter(present), pl.Series(np.cumsum(present.to_numpy()) - 1).set(~present, None)
    texts = cells.unique(maintain_order=True).drop_nulls()
    return texts, cells.cast(pl.Enum(texts)).to_physical().cast(pl.UInt32)
