"""What readers press on a published page: what unfolds, is played or is framed in its place."""

from __future__ import annotations

from urllib.parse import urlsplit

from django.conf import settings
from django.utils.html import escape, format_html
from django.utils.safestring import SafeString, mark_safe

from ypsil.core.drawing.fills import AddressOf
from ypsil.core.prose import Prose
from ypsil.core.render import TileView
from ypsil.core.tiles import AnyTile
from ypsil.web.compose.prose_markup import prose_markup

# A page of others runs its own scripts, and nothing of this one.
_SANDBOX = "allow-scripts allow-same-origin allow-forms allow-popups"


def is_allowed(address: str, hosts: list[str]) -> bool:
    """Tell whether an address is one of those that this installation lets pages show: of a host, or below it."""
    parts = urlsplit(address)
    host = parts.hostname or ""
    return parts.scheme == "https" and any(host == one or host.endswith(f".{one}") for one in hosts)


def is_shown_in_place(tile: AnyTile) -> bool:
    """Tell whether readers are shown in its place what a tile leads to."""
    played = tile.plays()
    if played is not None:
        return is_allowed(played.address, settings.MEDIA_HOSTS)
    return bool(tile.frames()) and is_allowed(tile.frames(), settings.FRAME_HOSTS)


def not_shown(tile: AnyTile) -> str:
    """Return what its author is told where readers are led to what could be shown in its place."""
    if is_shown_in_place(tile) or not (tile.plays() or tile.frames()):
        return ""
    return (
        "Readers are led to this address. To show it here, whoever runs this Ypsil adds its host to those that pages "
        f"may show ({'MEDIA_HOSTS' if tile.plays() else 'FRAME_HOSTS'})."
    )


def shown_in_place(view: TileView, address_of: AddressOf) -> SafeString:
    """Return the player or the frame of a tile, with its words; nothing where it has none here."""
    tile = view.tile
    if not view.context.for_readers or not is_shown_in_place(tile):
        return mark_safe("")
    played = tile.plays()
    if played is None:
        return format_html(
            '<iframe class="in-place" src="{}" title="{}" sandbox="{}" referrerpolicy="no-referrer" loading="lazy" '
            "allowfullscreen></iframe>",
            tile.frames(),
            tile.label(),
            _SANDBOX,
        )
    kind = "audio" if played.is_sound else "video"
    picture = next((view.context.pictures[name] for name in tile.pictures() if name in view.context.pictures), None)
    poster = f' poster="{escape(address_of(picture))}"' if picture is not None and not played.is_sound else ""
    player = (
        f'<{kind} class="in-place" controls preload="none" src="{escape(played.address)}"{poster} '
        f'aria-label="{escape(played.title)}"></{kind}>'
    )
    return mark_safe(player + words_of(played.title, played.words))


def words_of(title: str, words: str) -> SafeString:
    """Return what is said in a film or a sound, to be unfolded below it."""
    if not words:
        return mark_safe("")
    return format_html(
        '<details class="in-words"><summary lang="en">In words<span class="visually-hidden">: {}</span></summary>'
        '<div class="unfolded" tabindex="0" role="region" aria-label="In words: {}">{}</div></details>',
        title,
        title,
        prose_markup(Prose.of(words), (), in_line=False),
    )


def unfolding(drawing: SafeString, head: str, prose: Prose) -> SafeString:
    """Return a heading that unfolds what stands behind it."""
    return format_html(
        '<details class="unfolding"><summary>{}<span class="spoken">{}</span></summary><div class="unfolded">{}</div>'
        "</details>",
        drawing,
        head,
        prose_markup(prose, (), in_line=False),
    )
