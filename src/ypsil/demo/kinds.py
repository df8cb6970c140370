"""A page on which each kind of tile stands once, beside the visuals: to look up what there is, and for the guide."""

from __future__ import annotations

from typing import Any

from ypsil.core.report import Band, ReportBody, SourcesTile, TextTile
from ypsil.core.style.grounds import Ground
from ypsil.core.tiles import KINDS, AnyTile, ShapeTile
from ypsil.core.tiles.connector import ConnectorTile
from ypsil.core.tiles.details import DetailsTile
from ypsil.core.tiles.filter import filter_by
from ypsil.core.tiles.framed import FramedTile
from ypsil.core.tiles.ornament import OrnamentTile
from ypsil.core.tiles.played import PlayedTile
from ypsil.core.tiles.sources import TypedSource
from ypsil.demo.reports import place

_TOLD: tuple[tuple[str, str, str, dict[str, Any]], ...] = (
    ("In order", "Steps", "steps", {
        "look": "path",
        "entries": [
            {"head": "Collect", "text": "A box at each desk, all week", "sign": "line:inbox"},
            {"head": "Count", "text": "Two people, one evening", "sign": "line:calculator"},
            {"head": "Look twice", "text": "What is odd, and why?", "sign": "line:zoom"},
            {"head": "Say one thing", "text": "The message first", "sign": "line:message 2"},
            {"head": "Draw it", "text": "As plain as can be", "sign": "line:chart bar"},
            {"head": "Tell the board", "text": "On the second Monday", "sign": "line:users group"},
        ],
    }),
    ("In order", "What comes round again", "steps", {
        "look": "circle", "colours": "each",
        "entries": [
            {"head": "Ask", "sign": "line:help circle"}, {"head": "Listen", "sign": "line:ear"},
            {"head": "Change", "sign": "line:tools"}, {"head": "Tell", "sign": "line:speakerphone"},
        ],
    }),
    ("In order", "A timeline by true distance", "timeline", {
        "spacing": "true", "colours": "each",
        "entries": [
            {"figure": "1998", "head": "Old Mill opens", "sign": "line:home"},
            {"figure": "2004", "head": "A catalogue on the web"},
            {"figure": "2011-06", "head": "The book bus", "sign": "line:bus"},
            {"figure": "2018 – 2020", "head": "Renovation", "text": "Closed for two years"},
            {"figure": "2026-03", "head": "A million loans", "sign": "line:trophy"},
        ],
    }),
    ("In order", "Levels that narrow", "levels", {
        "look": "narrowing",
        "entries": [
            {"head": "Saw the poster", "figure": "4,200"}, {"head": "Came in", "figure": "1,900"},
            {"head": "Took a card", "figure": "820"}, {"head": "Borrowed a book", "figure": "760"},
        ],
    }),
    ("Side by side", "Sides compared", "sides", {
        "entries": [
            {"head": "By bus", "figure": "31 min", "text": "Every 20 minutes\nBy each school", "sign": "coloured:bus"},
            {"head": "By bicycle", "figure": "14 min", "text": "Its own lane\nNo waiting", "sign": "coloured:bicycle"},
            {"head": "On foot", "figure": "42 min", "text": "Quiet\nCosts nothing", "sign": "coloured:hiking boot"},
        ],
    }),
    ("Side by side", "Bars that face each other", "sides", {
        "look": "facing",
        "entries": [
            {"head": "Children", "text": "Picture books: 420\nComics: 310\nNovels: 120"},
            {"head": "Adults", "text": "Picture books: 35\nComics: 90\nNovels: 510"},
        ],
    }),
    ("Side by side", "Circles that overlap, true to size", "overlap", {
        "entries": [
            {"head": "Books", "figure": "620"}, {"head": "Films", "figure": "310"}, {"head": "Games", "figure": "240"},
            {"head": "Books + Films", "figure": "140"}, {"head": "Books + Games", "figure": "90"},
            {"head": "Films + Games", "figure": "80"},
        ],
    }),
    ("Side by side", "Parts of a whole", "parts", {
        "whole": "What the library does",
        "entries": [
            {"head": "Opens", "text": "Hours\nWarm rooms", "sign": "line:door"},
            {"head": "Lends", "text": "Books\nFilms\nGames", "sign": "line:books"},
            {"head": "Brings together", "text": "Readings\nSchool visits", "sign": "line:users"},
        ],
    }),
    ("In words", "Questions and answers", "answers", {
        "look": "cards", "in_columns": 2,
        "entries": [
            {"head": "Does a card cost anything?", "text": "No. Cards are free for everybody who lives here."},
            {"head": "May I only sit and read?", "text": "Please do. There are warm chairs and free water."},
        ],
    }),
    ("In words", "A list with signs", "points", {
        "in_columns": 3, "colours": "each",
        "entries": [
            {"head": "Longer Saturdays", "text": "Open until six", "sign": "line:clock"},
            {"head": "A quiet room", "text": "Asked for most", "sign": "line:headphones"},
            {"head": "Large print", "text": "Two shelves more", "sign": "line:eyeglass"},
        ],
    }),
    ("In words", "A checklist", "points", {
        "marked": "boxes", "in_columns": 2,
        "entries": [{"head": "Numbers checked"}, {"head": "Sources named"}, {"head": "Read aloud once"},
                    {"head": "Shown to somebody"}],
    }),
    ("In words", "A quote", "quote", {
        "entries": [{"head": "I come for the warmth and stay for the books.", "figure": "A reader at Alder Lane",
                     "text": "in the spring survey", "sign": "coloured:woman red hair"}],
    }),
    ("In words", "People", "people", {
        "colours": "each",
        "entries": [
            {"head": "Ida Fenn", "figure": "Chair", "sign": "coloured:woman teacher"},
            {"head": "Tam Marsh", "figure": "Treasurer", "sign": "line:coins"},
            {"head": "Lu Birch", "figure": "Volunteer"},
        ],
    }),
    ("In words", "A callout", "callout", {
        "meaning": "idea",
        "entries": [{"head": "One page, one message", "text": "What should somebody remember tomorrow?"}],
    }),
    ("In words", "A key", "key", {
        "entries": [{"head": "Adults"}, {"head": "Children"}, {"head": "Schools"}],
    }),
)  # fmt: skip
_SIGNS = (
    {"type": "sign", "sign": "line:books", "plate": "circle", "plate_colour": "accent", "colour": "paper"},
    {"type": "sign", "sign": "coloured:open book"},
    {"type": "shape", "form": "star", "text": "New", "fill": "second"},
    {"type": "code", "address": "https://example.org/libraries", "caption": "A code to scan"},
)


def kinds_page(picture: str, visits: str) -> ReportBody:
    """Return a page with each kind once."""
    bands = [_cover()]
    for name, ground in (("In order", None), ("Side by side", Ground(colour="wash")), ("In words", None)):
        tiles: list[AnyTile] = [TextTile(role="heading", text=name, place=place(0, 0, 24, 5))]
        row = 6
        for band, label, kind, content in _TOLD:
            if band == name:
                tiles.append(TextTile(role="label", text=label, colour="quiet", place=place(0, row, 24, 4)))
                told = KINDS[kind].model_validate({"type": kind, **content})
                tiles.append(told.model_copy(update={"place": place(0, row + 4, 24, 10)}))
                row += 17
        bands.append(Band(message=name, ground=ground, tiles=tuple(tiles)))
    return ReportBody(
        title="Sampler: what can stand on a page",
        bands=(*bands, _signs(picture), _pressed(picture, visits), _foot(picture)),
    )


def _cover() -> Band:
    text = "What can stand on a page beside charts: typed, or one for each row of a table."
    return Band(
        message="Sampler",
        ground=Ground(colour="deep"),
        padding=4,
        tiles=(
            TextTile(role="title", text="What can stand on a page", place=place(0, 0, 24, 8)),
            TextTile(role="lead", text=text, place=place(0, 9, 22, 6)),
        ),
    )


def _signs(picture: str) -> Band:
    shown = [
        KINDS[str(one["type"])].model_validate({**one, "place": place(6 * at, 6, 5, 22).model_dump()})
        for at, one in enumerate(_SIGNS)
    ]
    content = {"type": "picture", "picture": picture, "alt": "Two shelves full of books.", "frame": "arch"}
    framed = KINDS["picture"].model_validate({**content, "place": place(0, 32, 10, 30).model_dump()})
    heading = TextTile(role="heading", text="Signs, shapes, pictures, connectors", place=place(0, 0, 24, 5))
    return Band(
        message="Signs, shapes, pictures",
        ground=Ground(colour="tint"),
        tiles=(heading, *shown, framed, *_connected()),
    )


def _connected() -> list[AnyTile]:
    """Return three shapes in a round, each led to the next."""
    round_of = (("Ask", place(12, 36, 5, 8)), ("Count", place(19, 36, 5, 8)), ("Tell", place(15, 52, 5, 8)))
    shapes = [ShapeTile(form="pill", text=text, fill="accent", place=at) for text, at in round_of]
    ask, count, tell = shapes
    lines = [
        ConnectorTile(from_tile=ask.id, to_tile=count.id, way="straight"),
        ConnectorTile(from_tile=count.id, to_tile=tell.id, from_side="foot", to_side="right", way="curve"),
        ConnectorTile(from_tile=tell.id, to_tile=ask.id, from_side="left", to_side="foot", dash="dotted"),
    ]
    return [*shapes, *lines]


def _pressed(picture: str, visits: str) -> Band:
    tiles = (
        TextTile(role="heading", text="Something to press", place=place(0, 0, 24, 5)),
        OrnamentTile(ornament="leaves", colour="second", place=place(0, 6, 24, 4)),
        ShapeTile(form="pill", text="To the sources", fill="accent", leads_to="#sources", place=place(0, 12, 8, 6)),
        DetailsTile(
            head="How was this counted?",
            says="By hand at each desk, then twice more by two people who did not know of each other.",
            place=place(9, 12, 15, 6),
        ),
        PlayedTile(
            address="https://films.example.org/tour.mp4",
            title="A tour of the new reading room",
            picture=picture,
            alt="The camera goes round two shelves.",
            words="Welcome to the reading room. These shelves are new.",
            place=place(0, 22, 11, 32),
        ),
        FramedTile(
            address="https://maps.example.org/branches",
            title="Where the branches are",
            alt="A map with nine branches.",
            place=place(12, 22, 12, 32),
        ),
        filter_by(visits, "Branch", place=place(0, 58, 8, 11)),
    )
    return Band(message="Something to press", ground=Ground(colour="wash", pattern="dots"), tiles=tiles)


def _foot(picture: str) -> Band:
    typed = TypedSource(words="Handbook of the libraries, https://example.org/handbook")
    foot = SourcesTile(
        look="list",
        more=(typed,),
        made_by="Made by the Brackenshire Libraries",
        logo=picture,
        names_icons=True,
        names_type=True,
        place=place(0, 0, 24, 14),
    )
    return Band(id="sources", message="Sources", tiles=(foot,))
