"""What readers choose in a file that nobody answers: each state of its controls is worked out before, where there are
few; which controls are left out, and what of them, is said.
"""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import product
from typing import Any

from ypsil.core.choosing import Choice, Offered
from ypsil.core.drawing.scene import Scene
from ypsil.core.reading import tile_markups
from ypsil.core.render import Page, compose, draw_narrow
from ypsil.core.tiles.chosen_rows import rows_said

# How many states a file holds at most, and how many letters they take.
MOST_STATES, MOST_LETTERS = 40, 4_000_000
_LAST = (1, 3, 6, 12, 24)
_ONE_AT_A_TIME = "In this file one at a time."
_ONLY_LAST = "In this file without from – to."
_TOO_MANY = "In this file there is nothing to choose here: it would be too much for it."


@dataclass(frozen=True, slots=True)
class Dial:
    """A control with the few choices that a file holds, the first of them none, and what is said of the others."""

    offered: Offered
    stops: tuple[tuple[str, Choice], ...]
    note: str = ""


def dial_of(offered: Offered, locale: str) -> Dial | None:
    """Return a control as a file can hold it; None where no choice of it can be worked out before."""
    stops: list[tuple[str, Choice]]
    if offered.way == "values":
        stops = [("All", Choice()), *((value, Choice(values=(value,))) for value in offered.values)]
        return Dial(offered, tuple(stops), "" if offered.control.takes == "one" else _ONE_AT_A_TIME)
    if offered.way == "period":
        lasts = [Choice(last=last) for last in _LAST if last < len(offered.periods)]
        stops = [(f"All {offered.grain}s", Choice()), *((offered.words(one, locale)[0], one) for one in lasts)]
        return Dial(offered, tuple(stops), _ONLY_LAST)
    return None


@dataclass(frozen=True, slots=True)
class States:
    """All states of a page's controls as JSON for the file's script, and what is drawn in any of them."""

    json: str
    scenes: tuple[Scene, ...]


def states_of(page: Page) -> States | None:
    """Return the states of a page's controls; None where it has no controls.

    The first controls are kept for as long as all of their states are few enough.
    """
    offered = list(page.context.choices.offered.values())
    if not offered:
        return None
    dials: list[Dial] = []
    for one in offered:
        dial = dial_of(one, page.context.locale)
        count = len(dial.stops) if dial else 0
        for kept in dials:
            count *= len(kept.stops)
        if dial is not None and 1 < count <= MOST_STATES:
            dials.append(dial)
    said: dict[str, Any] | None = None
    scenes: list[Scene] = []
    while dials and said is None:
        scenes = []
        said = _worked_out(page, dials, scenes)
        if said is None:
            # The last one is let go until what is left has room.
            dials.pop()
    said = said or {"dials": [], "tiles": {}, "states": {}, "rows": {}}
    there = {dial.offered.control.id for dial in dials}
    left = [one for one in offered if one.control.id not in there]
    said["left"] = [{"tile": one.control.id, "name": one.name, "note": _TOO_MANY} for one in left]
    text = json.dumps(said, ensure_ascii=False, separators=(",", ":")).replace("<", "\\u003c")
    return States(text, tuple(scenes))


def _worked_out(page: Page, dials: Sequence[Dial], scenes: list[Scene]) -> dict[str, Any] | None:
    """Return all states, adding what is drawn in them to ``scenes``; None where they take too many letters."""
    tiles: dict[str, list[str]] = {}
    states: dict[str, dict[str, int]] = {}
    rows: dict[str, dict[str, str]] = {}
    letters = 0
    for state in product(*(range(len(dial.stops)) for dial in dials)):
        made = {dial.offered.control.id: dial.stops[at][1] for dial, at in zip(dials, state, strict=True)}
        shown = page if not any(state) else _as_chosen(page, made)
        key = ".".join(map(str, state))
        rows[key] = {dial.offered.control.id: rows_said(dial.offered, shown.context) for dial in dials}
        states[key] = {}
        narrow = draw_narrow(shown)
        scenes += [view.scene for view in shown.tiles()] + [drawn.scene for drawn in narrow.values()]
        for name, markup in tile_markups(shown, narrow):
            if name in page.context.choices.offered:
                # The controls themselves are drawn by the file's script.
                continue
            several = tiles.setdefault(name, [])
            if markup not in several:
                several.append(markup)
                letters += len(markup)
            if place := several.index(markup):
                states[key][name] = place
        if letters > MOST_LETTERS:
            return None
    own = [
        {
            "tile": dial.offered.control.id,
            "name": dial.offered.name,
            "stops": [label for label, _ in dial.stops],
            "note": dial.note,
        }
        for dial in dials
    ]
    changing = {name: several for name, several in tiles.items() if len(several) > 1}
    return {"dials": own, "tiles": changing, "states": states, "rows": rows}


def _as_chosen(page: Page, made: Mapping[str, Choice]) -> Page:
    context = page.context
    chosen = {name: choice for name, choice in made.items() if choice.is_made}
    return compose(
        page.report,
        context.tables,
        context.memory,
        pictures=context.pictures,
        for_readers=context.for_readers,
        is_opened=context.is_opened,
        choices=replace(context.choices, made=chosen),
    )
