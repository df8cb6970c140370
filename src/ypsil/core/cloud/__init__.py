"""Word placement: the biggest in the middle, no two overlapping, the same start number the same picture."""

from ypsil.core.cloud.place import CloudLayout, CloudWord, PlacedWord, place_words

__all__ = ["CloudLayout", "CloudWord", "PlacedWord", "place_words"]
