"""The heading of a band: what the band says, shown above its tiles."""

from __future__ import annotations

import hashlib
from typing import Literal

from ypsil.core.prose.model import Prose
from ypsil.core.report.document import Band
from ypsil.core.tiles import Context, TileKind, Written


class BandHeading(TileKind):
    """What a band says, as a heading. It stands in no document: its band is told to show it."""

    is_of_band = True
    type: Literal["band_heading"] = "band_heading"
    text: str

    @classmethod
    def of(cls, band: Band) -> BandHeading | None:
        """Return the heading that a band shows, None where it shows none."""
        if not band.says_it or not band.message.strip():
            return None
        own = hashlib.sha256(f"heading of {band.id}".encode()).hexdigest()[:15]
        return cls(id=f"h{own}", text=band.message)

    def writes(self, context: Context) -> Written:
        return Written(Prose.of(self.text), "heading")

    def heading(self) -> str:
        return "heading"

    def label(self) -> str:
        return f"Heading of the band: {self.text[:60]}"
