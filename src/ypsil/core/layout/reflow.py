"""From one page format to another: bands keep what is in them and its order; where the page holds fewer letters to a
line, what stood side by side stands in more rows."""

from __future__ import annotations

from collections.abc import Sequence
from math import ceil

from ypsil.core.document.model import Frame, PageFormat

# How much narrower a page may become, in letters to a line, before rows are shared out anew.
_SAME = 1.35


def reflow(frames: Sequence[Frame], before: PageFormat, after: PageFormat) -> list[Frame]:
    """Return the frames of a band on another page, in their order: as wide a part of it, as high for its type.

    >>> wide = [Frame(column=column, row=0, width=6, height=10) for column in (0, 6, 12, 18)]
    >>> narrow = PageFormat(width=400, columns=24)
    >>> [(one.column, one.row, one.width) for one in reflow(wide, PageFormat(), narrow)]
    [(0, 0, 12), (12, 0, 12), (0, 13, 12), (12, 13, 12)]
    """
    across = after.columns / before.columns
    down = (after.text_size / after.row) / (before.text_size / before.row)
    scaled = [_scaled(frame, across, down, after) for frame in frames]
    narrower = (_inner(before) / before.text_size) / (_inner(after) / after.text_size)
    return scaled if narrower <= _SAME else _in_more_rows(scaled, narrower, after)


def _inner(page: PageFormat) -> float:
    return page.width - page.margins.left - page.margins.right


def _scaled(frame: Frame, across: float, down: float, page: PageFormat) -> Frame:
    left = min(page.columns - 1, round(frame.column * across))
    right = min(page.columns, max(left + 1, round((frame.column + frame.width) * across)))
    update = {
        "column": left,
        "width": right - left,
        "row": round(frame.row * down),
        "height": max(1, round(frame.height * down)),
        "dx": 0.0,
        "dy": 0.0,
    }
    return frame.model_copy(update=update)


def _in_more_rows(frames: Sequence[Frame], narrower: float, page: PageFormat) -> list[Frame]:
    """Return frames whose rows hold fewer: each is wider by as much as the page is narrower, as far as it goes. What
    is laid over others stays by the frame that it lies over, as well as it can."""
    found = list(frames)
    flat = [index for index, frame in enumerate(frames) if not frame.layer]
    top = 0
    for row in _rows(frames, flat):
        many = max(1, round(len(row) / narrower)) if len(row) > 1 else 1
        many = ceil(len(row) / ceil(len(row) / many))
        for start in range(0, len(row), many):
            some = row[start : start + many]
            width = page.columns // len(some)
            for place, index in enumerate(some):
                wide = page.columns if len(some) == 1 else width
                found[index] = frames[index].model_copy(update={"column": place * width, "width": wide, "row": top})
            top += max(frames[index].height for index in some) + page.row_gap
    return found


def _rows(frames: Sequence[Frame], flat: Sequence[int]) -> list[list[int]]:
    """Return frames in rows, each from left to right: those belong together that share half of the lower one's
    height."""
    rows: list[list[int]] = []
    foot = 0
    for index in sorted(flat, key=lambda index: (frames[index].row, frames[index].column)):
        frame = frames[index]
        if rows and (foot - frame.row) * 2 > min(frame.height, foot - min(frames[one].row for one in rows[-1])):
            rows[-1].append(index)
            foot = max(foot, frame.row + frame.height)
        else:
            rows.append([index])
            foot = frame.row + frame.height
    return [sorted(row, key=lambda index: (frames[index].column, frames[index].row)) for row in rows]
