"""House style: the palette, type and colours that make a report look like its owner's."""

from ypsil.core.style.house import HouseStyle

__all__ = ["HouseStyle"]
