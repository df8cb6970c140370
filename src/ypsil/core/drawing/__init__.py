"""Scenes: shapes and text in px, drawn once and used on the screen and in every file."""

from ypsil.core.drawing.measure import text_width
from ypsil.core.drawing.scene import Font, Line, Path, Rect, Scene, Shape, Text
from ypsil.core.drawing.svg import scene_markup, scene_to_svg
from ypsil.core.drawing.wrap import shorten, wrap

__all__ = [
    "Font",
    "Line",
    "Path",
    "Rect",
    "Scene",
    "Shape",
    "Text",
    "scene_markup",
    "scene_to_svg",
    "shorten",
    "text_width",
    "wrap",
]
