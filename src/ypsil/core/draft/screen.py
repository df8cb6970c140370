"""A page that is one screen: figures down its side, the strongest charts beside them, nothing to scroll to."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from ypsil.core.document.model import Frame, PageFormat
from ypsil.core.document.page_formats import PAGE_FORMATS

PADDING = 1
MOST_FIGURES, MOST_CHARTS = 4, 4
# Of 24 columns; rows of 8 px.
_SIDE, _GAP = 5, 2
_TITLE_ROWS, _SOURCE_ROWS = 8, 3
FINDING_ROWS = 7


def is_one_screen(page: PageFormat) -> bool:
    """Tell whether a page is meant to be seen at once, without scrolling."""
    return any(one.page == page and one.group == "Dashboard" for one in PAGE_FORMATS.values())


def title_frame(page: PageFormat) -> Frame:
    """Return where the headline stands."""
    return Frame(column=0, row=0, width=page.columns, height=_TITLE_ROWS)


def sources_frame(page: PageFormat) -> Frame:
    """Return where the sources stand: at the foot."""
    return Frame(column=0, row=_rows(page) - _SOURCE_ROWS, width=page.columns, height=_SOURCE_ROWS)


def figure_frames(page: PageFormat, count: int) -> list[Frame]:
    """Return where so many figures stand, one below the other at the left."""
    top, foot = _body(page)
    return [
        Frame(column=0, row=row, width=_SIDE, height=height) for row, height in _shared(top, foot - top, count, _GAP)
    ]


def chart_frames(page: PageFormat, count: int, *, has_figures: bool) -> list[Frame]:
    """Return where so many charts stand: one large, two beside each other, three with the first above the others, four
    in two rows.

    >>> [(one.column, one.width) for one in chart_frames(PAGE_FORMATS["dashboard-16x9"].page, 3, has_figures=True)]
    [(5, 19), (5, 9), (14, 10)]
    """
    top, foot = _body(page)
    left = _SIDE if has_figures else 0
    rows: Sequence[int] = {1: [1], 2: [2], 3: [1, 2], 4: [2, 2]}.get(count, [])
    found = []
    for (row, height), many in zip(_shared(top, foot - top, len(rows), _GAP), rows, strict=True):
        edges = [left + (page.columns - left) * place // many for place in range(many + 1)]
        found += [Frame(column=one, row=row, width=other - one, height=height) for one, other in pairwise(edges)]
    return found


def _rows(page: PageFormat) -> int:
    assert page.inner_height is not None
    return int(page.inner_height // page.row) - 2 * PADDING


def _body(page: PageFormat) -> tuple[int, int]:
    return _TITLE_ROWS + _GAP, _rows(page) - _SOURCE_ROWS - _GAP


def _shared(start: int, length: int, count: int, gap: int) -> list[tuple[int, int]]:
    """Return start and length of parts that share a length with gaps between them.

    >>> _shared(10, 20, 2, 2)
    [(10, 9), (21, 9)]
    """
    edges = [start + (length + gap) * place // count for place in range(count + 1)] if count else []
    return [(one, other - one - gap) for one, other in pairwise(edges)]
