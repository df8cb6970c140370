"""Say what the columns of a version that waits are called here."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.gather import recipes
from ypsil.web.gather.models import Arrival
from ypsil.web.gather.services import table_for


def name_columns(asker: User, uid: str, renames: dict[str, str]) -> Arrival | None:
    """Read columns of a file under other names from now on (new name to the one it has here); return the background
    work where it takes long. Raises StepRefused or UnreadableFile, with nothing changed."""
    table = table_for(asker, uid)
    return recipes.change(table, asker, {"action": "reading", "settings": {"renames": renames}})[1]
