"""Publications."""

from __future__ import annotations

import secrets

from django.db import models
from django.db.models.fields.json import KeyTextTransform

from ypsil.web.compose.services import Report


def new_token() -> str:
    """Return 192 random bits: a link that nobody guesses."""
    return secrets.token_urlsafe(24)


class Publication(models.Model):
    """Who can see a report. The link stays the same until it is withdrawn for good.

    ``shows_at_once`` lets each change reach readers by itself; ``looked_at`` is the day on which somebody read it last.
    """

    class Audience(models.TextChoices):
        ME = "me", "Only me"
        LINK = "link", "Anyone with the link"

    report = models.OneToOneField(Report, on_delete=models.CASCADE, related_name="publication")
    token = models.CharField(max_length=40, unique=True, default=new_token)
    audience = models.CharField(max_length=4, choices=Audience.choices, default=Audience.ME)
    shows_at_once = models.BooleanField(default=False)
    looked_at = models.DateField(null=True)
    changed = models.DateTimeField(auto_now=True)

    def latest(self) -> Release | None:
        """Return what readers see now, with its language; its document, which is long, is left where it is."""
        spoken = KeyTextTransform("language", "document")
        return self.releases.defer("document").annotate(spoken=spoken).order_by("-number").first()


class Release(models.Model):
    """What readers see: a document as it was at a revision, drawn with its tables as they were.

    ``key`` names all that it was made of; ``body`` is the page between its head and its foot.
    """

    publication = models.ForeignKey(Publication, on_delete=models.CASCADE, related_name="releases")
    number = models.PositiveIntegerField()
    revision = models.PositiveIntegerField()
    key = models.CharField(max_length=64)
    document = models.JSONField()
    title = models.CharField(max_length=200)
    body = models.TextField()
    pictures = models.JSONField(default=list)
    layout = models.TextField(default="")
    layout_digest = models.CharField(max_length=64, default="")
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["publication", "number"], name="one_release_of_a_number")]
