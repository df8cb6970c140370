"""What pages of this installation may show in place of a tile."""

from __future__ import annotations

from django.conf import settings

from ypsil.core.reading import Hosts
from ypsil.core.tiles import AnyTile


def hosts() -> Hosts:
    """Return the hosts that whoever runs this Ypsil lets pages show."""
    return Hosts(tuple(settings.MEDIA_HOSTS), tuple(settings.FRAME_HOSTS))


def not_shown(tile: AnyTile) -> str:
    """Return what its author is told where readers are led to what could be shown in its place."""
    if hosts().shows(tile) or not (tile.plays() or tile.frames()):
        return ""
    return (
        "Readers are led to this address. To show it here, whoever runs this Ypsil adds its host to those that pages "
        f"may show ({'MEDIA_HOSTS' if tile.plays() else 'FRAME_HOSTS'})."
    )
