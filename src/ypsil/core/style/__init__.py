"""House style: the palette, type and colours that make a report look like its owner's.

``grounds`` and ``cards`` are asked for by name: who draws one picture on its own paper needs neither.
"""

from ypsil.core.style.house import HouseStyle

__all__ = ["HouseStyle"]
