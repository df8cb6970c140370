"""The registry: every module in or below this folder that has a VISUAL. Adding a visual touches no other file."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import asdict, replace
from typing import Any

from pydantic import ValidationError

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.pictures import Picture
from ypsil.core.drawing.scene import Scene
from ypsil.core.errors import DrawingRefused
from ypsil.core.figures import DEFAULT_LOCALE
from ypsil.core.registry import Shelf
from ypsil.core.style.house import HouseStyle
from ypsil.core.style.palettes import HOUSE
from ypsil.core.visuals.base import Box, Facts, Fit, Options, Visual, facts, unmet
from ypsil.core.visuals.base import fit as fit_facts
from ypsil.core.visuals.shared.footnotes import footnotes, left_out_words, with_footnotes
from ypsil.core.visuals.shared.native import NativeChart, native_chart
from ypsil.core.visuals.shared.note import noted
from ypsil.core.visuals.shared.patterns import patterned
from ypsil.core.visuals.shared.rooms import message_scene
from ypsil.core.visuals.shared.settings import (
    PAGE_LOCALE,
    PICTURES,
    NoteOptions,
    PaletteOptions,
    PatternOptions,
    UnitOptions,
    WrittenOptions,
)

_OF_THOSE_SHOWN = "The whole is the groups that are shown; the others are left out"


VISUALS: Shelf[Visual] = Shelf("ypsil.core.visuals", __file__, "VISUAL", Visual, order=lambda one: one.name)


def visual(name: str) -> Visual:
    """Return a visual by name; raises DrawingRefused for one that is not there."""
    if name not in VISUALS:
        raise DrawingRefused(f"there is no visual “{name}”", remedy="choose one of: " + ", ".join(VISUALS))
    return VISUALS[name]


def checked_options(name: str, options: dict[str, Any], pictures: Mapping[str, Picture] | None = None) -> Options:
    """Return a visual's options, those that name one of the pictures with it at hand.

    Raises DrawingRefused naming the option that does not fit.
    """
    entry = visual(name)
    try:
        return entry.options.model_validate(options, context={PICTURES: pictures or {}})
    except ValidationError as problem:
        first = problem.errors()[0]
        place = ".".join(str(part) for part in first["loc"])
        unknown = first["type"] == "extra_forbidden"
        known = ", ".join(entry.options.model_fields) or "none"
        raise DrawingRefused(
            f"“{name}” has no option “{place}”"
            if unknown
            else f"option “{place}”: {str(first['msg']).removeprefix('Value error, ')}",
            remedy=f"its options are: {known}",
        ) from None


def draw(
    name: str,
    answer: Answer,
    options: dict[str, Any],
    box: Box,
    style: HouseStyle,
    *,
    locale: str = DEFAULT_LOCALE,
    pictures: Mapping[str, Picture] | None = None,
) -> Scene:
    """Draw an answer; one that the visual cannot show becomes a sentence saying which would fit.

    Figures are written in ``locale`` unless the options say another; ``pictures`` are those that options can name.
    Raises DrawingRefused for an unknown visual or option.
    """
    entry, chosen, answer = _prepared(name, answer, options, locale, pictures)
    box = replace(box, beside=box.beside.for_show()) if box.beside else box
    if not answer.height:
        said = next(iter(answer.footnotes), "There are no rows that fit the question.")
        return message_scene(said, box, style, answer.sentence)
    measured = [answer.series(column) for column in answer.of("measure")]
    if measured and all(cells.null_count() == len(cells) for cells in measured):
        nothing = "No row that fits the question has a value to work this out from."
        said = f"{answer.hides.rstrip('.')}." if answer.hides else nothing
        return message_scene(said, box, style, answer.sentence)
    given = facts(answer)
    reason = unmet(entry.needs, given)
    if reason:
        return message_scene(f"{entry.label}: {reason}.{_way_out(entry, given)}", box, style, answer.sentence)
    return _drawn(entry, answer, chosen, box, style)


def native(
    name: str,
    answer: Answer,
    options: dict[str, Any],
    scene: Scene,
    style: HouseStyle,
    *,
    locale: str = DEFAULT_LOCALE,
    pictures: Mapping[str, Picture] | None = None,
) -> NativeChart | None:
    """Return an answer as the chart of office programs that shows what its drawing shows; None where there is none."""
    entry, chosen, answer = _prepared(name, answer, options, locale, pictures)
    if entry.native is None:
        return None
    answer, style = _dressed(answer, chosen, style)
    return native_chart(entry.native, answer, chosen, scene, style)


def _prepared(
    name: str, answer: Answer, options: dict[str, Any], locale: str, pictures: Mapping[str, Picture] | None
) -> tuple[Visual, Options, Answer]:
    """Return a visual with its options, and an answer as it is written in it."""
    entry, chosen = visual(name), checked_options(name, options, pictures)
    if isinstance(chosen, WrittenOptions):
        locale = locale if chosen.locale == PAGE_LOCALE else chosen.locale
        chosen = chosen.model_copy(update={"locale": locale})
    return entry, chosen, answer.written_in(locale).for_show()


def _dressed(answer: Answer, chosen: Options, style: HouseStyle) -> tuple[Answer, HouseStyle]:
    """Return an answer in the unit, and a style in the palette, that are set."""
    if isinstance(chosen, UnitOptions):
        answer = _in_unit(answer, chosen)
    if isinstance(chosen, PaletteOptions) and chosen.palette != HOUSE:
        style = style.coloured(chosen.palette)
    return answer, style


def _way_out(entry: Visual, given: Facts) -> str:
    """Return what to do instead of drawing an answer with a visual that cannot show it."""
    better = max(VISUALS.values(), key=lambda other: fit_facts(other, given).score)
    ways = [f"choose {better.label.lower()} instead"] if fit_facts(better, given).fits else []
    if given.groups > entry.needs.groups[1] > 1 and not given.time:
        few = min(20, entry.needs.groups[1])
        ways.append(f"keep the {few} largest, with the rest as one")
    return f" {' or '.join(ways).capitalize()}." if ways else ""


def _drawn(entry: Visual, answer: Answer, chosen: Options, box: Box, style: HouseStyle) -> Scene:
    """Draw with what does not depend on the visual: units, locale, palette, patterns, a note, footnotes."""
    answer, style = _dressed(answer, chosen, style)
    scene = _with_notes(entry, answer, chosen, box, style)
    if isinstance(chosen, PatternOptions) and chosen.patterns:
        scene = patterned(scene, style)
    if isinstance(chosen, NoteOptions) and chosen.note_at and chosen.note:
        scene = noted(scene, chosen.note_at, chosen.note, style)
    return scene


def _with_notes(entry: Visual, answer: Answer, chosen: Options, box: Box, style: HouseStyle) -> Scene:
    """Draw above the notes; the drawing that leaves names out is made again, with room for the line that says so."""
    about_whole = (_OF_THOSE_SHOWN,) if entry.needs.parts and answer.is_cut else ()
    notes = footnotes(answer, box, style, *about_whole)
    scene = entry.draw(answer, chosen, notes.room, style)
    if scene.nameless or scene.undrawn:
        notes = footnotes(answer, box, style, *about_whole, *left_out_words(scene, answer.locale))
        scene = entry.draw(answer, chosen, notes.room, style)
        # With less room, more may have no name.
        notes = footnotes(answer, box, style, *about_whole, *left_out_words(scene, answer.locale))
    return with_footnotes(scene, notes, box, style)


def _in_unit(answer: Answer, options: UnitOptions) -> Answer:
    """Give the measures the unit and the prefix that are set; those with another unit than the first keep theirs."""
    measures = answer.of("measure")
    if not measures or not (options.unit or options.prefix):
        return answer
    columns = (
        replace(column, unit=options.unit or column.unit, prefix=options.prefix)
        if column.role == "measure" and column.unit == measures[0].unit
        else column
        for column in answer.columns
    )
    return replace(answer, columns=tuple(columns))


def fit(entry: Visual, answer: Answer) -> Fit:
    """Return how well a visual suits an answer."""
    return fit_facts(entry, facts(answer))


def ranked(answer: Answer) -> list[tuple[Visual, Fit]]:
    """Return every visual with how well it suits an answer, the best first, those that do not fit last."""
    given = facts(answer)
    found = [(entry, fit_facts(entry, given)) for entry in VISUALS.values()]
    return sorted(found, key=lambda pair: (not pair[1].fits, -pair[1].score))


def registry_json() -> list[dict[str, Any]]:
    """Return the registry as JSON data: name, purpose, needs and the schema of the options."""
    return [
        {
            "name": entry.name,
            "label": entry.label,
            "purpose": entry.purpose,
            "purposes": list(entry.purposes),
            "needs": {name: _plain(value) for name, value in asdict(entry.needs).items()},
            "advice": [asdict(one) for one in entry.advice],
            "options": entry.options.model_json_schema(),
        }
        for entry in VISUALS.values()
    ]


def _plain(value: Any) -> Any:
    """Ranges as lists, without end where they have none."""
    if isinstance(value, tuple):
        return [None if end == math.inf else end for end in value]
    return value
