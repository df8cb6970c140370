"""Pictures that people brought, known by their names."""

from __future__ import annotations

import re
from base64 import b64encode
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from ypsil.core.errors import DrawingRefused

_NAME = re.compile(r"picture:[0-9a-f]{64}")


@dataclass(frozen=True, slots=True)
class Picture:
    """A picture as PNG or JPEG, or what fetches that when it is needed, with its size in pixels and the SHA-256 of its
    content, which is what it is known by."""

    held: bytes | Callable[[], bytes] = field(repr=False, compare=False)
    media_type: str
    width: int
    height: int
    digest: str

    @property
    def content(self) -> bytes:
        return self.held if isinstance(self.held, bytes) else self.held()

    def fetch(self) -> int:
        """Get its content, so that a drawing that is made beside others has it at hand; return its bytes."""
        return len(self.content)

    @property
    def name(self) -> str:
        return f"picture:{self.digest}"


def is_picture_name(text: str) -> bool:
    """Tell whether a text names a picture that somebody brought.

    >>> is_picture_name("book")
    False
    """
    return _NAME.fullmatch(text) is not None


def data_address(picture: Picture, longest_px: float = 0.0) -> str:
    """Return an address that holds the picture itself, however large it is shown."""
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
