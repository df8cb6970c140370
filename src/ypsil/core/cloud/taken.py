"""The cells of a plane that words have taken, kept as bits so that all places of a word are looked at at once."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ypsil.core.cloud.masks import Cells, WordMask

_BITS = 8


class TakenCells:
    """Which cells are taken: as cells, and as bits beside eight copies, each moved by one bit more."""

    def __init__(self, open_to_words: Cells) -> None:
        self.cells = ~open_to_words
        self.rows, self.columns = open_to_words.shape
        self._length = -(-self.cells.size // _BITS)
        # What is read beyond the last cell is free, and does not count: no word stands there.
        self._shifted = [np.zeros(2 * self._length + _BITS, dtype=np.uint8) for _ in range(_BITS)]
        self._pack(0, self.rows)

    def take(self, row: int, column: int, mask: WordMask) -> None:
        """Take the cells of a word whose mask has its corner there."""
        height, width = mask.ink.shape
        self.cells[row : row + height, column : column + width] |= mask.ink
        self._pack(row, row + height)

    def _pack(self, first_row: int, end_row: int) -> None:
        """Write the bits of some rows anew."""
        first, end = first_row * self.columns // _BITS, -(-end_row * self.columns // _BITS)
        end = min(end, self._length)
        bits = np.packbits(self.cells.ravel()[first * _BITS : end * _BITS], bitorder="little")
        plain = self._shifted[0]
        plain[first:end] = bits
        first = max(0, first - 1)
        here, after = plain[first:end], plain[first + 1 : end + 1]
        for shift in range(1, _BITS):
            np.bitwise_or(here >> shift, after << (_BITS - shift), out=self._shifted[shift][first:end])

    def free_for(self, mask: WordMask) -> NDArray[np.bool_]:
        """Return the places of a mask's corner, row after row, at which none of its sampled cells is taken."""
        height, width = mask.grown.shape
        length, shifted = self._length, self._shifted
        hit = np.zeros(length, dtype=np.uint8)
        rows, columns = mask.samples
        firsts, shifts = np.divmod(rows * self.columns + columns, _BITS)
        for first, shift in zip(firsts.tolist(), shifts.tolist(), strict=True):
            np.bitwise_or(hit, shifted[shift][first : first + length], out=hit)
        free = np.unpackbits(~hit, count=self.cells.size, bitorder="little").view(np.bool_)
        places = free.reshape(self.rows, self.columns)
        places[self.rows - height + 1 :] = False
        places[:, self.columns - width + 1 :] = False
        return free

    def has_room(self, row: int, column: int, mask: WordMask) -> bool:
        """Tell whether all cells of a word and its air are free there."""
        height, width = mask.grown.shape
        return not (self.cells[row : row + height, column : column + width] & mask.grown).any()
