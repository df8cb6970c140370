"""What a report names as its sources: its tables, what was typed, its pictures, its signs and its type."""

from __future__ import annotations

from collections.abc import Mapping

from ypsil.core.report.document import ReportBody
from ypsil.core.tiles import ReportTable
from ypsil.core.tiles.sourced import Cite, Source

# The faces and sets that are shipped, with the licences that stand beside them.
_FACES = "{} (SIL Open Font License 1.1)"
_SETS = {"line": "the set of line icons (MIT License)", "coloured": "the set of coloured pictures (MIT License)"}


def named_sources(report: ReportBody, tables: Mapping[str, ReportTable]) -> tuple[Source, ...]:
    """Return the sources of a report in the order of their numbers, each once."""
    named = [tile.names() for tile in report.tiles()]
    found = [Source(Cite(table=name), tables[name].source) for name in report.tables() if name in tables]
    typed = [one for tile in report.tiles() for one in tile.typed_sources()]
    found += [Source(Cite(typed=name), words, "typed") for name, words in typed]
    found += [Source(Cite(thanks=credit), credit, "picture") for credit in report.credits()]
    if any(icons for icons, _ in named):
        used = {sign.partition(":")[0] for tile in report.tiles() for sign in tile.signs() if ":" in sign}
        found += [Source(None, words, "icons") for name, words in _SETS.items() if name in used]
    if any(faces for _, faces in named):
        families = dict.fromkeys((report.style.heading_family, report.style.body_family))
        found += [Source(None, _FACES.format(family), "type") for family in families]
    return tuple(found)
