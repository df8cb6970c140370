"""A change of mind: another template for a report that is there already. All that somebody made stays: what has a place
on the new page stands in it, and what has none waits in the tray."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Sequence, Set

from ypsil.core.document.model import Frame, new_id
from ypsil.core.draft import Draft
from ypsil.core.report.document import MAX_TILES_IN_BAND, Band, ReportBody
from ypsil.core.templates.leading import leading_anew
from ypsil.core.tiles import AnyTile, as_text, as_visual
from ypsil.core.tiles.leading import band_of

TRAY = "What found no place"
_COLUMNS_OF_TRAY = 3
_SHORT_ROWS = 24


def switched(report: ReportBody, made: Draft, *, with_style: bool = True) -> ReportBody:
    """Return a report on the page of a draft: its own tiles in the places that ask the same or are of their role, those
    of the draft in the others, in the tray what is left. Its title stays; ``with_style`` it is dressed as the draft.

    A draft for another page format changes the format, too.
    """
    own = list(_own(report))
    taken: set[str] = set()
    names = {band.id: new_id() for band in made.body.bands}
    laid = [
        band.model_copy(update={"id": names[band.id], "tiles": tuple(_placed(band.tiles, own, taken, names))})
        for band in made.body.bands
    ]
    bands = _still_leading(report, leading_anew(laid, names, but=taken), taken)
    left = [tile for tile in own if tile.id not in taken and not _goes(tile)]
    update = {"page": made.body.page, "bands": (*bands, *_tray(left, made.body))}
    if with_style:
        update |= {"style": made.body.style, "cards": made.body.cards, "icons": made.body.icons}
    return report.model_copy(update=update)


def _still_leading(report: ReportBody, bands: Sequence[Band], own: Set[str]) -> list[Band]:
    """Return bands in which own tiles that led to a band of the report lead to where most of that stands now, which is
    never the tray."""
    stands = {tile.id: band.id for band in bands for tile in band.shown()}
    now: dict[str, str] = {}
    for band in report.bands:
        found: Counter[str] = Counter()
        for tile in band.shown():
            if tile.id in stands:
                # What is drawn says more of what a band is about than a line of words.
                found[stands[tile.id]] += 2 if as_visual(tile) is not None else 1
        if found:
            now[band.id] = found.most_common(1)[0][0]

    def led(tile: AnyTile) -> AnyTile:
        band = now.get(band_of(tile.leads_to), "") if tile.id in own else ""
        return tile.model_copy(update={"leads_to": f"#{band}"}) if band else tile

    return [band.model_copy(update={"tiles": tuple(map(led, band.tiles))}) for band in bands]


def _own(report: ReportBody) -> Iterator[AnyTile]:
    """Yield what stands in the bands of a report, those in its tray last; groups stay whole."""
    for band in sorted(report.bands, key=lambda band: band.is_tray):
        yield from band.tiles


def _goes(tile: AnyTile) -> bool:
    """Tell whether a tile may go: it keeps a place that nobody has filled, or an earlier template put it there as a
    form, and nobody has changed that."""
    return tile.is_open() or tile.names_sources or (bool(tile.why) and tile.decorates())


def _placed(
    places: Iterable[AnyTile], own: Sequence[AnyTile], taken: set[str], names: dict[str, str]
) -> Iterator[AnyTile]:
    """Yield the tiles of a band: in each place somebody's own tile where there is one for it; note what each is called
    now."""
    for place in places:
        fits = next((test(place) for test in _TESTS if test(place) is not None), None)
        found = next((tile for tile in own if tile.id not in taken and fits(tile)), None) if fits else None
        if found is None:
            names[place.id] = new_id()
            yield place.model_copy(update={"id": names[place.id]})
        else:
            names[place.id] = found.id
            taken.add(found.id)
            yield found.model_copy(update={"place": place.place, "card": found.card or place.card})


Test = Callable[[AnyTile], bool]


def _asks_the_same(place: AnyTile) -> Test | None:
    """Return whether a tile asks what a visual of the draft asks, however it is drawn."""
    shown = as_visual(place)
    if shown is None:
        return None
    asked = (shown.table, shown.question.digest())

    def fits(tile: AnyTile) -> bool:
        own = as_visual(tile)
        return own is not None and (own.table, own.question.digest()) == asked

    return fits


def _says_so(place: AnyTile) -> Test | None:
    """Return whether a tile holds words for a place: those that it has already, or somebody's own of its role where it
    still asks for some. What a draft wrote is not taken for somebody's own."""
    text = as_text(place)
    if text is None:
        return None

    def fits(tile: AnyTile) -> bool:
        own = as_text(tile)
        if own is None or own.is_open():
            return False
        if own.plain.strip() == text.plain.strip():
            return True
        return text.is_open() and own.role == text.role and not own.why

    return fits


def _names_sources(place: AnyTile) -> Test | None:
    return (lambda tile: tile.names_sources) if place.names_sources else None


_TESTS: tuple[Callable[[AnyTile], Test | None], ...] = (_asks_the_same, _says_so, _names_sources)


def _tray(left: Sequence[AnyTile], like: ReportBody) -> Iterator[Band]:
    """Yield the band that holds what is left, small and side by side."""
    if not left:
        return
    page = like.page
    width = page.columns // _COLUMNS_OF_TRAY
    for start in range(0, len(left), MAX_TILES_IN_BAND):
        tiles = []
        for place, tile in enumerate(left[start : start + MAX_TILES_IN_BAND]):
            row, column = divmod(place, _COLUMNS_OF_TRAY)
            frame = Frame(
                column=column * width, row=row * (_SHORT_ROWS + page.row_gap), width=width, height=_SHORT_ROWS
            )
            tiles.append(tile.model_copy(update={"place": frame}) if not tile.holds else tile)
        yield Band(id=new_id(), message=TRAY, is_tray=True, tiles=tuple(_below_each_other(tiles)))


def _below_each_other(tiles: Sequence[AnyTile]) -> Iterator[AnyTile]:
    """Yield tiles and groups so that none lies on another: groups, which keep their size, below all others."""
    foot = max((tile.place.row + tile.place.height for tile in tiles if tile.place and not tile.holds), default=0)
    for tile in tiles:
        if tile.holds and tile.place is not None:
            yield tile.model_copy(update={"place": tile.place.model_copy(update={"row": foot, "layer": 0})})
            foot += tile.place.height
        else:
            yield tile
