"""What a file format is."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from ypsil.core.drawing.scene import Scene

if TYPE_CHECKING:
    from ypsil.core.render import Page


@dataclass(frozen=True, slots=True)
class FileFormat:
    """A kind of file: its ending, what people read of it, and how a page and one drawing become one.

    ``place`` is where it stands among those that are offered. ``scene`` takes the language of the drawing's texts; None
    where a drawing alone is no such file.
    """

    ending: str
    label: str
    media_type: str
    place: int
    page: Callable[[Page], bytes]
    scene: Callable[[Scene, str], bytes] | None = None
