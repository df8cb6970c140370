"""The letters a file needs, cut from the shipped faces and put into the file itself."""

from __future__ import annotations

import base64
import io
from collections.abc import Iterable
from functools import lru_cache

from fontTools import subset
from fontTools.ttLib import TTFont

from ypsil.core.drawing.faces import chain, face, face_path
from ypsil.core.drawing.scene import Scene


def font_styles(scenes: Iterable[Scene]) -> str:
    """Return CSS that carries, for each face used, the letters that the scenes' texts need."""
    needed: dict[tuple[str, int], set[str]] = {}
    for scene in scenes:
        for text in scene.texts():
            for character in text.text:
                names = (name for name in chain(text.font.family))
                family = next(
                    (name for name in names if ord(character) in face(name, text.font.weight).characters),
                    text.font.family,
                )
                needed.setdefault((family, text.font.weight), set()).add(character)
    return "".join(
        f"@font-face{{font-family:'{family}';font-weight:{weight};"
        f"src:url(data:font/woff2;base64,{_subset(family, weight, ''.join(sorted(letters)))}) format('woff2')}}"
        for (family, weight), letters in sorted(needed.items())
    )


@lru_cache(maxsize=64)
def _subset(family: str, weight: int, letters: str) -> str:
    # Its own date, not that of today: the same letters give the same bytes.
    font = TTFont(face_path(family, weight), recalcTimestamp=False)
    cutter = subset.Subsetter(subset.Options(layout_features=["*"], notdef_outline=True))
    cutter.populate(text=letters)
    cutter.subset(font)
    font.flavor = "woff2"
    buffer = io.BytesIO()
    font.save(buffer)
    return base64.b64encode(buffer.getvalue()).decode()
