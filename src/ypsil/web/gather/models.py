"""Tables and their versions. Bytes are kept once, under their digest; a version is never changed."""

from __future__ import annotations

import secrets

from django.conf import settings
from django.db import models


def new_uid() -> str:
    return secrets.token_urlsafe(9)


class Blob(models.Model):
    """Some bytes, kept under their SHA-256."""

    digest = models.CharField(max_length=64, primary_key=True)
    content = models.BinaryField()


class Table(models.Model):
    """Named columns and rows that arrive again and again."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="tables")
    uid = models.CharField(max_length=20, unique=True, default=new_uid)
    name = models.CharField(max_length=200)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["owner", "name"], name="one_table_of_a_name")]
        ordering = ["name"]

    def __str__(self) -> str:
        return self.name


class Version(models.Model):
    """One arrival of a table's data."""

    table = models.ForeignKey(Table, on_delete=models.CASCADE, related_name="versions")
    number = models.PositiveIntegerField()
    file_name = models.CharField(max_length=255)
    sheet = models.CharField(max_length=255, blank=True)
    original = models.ForeignKey(Blob, on_delete=models.PROTECT, related_name="+")
    rows_blob = models.ForeignKey(Blob, on_delete=models.PROTECT, related_name="+")
    row_count = models.PositiveIntegerField()
    columns = models.JSONField()
    values = models.JSONField()
    grains = models.JSONField(default=dict)
    remarks = models.JSONField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["table", "number"], name="one_version_of_a_number")]
        ordering = ["-number"]

    def __str__(self) -> str:
        return f"{self.table} {self.number}"


class Arrival(models.Model):
    """A file on its way to becoming a version."""

    class State(models.TextChoices):
        WAITING = "waiting"
        READING = "reading"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    uid = models.CharField(max_length=20, unique=True, default=new_uid)
    table = models.ForeignKey(Table, null=True, on_delete=models.CASCADE)
    name = models.CharField(max_length=200)
    file_name = models.CharField(max_length=255)
    sheet = models.CharField(max_length=255, blank=True)
    original = models.ForeignKey(Blob, null=True, on_delete=models.PROTECT, related_name="+")
    state = models.CharField(max_length=10, choices=State.choices, default=State.WAITING)
    part_done = models.FloatField(default=0)
    message = models.TextField(blank=True)
    version = models.ForeignKey(Version, null=True, on_delete=models.SET_NULL)
    created = models.DateTimeField(auto_now_add=True)
