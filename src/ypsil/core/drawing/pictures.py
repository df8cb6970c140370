"""Pictures that people bring: read within limits, made anew, and known by their names."""

from __future__ import annotations

import hashlib
import io
import re
from base64 import b64encode
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

from PIL import Image, ImageOps, UnidentifiedImageError

from ypsil.core.errors import DrawingRefused, UnreadableFile

MAX_PIXELS: Final = 40_000_000
MAX_BYTES: Final = 50_000_000
# Twice the width of a page, so that it stays sharp at delivery.
_LONGEST_PX = 2400
_FORMATS = ("PNG", "JPEG", "GIF", "WEBP")
_JPEG_QUALITY = 88
_NAME = re.compile(r"picture:[0-9a-f]{64}")
_KINDS = "choose a PNG, JPEG, GIF or WebP file"


@dataclass(frozen=True, slots=True)
class Picture:
    """A picture as PNG or JPEG, with its size in pixels and the SHA-256 of its content."""

    content: bytes
    media_type: str
    width: int
    height: int
    digest: str

    @property
    def name(self) -> str:
        return f"picture:{self.digest}"


def is_picture_name(text: str) -> bool:
    """Tell whether a text names a picture that somebody brought.

    >>> is_picture_name("book")
    False
    """
    return _NAME.fullmatch(text) is not None


def read_picture(content: bytes, where: str) -> Picture:
    """Return a picture made anew from a file's pixels, upright, at most 2,400 pixels long, without what else the file
    held (such as where it was taken). Of a moving picture the first frame is taken.

    Raises UnreadableFile for what is no picture, is broken, or has more than 40 million pixels or 50 MB.
    """
    if len(content) > MAX_BYTES:
        raise UnreadableFile("the picture is larger than 50 MB", where=where, remedy="save a smaller one")
    try:
        image = Image.open(io.BytesIO(content), formats=_FORMATS)
    except UnidentifiedImageError:
        is_drawing = b"<svg" in content[:4096]
        what = "it is a vector drawing" if is_drawing else "it is not a picture that can be read"
        raise UnreadableFile(what, where=where, remedy="save it as PNG" if is_drawing else _KINDS) from None
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise UnreadableFile("the picture is broken", where=where, remedy=_KINDS) from None
    width, height = image.size
    if width * height > MAX_PIXELS:
        raise UnreadableFile(
            f"the picture has {width * height / 1e6:,.0f} million pixels; at most 40 million are taken",
            where=where,
            remedy="save a smaller one",
        )
    was_photo = image.format == "JPEG"
    try:
        upright: Image.Image = ImageOps.exif_transpose(image)
        upright = upright.convert("RGBA" if _has_clear_parts(upright) else "RGB")
    except (OSError, ValueError, SyntaxError, MemoryError, Image.DecompressionBombError):
        raise UnreadableFile("the picture is broken", where=where, remedy=_KINDS) from None
    upright.thumbnail((_LONGEST_PX, _LONGEST_PX), Image.Resampling.LANCZOS)
    return _encoded(upright, as_photo=was_photo and upright.mode == "RGB")


def _has_clear_parts(image: Image.Image) -> bool:
    return image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info


def _encoded(image: Image.Image, *, as_photo: bool) -> Picture:
    file = io.BytesIO()
    if as_photo:
        image.save(file, "JPEG", quality=_JPEG_QUALITY, optimize=True)
    else:
        image.save(file, "PNG", optimize=True)
    content = file.getvalue()
    media_type = "image/jpeg" if as_photo else "image/png"
    return Picture(content, media_type, image.width, image.height, hashlib.sha256(content).hexdigest())


def data_address(picture: Picture) -> str:
    """Return an address that holds the picture itself."""
    return f"data:{picture.media_type};base64,{b64encode(picture.content).decode()}"


class PictureName(str):
    """The name of a picture, with the picture itself where it is at hand."""

    __slots__ = ("picture",)
    picture: Picture | None

    def __new__(cls, name: str, picture: Picture | None = None) -> PictureName:
        made = super().__new__(cls, name)
        made.picture = picture
        return made


def named(name: str, pictures: Mapping[str, Picture]) -> str:
    """Return a picture's name with the picture among these that it names; any other name as it is."""
    return PictureName(name, pictures.get(name)) if is_picture_name(name) else name


def picture(name: str) -> Picture:
    """Return the picture of a name; raises DrawingRefused for one that is gone."""
    found = name.picture if isinstance(name, PictureName) else None
    if found is None:
        raise DrawingRefused("its picture is no longer there", remedy="choose another picture or an icon")
    return found
