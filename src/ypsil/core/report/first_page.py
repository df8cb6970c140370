"""A first page of a table: its figures, how they change, who leads, what people say, and where it comes from."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ypsil.core.document.model import Frame, new_id
from ypsil.core.layout.reflow import reflow
from ypsil.core.report.arrangements.model import DRAWN_FOR, Find, Shown, asked_of
from ypsil.core.report.document import Band, ReportBody
from ypsil.core.style.cards import Card
from ypsil.core.style.grounds import Ground
from ypsil.core.tiles import AnyTile, SourcesTile, TextTile, VisualTile

_COLUMNS = DRAWN_FOR.columns
_FIGURE_ROWS, _CHART_ROWS = 25, 42
# A share stands beside the list of who leads, and leaves it two thirds.
_BESIDE = 8
_MOST_FIGURES = 4
_FIGURE = Shown((0, 0, 0, 0), "how much", "", ("kpi",))
_TREND = Shown((0, 0, 0, 0), "how it changes", "", ("line", "area", "column"))
_LEADS = Shown((0, 0, 0, 0), "who is biggest", "", ("bar", "ranked_list", "lollipop"))
_SHARE = Shown((0, 0, 0, 0), "share of a whole", "", ("ring", "percent_grid"), also="what people answered")
_SPREAD = Shown((0, 0, 0, 0), "how it spreads", "", ("histogram",))
_SAID = Shown((0, 0, 0, 0), "what people say", "", ("cloud",))
_HEAD = Ground(colour="deep", to="accent", way="slope")
_WASH = Ground(colour="wash")

Row = Sequence[tuple[AnyTile, int]]


def first_page(title: str, find: Find, like: ReportBody) -> ReportBody:
    """Return a report with a page of what is found in a table, in the format and the style of another. What the table
    has not is not on it; its title stands there to be changed into the message."""
    bands = [_head(title, like), *_found(find, like), _band("", [(SourcesTile(), _COLUMNS)], 4, like, _WASH)]
    return like.model_copy(update={"title": title, "bands": tuple(bands)})


def _head(title: str, like: ReportBody) -> Band:
    frames = [Frame(column=0, row=2, width=22, height=10), Frame(column=0, row=13, width=18, height=7)]
    texts = [
        TextTile(role="title", text=title),
        TextTile(role="lead", hint="What is the message, in a sentence or two?"),
    ]
    return _placed("Headline", texts, frames, like, _HEAD)


def _found(find: Find, like: ReportBody) -> Iterator[Band]:
    """Yield a band for each thing that the table has to say."""
    taken: set[str] = set()

    def one(wanted: Shown) -> list[VisualTile]:
        tile = find(wanted, taken)
        if tile is None:
            return []
        taken.add(asked_of(tile))
        return [tile]

    figures = [tile for _ in range(_MOST_FIGURES) for tile in one(_FIGURE)]
    if figures:
        on_cards = [tile.model_copy(update={"card": Card(fill="paper")}) for tile in figures]
        yield _band("In figures", [(tile, _COLUMNS // len(figures)) for tile in on_cards], _FIGURE_ROWS, like, _WASH)
    for trend in one(_TREND):
        yield _band("How it changes", [(trend, _COLUMNS)], _CHART_ROWS, like)
    leads, share = one(_LEADS), one(_SHARE)
    if leads or share:
        widths = [_COLUMNS - _BESIDE, _BESIDE] if leads and share else [_COLUMNS]
        yield _band("Who leads", list(zip([*leads, *share], widths, strict=True)), _CHART_ROWS, like)
    if not figures or not (leads or share):
        for spread in one(_SPREAD):
            yield _band("How it is spread", [(spread, _COLUMNS)], _CHART_ROWS, like)
    for said in one(_SAID):
        yield _band("What people say", [(said, _COLUMNS)], _CHART_ROWS, like)


def _band(message: str, row: Row, rows: int, like: ReportBody, ground: Ground | None = None) -> Band:
    """Return a band with tiles beside each other, each so many columns wide."""
    frames, column = [], 0
    for _, width in row:
        frames.append(Frame(column=column, row=0, width=width, height=rows))
        column += width
    return _placed(message, [tile for tile, _ in row], frames, like, ground)


def _placed(
    message: str, tiles: Sequence[AnyTile], frames: Sequence[Frame], like: ReportBody, ground: Ground | None
) -> Band:
    flowed = reflow(frames, DRAWN_FOR, like.page)
    put = tuple(
        tile.model_copy(update={"id": new_id(), "place": frame}) for tile, frame in zip(tiles, flowed, strict=True)
    )
    return Band(id=new_id(), message=message, ground=ground, tiles=put)
