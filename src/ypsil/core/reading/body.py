"""What stands on a page for its readers, band by band, with the numbers behind each drawing."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from ypsil.core.answers.model import Answer
from ypsil.core.drawing.fills import AddressOf
from ypsil.core.drawing.pictures import data_address
from ypsil.core.drawing.svg import escaped
from ypsil.core.reading.controls import FORM, choosing_links, choosing_marks, control_of, has_controls, with_refused
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
    is_asked: bool = False,
) -> str:
    """Return the bands of a page as HTML. Drawings in ``narrow``, by the ids of tiles, are shown on phones in place of
    the wide ones; ``address_of`` tells where the reader finds pictures; ``has_numbers`` whether the numbers behind
    drawings stand there as tables; ``is_asked`` whether there is somebody to answer what readers choose."""
    manner = _Manner(address_of, hosts, has_numbers, is_asked and has_controls(page))
    levels, at = heading_levels(page), _sources_at(page)
    title = "" if levels else f'<h1 class="visually-hidden">{escaped(page.report.title)}</h1>\n'
    bands = "".join(_band(band, number, levels, narrow or {}, manner, at) for number, band in enumerate(page.bands, 1))
    return title + (with_refused(bands, page.context.choices.problems) + FORM if manner.is_asked else bands)


def tile_markups(page: Page, narrow: Mapping[str, Drawn] | None = None) -> Iterator[tuple[str, str]]:
    """Yield the tiles of a page by their ids, each as it stands in ``reading_body`` where nobody is asked."""
    levels, at, manner = heading_levels(page), _sources_at(page), _Manner(data_address, NOBODY, True, False)
    for view in page.tiles():
        yield view.tile.id, _whole(view, levels, narrow or {}, manner, at)


def _sources_at(page: Page) -> str:
    sources = page.sources()
    return "" if sources is None else sources.tile.id


@dataclass(frozen=True, slots=True)
class _Manner:
    """Where the reader finds pictures and films, and what is there to be pressed."""

    address_of: AddressOf
    hosts: Hosts
    has_numbers: bool
    is_asked: bool


def _band(
    band: BandView,
    number: int,
    levels: Mapping[str, int],
    narrow: Mapping[str, Drawn],
    manner: _Manner,
    sources_at: str,
) -> str:
    name = band.band.id
    tiles = "".join(f"{_whole(view, levels, narrow, manner, sources_at)}\n" for view in band.tiles)
    label = escaped(band.band.message or f"Part {number}")
    ground = ground_of(band, manner.address_of)
    return (
        f'<section id="{name}" class="band b-{name}" aria-label="{label}">{ground}<div class="grid">\n'
        f"{tiles}</div></section>\n"
    )


def _whole(
    view: TileView, levels: Mapping[str, int], narrow: Mapping[str, Drawn], manner: _Manner, sources_at: str
) -> str:
    name = view.tile.id
    shown = "".join(_tile(view, levels.get(name, 0), narrow.get(name), manner, sources_at))
    return f"{shown}{_numbers_of(view, is_asked=manner.is_asked) if manner.has_numbers else ''}</div>"


def _tile(view: TileView, level: int, narrow: Drawn | None, manner: _Manner, sources_at: str) -> Iterator[str]:
    tile, label = view.tile, escaped(view.scene.name or view.tile.label())
    at_marks = choosing_marks(view) if manner.is_asked else None
    chooses = f' data-chooses="{escaped(view.context.choices.keys[at_marks.control.id])}"' if at_marks else ""
    yield f'<div class="tile {tile.type} t-{tile.id}"{chooses} id="at-{tile.id}">{card_of(view)}'
    yield (control_of(view) if manner.is_asked else "") or body_of(view, level, narrow, manner.address_of)
    inside = shown_in_place(view, manner.address_of, manner.hosts)
    yield inside
    goal = "" if inside else tile.leads()
    if goal:
        away = "" if goal.startswith("#") else ' rel="noopener nofollow"'
        yield f'<a class="leads" href="{escaped(goal)}"{away}><span class="visually-hidden">{label}</span></a>'
    points = tile.points(view.context)
    if points and sources_at:
        said = f'<span class="visually-hidden">Sources: {escaped(points)}</span>'
        yield f'<a class="cites" href="#at-{sources_at}">{said}</a>'


def _numbers_of(view: TileView, *, is_asked: bool) -> str:
    if view.drawn.answer is None or view.drawn.problem:
        return ""
    at_marks = choosing_marks(view) if is_asked else None
    links = choosing_links(view, at_marks) if at_marks else {}
    return _numbers(view.drawn.answer, escaped(view.scene.name or view.tile.label()), links)


def _numbers(answer: Answer, label: str, links: Mapping[str, str]) -> str:
    """Return the numbers behind a drawing as a table that unfolds; ``label`` is markup, ``links`` are the addresses
    that its groups lead to."""
    headings, rows = numbers_table(answer, SHOWN_NUMBERS)
    head = "".join(f'<th scope="col">{escaped(heading)}</th>' for heading in headings)

    def cell(place: int, said: str) -> str:
        goal = links.get(said) if not place else None
        return f'<a href="?{escaped(goal)}">{escaped(said)}</a>' if goal is not None else escaped(said)

    cells = "".join(f"<tr>{''.join(f'<td>{cell(*one)}</td>' for one in enumerate(row))}</tr>" for row in rows)
    return (
        f'<details class="numbers"><summary lang="en">Numbers<span class="visually-hidden">: {label}</span></summary>'
        f'<div class="scroll" tabindex="0" role="region" aria-label="Numbers: {label}">'
        f"<table><thead><tr>{head}</tr></thead><tbody>{cells}</tbody></table></div></details>"
    )
