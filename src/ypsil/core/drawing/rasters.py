"""The pixels of pictures, also of those that are vector drawings."""

from __future__ import annotations

import json
from functools import lru_cache

from ypsil.core.drawing.pictures import Picture
from ypsil.core.drawing.vector_files import MEDIA_TYPE

_LONGEST_PX = 1200.0


@lru_cache(maxsize=64)
def raster_of(picture: Picture) -> bytes:
    """Return a picture as PNG or JPEG: its own content, or, of a vector drawing, its pixels on a clear ground."""
    if picture.media_type != MEDIA_TYPE:
        return picture.content
    # Only drawings need what sets pages.
    import typst

    from ypsil.core.drawing.faces import FONT_FOLDER

    factor = min(1.0, _LONGEST_PX / max(picture.width, picture.height))
    size = f"width: {picture.width * 0.75:g}pt, height: {picture.height * 0.75:g}pt"
    source = (
        f"#set page({size}, margin: 0pt, fill: none)\n"
        f'#image(bytes(sys.inputs.at("drawing")), format: "svg", {size}, alt: {json.dumps("drawing")})'
    )
    return typst.compile(
        source.encode(),
        font_paths=typst.Fonts(font_paths=[str(FONT_FOLDER)], include_system_fonts=False),
        format="png",
        sys_inputs={"drawing": picture.content.decode()},
        ppi=96 * factor,
    )
