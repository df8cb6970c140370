"""Take data in: as a new table, or as the next version of one."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ypsil.web.accounts.services import User
from ypsil.web.gather.arrivals import receive
from ypsil.web.gather.models import Arrival
from ypsil.web.gather.services import table_for


@dataclass(frozen=True, slots=True)
class DataRequest:
    """What came: the bytes of a file under its name; ``table`` is the one it is a newer version of, if it is."""

    file_name: str
    content: bytes
    table: str = ""
    name: str = ""
    sheet: str = ""
    reading: dict[str, Any] | None = None


def take_in(asker: User, wanted: DataRequest) -> Arrival:
    """Take a file in, now or in the background; raises UnreadableFile."""
    table = table_for(asker, wanted.table) if wanted.table else None
    how = {"name": wanted.name, "sheet": wanted.sheet}
    return receive(asker, wanted.file_name, wanted.content, table=table, reading=wanted.reading, **how)
