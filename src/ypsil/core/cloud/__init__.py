"""Word placement: the biggest in the middle, no two overlapping, the same start number the same picture."""

from ypsil.core.cloud.place import SMALLEST_PX, CloudLayout, CloudWord, PlacedWord, Sizing, place_words

__all__ = ["SMALLEST_PX", "CloudLayout", "CloudWord", "PlacedWord", "Sizing", "place_words"]
