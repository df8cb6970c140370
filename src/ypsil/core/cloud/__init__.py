"""Word placement: the biggest in the middle, no two overlapping, the same start number the same picture."""

from ypsil.core.cloud.place import (
    SMALLEST_PX,
    CloudLayout,
    CloudStyle,
    CloudWord,
    Directions,
    PlacedWord,
    place_words,
)
from ypsil.core.cloud.rows import place_rows
from ypsil.core.cloud.shapes import PLAIN_SHAPES, outline_of
from ypsil.core.cloud.sizes import Sizing

__all__ = [
    "PLAIN_SHAPES",
    "SMALLEST_PX",
    "CloudLayout",
    "CloudStyle",
    "CloudWord",
    "Directions",
    "PlacedWord",
    "Sizing",
    "outline_of",
    "place_rows",
    "place_words",
]
