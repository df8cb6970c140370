"""Publish listens: newer data of a table, and changes of a report, may call for the next release."""

from __future__ import annotations

from typing import Any

from django.apps import AppConfig
from django.db import transaction
from django.db.models.signals import post_save


class PublishConfig(AppConfig):
    name = "ypsil.web.publish"
    label = "publish"

    def ready(self) -> None:
        from ypsil.web.compose.models import Report
        from ypsil.web.gather.models import Table

        post_save.connect(_note, sender=Table)
        post_save.connect(_note, sender=Report)


def _note(sender: Any, instance: Any, created: bool, **_: Any) -> None:
    """Let what is due be made once what was saved is there for all; of one owner once in a transaction."""
    from ypsil.web.publish.models import Publication
    from ypsil.web.publish.releases import release_in_background

    open_ones = Publication.objects.filter(report__owner_id=instance.owner_id, audience=Publication.Audience.LINK)
    if sender.__name__ == "Report":
        open_ones = open_ones.filter(report=instance, shows_at_once=True)
    if not created and open_ones.exists():
        owner = instance.owner_id
        transaction.on_commit(lambda: release_in_background.enqueue(owner))
