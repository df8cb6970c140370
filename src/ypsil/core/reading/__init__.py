"""A page as HTML, as readers see it on screen, on a phone and without seeing: its tiles, their places, what can be
pressed, and the style sheet and the script that go with it.
"""

from ypsil.core.reading.body import SHOWN_NUMBERS, reading_body, tile_markups
from ypsil.core.reading.controls import FORM, has_control, stilled, with_refused
from ypsil.core.reading.direction import direction_of
from ypsil.core.reading.places import places_css
from ypsil.core.reading.pressed import NOBODY, Hosts, is_allowed, shown_in_place
from ypsil.core.reading.spoken import Heard, heard
from ypsil.core.reading.tiles import body_of, card_of, ground_of
from ypsil.core.reading.words import prose_markup

__all__ = [
    "FORM",
    "NOBODY",
    "SHOWN_NUMBERS",
    "Heard",
    "Hosts",
    "body_of",
    "card_of",
    "direction_of",
    "ground_of",
    "has_control",
    "heard",
    "is_allowed",
    "places_css",
    "prose_markup",
    "reading_body",
    "shown_in_place",
    "stilled",
    "tile_markups",
    "with_refused",
]
