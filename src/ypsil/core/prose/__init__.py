"""Text on a page: what is typed with its looks and lists, the live figures in it, and how both are set in lines.

Live figures are worked out here; which of them somebody means is found in ``report.wanted``.
"""

from ypsil.core.prose.model import Block, LiveFigure, Prose, Run, Shown, Text, Words, prose_of, simplest
from ypsil.core.prose.said import Said, say
from ypsil.core.prose.told import told

__all__ = [
    "Block",
    "LiveFigure",
    "Prose",
    "Run",
    "Said",
    "Shown",
    "Text",
    "Words",
    "prose_of",
    "say",
    "simplest",
    "told",
]
