"""Where things lead: to an address, or to a band of the same page."""

from __future__ import annotations

from dataclasses import dataclass
from urllib.parse import urlsplit

_SCHEMES = ("http", "https", "mailto", "tel")
_BAND = "#"


@dataclass(frozen=True, slots=True)
class Played:
    """What can be played: where it is, whether it is heard only, what it is called and what is said in it."""

    address: str
    is_sound: bool
    title: str
    words: str


def address_problem(address: str) -> str:
    """Return why an address leads nowhere, or an empty string.

    >>> address_problem("https://example.org/visits"), address_problem("mailto:desk@example.org")
    ('', '')
    >>> address_problem("javascript:alert(1)")
    'This leads nowhere: an address begins with https://, http://, mailto: or tel:.'
    """
    wrong = "This leads nowhere: an address begins with https://, http://, mailto: or tel:."
    try:
        parts = urlsplit(address.strip())
    except ValueError:
        return wrong
    if parts.scheme not in _SCHEMES or any(letter.isspace() for letter in address.strip()):
        return wrong
    if parts.scheme in ("http", "https") and not parts.hostname:
        return wrong
    return "" if parts.scheme in ("http", "https") or parts.path else wrong


def host_of(address: str) -> str:
    """Return the host of an address as people say it, or nothing.

    >>> host_of("https://www.example.org/film.mp4"), host_of("nothing")
    ('example.org', '')
    """
    try:
        return (urlsplit(address.strip()).hostname or "").removeprefix("www.")
    except ValueError:
        return ""


def band_of(leads_to: str) -> str:
    """Return the id of the band that something leads to; nothing where it leads elsewhere."""
    return leads_to[len(_BAND) :] if leads_to.startswith(_BAND) else ""
