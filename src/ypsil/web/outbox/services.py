"""Letters that the program sends, and those that wait in the outbox where no mail server is named."""

from __future__ import annotations

import datetime as dt
import email
import email.policy
import os
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from django.conf import settings
from django.utils import timezone

from ypsil.web.outbox.tasks import send_letter

# What Django's mail back end for files writes below each letter.
_BELOW = b"-" * 79
MOST_SHOWN = 50
KEPT_LETTERS = dt.timedelta(days=30)


@dataclass(frozen=True, slots=True)
class Letter:
    """A letter as it was sent: to whom, about what, its text, and when it was written."""

    to: str
    subject: str
    text: str
    sent: dt.datetime


def send(to: str, subject: str, text: str) -> None:
    """Send a letter, by the worker: how long that takes tells nobody whether there is an account of an address."""
    send_letter.enqueue(to, " ".join(subject.split()), text)


def is_mail_kept() -> bool:
    """Tell whether letters wait in the outbox, because no mail server is named."""
    return bool(settings.EMAIL_IS_KEPT)


def _files() -> list[Path]:
    """Return the files of the outbox, the newest first."""
    folder = Path(settings.EMAIL_FILE_PATH)
    return sorted(folder.glob("*.log"), key=lambda path: path.stat().st_mtime, reverse=True) if folder.is_dir() else []


def kept_letters() -> list[Letter]:
    """Return the newest letters in the outbox."""
    return [letter for path in _files()[:MOST_SHOWN] for letter in _letters_in(path)][:MOST_SHOWN]


def _letters_in(path: Path) -> Iterator[Letter]:
    sent = dt.datetime.fromtimestamp(path.stat().st_mtime, tz=timezone.get_current_timezone())
    for part in path.read_bytes().split(_BELOW):
        if part.strip():
            read = email.message_from_bytes(part.lstrip(), policy=email.policy.default)
            body = read.get_body(("plain",))
            yield Letter(str(read["To"]), str(read["Subject"]), body.get_content() if body else "", sent)


def forget_letters() -> None:
    """Delete what has been in the outbox for a month."""
    before = timezone.now() - KEPT_LETTERS
    for path in _files():
        if path.stat().st_mtime < before.timestamp():
            os.unlink(path)
