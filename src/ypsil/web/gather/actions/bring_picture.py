"""Bring a picture, for one's reports."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.gather.models import KeptPicture
from ypsil.web.gather.pictures import keep_picture


def bring_picture(asker: User, content: bytes, file_name: str) -> KeptPicture:
    """Keep a picture of the asker's, once however often it is brought; raises UnreadableFile."""
    return keep_picture(asker, content, file_name)
