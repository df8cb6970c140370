"""Take a template of one's own away."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose import own_templates


def forget_template(asker: User, name: str) -> str:
    """Take away one of the asker's own templates; reports that were made of it stay. Return what it was called."""
    kept = own_templates.kept_of(asker, name)
    called = str(kept)
    kept.delete()
    return called
