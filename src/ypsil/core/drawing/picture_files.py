"""Pictures that people bring: read within limits, and made anew."""

from __future__ import annotations

import hashlib
import io
from typing import Final

from PIL import Image, ImageOps, UnidentifiedImageError

from ypsil.core.drawing.pictures import Picture
from ypsil.core.drawing.vector_files import MEDIA_TYPE, looks_like_svg, read_vector
from ypsil.core.errors import UnreadableFile

MAX_PIXELS: Final = 40_000_000
MAX_BYTES: Final = 50_000_000
# The long side of A4 at 300 pixels an inch, which print asks for (common practice, no source).
_LONGEST_PX = 3600
# A picture with more colours in a sample of 256 by 256 is a photograph, whatever file it came in (measured on sample
# pictures: drawings and screens have fewer than a tenth of it).
_SAMPLE_PX = 256
# What screens need of a picture as wide as a page, of 800 px; and of one whose longer side is no longer than a phone.
SCREEN_PX = 1280
THUMBNAIL_PX, SMALL_PX = 680, 340
_PHOTO_COLOURS = 3_000
_FORMATS = ("PNG", "JPEG", "GIF", "WEBP")
_JPEG_QUALITY = 90
_PNG_LEVEL = 5
_KINDS = "choose a PNG, JPEG, GIF, WebP or SVG file"


def read_picture(content: bytes, where: str) -> Picture:
    """Return a picture made anew from a file's pixels, upright, at most 3,600 pixels long, without what else the file
    held (such as where it was taken). Of a moving picture the first frame is taken.

    A vector drawing stays one, without what could do something or leads elsewhere.

    Raises UnreadableFile for what is no picture, is broken, or has more than 40 million pixels or 50 MB.
    """
    if looks_like_svg(content):
        return read_vector(content, where)
    if len(content) > MAX_BYTES:
        raise UnreadableFile("the picture is larger than 50 MB", where=where, remedy="save a smaller one")
    try:
        image = Image.open(io.BytesIO(content), formats=_FORMATS)
    except UnidentifiedImageError:
        raise UnreadableFile("it is not a picture that can be read", where=where, remedy=_KINDS) from None
    except Image.DecompressionBombError:
        raise _too_large(f"far more than {MAX_PIXELS / 1e6:,.0f}", where) from None
    except (OSError, ValueError, SyntaxError):
        raise UnreadableFile("the picture is broken", where=where, remedy=_KINDS) from None
    width, height = image.size
    if width * height > MAX_PIXELS:
        raise _too_large(f"{width * height / 1e6:,.0f}", where)
    was_photo = image.format == "JPEG"
    try:
        upright: Image.Image = ImageOps.exif_transpose(image)
        upright = upright.convert("RGBA" if _has_clear_parts(upright) else "RGB")
    except (OSError, ValueError, SyntaxError, MemoryError, Image.DecompressionBombError):
        raise UnreadableFile("the picture is broken", where=where, remedy=_KINDS) from None
    upright.thumbnail((_LONGEST_PX, _LONGEST_PX), Image.Resampling.LANCZOS)
    is_photo = was_photo or _has_many_colours(upright)
    return _encoded(upright, is_photo=is_photo)


def is_longer_than(picture: Picture, most_px: int) -> bool:
    """Tell whether a picture has more pixels than are wanted of it; drawings have none."""
    return picture.media_type != MEDIA_TYPE and max(picture.width, picture.height) > most_px


def at_most(picture: Picture, most_px: int) -> Picture:
    """Return a picture whose longer side has no more than so many pixels."""
    image: Image.Image = Image.open(io.BytesIO(picture.content))
    image.draft("RGB", (most_px, most_px))
    image.thumbnail((most_px, most_px), Image.Resampling.LANCZOS)
    return _encoded(image, is_photo=picture.media_type == "image/jpeg")


def _too_large(millions: str, where: str) -> UnreadableFile:
    most = f"at most {MAX_PIXELS / 1e6:,.0f} million are taken"
    return UnreadableFile(
        f"the picture has {millions} million pixels; {most}", where=where, remedy="save a smaller one"
    )


def _has_many_colours(image: Image.Image) -> bool:
    sample = image.resize((_SAMPLE_PX, _SAMPLE_PX), Image.Resampling.NEAREST)
    return sample.getcolors(_PHOTO_COLOURS) is None


def _has_clear_parts(image: Image.Image) -> bool:
    return image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info


def _encoded(image: Image.Image, *, is_photo: bool) -> Picture:
    # JPEG knows no clear parts.
    as_photo = is_photo and image.mode == "RGB"
    file = io.BytesIO()
    if as_photo:
        image.save(file, "JPEG", quality=_JPEG_QUALITY, optimize=True)
    else:
        # Packing a photograph with clear parts well takes half a minute, and makes it a tenth smaller.
        image.save(file, "PNG", compress_level=1 if is_photo else _PNG_LEVEL)
    content = file.getvalue()
    media_type = "image/jpeg" if as_photo else "image/png"
    return Picture(content, media_type, image.width, image.height, hashlib.sha256(content).hexdigest())
