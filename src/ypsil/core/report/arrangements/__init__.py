"""Ready-made bands, by what they say: they arrive filled from tables where these have what belongs there."""

from ypsil.core.report.arrangements import charts, figures, words
from ypsil.core.report.arrangements.filling import Finder
from ypsil.core.report.arrangements.model import Arrangement, Shown

_ORDER = (
    "cover", "headline", "one-number", "three-figures", "figure-and-chart", "chart-and-remarks", "ranked-list",
    "two-sides", "share-and-parts", "people-and-shares", "timeline", "before-and-after", "spread", "two-things",
    "cloud-and-words", "quote", "table-and-lesson", "map-place", "picture-and-text", "steps", "questions-and-answers",
    "attention", "what-next", "sources-and-credits",
)  # fmt: skip
_ALL = {one.name: one for one in (*words.ARRANGEMENTS, *figures.ARRANGEMENTS, *charts.ARRANGEMENTS)}
ARRANGEMENTS = {name: _ALL[name] for name in _ORDER}

__all__ = ["ARRANGEMENTS", "Arrangement", "Finder", "Shown"]
