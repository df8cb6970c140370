"""Names for things in addresses."""

from __future__ import annotations

import secrets


def new_uid() -> str:
    """Return a name that cannot be guessed."""
    return secrets.token_urlsafe(9)
