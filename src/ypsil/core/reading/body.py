"""What stands on a page for its readers, band by band, with the numbers behind each drawing."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.fills import AddressOf
from ypsil.core.drawing.pictures import data_address
from ypsil.core.drawing.svg import escaped
from ypsil.core.reading.pressed import NOBODY, Hosts, shown_in_place
from ypsil.core.reading.tiles import body_of, card_of, ground_of
from ypsil.core.render import BandView, Page, TileView, heading_levels
from ypsil.core.tiles import Drawn
from ypsil.core.visuals.shared.summary import numbers_table

# More rows than these are for a file.
SHOWN_NUMBERS = 200


def reading_body(
    page: Page,
    narrow: Mapping[str, Drawn] | None = None,
    *,
    address_of: AddressOf = data_address,
    hosts: Hosts = NOBODY,
    has_numbers: bool = True,
) -> str:
    """Return the bands of a page as HTML. Drawings in ``narrow``, by the ids of tiles, are shown on phones in place of
    the wide ones; ``address_of`` tells where the reader finds pictures; ``has_numbers`` whether the numbers behind
    drawings stand there as tables."""
    levels = heading_levels(page)
    sources = page.sources()
    at = "" if sources is None else sources.tile.id
    title = "" if levels else f'<h1 class="visually-hidden">{escaped(page.report.title)}</h1>\n'
    return title + "".join(
        _band(band, number, levels, narrow or {}, address_of, hosts, at, has_numbers=has_numbers)
        for number, band in enumerate(page.bands, 1)
    )


def _band(
    band: BandView,
    number: int,
    levels: Mapping[str, int],
    narrow: Mapping[str, Drawn],
    address_of: AddressOf,
    hosts: Hosts,
    sources_at: str,
    *,
    has_numbers: bool,
) -> str:
    name = band.band.id
    tiles = "".join(
        "".join(_tile(view, levels.get(view.tile.id, 0), narrow.get(view.tile.id), address_of, hosts, sources_at))
        + (_numbers_of(view) if has_numbers else "")
        + "</div>\n"
        for view in band.tiles
    )
    label = escaped(band.band.message or f"Part {number}")
    ground = ground_of(band, address_of)
    return (
        f'<section id="{name}" class="band b-{name}" aria-label="{label}">{ground}<div class="grid">\n'
        f"{tiles}</div></section>\n"
    )


def _tile(
    view: TileView, level: int, narrow: Drawn | None, address_of: AddressOf, hosts: Hosts, sources_at: str
) -> Iterator[str]:
    tile, label = view.tile, escaped(view.scene.name or view.tile.label())
    yield f'<div class="tile {tile.type} t-{tile.id}" id="at-{tile.id}">{card_of(view)}'
    yield body_of(view, level, narrow, address_of)
    inside = shown_in_place(view, address_of, hosts)
    yield inside
    goal = "" if inside else tile.leads()
    if goal:
        away = "" if goal.startswith("#") else ' rel="noopener nofollow"'
        yield f'<a class="leads" href="{escaped(goal)}"{away}><span class="visually-hidden">{label}</span></a>'
    points = tile.points(view.context)
    if points and sources_at:
        said = f'<span class="visually-hidden">Sources: {escaped(points)}</span>'
        yield f'<a class="cites" href="#at-{sources_at}">{said}</a>'


def _numbers_of(view: TileView) -> str:
    if view.drawn.answer is None or view.drawn.problem:
        return ""
    return _numbers(view.drawn.answer, escaped(view.scene.name or view.tile.label()))


def _numbers(answer: Answer, label: str) -> str:
    """Return the numbers behind a drawing as a table that unfolds; ``label`` is markup."""
    headings, rows = numbers_table(answer, SHOWN_NUMBERS)
    head = "".join(f'<th scope="col">{escaped(heading)}</th>' for heading in headings)
    cells = "".join(f"<tr>{''.join(f'<td>{escaped(cell)}</td>' for cell in row)}</tr>" for row in rows)
    return (
        f'<details class="numbers"><summary lang="en">Numbers<span class="visually-hidden">: {label}</span></summary>'
        f'<div class="scroll" tabindex="0" role="region" aria-label="Numbers: {label}">'
        f"<table><thead><tr>{head}</tr></thead><tbody>{cells}</tbody></table></div></details>"
    )
