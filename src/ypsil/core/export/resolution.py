"""How many dots of a picture go to an inch of print."""

from __future__ import annotations

import struct
import zlib

_INCHES_PER_METRE = 1 / 0.0254
# A file begins with eight bytes, then its first chunk: length, name, 13 bytes, check (PNG, third edition, 5.2, 11.2.1).
_HEAD = 8 + 4 + 4 + 13 + 4
_METRE = 1


def saying_dpi(png: bytes, dpi: float) -> bytes:
    """Return a PNG that says how many of its dots go to an inch: a pHYs chunk (PNG, third edition, 11.3.4.3)."""
    dots = round(dpi * _INCHES_PER_METRE)
    said = b"pHYs" + struct.pack(">IIB", dots, dots, _METRE)
    rest = png[_HEAD:]
    if rest[4:8] == b"pHYs":
        rest = rest[4 + 4 + 9 + 4 :]
    return png[:_HEAD] + struct.pack(">I", 9) + said + struct.pack(">I", zlib.crc32(said)) + rest
