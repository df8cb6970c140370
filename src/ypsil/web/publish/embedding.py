"""A report, or a band or a tile of it, within the pages of other sites: which may, what they are given."""

from __future__ import annotations

import re
from dataclasses import dataclass
from urllib.parse import urlsplit

from django.templatetags.static import static
from django.urls import reverse
from django.utils.html import escape

from ypsil.core.errors import YpsilError
from ypsil.core.reading import FORM, has_control
from ypsil.web.publish.models import Publication

MOST_SITES = 30
ANY = "*"
_SECTION = '<section id="{}" class="band '
_TILE = '<div class="tile '
_VIEW_BOX = re.compile(r'viewBox="0 0 ([\d.]+) ([\d.]+)"')
_NAME = re.compile(r"[a-z0-9]{1,16}")


def sites_typed(typed: str) -> list[str]:
    """Return the sites that somebody typed, apart by lines, commas or spaces, as origins (RFC 6454); raises YpsilError
    for what is none.

    >>> sites_typed("www.school.example, http://localhost:8000/page")
    ['https://www.school.example', 'http://localhost:8000']
    """
    found = []
    for part in typed.replace(",", " ").split():
        if part == ANY:
            return [ANY]
        parts = urlsplit(part if "://" in part else f"https://{part}")
        try:
            port = parts.port
        except ValueError:
            port = -1
        host = parts.hostname or ""
        is_host = re.fullmatch(r"(?:[a-z0-9-]+\.)*[a-z0-9-]+", host) is not None
        # A word alone is a host only to whoever says how it is reached.
        is_host = is_host and ("://" in part or "." in host or host == "localhost")
        if parts.scheme not in ("http", "https") or not is_host or port == -1:
            raise YpsilError(f"“{part[:80]}” is no site", remedy="give its address, such as https://www.school.example")
        found.append(f"{parts.scheme}://{host}{f':{port}' if port else ''}")
    if len(found) > MOST_SITES:
        raise YpsilError(f"at most {MOST_SITES} sites are named", remedy="give * for any")
    return list(dict.fromkeys(found))


def can_embed(publication: Publication) -> bool:
    """Tell whether any site may show a report within its pages: those within are known to nobody, so that it must be
    open to anyone with the link."""
    return publication.audience == Publication.Audience.LINK and not publication.password and bool(publication.sites)


@dataclass(frozen=True, slots=True)
class Piece:
    """What is shown of a page within another: its markup, and, of a single tile, its size in px and a style sheet."""

    body: str
    width: float = 0.0
    height: float = 0.0

    @property
    def css(self) -> str:
        """The style sheet of a tile that stands alone: it fills its page, in the type that it has on its own."""
        if not self.width:
            return ""
        rows = max(1, round(self.height / 8))
        return (
            f".page{{--wide:{self.width:g}!important;--columns:1!important;--left:0!important;--right:0!important;"
            f"--row:8!important;--padding:0!important;--foot:0!important;max-width:none!important}}"
            f".tile{{grid-column:1!important;grid-row:1/span {rows}!important;--dx:0!important;--dy:0!important}}"
        )


def piece_of(body: str, part: str) -> Piece | None:
    """Return what stands in the body of a released page of a band or a tile, by its id; None where there is no such
    part."""
    if not part:
        return Piece(body)
    if not _NAME.fullmatch(part):
        return None
    start = body.find(_SECTION.format(part))
    if start >= 0:
        return Piece(_with_form(body[start : body.index("</section>", start) + len("</section>")]))
    named = body.find(f' id="at-{part}">')
    start = body.rfind(_TILE, 0, named) if named >= 0 else -1
    if start < 0:
        return None
    following = [place for end in (f"\n{_TILE}", "\n</div></section>") if (place := body.find(end, start)) >= 0]
    tile = body[start : min(following)]
    # The first is that of its card, or of its drawing where it has none.
    size = _VIEW_BOX.search(tile)
    wide, high = (float(size[1]), float(size[2])) if size else (400.0, 300.0)
    # It stands on the ground of its own band: what is written on it is in the colours for that.
    head = body[body.rfind("<section ", 0, start) : start]
    ground = head[head.index(">") + 1 : head.index('<div class="grid">')]
    return Piece(_with_form(f'<section class="band">{ground}<div class="grid">\n{tile}\n</div></section>'), wide, high)


def _with_form(piece: str) -> str:
    """Return a part of a page with the form that its controls belong to, where it has any."""
    return piece + FORM if has_control(piece) else piece


def snippet(publication: Publication, site: str, part: str, title: str) -> str:
    """Return what somebody puts into a page of another site: a picture that leads to the report, which a small script
    replaces by the report itself."""
    page = site + reverse("published", args=[publication.token])
    within = site + reverse("embedded", args=[publication.token, *([part] if part else [])])
    picture = site + reverse("published-preview", args=[publication.token])
    script = site + static("ypsil/embed.js")
    return (
        f'<div data-ypsil="{escape(within)}"><a href="{escape(page)}"><img src="{escape(picture)}" '
        f'alt="{escape(title)}" width="1200" height="630" style="width:100%;height:auto"></a></div>\n'
        f'<script async src="{escape(script)}"></script>'
    )
