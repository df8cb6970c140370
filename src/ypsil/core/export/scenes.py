"""One drawing as a file."""

from __future__ import annotations

from ypsil.core.drawing.scene import Scene
from ypsil.core.drawing.svg import scene_to_svg
from ypsil.core.errors import YpsilError
from ypsil.core.export.fonts import font_styles
from ypsil.core.export.typesetting import TypstPage

FORMATS = ("svg", "png", "pdf")


def scene_to_file(scene: Scene, ending: str, *, language: str = "en") -> bytes:
    """Return a scene as the bytes of an SVG, PNG (2 pixels to a px) or PDF/UA-1 file.

    Raises YpsilError for any other ending.
    """
    if ending not in FORMATS:
        raise YpsilError(
            f"files of the type “{ending or 'none'}” are not there yet",
            remedy="choose an ending among ." + ", .".join(FORMATS),
        )
    if ending == "svg":
        styles = f"<style>{font_styles([scene])}</style>"
        return scene_to_svg(scene, language=language).replace("</desc>", f"</desc>{styles}", 1).encode()
    page = TypstPage(scene.width, scene.height, scene.name or "Drawing", language)
    page.add_drawing(scene, 0, 0)
    return page.compile("pdf" if ending == "pdf" else "png")
