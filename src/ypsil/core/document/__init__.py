"""The document of a report: nodes on a page, the changes that make it, and what undo takes back.

The room knows no kinds of tiles: what a node holds is data that its kind understands.
"""

from ypsil.core.document.changes import (
    Batch,
    Change,
    ChangeRefused,
    Insert,
    Move,
    Remove,
    Set,
    Spot,
    StaleChange,
    apply,
    parse_change,
)
from ypsil.core.document.differences import differences
from ypsil.core.document.formats import NewerFormat, UnreadableDocument, read_document
from ypsil.core.document.history import Entry, reach, take_back
from ypsil.core.document.model import FORMAT, Document, Frame, Node, PageFormat, new_id

__all__ = [
    "FORMAT",
    "Batch",
    "Change",
    "ChangeRefused",
    "Document",
    "Entry",
    "Frame",
    "Insert",
    "Move",
    "NewerFormat",
    "Node",
    "PageFormat",
    "Remove",
    "Set",
    "Spot",
    "StaleChange",
    "UnreadableDocument",
    "apply",
    "differences",
    "new_id",
    "parse_change",
    "reach",
    "read_document",
    "take_back",
]
