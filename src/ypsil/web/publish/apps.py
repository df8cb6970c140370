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
        from ypsil.web.compose.services import Report
        from ypsil.web.gather.services import Table

        post_save.connect(_note, sender=Table)
        post_save.connect(_note, sender=Report)


# So many pages are made at once, so that whoever brought newer data sees it at the link; more are made beside.
_AT_ONCE = 3


def _note(sender: Any, instance: Any, created: bool, **_: Any) -> None:
    """Let what is due be made once what was saved is there for all."""
    from ypsil.web.publish.models import Publication
    from ypsil.web.publish.releases import release_due, release_in_background

    open_ones = Publication.objects.filter(report__owner_id=instance.owner_id)
    open_ones = open_ones.exclude(audience=Publication.Audience.ME)
    if sender.__name__ == "Report":
        open_ones = open_ones.filter(report=instance, shows_at_once=True)
    count = 0 if created else open_ones.count()
    if count:
        owner = instance.owner_id
        make = release_due if count <= _AT_ONCE else release_in_background.enqueue
        # A page that cannot be made is no reason to refuse what was saved.
        transaction.on_commit(lambda: make(owner), robust=True)
