"""Rename a house style."""

from __future__ import annotations

from ypsil.core.report.dress import Dress
from ypsil.web.accounts.services import User
from ypsil.web.compose import dresses


def rename_dress(asker: User, style: str, name: str) -> None:
    """Give one of the asker's house styles another name; raises EditRefused without one."""
    shared = dresses.dress_for(asker, style)
    content = shared.content
    made = dresses.named(name, lambda called: Dress.model_validate({**content, "name": called}))
    shared.content = made.model_dump(mode="json")
    shared.save(update_fields=["content"])
