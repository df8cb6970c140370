"""A page as slides that can be edited: a slide for each band, its texts as text, its charts as charts with their
numbers, its drawings as shapes, and pictures for what these cannot show."""

from ypsil.core.export.slides.deck import page_to_pptx

__all__ = ["page_to_pptx"]
