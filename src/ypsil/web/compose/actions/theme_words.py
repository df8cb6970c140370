"""Put words of a tile into a theme of its table."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import Http404

from ypsil.core.tiles import as_visual
from ypsil.web.accounts.services import User
from ypsil.web.compose import tile_themes
from ypsil.web.compose.services import report_for
from ypsil.web.gather.services import Arrival, tables_of


@dataclass(frozen=True, slots=True)
class WordsRequest:
    """The words that are ticked beside a tile, and the theme they are about."""

    tile: str
    theme: str
    terms: list[str]


def theme_words(asker: User, uid: str, wanted: WordsRequest) -> tuple[str, Arrival | None]:
    """Put words into a theme; return what was done, and the background work where it takes long.

    Raises QuestionRefused or StepRefused, with nothing changed.
    """
    tile = as_visual(report_for(asker, uid).read().tile(wanted.tile))
    table = tables_of(asker).filter(uid=tile.table).first() if tile else None
    if tile is None or table is None:
        raise Http404
    return tile_themes.put(tile, table, asker, wanted.theme, wanted.terms)
