"""How a file is to be read: what people chose where the file does not say, and what they undid."""

from __future__ import annotations

import hashlib
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from ypsil.core.errors import UnreadableFile
from ypsil.core.tables.model import remark_key

Encoding = Literal["utf-8", "utf-16", "cp1252", "latin-1", "iso8859-15", "cp1250", "cp1251", "cp437", "mac-roman"]
Separator = Literal[",", ";", "\t", "|"]
SEPARATOR_NAMES = {",": "comma", ";": "semicolon", "\t": "tab", "|": "upright bar"}
ENCODING_NAMES = {
    "utf-8": "UTF-8",
    "utf-16": "UTF-16",
    "cp1252": "Windows-1252 (Western Europe)",
    "latin-1": "ISO 8859-1",
    "iso8859-15": "ISO 8859-15",
    "cp1250": "Windows-1250 (Central Europe)",
    "cp1251": "Windows-1251 (Cyrillic)",
    "cp437": "Code page 437",
    "mac-roman": "Mac Roman",
}


class Reading(BaseModel):
    """Choices made for the reading of a table's files. Everything left out is decided from the file.

    ``left`` names the remarks (``code`` or ``code/column``) whose repair is not to be made. ``day_first``
    settles the order of day and month for columns that do not show it, ``decimals`` their decimal mark. ``renames``
    gives a column that arrives under another name the name it has here. ``text_rows`` tells how plain text becomes
    rows.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    sheet: str | None = Field(None, max_length=255)
    encoding: Encoding | None = None
    separator: Separator | None = None
    text_rows: Literal["line", "paragraph"] | None = None
    left: frozenset[str] = frozenset()
    day_first: dict[str, bool] = {}
    decimals: dict[str, Literal[".", ","]] = {}
    renames: dict[str, str] = {}

    def leaves(self, code: str, column: str | None = None) -> bool:
        """Tell whether a repair was undone."""
        return remark_key(code, column) in self.left

    def digest(self) -> str:
        """Return a key that is the same for the same choices."""
        data = self.model_dump(exclude_defaults=True)
        data["left"] = sorted(self.left)
        return hashlib.sha256(repr(sorted(data.items())).encode()).hexdigest()


def parse_reading(data: Any) -> Reading:
    """Turn JSON data into a Reading; raises UnreadableFile naming what does not fit."""
    try:
        return Reading.model_validate(data)
    except ValidationError as problem:
        first = problem.errors()[0]
        raise UnreadableFile(
            f"“{first['loc'][0] if first['loc'] else 'the whole'}” cannot be read so: {str(first['msg']).lower()}",
            remedy="choose one of the offered ways",
        ) from None
