"""The letters a file needs, cut from the shipped faces and put into the file itself."""

from __future__ import annotations

import base64
from collections.abc import Iterable
from functools import lru_cache

import uharfbuzz

from ypsil.core.drawing.faces import chain, face, face_path
from ypsil.core.drawing.scene import Scene
from ypsil.core.export.woff import woff


def font_styles(scenes: Iterable[Scene]) -> str:
    """Return CSS that carries, for each face used, the letters that the scenes' texts need."""
    needed: dict[tuple[str, int, bool], set[str]] = {}
    for scene in scenes:
        for text in scene.texts():
            for character in text.text:
                own, weight, is_italic = text.font.family, text.font.weight, text.font.is_italic
                family = next(
                    (name for name in chain(own) if ord(character) in face(name, weight, is_italic).characters), own
                )
                needed.setdefault((family, weight, is_italic), set()).add(character)
    carried = {face_of: _subset(*face_of, "".join(sorted(letters))) for face_of, letters in sorted(needed.items())}
    return "".join(
        f"@font-face{{font-family:'{family}';font-weight:{weight};{'font-style:italic;' if is_italic else ''}"
        f"src:url(data:font/woff;base64,{data}) format('woff')}}"
        for (family, weight, is_italic), data in carried.items()
    )


@lru_cache(maxsize=64)
def _subset(family: str, weight: int, is_italic: bool, letters: str) -> str:
    wanted = uharfbuzz.SubsetInput()
    wanted.sets(uharfbuzz.SubsetInputSets.UNICODE).update(map(ord, letters))
    # All that joins, kerns and varies the letters: none of the features is left out.
    wanted.sets(uharfbuzz.SubsetInputSets.LAYOUT_FEATURE_TAG).invert()
    wanted.flags = uharfbuzz.SubsetFlags.NOTDEF_OUTLINE
    whole = uharfbuzz.Face(uharfbuzz.Blob.from_file_path(str(face_path(family, weight, is_italic))))
    return base64.b64encode(woff(uharfbuzz.subset(whole, wanted).blob.data)).decode()
