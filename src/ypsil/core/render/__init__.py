"""A report on its page: its tiles laid out and drawn. The same page is shown on screen, published, and put in files."""

from ypsil.core.render.outline import heading_levels
from ypsil.core.render.page import BandView, Page, TileView, compose, context_of, draw_narrow

__all__ = ["BandView", "Page", "TileView", "compose", "context_of", "draw_narrow", "heading_levels"]
