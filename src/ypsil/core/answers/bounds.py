"""How large and how small what was worked out can be."""

from __future__ import annotations

from dataclasses import replace

import polars as pl

from ypsil.core.answers.model import Answer

# Beyond these a difference of two, or a step of an axis between them, is no number any more (IEEE 754 ends at 1.8e308).
_LARGEST, _SMALLEST = 1e100, 1e-100


def bounded(found: Answer) -> Answer:
    """Return an answer without the amounts that nothing can be done with, and say how many there were; what differs
    from nothing by less than anything is nothing."""
    places = [place for place, column in enumerate(found.columns) if column.role == "measure"]
    beyond, is_changed, made = 0, False, found.frame.get_columns()
    for place in places:
        cells = made[place]
        if not cells.dtype.is_float():
            continue
        size = cells.abs()
        fits = size <= _LARGEST
        is_small = (size < _SMALLEST) & (size > 0)
        if bool(fits.all()) and not is_small.any():
            continue
        beyond, is_changed = beyond + int((~fits).sum()), True
        made[place] = cells.set(is_small, 0.0).zip_with(fits, pl.Series([None], dtype=cells.dtype))
    if not is_changed:
        return found
    said = "1 value is" if beyond == 1 else f"{beyond:,} values are"
    notes = (f"{said} beyond what can be worked out",) if beyond else ()
    return replace(found, frame=pl.DataFrame(made), notes=(*found.notes, *notes))
