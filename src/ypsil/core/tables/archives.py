"""Files that hold others: how they begin, and what they may become unpacked."""

from __future__ import annotations

import io
import zipfile

from ypsil.core.errors import UnreadableFile
from ypsil.core.tables.extent import BROKEN_ARCHIVE
from ypsil.core.tables.limits import MAX_UNPACK_RATIO, MAX_UNPACKED_BYTES, RATIO_FREE_BYTES

ZIP_SIGNATURE = b"PK\x03\x04"
OLE_SIGNATURE = b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1"


def check_unpacked_size(data: bytes, where: str) -> None:
    """Refuse an archive that is broken, or that would unpack to more than is read."""
    try:
        unpacked = sum(info.file_size for info in zipfile.ZipFile(io.BytesIO(data)).infolist())
    except BROKEN_ARCHIVE:
        raise UnreadableFile("the file is broken", where=where, remedy="open it and save it again") from None
    too_dense = unpacked > RATIO_FREE_BYTES and unpacked > MAX_UNPACK_RATIO * len(data)
    if unpacked > MAX_UNPACKED_BYTES or too_dense:
        raise UnreadableFile(
            f"the file would unpack to {unpacked // 1024**2:,} MB, which is more than is read",
            where=where,
            remedy="save the table as CSV and choose that",
        )
