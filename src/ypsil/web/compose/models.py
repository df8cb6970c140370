"""Reports and the log of their edits."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from ypsil.core.report import Report as Document
from ypsil.web.gather.models import new_uid


class Report(models.Model):
    """A report: its document, and the revision that counts its edits."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="reports")
    uid = models.CharField(max_length=20, unique=True, default=new_uid)
    document = models.JSONField()
    revision = models.PositiveIntegerField(default=0)
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-changed"]

    def __str__(self) -> str:
        return str(self.document.get("title", ""))

    def read(self) -> Document:
        return Document.model_validate(self.document)


class LoggedEdit(models.Model):
    """One edit in the order it was made; ``inverse`` takes it back. Entries are only ever added."""

    report = models.ForeignKey(Report, on_delete=models.CASCADE, related_name="edits")
    author = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    revision = models.PositiveIntegerField()
    kind = models.CharField(max_length=4, choices=[("do", "do"), ("undo", "undo"), ("redo", "redo")])
    edit = models.JSONField()
    inverse = models.JSONField()
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["report", "revision"], name="one_edit_of_a_revision")]
        ordering = ["revision"]
