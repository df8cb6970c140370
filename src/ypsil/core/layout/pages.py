"""Pages that are filled one after the other, or one without an end."""

from __future__ import annotations

from dataclasses import dataclass, field

from ypsil.core.document.model import PageFormat


@dataclass(frozen=True, slots=True)
class PagePlace:
    """A page among all that stand one below the other: where it starts and how high it is, in px."""

    y: float
    height: float

    @property
    def foot(self) -> float:
        """Where the next page starts."""
        return self.y + self.height


@dataclass(slots=True)
class Pages:
    """The pages so far, and how far down the last one is filled. Where the format is open there is one."""

    format: PageFormat
    filled: float = 0.0
    _tops: list[float] = field(default_factory=lambda: [0.0])

    def __post_init__(self) -> None:
        self.filled = self.format.margins.top

    @property
    def number(self) -> int:
        """The last page's number, from 0."""
        return len(self._tops) - 1

    @property
    def top(self) -> float:
        """Where the last page's margins leave room from."""
        return self._tops[-1] + self.format.margins.top

    @property
    def is_fresh(self) -> bool:
        """Whether nothing stands on the last page yet."""
        return self.filled <= self.top

    def has_room_for(self, foot: float) -> bool:
        """Tell whether the last page reaches down to ``foot`` (px from the top of the first)."""
        inner = self.format.inner_height
        return inner is None or foot <= self.top + inner + 0.01

    def turn(self) -> float:
        """Start a new page; return where its margins leave room from. A page that holds more than its height is as
        high as that needs."""
        self._tops.append(self._foot())
        self.filled = self.top
        return self.top

    def places(self) -> tuple[PagePlace, ...]:
        """Return where each page stands."""
        ends = [*self._tops[1:], self._foot()]
        return tuple(PagePlace(top, end - top) for top, end in zip(self._tops, ends, strict=True))

    def _foot(self) -> float:
        needed = self.filled + self.format.margins.bottom
        return needed if self.format.height is None else max(self._tops[-1] + self.format.height, needed)
