"""Finding visuals for the places of an arrangement among what tables suggest."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from ypsil.core.report.arrangements.model import Shown, asked_of
from ypsil.core.report.suggest import Suggestion, suggest
from ypsil.core.tables.profile import Profile
from ypsil.core.tiles import ReportTable, VisualTile
from ypsil.core.visuals.base import Purpose


@dataclass(slots=True)
class Finder:
    """Tables to fill places from, each with its key and its profile, the most important first. What they suggest for a
    purpose is asked once."""

    tables: Sequence[tuple[str, ReportTable, Profile]]
    _suggested: dict[Purpose, list[Suggestion]] = field(default_factory=dict)

    def __call__(self, wanted: Shown, taken: set[str]) -> VisualTile | None:
        """Return what suits a place best: a visual that is meant for it, of a question that is not asked yet."""
        for purpose in (wanted.purpose, *([wanted.also] if wanted.also else [])):
            fresh = [one.tile for one in self._suggestions(purpose) if asked_of(one.tile) not in taken]
            if not wanted.visuals and fresh:
                return fresh[0]
            for name in wanted.visuals:
                found = next((tile for tile in fresh if tile.visual == name), None)
                if found is not None:
                    return found
        return None

    def _suggestions(self, purpose: Purpose) -> list[Suggestion]:
        if purpose not in self._suggested:
            self._suggested[purpose] = [
                one for key, table, profile in self.tables for one in suggest(purpose, key, table, profile) if one.fits
            ]
        return self._suggested[purpose]
