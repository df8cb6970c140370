"""From nodes and what their text needs to rectangles on pages: bands one below the other, groups with an origin of
their own, tiles laid over others, text that grows, and the ends of pages.

What is stored is what is shown: only the growth of text and the end of a page move anything here.
"""

from ypsil.core.layout.bands import BandItems, BandPlace, Item, Layout, Placed, Rectangle, grown, lay_out
from ypsil.core.layout.pages import PagePlace

__all__ = ["BandItems", "BandPlace", "Item", "Layout", "PagePlace", "Placed", "Rectangle", "grown", "lay_out"]
