"""What the names of columns that belong together share: “Satisfied with: Staff”, “Satisfied with: Rooms”."""

from __future__ import annotations

import re
from collections.abc import Iterable

# In brackets at the end, else behind the first sign that parts.
_PARTS = tuple(
    re.compile(pattern) for pattern in (r"^(.{2,}?)\s*\[(.+)\]\s*$", r"^(.{2,}?)\s*(?::|–|—|\s-\s|/)\s*(.+?)\s*$")
)


def shared_part(name: str) -> str:
    """Return what stands before a name's own part, or nothing.

    >>> shared_part("Comes for: Books"), shared_part("Satisfied with: [Staff]"), shared_part("Age")
    ('Comes for', 'Satisfied with', '')
    """
    found = _parted(name)
    return found[0] if found else ""


def with_part(name: str, part: str) -> str:
    """Return a name with what is said of it; a question mark parts them as well as a colon.

    >>> with_part("Come again", "Yes"), with_part("Will you come again?", "Yes")
    ('Come again: Yes', 'Will you come again? Yes')
    """
    if name.endswith(("?", "!", ".", "…")):
        return f"{name} {part[:1].upper()}{part[1:]}"
    return f"{name}: {part}"


def own_parts(names: Iterable[str]) -> tuple[str, ...]:
    """Return the names without what all of them share; as they are where they share nothing or would be alike.

    >>> own_parts(["Comes for: Books", "Comes for: Study"]), own_parts(["Staff", "Rooms"])
    (('Books', 'Study'), ('Staff', 'Rooms'))
    >>> own_parts(["You use (tick all) [Books]", "You use (tick all) [Wifi]"])
    ('Books', 'Wifi')
    """
    names = tuple(names)
    stems = {shared_part(name) for name in names}
    if len(stems) != 1 or not next(iter(stems)):
        return names
    parts = tuple(found[1] if (found := _parted(name)) else name for name in names)
    return parts if len(set(parts)) == len(parts) else names


def shared_name(names: Iterable[str]) -> str:
    """Return what several names share, else the first of them and how many there are.

    >>> shared_name(["Comes for: Books", "Comes for: Study"]), shared_name(["Staff", "Rooms", "Hours"])
    ('Comes for', 'Staff, Rooms and 1 more')
    """
    names = list(names)
    stems = {shared_part(name) for name in names}
    if len(stems) == 1 and (stem := stems.pop()):
        return stem
    return ", ".join(names[:2]) + (f" and {len(names) - 2} more" if len(names) > 2 else "")


def _parted(name: str) -> tuple[str, str] | None:
    """Return what a name shares with its neighbours, and its own part."""
    found = next((match for pattern in _PARTS if (match := pattern.match(name))), None)
    return (found.group(1).strip(" :"), found.group(2).strip()) if found else None
