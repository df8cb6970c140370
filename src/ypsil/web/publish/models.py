"""Publications."""

from __future__ import annotations

import datetime as dt
import secrets

from django.db import models
from django.utils import timezone

from ypsil.web.accounts.services import User
from ypsil.web.compose.services import Report
from ypsil.web.uids import new_uid


def new_token() -> str:
    """Return 192 random bits: a link that nobody guesses."""
    return secrets.token_urlsafe(24)


class Publication(models.Model):
    """Who can see a report. The link stays the same until it is withdrawn for good.

    ``shows_at_once`` lets each change reach readers by itself; ``looked_at`` is the day on which somebody read it last.
    ``password`` is a digest, empty for none; after ``ends`` the link says that it has ended. Where it ``lets_copy``,
    the numbers behind drawings can be read as tables. ``sites`` are those whose pages may show it within: origins, or
    ``*`` for any. Where it ``moves``, bars grow and numbers count up when they are first seen.
    """

    class Audience(models.TextChoices):
        ME = "me", "Only me"
        NAMED = "named", "People I name"
        LINK = "link", "Anyone with the link"

    report = models.OneToOneField(Report, on_delete=models.CASCADE, related_name="publication")
    token = models.CharField(max_length=40, unique=True, default=new_token)
    audience = models.CharField(max_length=5, choices=Audience.choices, default=Audience.ME)
    password = models.CharField(max_length=200, default="", blank=True)
    ends = models.DateTimeField(null=True)
    lets_copy = models.BooleanField(default=True)
    sites = models.JSONField(default=list)
    moves = models.BooleanField(default=False)
    shows_at_once = models.BooleanField(default=False)
    looked_at = models.DateField(null=True)
    changed = models.DateTimeField(auto_now=True)

    def latest(self) -> Release | None:
        """Return what readers see now; its document and its picture, which are long, are left where they are."""
        return self.releases.defer("document", "picture").order_by("-number").first()

    @property
    def has_ended(self) -> bool:
        return self.ends is not None and self.ends <= timezone.now()

    @property
    def last_day(self) -> dt.date | None:
        """The last day on which its link can be read."""
        return None if self.ends is None else timezone.localtime(self.ends - dt.timedelta(seconds=1)).date()

    @property
    def is_open(self) -> bool:
        """Whether anybody but its author can get in at all."""
        return self.audience != self.Audience.ME


class Release(models.Model):
    """What readers see: a document as it was at a revision, drawn with its tables as they were.

    ``key`` names all that it was made of; ``body`` is the page between its head and its foot. One that is ``kept_as``
    something stays as it is, beside those that follow the data; its body has the addresses of the link that there was
    then. ``said`` and ``picture`` (JPEG) are what others show of it who name its link.
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
    kept_as = models.CharField(max_length=80, default="", blank=True)
    kept_token = models.CharField(max_length=40, default="", blank=True)
    said = models.CharField(max_length=300, default="", blank=True)
    language = models.CharField(max_length=10, default="", blank=True)
    picture = models.BinaryField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["publication", "number"], name="one_release_of_a_number")]

    @property
    def spoken(self) -> str:
        """Its language; releases from before that was kept with them have it in their document only."""
        return self.language or str(self.document.get("language", "en"))


class Invited(models.Model):
    """Somebody who was named by address as a reader; ``key`` is in the link that only they were sent."""

    publication = models.ForeignKey(Publication, on_delete=models.CASCADE, related_name="invited")
    address = models.EmailField()
    key = models.CharField(max_length=40, unique=True, default=new_token)
    named = models.DateTimeField(auto_now_add=True)
    written = models.DateTimeField(null=True)
    came = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["publication", "address"], name="one_invitation_to_an_address")]


class Openings(models.Model):
    """How often a report was opened on a day, by whomever."""

    publication = models.ForeignKey(Publication, on_delete=models.CASCADE, related_name="openings")
    day = models.DateField()
    count = models.PositiveIntegerField(default=0)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["publication", "day"], name="one_count_a_day")]


class WrongPassword(models.Model):
    """How often somebody gave a wrong password lately; ``who`` is a digest of the address that they came from."""

    publication = models.ForeignKey(Publication, on_delete=models.CASCADE, related_name="wrong_passwords")
    who = models.CharField(max_length=64)
    count = models.PositiveIntegerField(default=0)
    since = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["publication", "who"], name="one_count_of_wrong_passwords")]


class MadeFile(models.Model):
    """A file of a report that somebody asked for: how it is wanted, how far it is, and what it holds.

    ``key`` names all that it is made of, so that the same is not made twice; ``content`` is kept for a day.
    """

    class State(models.TextChoices):
        WAITING = "waiting", "Waits its turn"
        MAKING = "making", "Being made"
        READY = "ready", "Ready"
        REFUSED = "refused", "Cannot be made"

    uid = models.CharField(max_length=20, unique=True, default=new_uid)
    owner = models.ForeignKey(User, on_delete=models.CASCADE, related_name="made_files")
    report = models.ForeignKey(Report, on_delete=models.CASCADE, related_name="made_files")
    name = models.CharField(max_length=120)
    media_type = models.CharField(max_length=120)
    wanted = models.JSONField()
    key = models.CharField(max_length=64, db_index=True)
    state = models.CharField(max_length=7, choices=State.choices, default=State.WAITING)
    part_done = models.FloatField(default=0.0)
    said = models.TextField(default="")
    content = models.BinaryField(null=True)
    asked = models.DateTimeField(auto_now_add=True)
    begun = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["state", "asked"], name="files_in_turn")]

    @property
    def is_going_on(self) -> bool:
        return self.state in (self.State.WAITING, self.State.MAKING)
