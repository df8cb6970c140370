"""From px of a page to the units of a slide."""

from __future__ import annotations

from dataclasses import dataclass, replace

# English Metric Units to a px of 1/96 inch (ECMA-376, part 1, 20.1.10.16: 914,400 to an inch).
EMU_PER_PX = 9525
_POINTS_PER_PX = 0.75
# Angles are given in parts of a degree.
DEGREE = 60_000


@dataclass(frozen=True, slots=True)
class Space:
    """Where a px of what is drawn lies on a slide: ``scale`` times as far from a corner that is ``x`` and ``y`` px of
    the slide from its own."""

    scale: float = 1.0
    x: float = 0.0
    y: float = 0.0

    def at(self, x: float, y: float) -> Space:
        """Return the space of what has its corner there."""
        return replace(self, x=self.x + self.scale * x, y=self.y + self.scale * y)

    def emu(self, px: float) -> int:
        """Return a length in the units of a slide."""
        return round(px * self.scale * EMU_PER_PX)

    def points(self, px: float) -> float:
        return px * self.scale * _POINTS_PER_PX

    def place(self, x: float, y: float) -> tuple[int, int]:
        return round((self.x + self.scale * x) * EMU_PER_PX), round((self.y + self.scale * y) * EMU_PER_PX)

    def frame(self, x: float, y: float, width: float, height: float, more: str = "", angle: float = 0.0) -> str:
        """Return where a shape stands, as an element; ``angle`` turns it about its middle, in degrees."""
        left, top = self.place(x, y)
        turned = f' rot="{round(angle * DEGREE)}"' if angle else ""
        size = f'<a:ext cx="{max(0, self.emu(width))}" cy="{max(0, self.emu(height))}"/>'
        return f'<a:xfrm{turned}{more}><a:off x="{left}" y="{top}"/>{size}</a:xfrm>'
