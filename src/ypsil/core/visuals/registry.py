"""The registry: every module of this folder that has a VISUAL. Adding a visual touches no other file."""

from __future__ import annotations

import importlib
import pkgutil
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from ypsil.core.drawing.scene import Scene
from ypsil.core.errors import DrawingRefused
from ypsil.core.questions.model import Answer
from ypsil.core.style.house import HouseStyle
from ypsil.core.visuals.base import Box, Fit, Needs, Visual, group_count, is_over_time, is_words
from ypsil.core.visuals.frame import message_scene


def _discover() -> dict[str, Visual]:
    found: dict[str, Visual] = {}
    for module in pkgutil.iter_modules([str(Path(__file__).parent)]):
        if module.name != "registry":
            entry = getattr(importlib.import_module(f"ypsil.core.visuals.{module.name}"), "VISUAL", None)
            if isinstance(entry, Visual):
                found[entry.name] = entry
    return dict(sorted(found.items()))


VISUALS: dict[str, Visual] = _discover()


def visual(name: str) -> Visual:
    """Return a visual by name; raises DrawingRefused for one that is not there."""
    if name not in VISUALS:
        raise DrawingRefused(f"there is no visual “{name}”", remedy="choose one of: " + ", ".join(VISUALS))
    return VISUALS[name]


def draw(name: str, answer: Answer, options: dict[str, Any], box: Box, style: HouseStyle) -> Scene:
    """Draw an answer; one that the visual cannot show becomes a sentence saying which would fit.

    Raises DrawingRefused for an unknown visual or option.
    """
    entry = visual(name)
    try:
        chosen = entry.options.model_validate(options)
    except ValidationError as problem:
        first = problem.errors()[0]
        place = ".".join(str(part) for part in first["loc"])
        unknown = first["type"] == "extra_forbidden"
        known = ", ".join(entry.options.model_fields) or "none"
        raise DrawingRefused(
            f"“{name}” has no option “{place}”" if unknown else f"option “{place}”: {first['msg']}",
            remedy=f"its options are: {known}",
        ) from None
    if not answer.rows:
        return message_scene("There are no rows that fit the question.", box, style, answer.sentence)
    reason = _unmet(entry.needs, answer)
    if reason:
        better = max(VISUALS.values(), key=lambda other: fit(other, answer).score)
        advice = f" Choose {better.label.lower()} instead." if fit(better, answer).fits else ""
        return message_scene(f"{entry.label}: {reason}.{advice}", box, style, answer.sentence)
    return entry.draw(answer, chosen, box, style)


def fit(entry: Visual, answer: Answer) -> Fit:
    """Return how well a visual suits an answer."""
    reason = _unmet(entry.needs, answer)
    if reason:
        return Fit(False, 0.0, reason)
    score, why = entry.best_for(answer)
    return Fit(True, score, why)


def _unmet(needs: Needs, answer: Answer) -> str:
    """Return what an answer lacks, in words, or an empty string."""
    measures, per, split = (len(answer.of(role)) for role in ("measure", "per", "split"))
    groups = group_count(answer)
    over_time = is_over_time(answer)
    rules = (
        (measures < needs.measures[0], "it needs a measure"),
        (measures > needs.measures[1], f"it shows {needs.measures[1]} measure, and there are {measures}"),
        (per < needs.per[0], "it needs something to compare, such as a month or a branch"),
        (
            per > needs.per[1],
            "it shows one value, not one for each group" if not needs.per[1] else "it groups by one column only",
        ),
        (split and not needs.split, "it cannot be split"),
        (needs.dates == "needed" and per > 0 and not over_time, "it needs periods of time"),
        (needs.dates == "never" and over_time, "it does not show periods of time"),
        (needs.words == "needed" and not is_words(answer), "it needs the words of a text column"),
        (groups > needs.groups[1], f"it can carry {needs.groups[1]} values, and there are {groups:,}"),
        (groups < needs.groups[0], f"it needs at least {needs.groups[0]} values"),
        (needs.shares and not _is_share(answer), "it needs a share, from 0% to 100%"),
        (not _has_numbers(answer), "its values are not numbers"),
    )
    return next((reason for unmet, reason in rules if unmet), "")


def _is_share(answer: Answer) -> bool:
    column = answer.of("measure")[0]
    values = [value for value in answer.values(column) if value is not None]
    return column.unit == "%" and all(0 <= value <= 1 for value in values)


def _has_numbers(answer: Answer) -> bool:
    return any(isinstance(value, int | float) for column in answer.of("measure") for value in answer.values(column))


def registry_json() -> list[dict[str, Any]]:
    """Return the registry as JSON data: name, purpose, needs and the schema of the options."""
    return [
        {
            "name": entry.name,
            "label": entry.label,
            "purpose": entry.purpose,
            "purposes": list(entry.purposes),
            "needs": {
                "measures": list(entry.needs.measures),
                "per": list(entry.needs.per),
                "split": entry.needs.split,
                "dates": entry.needs.dates,
                "groups": list(entry.needs.groups),
                "shares": entry.needs.shares,
                "words": entry.needs.words,
            },
            "options": entry.options.model_json_schema(),
        }
        for entry in VISUALS.values()
    ]
