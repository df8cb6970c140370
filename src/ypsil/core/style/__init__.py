"""House style: the palette, type and colours that make a report look like its owner's, on any ground."""

from ypsil.core.style.cards import Card, CardManner
from ypsil.core.style.grounds import TONES, Ground, on_ground, tone
from ypsil.core.style.house import HouseStyle

__all__ = ["TONES", "Card", "CardManner", "Ground", "HouseStyle", "on_ground", "tone"]
