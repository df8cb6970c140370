"""Tables: reading files, telling kinds, noticing what is untidy, storing rows."""

from ypsil.core.tables.model import KINDS, Column, Kind, ReadTable, Remark
from ypsil.core.tables.profile import Profile, profile
from ypsil.core.tables.read import read_table
from ypsil.core.tables.store import frame_from_blob, frame_to_blob

__all__ = [
    "KINDS",
    "Column",
    "Kind",
    "Profile",
    "ReadTable",
    "Remark",
    "frame_from_blob",
    "frame_to_blob",
    "profile",
    "read_table",
]
