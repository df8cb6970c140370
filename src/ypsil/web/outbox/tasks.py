"""Sending letters, in the worker."""

from __future__ import annotations

from django.core.mail import send_mail
from django_tasks import task


@task()
def send_letter(to: str, subject: str, text: str) -> None:
    """Send a letter by the mail back end of the settings."""
    send_mail(subject, text, None, [to])
