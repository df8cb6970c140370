"""Reports, the log of their changes, and the house styles they name."""

from __future__ import annotations

import secrets
from functools import lru_cache
from typing import Any

from django.conf import settings
from django.db import models

from ypsil.core.cache import Cache
from ypsil.core.document import Document, read_document
from ypsil.core.report import ReportBody
from ypsil.core.report.dress import Dress
from ypsil.core.report.nodes import report_of
from ypsil.core.style.house import HouseStyle
from ypsil.core.templates import Template
from ypsil.web.uids import new_uid

_SHIPPED = HouseStyle()
# One takes about so much; it is bounded all the same.
_templates: Cache[str, Template] = Cache("templates", 8 << 20, lambda _: 64_000)


def new_template_name() -> str:
    """Return a name that cannot be guessed, and that no shipped template has."""
    return f"own-{secrets.token_hex(9)}"


class SharedStyle(models.Model):
    """A house style that reports of its owner wear. ``applied`` holds what was changed when it was put on all of them:
    the report, the number of the change, and what the report wore before."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="styles")
    uid = models.CharField(max_length=20, unique=True, default=new_uid)
    content = models.JSONField()
    applied = models.JSONField(default=list)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["made", "pk"]

    def __str__(self) -> str:
        return str(self.content.get("name", ""))

    def read(self) -> Dress:
        """Return it as it is worn."""
        return Dress.model_validate(self.content)


class Report(models.Model):
    """A report: its document, and the revision that counts its changes."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="reports")
    uid = models.CharField(max_length=20, unique=True, default=new_uid)
    document = models.JSONField()
    revision = models.PositiveIntegerField(default=0)
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)
    tags = models.JSONField(default=list)
    wears = models.ForeignKey(SharedStyle, on_delete=models.SET_NULL, null=True, related_name="reports")
    # Since when it has been deleted; it rests for a while, and can be brought back.
    rests_since = models.DateTimeField(null=True, db_index=True)

    class Meta:
        ordering = ["-changed"]

    _read: tuple[Any, Document, ReportBody] | None = None

    def __str__(self) -> str:
        return str(self.document.get("title", ""))

    def read_document(self) -> Document:
        """Return the document; raises as ``read_document`` of the core does."""
        return self._once()[0]

    def read(self) -> ReportBody:
        """Return the document as bands with their tiles."""
        return self._once()[1]

    def _once(self) -> tuple[Document, ReportBody]:
        # Several parts of one request ask; the JSON that was read tells whether it still is what is stored.
        if self._read is None or self._read[0] is not self.document:
            document = read_document(self.document)
            self._read = (self.document, document, view_of(document))
        return self._read[1:]


def view_of(document: Document) -> ReportBody:
    """Return a document as bands with their tiles, in its house style."""
    return report_of(document, style_named(document.style.digest))


class Change(models.Model):
    """A change of a report in the order they were made: the log, of which entries are only ever added.

    ``undoes`` is the number of the entry that this one took back; ``is_passed_over`` tells that nothing of that could
    be. ``client`` names the change at whoever made it, so that one that is sent twice is made once; ``spell`` holds
    together what was typed without a pause.
    """

    report = models.ForeignKey(Report, on_delete=models.CASCADE, related_name="log")
    author = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    number = models.PositiveIntegerField()
    client = models.CharField(max_length=40, blank=True)
    spell = models.CharField(max_length=40, blank=True)
    label = models.CharField(max_length=200, blank=True)
    change = models.JSONField()
    undoes = models.PositiveIntegerField(null=True)
    is_passed_over = models.BooleanField(default=False)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["report", "number"], name="one_change_of_a_number"),
            models.UniqueConstraint(
                fields=["report", "client"], condition=~models.Q(client=""), name="one_change_of_a_client_id"
            ),
        ]
        ordering = ["number"]


class Snapshot(models.Model):
    """A report's document as a change left it, so that what somebody saw then is found without replaying all."""

    report = models.ForeignKey(Report, on_delete=models.CASCADE, related_name="snapshots")
    number = models.PositiveIntegerField()
    document = models.JSONField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["report", "number"], name="one_snapshot_of_a_number")]


class Moment(models.Model):
    """A report as the change of a number left it, under a name, with a picture (PNG) of its page as seen then."""

    report = models.ForeignKey(Report, on_delete=models.CASCADE, related_name="moments")
    author = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    uid = models.CharField(max_length=20, unique=True, default=new_uid)
    number = models.PositiveIntegerField()
    name = models.CharField(max_length=80)
    picture = models.BinaryField()
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-made"]


class DeskVisit(models.Model):
    """When somebody was at the desk last, and when before that: what came in between is new to them."""

    person = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="desk_visit")
    latest = models.DateTimeField()
    before = models.DateTimeField()


class TableUse(models.Model):
    """That a report asks a table: kept whenever the report is, so that a table's arrival need not read all reports."""

    report = models.ForeignKey(Report, on_delete=models.CASCADE, related_name="uses")
    table_uid = models.CharField(max_length=20, db_index=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["report", "table_uid"], name="one_use_of_a_table")]


class Miniature(models.Model):
    """The small picture of a report; ``key`` names all that it was drawn from."""

    report = models.OneToOneField(Report, on_delete=models.CASCADE, related_name="miniature")
    key = models.CharField(max_length=64)
    markup = models.TextField()


class OwnTemplate(models.Model):
    """A template that somebody made of a report or a band, or brought from a file."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="templates")
    name = models.SlugField(max_length=40, unique=True, default=new_template_name)
    content = models.JSONField()
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-made", "-pk"]

    def __str__(self) -> str:
        return str(self.content.get("title", ""))

    def read(self) -> Template:
        """Return it as it is filled. It never changes, so it is read once as long as it is at hand."""
        found = _templates.get(self.name)
        if found is None:
            found = Template.model_validate({**self.content, "name": self.name})
            _templates.put(self.name, found)
        return found


class KeptStyle(models.Model):
    """A house style by its digest; never changed."""

    digest = models.CharField(max_length=128, unique=True)
    style = models.JSONField()


@lru_cache(maxsize=64)
def style_named(digest: str) -> HouseStyle:
    """Return the house style of a digest; the shipped one where it is not kept here."""
    if digest == _SHIPPED.digest():
        return _SHIPPED
    kept = KeptStyle.objects.filter(digest=digest).first()
    return _SHIPPED if kept is None else HouseStyle.model_validate(kept.style)


def keep_style(style: HouseStyle) -> None:
    """Keep a house style that documents name."""
    if style != _SHIPPED:
        KeptStyle.objects.get_or_create(digest=style.digest(), defaults={"style": style.model_dump(mode="json")})
