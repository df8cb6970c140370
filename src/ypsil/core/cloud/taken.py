"""What words have taken of a plane, kept as bits so that all places of a word are looked at at once."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ypsil.core.cloud.masks import CELL_PX, Grid, WordMask, spread

_BITS = 8
# So many px of a word's edge are looked at in all places at once.
_FIRST_PX = 64
# So many places of a word are looked at more closely at once.
_AT_ONCE = 32
_EACH_BIT = (1 << np.arange(_BITS, dtype=np.uint8))[:, np.newaxis]


class TakenPlane:
    """The px that words have taken, and the same as bits.

    The corner of a word's mask stands at every second px, that is at the corner of a cell, so that each px of the mask
    meets only one of four grids, which hold every second px of every second row. Each byte of a grid holds eight of its
    px, an eighth of its rows apart: so at all places of a word, a px of it meets one run of bytes.
    """

    def __init__(self, open_cells: Grid) -> None:
        self.px = ~open_cells.repeat(CELL_PX, axis=0).repeat(CELL_PX, axis=1)
        self.rows, self.columns = open_cells.shape
        self._apart = -(-self.rows // _BITS)
        # What is read beyond the last row is free, and does not count: no word stands there.
        rows = (_BITS + 1) * self._apart + 1
        self._grids = np.zeros((CELL_PX, CELL_PX, rows, self.columns), dtype=np.uint8)
        self._write(slice(0, self.rows), slice(0, self.columns))

    def take(self, row: int, column: int, mask: WordMask) -> None:
        """Take the ink of a word whose mask has its corner at a cell."""
        height, width = mask.ink.shape
        y, x = row * CELL_PX, column * CELL_PX
        self.px[y : y + height, x : x + width] |= mask.ink
        self._write(slice(row, row - (-height // CELL_PX)), slice(column, column - (-width // CELL_PX)))

    def _write(self, rows: slice, columns: slice) -> None:
        """Write what is taken in some rows and columns of cells into the grids."""
        cells = self.px.view(np.uint8).reshape(self.rows, CELL_PX, self.columns, CELL_PX)[rows, :, columns]
        bits = np.ascontiguousarray(cells.transpose(1, 3, 0, 2))
        for bit in range(_BITS):
            end = rows.stop - bit * self._apart
            if end <= 0:
                break
            start = max(0, rows.start - bit * self._apart)
            self._grids[:, :, start:end, columns] |= bits[:, :, start - end :] << bit

    def free_for(self, mask: WordMask) -> NDArray[np.bool_]:
        """Return at which cells a mask's corner can stand without some of its edge meeting ink."""
        height, width = (-(-length // CELL_PX) for length in mask.grown.shape)
        some = spread(len(mask.edge[0]), _FIRST_PX)
        (down, below), (right, after) = (np.divmod(places[some], CELL_PX) for places in mask.edge)
        starts = np.ravel_multi_index((below, after, down, right), self._grids.shape)
        grids, count = self._grids.ravel(), self._apart * self.columns
        hit = np.zeros(count, dtype=np.uint8)
        for start in starts.tolist():
            np.bitwise_or(hit, grids[start : start + count], out=hit)
        free = ((hit & _EACH_BIT) == 0).reshape(-1, self.columns)[: self.rows]
        free[self.rows - height + 1 :] = False
        free[:, self.columns - width + 1 :] = False
        return np.asarray(free)

    def first_with_room(self, corners: NDArray[np.int64], mask: WordMask) -> int | None:
        """Return the first of some cells at which a word, with its air, meets no ink."""
        across = self.columns * CELL_PX
        rows, columns = np.divmod(corners, self.columns)
        starts = (rows * across + columns) * CELL_PX
        edge = mask.edge[0] * across + mask.edge[1]
        px = self.px.ravel()
        for first in range(0, len(corners), _AT_ONCE):
            some = starts[first : first + _AT_ONCE]
            meets = px[some[:, np.newaxis] + edge].any(axis=1)
            for place in np.flatnonzero(~meets).tolist():
                if self._has_room(int(some[place]), mask):
                    return int(corners[first + place])
        return None

    def _has_room(self, start: int, mask: WordMask) -> bool:
        height, width = mask.grown.shape
        y, x = divmod(start, self.columns * CELL_PX)
        return not (self.px[y : y + height, x : x + width] & mask.grown).any()
