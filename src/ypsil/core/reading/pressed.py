"""What readers press on a published page: what unfolds, is played or is framed in its place."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from urllib.parse import urlsplit

from ypsil.core.drawing.fills import AddressOf
from ypsil.core.drawing.svg import escaped
from ypsil.core.prose import Prose
from ypsil.core.reading.words import prose_markup
from ypsil.core.render import TileView
from ypsil.core.tiles import AnyTile

# A page of others runs its own scripts, and nothing of this one.
_SANDBOX = "allow-scripts allow-same-origin allow-forms allow-popups"


@dataclass(frozen=True, slots=True)
class Hosts:
    """Whose films and sounds, and whose pages, readers may be shown in the place of a tile."""

    media: tuple[str, ...] = ()
    frames: tuple[str, ...] = ()

    def shows(self, tile: AnyTile) -> bool:
        """Tell whether readers are shown in its place what a tile leads to."""
        played = tile.plays()
        if played is not None:
            return is_allowed(played.address, self.media)
        return bool(tile.frames()) and is_allowed(tile.frames(), self.frames)


NOBODY = Hosts()


def is_allowed(address: str, hosts: Sequence[str]) -> bool:
    """Tell whether an address is one of those that pages may show: of a host, or below it.

    >>> is_allowed("https://films.example.org/a", ["example.org"]), is_allowed("https://other.org/", ["example.org"])
    (True, False)
    """
    parts = urlsplit(address)
    host = parts.hostname or ""
    return parts.scheme == "https" and any(host == one or host.endswith(f".{one}") for one in hosts)


def shown_in_place(view: TileView, address_of: AddressOf, hosts: Hosts) -> str:
    """Return the player or the frame of a tile, with its words; nothing where it has none here."""
    tile = view.tile
    if not view.context.for_readers or not hosts.shows(tile):
        return ""
    played = tile.plays()
    if played is None:
        return (
            f'<iframe class="in-place" src="{escaped(tile.frames())}" title="{escaped(tile.label())}" '
            f'sandbox="{_SANDBOX}" referrerpolicy="no-referrer" loading="lazy" allowfullscreen></iframe>'
        )
    kind = "audio" if played.is_sound else "video"
    picture = next((view.context.pictures[name] for name in tile.pictures() if name in view.context.pictures), None)
    poster = (
        f' poster="{escaped(address_of(picture, view.scene.width))}"'
        if picture is not None and not played.is_sound
        else ""
    )
    player = (
        f'<{kind} class="in-place" controls preload="none" src="{escaped(played.address)}"{poster} '
        f'aria-label="{escaped(played.title)}"></{kind}>'
    )
    return player + words_of(played.title, played.words)


def words_of(title: str, words: str) -> str:
    """Return what is said in a film or a sound, to be unfolded below it."""
    if not words:
        return ""
    said, told = escaped(title), prose_markup(Prose.of(words), (), in_line=False)
    return (
        f'<details class="in-words"><summary lang="en">In words<span class="visually-hidden">: {said}</span></summary>'
        f'<div class="unfolded" tabindex="0" role="region" aria-label="In words: {said}">{told}</div></details>'
    )


def unfolding(drawing: str, head: str, prose: Prose) -> str:
    """Return a heading, drawn for the eye, that unfolds what stands behind it."""
    told = prose_markup(prose, (), in_line=False)
    return (
        f'<details class="unfolding"><summary>{drawing}<span class="spoken">{escaped(head)}</span></summary>'
        f'<div class="unfolded">{told}</div></details>'
    )
