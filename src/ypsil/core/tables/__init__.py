"""Tables: reading files, telling kinds, noticing what is untidy, storing rows.

``read`` and ``profile`` are asked for by name: who counts words or draws an answer reads no file, and starts sooner.
"""

from ypsil.core.tables.model import KINDS, Column, Kind, ReadTable, Remark
from ypsil.core.tables.store import frame_from_blob, frame_to_blob

__all__ = ["KINDS", "Column", "Kind", "ReadTable", "Remark", "frame_from_blob", "frame_to_blob"]
