"""Pictures that people bring: kept once, under their content, for the reports of their owner."""

from __future__ import annotations

from collections.abc import Collection
from functools import lru_cache, partial
from pathlib import PurePath

from django.db import transaction
from django.db.models import QuerySet
from django.http import HttpResponse
from django.urls import reverse

from ypsil.core.drawing.picture_files import (
    SCREEN_PX,
    SMALL_PX,
    THUMBNAIL_PX,
    at_most,
    is_longer_than,
    read_picture,
)
from ypsil.core.drawing.pictures import Picture
from ypsil.web.accounts.services import User
from ypsil.web.gather import blobs
from ypsil.web.gather.models import KeptPicture, ScreenPicture, Thumbnail

# Opened by itself, a drawing can neither load nor run anything.
_NOTHING = "default-src 'none'; style-src 'unsafe-inline'; sandbox"
# What is asked for behind the address of a picture that is shown small.
SMALL = "?small"
# A picture never changes under its address.
_FOR_GOOD = "private, max-age=31536000, immutable"


def pictures_of(user: User) -> QuerySet[KeptPicture]:
    return KeptPicture.objects.filter(owner=user)


def keep_picture(owner: User, content: bytes, file_name: str) -> KeptPicture:
    """Keep a picture for its owner; the same one again is the one that is there. Raises UnreadableFile."""
    read = read_picture(content, file_name)
    label = PurePath(file_name).stem[:100] or "Picture"
    details = {"label": label, "media_type": read.media_type, "width": read.width, "height": read.height}
    with transaction.atomic():
        blob = blobs.keep(read.content)
        kept, _ = KeptPicture.objects.get_or_create(owner=owner, blob=blob, defaults=details)
        # Made as it comes, so that a page with many opens at once.
        _for_screen(kept)
        _thumbnail(kept)
    return kept


def picture_of(kept: KeptPicture) -> Picture:
    """Return a kept picture for drawing."""
    # Most pages need no more than its size: browsers fetch it by its address.
    return Picture(partial(_content, kept.blob_id), kept.media_type, kept.width, kept.height, kept.blob_id)


@lru_cache(maxsize=24)
def _content(digest: str) -> bytes:
    return blobs.content(digest)


def pictures_named(owner: User, names: Collection[str]) -> dict[str, Picture]:
    """Return those of an owner's pictures that go by these names."""
    if not names:
        return {}
    digests = [name.removeprefix("picture:") for name in names]
    return {kept.name: picture_of(kept) for kept in pictures_of(owner).filter(blob_id__in=digests)}


def address_of(picture: Picture, longest_px: float) -> str:
    """Return where the owner of a picture finds it, as large as it is shown."""
    return reverse("picture", args=[picture.digest]) + size_asked(longest_px)


def size_asked(longest_px: float) -> str:
    """Return what is asked for behind the address of a picture of which the longer side is shown so many px long."""
    return SMALL if longest_px <= SMALL_PX else ""


def _for_screen(kept: KeptPicture) -> tuple[bytes, str]:
    return _made_once(ScreenPicture, kept, SCREEN_PX)


def _thumbnail(kept: KeptPicture) -> tuple[bytes, str]:
    return _made_once(Thumbnail, kept, THUMBNAIL_PX)


def _made_once(kind: type[ScreenPicture | Thumbnail], kept: KeptPicture, most_px: int) -> tuple[bytes, str]:
    """Return a picture with no more pixels than are wanted, with its media type; made once, and then had without the
    large one."""
    small = kind.objects.filter(pk=kept.blob_id).first()
    if small is not None:
        return bytes(small.content), small.media_type
    found = picture_of(kept)
    if not is_longer_than(found, most_px):
        return found.content, found.media_type
    made = at_most(found, most_px)
    kind.objects.get_or_create(blob_id=kept.blob_id, defaults={"media_type": made.media_type, "content": made.content})
    return made.content, made.media_type


def picture_response(kept: KeptPicture, *, is_small: bool = False) -> HttpResponse:
    """Answer with a picture's bytes as screens need them, which browsers keep; ``is_small`` where little of them is."""
    headers = {"Cache-Control": _FOR_GOOD, "Content-Security-Policy": _NOTHING, "X-Content-Type-Options": "nosniff"}
    content, media_type = _thumbnail(kept) if is_small else _for_screen(kept)
    if media_type != "image/svg+xml":
        # What is small already is not made smaller once more.
        headers["Content-Encoding"] = "identity"
    return HttpResponse(content, content_type=media_type, headers=headers)
