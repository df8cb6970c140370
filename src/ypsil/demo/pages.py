"""Two pages of the sample scenario that are looked at from afar: an infographic for the public, and a dashboard for the
board. Both are made with what an author can do on screen."""

from __future__ import annotations

from typing import Any

from ypsil.core.document.page_formats import PAGE_FORMATS
from ypsil.core.prose import Prose
from ypsil.core.report import Band, PictureTile, ReportBody, ShapeTile, SourcesTile, TextTile, VisualTile
from ypsil.core.style.cards import Card, CardManner
from ypsil.core.style.grounds import Ground
from ypsil.core.tiles.code import CodeTile
from ypsil.core.tiles.details import DetailsTile
from ypsil.core.tiles.filter import filter_by
from ypsil.core.tiles.sourced import Cite
from ypsil.core.tiles.sources import TypedSource
from ypsil.core.tiles.told.answers import AnswersTile
from ypsil.core.tiles.told.callout import CalloutTile
from ypsil.core.tiles.told.entries import Entry
from ypsil.core.tiles.told.points import PointsTile
from ypsil.core.tiles.told.quote import QuoteTile
from ypsil.core.tiles.told.steps import StepsTile
from ypsil.core.tiles.told.timeline import TimelineTile
from ypsil.core.tiles.typed import Role
from ypsil.demo.reports import LAST_YEAR, PER_MONTH, place, visual
from ypsil.demo.sentences import first, live, sentence

_STEPS = (
    ("Come in", "Any branch, any day. Nothing to bring for a first look.", "line:door enter"),
    ("Get a card", "A name and an address are enough. Children need a grown-up beside them.", "line:id badge 2"),
    ("Take home", "Twenty things at a time, for three weeks.", "line:books"),
    ("Bring back", "To any branch, or to the book bus.", "line:bus"),
)
_NEXT = (
    ("Longer Saturdays", "Market Square and Alder Lane stay open until six from the spring on.", "line:clock"),
    ("A quiet room", "Readers asked for it more often than for anything else.", "line:headphones"),
    ("More large print", "Two shelves in every branch, chosen by readers.", "line:eyeglass"),
)
_YEAR = (
    ("2025-09", "Book bus on new roads", "Six more villages, every second week", "line:bus"),
    ("2025-11", "Night of stories", "Four hundred came in their pyjamas", "line:moon stars"),
    ("2026-03", "You told us", "The spring survey, in every branch", "line:message 2"),
    ("2026-07", "Summer game", "Children read eleven thousand books", "line:trophy"),
)
_ASKED = (
    ("Does a card cost anything?", "No. Cards are free for everybody who lives in Brackenshire."),
    ("What if a book is late?", "Tell us, and keep it for another week. There are no fines for children."),
    ("May I only sit and read?", "Please do. Every branch has warm chairs and free water."),
)
_SHELVES = "Two shelves full of books in many colours."


def _sum(column: str) -> dict[str, Any]:
    return {"stat": "sum", "column": column}


def _text(role: Role, text: str | Prose, at: tuple[int, int, int, int], **more: Any) -> TextTile:
    return TextTile(role=role, text=text, place=place(*at), **more)


_STICKER = Card(fill="second", corner=40, padding=6, has_shadow=True)


def public_page(visits: str, survey: str, shelves: str) -> ReportBody:
    """Return the year of Brackenshire Libraries as an infographic for whoever passes by."""
    return ReportBody(
        title="A year at your libraries",
        cards=CardManner(fill="paper", corner=14, padding=20, header="accent"),
        bands=(
            _cover(visits, shelves),
            _sides(visits),
            _steps(),
            _busiest(visits),
            _year(),
            _said(survey),
            _asked(),
            _next(),
            _foot(),
        ),
    )


def _foot() -> Band:
    counted = (
        "Visits are counted by the door, each time somebody comes in; staff are taken off by their hours.\n"
        "The survey lay on every desk for three weeks, on paper and as a link."
    )
    leaflet = TypedSource(words="Leaflet “How we count”, https://example.org/how-we-count")
    return Band(
        message="Sources",
        ground=Ground(colour="wash"),
        tiles=(
            DetailsTile(head="How was this counted?", says=counted, colour="paper", place=place(0, 0, 24, 6)),
            SourcesTile(
                made_by="Made by the Brackenshire Libraries.", more=(leaflet,), look="list", place=place(0, 8, 24, 12)
            ),
        ),
    )


def _cover(visits: str, shelves: str) -> Band:
    return Band(
        message="A year at your libraries",
        ground=Ground(colour="deep", to="accent", way="slope", pattern="rings"),
        padding=6,
        tiles=(
            _text("label", "Brackenshire Libraries", (0, 0, 14, 3)),
            _text("title", "The door opened all year, and children came most in summer", (0, 4, 21, 16)),
            _text("label", "10 branches and a book bus", (16, 0, 8, 5), align="middle", turn=4, card=_STICKER),
            visual(
                visits, "kpi", {"measures": [_sum("Visits")], "where": LAST_YEAR}, place(0, 22, 12, 26),
                options={"label": "visits in the last 12 months"},
            ),
            visual(
                visits, "area", {"measures": [_sum("Visits")], "per": PER_MONTH}, place(12, 22, 12, 26),
            ),
            PictureTile(picture=shelves, alt=_SHELVES, corner=14, place=place(0, 51, 24, 23)),
        ),
    )  # fmt: skip


def _sides(visits: str) -> Band:
    def side(kind: str, at: tuple[int, int, int, int], card: Card, **options: Any) -> VisualTile:
        where = [*LAST_YEAR, {"column": "Kind", "test": "in", "values": [kind]}]
        found = visual(visits, "kpi", {"measures": [_sum("Visits")], "where": where}, place(*at), options=options)
        return found.model_copy(update={"card": card})

    adults = Card(fill="second-tint", header="second", icon="person", says="Adults")
    children = Card(fill="third-tint", header="third", icon="balloon", says="Children")

    return Band(
        message="Adults and children",
        tiles=(
            _text("heading", "Two kinds of readers, one house", (0, 0, 24, 5)),
            side("Adult", (0, 6, 12, 23), adults, label="visits by adults"),
            side("Child", (12, 6, 12, 23), children, label="visits by children"),
            _text("body", _part_of(visits, "Adult", " of all visits. Adults come all year, most of all in autumn."),
                  (0, 31, 12, 7), colour="quiet"),
            _text("body", _part_of(visits, "Child", " of all visits. Children come when school is out, and stay for "
                  "the summer game."), (12, 31, 12, 7), colour="quiet"),
        ),
    )  # fmt: skip


def _part_of(visits: str, kind: str, rest: str) -> Prose:
    """Say which part of the year's visits one kind of readers makes."""
    where = [*LAST_YEAR, {"column": "Kind", "test": "in", "values": [kind]}]
    whole = {"measures": [_sum("Visits")], "where": LAST_YEAR}
    part = live(visits, _sum("Visits"), {"where": where}, against=whole, compared="share")
    return sentence((part, "bold"), rest)


def _entries(*told: tuple[str, ...], parts: tuple[str, ...]) -> tuple[Entry, ...]:
    """Return entries from what each says, in the order of some parts of an entry."""
    return tuple(Entry(**dict(zip(parts, one, strict=True))) for one in told)


def _steps() -> Band:
    steps = StepsTile(look="path", entries=_entries(*_STEPS, parts=("head", "text", "sign")), place=place(0, 7, 24, 18))
    heading = _text("heading", "Four steps to your first book", (0, 0, 24, 5))
    return Band(message="How to join", ground=Ground(colour="tint", pattern="confetti"), tiles=(heading, steps))


def _year() -> Band:
    events = _entries(*_YEAR, parts=("figure", "head", "text", "sign"))
    return Band(
        message="What happened",
        tiles=(
            _text("heading", "What happened along the way", (0, 0, 24, 5)),
            TimelineTile(entries=events, colours="each", place=place(0, 7, 24, 16)),
        ),
    )


def _asked() -> Band:
    return Band(
        message="What people ask us",
        ground=Ground(colour="wash"),
        tiles=(
            _text("heading", "What people ask us", (0, 0, 24, 5)),
            AnswersTile(entries=_entries(*_ASKED, parts=("head", "text")), look="letters", colours="each",
                        place=place(0, 7, 14, 30)),
            CalloutTile(
                meaning="watch",
                entries=(Entry(head="Closed from 24 to 27 December", text="The book boxes stay open day and night."),),
                place=place(15, 7, 9, 16),
            ),
            ShapeTile(form="rounded", fill="accent", text="Write to us", role="label", place=place(15, 25, 9, 6),
                      leads_to="mailto:desk@example.org"),
        ),
    )  # fmt: skip


def _busiest(visits: str) -> Band:
    return Band(
        message="Market Square is busiest",
        tiles=(
            _text(
                "heading",
                sentence(first(visits, _sum("Visits"), "Branch", LAST_YEAR), " is busiest, every branch is used"),
                (0, 0, 24, 5),
            ),
            visual(
                visits, "bar", {"measures": [_sum("Visits")], "per": [{"column": "Branch"}], "where": LAST_YEAR},
                place(0, 20, 24, 44), options={"emphasis": "Market Square"},
            ).model_copy(update={"cites": (Cite(table=visits),)}),
            filter_by(visits, "Kind", title="Who", takes="one", reach="band", place=place(0, 7, 8, 11)),
            filter_by(visits, "Area", title="Where", takes="one", reach="band", place=place(8, 7, 8, 11)),
        ),
    )  # fmt: skip


def _said(survey: str) -> Band:
    words = {"column": "Comment", "by": "word", "words": {"leave_out": ["please", "comment"], "find_phrases": "sure"}}
    share = {"stat": "share", "column": "Would recommend", "values": ["Yes"]}
    return Band(
        message="What readers say",
        ground=Ground(colour="third"),
        tiles=(
            _text("heading", "What you told us in the spring", (0, 0, 24, 5)),
            visual(
                survey, "cloud", {"measures": [{"stat": "count"}], "per": [words], "keep": 45}, place(0, 7, 15, 46),
                options={"seed": 3},
            ).model_copy(update={"card": Card(), "cites": (Cite(table=survey),)}),
            visual(
                survey, "ring", {"measures": [share]}, place(15, 7, 9, 46),
                options={"label": "of readers would recommend their library"},
            ),
            QuoteTile(
                entries=(Entry(head="I come for the warmth and stay for the books.", figure="A reader at Alder Lane",
                               text="in the spring survey", sign="coloured:woman red hair"),),
                look="bubble", place=place(3, 56, 18, 14),
            ),
        ),
    )  # fmt: skip


def _next() -> Band:
    return Band(
        message="What comes next",
        ground=Ground(colour="ink"),
        padding=5,
        tiles=(
            _text("heading", "What comes next", (0, 0, 24, 5)),
            PointsTile(entries=_entries(*_NEXT, parts=("head", "text", "sign")), colours="each",
                       place=place(0, 7, 16, 30)),
            CodeTile(address="https://example.org/libraries/survey", caption="Scan it, and tell us what you miss.",
                     place=place(18, 7, 6, 26)),
        ),
    )  # fmt: skip


def _for_the_board(visits: str) -> Prose:
    month = live(visits, _sum("Visits"), {"per": PER_MONTH}, take="name", pick="last")
    so_far = live(visits, _sum("Visits"), {"per": PER_MONTH}, pick="year_so_far", shown={"sign": "always"})
    return sentence("Brackenshire Libraries, ", (month, "bold"), " · visits this year so far ", (so_far, "bold"))


def board_page(visits: str, survey: str) -> ReportBody:
    """Return the dashboard for the board: one screen, the month at a glance."""
    at = {"per": PER_MONTH}
    cost = {"ratio": [_sum("Cost (£)"), _sum("Visits")], "name": "Cost per visit"}
    figures = (
        ("Visits", [_sum("Visits")], "up"),
        ("Loans", [_sum("Loans")], "up"),
        ("Events", [_sum("Events")], "up"),
        ("Cost per visit", [cost], "down"),
    )
    cards = tuple(
        visual(
            visits, "kpi", {"measures": measures, **at}, place(6 * number, 0, 6, 20),
            options={"label": label, "against": "year before", "good": good},
        ).model_copy(update={"card": Card()})
        for number, (label, measures, good) in enumerate(figures)
    )  # fmt: skip
    share = {"stat": "share", "column": "Would recommend", "values": ["Yes"]}
    charts = (
        visual(
            visits, "line", {"measures": [_sum("Visits")], "per": PER_MONTH, "split": {"column": "Kind"}},
            place(0, 23, 12, 51), options={"at_end": "name and value"},
        ),
        visual(
            visits, "bar", {"measures": [_sum("Visits")], "per": [{"column": "Branch"}], "where": LAST_YEAR},
            place(12, 23, 7, 51), options={"emphasis": "Market Square"},
        ),
        visual(
            survey, "ring", {"measures": [share]}, place(19, 23, 5, 51), options={"label": "would recommend us"},
        ),
    )  # fmt: skip
    headed = (
        Card(edge="", icon="calendar", says="Visits per month"),
        Card(edge="", icon="building", says="By branch, 12 months"),
        Card(edge="", icon="thumb up", says="Spring survey"),
    )
    return ReportBody(
        title="Board dashboard: the month at a glance",
        page=PAGE_FORMATS["dashboard-16x9"].page,
        cards=CardManner(fill="paper", corner=8, padding=14, edge="accent"),
        bands=(
            Band(
                message="The month at a glance",
                ground=Ground(colour="deep"),
                padding=1,
                tiles=(
                    _text("heading", "The month at a glance", (0, 0, 12, 5)),
                    _text("note", _for_the_board(visits), (12, 1, 12, 4), align="end"),
                ),
            ),
            Band(
                message="Figures and charts",
                ground=Ground(colour="wash"),
                padding=2,
                tiles=(
                    *cards,
                    *(chart.model_copy(update={"card": card}) for chart, card in zip(charts, headed, strict=True)),
                ),
            ),
        ),
    )
