"""Publications."""

from __future__ import annotations

import secrets

from django.db import models

from ypsil.web.compose.models import Report


def new_token() -> str:
    """Return 192 random bits: a link that nobody guesses."""
    return secrets.token_urlsafe(24)


class Publication(models.Model):
    """Who can see a report. The link stays the same until it is withdrawn for good."""

    class Audience(models.TextChoices):
        ME = "me", "Only me"
        LINK = "link", "Anyone with the link"

    report = models.OneToOneField(Report, on_delete=models.CASCADE, related_name="publication")
    token = models.CharField(max_length=40, unique=True, default=new_token)
    audience = models.CharField(max_length=4, choices=Audience.choices, default=Audience.ME)
    changed = models.DateTimeField(auto_now=True)
