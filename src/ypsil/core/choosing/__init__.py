"""What readers of a page choose: controls over columns, what the data offers at each, and a page's choices as the
query of its address and as filters of rows.
"""

from ypsil.core.choosing.choices import NOTHING_CHOSEN, Choices, Chosen, choices_from
from ypsil.core.choosing.control import Choice, Control, way_of
from ypsil.core.choosing.offered import MOST_LISTED, Offered, offered_by

__all__ = [
    "MOST_LISTED",
    "NOTHING_CHOSEN",
    "Choice",
    "Choices",
    "Chosen",
    "Control",
    "Offered",
    "choices_from",
    "offered_by",
    "way_of",
]
