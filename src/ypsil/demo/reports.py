"""The sample reports, as documents."""

from __future__ import annotations

from typing import Any

from ypsil.core.prose import Prose
from ypsil.core.report import Band, Frame, ReportBody, SourcesTile, TextTile, VisualTile
from ypsil.core.style.cards import Card
from ypsil.core.style.grounds import Ground
from ypsil.core.style.house import HouseStyle
from ypsil.core.style.manners import ChartManner
from ypsil.core.tiles.filter import filter_by
from ypsil.core.tiles.sign import SignTile
from ypsil.core.tiles.told.callout import CalloutTile
from ypsil.core.tiles.told.entries import Entry
from ypsil.core.tiles.told.points import PointsTile
from ypsil.core.tiles.told.sides import SidesTile
from ypsil.demo.sentences import first, live, sentence


def place(column: int, row: int, width: int, height: int) -> Frame:
    return Frame(column=column, row=row, width=width, height=height)


def visual(table: str, visual: str, question: dict[str, Any], place: Frame, **more: Any) -> VisualTile:
    return VisualTile.model_validate(
        {"table": table, "visual": visual, "question": question, "place": place.model_dump(), **more}
    )


def _sum(column: str) -> dict[str, Any]:
    return {"stat": "sum", "column": column}


PER_MONTH = [{"column": "Month", "by": "month"}]
LAST_YEAR = [{"column": "Month", "test": "last", "count": 12, "by": "month"}]


def _the_month(visits: str, survey: str) -> Prose:
    """Say the month in one sentence: how many came, how that compares, where most, and what they think of it."""
    total = _sum("Visits")
    change = total | {"then": "percent_change_year"}
    newest = {"per": PER_MONTH}
    month = [{"column": "Month", "test": "last", "count": 1, "by": "month"}]
    more = {"above": "more than", "below": "fewer than", "level": "as many as"}
    share = {"stat": "share", "column": "Would recommend", "values": ["Yes"]}
    return sentence(
        live(visits, total, newest, take="name", pick="last"), " saw ",
        (live(visits, total, newest, pick="last"), "bold"), " visits, ",
        (live(visits, change, newest, pick="last", shown={"sign": "never"}), "bold"), " ",
        live(visits, change, newest, pick="last", words=more), " in the same month a year before. Most went to ",
        (first(visits, total, "Branch", month), "bold"), "; ", (live(survey, share), "bold"),
        " of those we asked would recommend their library.",
    )  # fmt: skip


def libraries_report(visits: str, survey: str) -> ReportBody:
    """Return the monthly report of Brackenshire Libraries over its two tables."""
    headline = Band(
        message="Headline",
        ground=Ground(colour="deep", to="accent", way="across"),
        padding=5,
        tiles=(
            TextTile(role="title", text="Brackenshire Libraries: how the month went", place=place(0, 0, 24, 8)),
            TextTile(
                role="lead",
                text=_the_month(visits, survey),
                place=place(0, 8, 22, 8),
            ),
        ),
    )
    cost = {"ratio": [_sum("Cost (£)"), _sum("Visits")], "name": "Cost per visit"}
    reporting = {"stat": "distinct", "column": "Branch"}
    figures = visual(
        visits,
        "kpi_row",
        {"measures": [_sum("Visits"), _sum("Loans"), _sum("Events"), cost, reporting], "per": PER_MONTH},
        place(0, 0, 24, 26),
        options={
            "labels": "Visits; Loans; Events; Cost per visit",
            "against": "year before",
            "good": "up; up; up; down",
            "reporting": "branches reporting",
        },
    ).model_copy(update={"card": Card(fill="paper")})
    kpis = Band(message="The month in four figures", ground=Ground(colour="wash"), tiles=(figures,))
    trend = Band(
        message="Visits follow the seasons",
        tiles=(
            TextTile(role="heading", text="Children fill the libraries in summer", place=place(0, 0, 24, 5)),
            visual(
                visits,
                "line",
                {"measures": [_sum("Visits")], "per": PER_MONTH, "split": {"column": "Kind"}},
                place(0, 6, 16, 42),
                title="Visits per month",
                options={
                    "at_start": "value",
                    "at_end": "name and value",
                    "note_at": "Aug 2025, Child",
                    "note": "The summer reading game",
                },
            ),
            visual(
                survey,
                "ring",
                {"measures": [{"stat": "share", "column": "Would recommend", "values": ["Yes"]}]},
                place(17, 6, 7, 42),
                options={"label": "of readers would recommend their library"},
            ),
        ),
    )
    places = Band(
        message="Where people go",
        tiles=(
            TextTile(
                role="heading",
                text=sentence(first(visits, _sum("Visits"), "Branch", LAST_YEAR), " leads, every branch counts"),
                place=place(0, 0, 24, 5),
            ),
            visual(
                visits,
                "bar",
                {"measures": [_sum("Visits")], "per": [{"column": "Branch"}], "where": LAST_YEAR},
                place(0, 6, 12, 46),
                title="Visits in the last 12 months",
                options={"emphasis": "Market Square"},
            ),
            visual(
                visits,
                "column",
                {"measures": [_sum("Visits")], "per": [{"column": "Area"}], "where": LAST_YEAR},
                place(12, 6, 12, 46),
                title="Visits by area in the last 12 months",
            ),
        ),
    )
    words = Band(
        message="What readers say",
        tiles=(
            TextTile(role="heading", text="What readers write, and what they come for", place=place(0, 0, 24, 5)),
            visual(
                survey,
                "cloud",
                {
                    "measures": [{"stat": "count"}],
                    "per": [
                        {
                            "column": "Comment",
                            "by": "word",
                            "words": {"leave_out": ["please", "comment"], "find_phrases": "sure"},
                        }
                    ],
                    "keep": 60,
                },
                place(0, 6, 14, 50),
                options={"shape": "speech bubble", "seed": 3, "outline": True},
            ),
            visual(
                survey,
                "bar",
                {"measures": [{"stat": "count"}], "per": [{"column": "Comes for"}]},
                place(15, 6, 9, 50),
                title="What readers come for (several answers)",
            ),
        ),
    )
    foot = Band(message="Sources", ground=Ground(colour="wash"), tiles=(SourcesTile(place=place(0, 0, 24, 5)),))
    return ReportBody(
        title="Brackenshire Libraries: how the month went",
        bands=(headline, kpis, _choose(visits, figures), trend, places, words, foot),
    )


def _choose(visits: str, figures: VisualTile) -> Band:
    """Return a band in which readers choose their branch, the kind of readers, and the months. The figures are those
    of the newest month beside those of a year before, whatever months are chosen."""
    months = filter_by(visits, "Month", title="Months", way="period", spares=(figures.id,), place=place(13, 0, 11, 18))
    return Band(
        message="Look at your own branch",
        ground=Ground(colour="tint"),
        padding=3,
        tiles=(
            filter_by(visits, "Branch", place=place(0, 0, 7, 18)),
            filter_by(visits, "Kind", title="Readers", takes="one", place=place(7, 0, 6, 18)),
            months,
        ),
    )


# The garden club's own look: green, rounded, with thick lines and no rules.
GARDEN = HouseStyle(
    heading_family="Nunito", body_family="Nunito", charts=ChartManner(grid="none", corner=8, line=1.5)
).dressed("meadow")


def garden_report(seedlings: str, notes: str) -> ReportBody:
    """Return the garden club's poster over its two tables."""
    headline = Band(
        message="Headline",
        ground=Ground(colour="deep"),
        padding=5,
        tiles=(
            TextTile(role="title", text="Compost wins: what the garden club found out", place=place(0, 0, 24, 8)),
            TextTile(
                role="lead",
                text=sentence(
                    (live(seedlings, {"stat": "distinct", "column": "Seedling"}), "bold"),
                    " seedlings, three kinds of ground, nine weeks of measuring at Thornwick School. ",
                    (first(seedlings, {"stat": "mean", "column": "Height"}, "Treatment"), "bold"),
                    " grew tallest: ",
                    (live(seedlings, {"stat": "max", "column": "Height"}), "bold"),
                    " cm at its best.",
                ),
                place=place(0, 8, 22, 8),
            ),
        ),
    )
    growth = Band(
        message="Compost wins",
        tiles=(
            visual(
                seedlings,
                "line",
                {
                    "measures": [{"stat": "mean", "column": "Height", "name": "Mean height in cm"}],
                    "per": [{"column": "Measured", "by": "week"}],
                    "split": {"column": "Treatment"},
                },
                place(0, 0, 16, 44),
                title="Mean height in cm, week by week",
            ),
            visual(
                notes,
                "ring",
                {"measures": [{"stat": "share", "column": "Come again", "values": ["Yes"]}]},
                place(17, 0, 7, 44),
                options={"label": "of the club want to come again"},
            ),
        ),
    )
    words = Band(
        message="What we take with us",
        tiles=(
            TextTile(role="heading", text="What we take with us", place=place(0, 0, 24, 5)),
            visual(
                notes,
                "cloud",
                {"measures": [{"stat": "count"}], "per": [{"column": "What I take with me", "by": "word"}], "keep": 70},
                place(0, 6, 24, 80),
                options={"seed": 4, "shape": "leaf", "directions": "mostly level", "outline": True},
            ),
        ),
    )
    foot = Band(message="Sources", ground=Ground(colour="wash"), tiles=(SourcesTile(place=place(0, 0, 24, 5)),))
    bands = (headline, growth, _how_we_did_it(), words, _do_it_yourself(), foot)
    return ReportBody(title="Compost wins: what the garden club found out", bands=bands, style=GARDEN)


def _how_we_did_it() -> Band:
    steps = (
        Entry(head="Sow", text="One seed a pot, as deep as a thumbnail", sign="coloured:potted plant"),
        Entry(head="Share out", text="Compost, sand and plain earth, by lot", sign="coloured:bucket"),
        Entry(head="Water", text="The same cup for all, every second day", sign="coloured:droplet"),
        Entry(head="Measure", text="Each Friday, from earth to tip", sign="coloured:straight ruler"),
    )
    return Band(
        message="How we did it",
        ground=Ground(colour="tint"),
        tiles=(
            TextTile(role="heading", text="How we did it", place=place(0, 0, 17, 5)),
            SignTile(sign="coloured:seedling", place=place(21, 0, 3, 8)),
            PointsTile(entries=steps, marked="signs", in_columns=2, size="larger", place=place(0, 9, 24, 20)),
            CalloutTile(
                meaning="idea",
                entries=(Entry(head="Fair is fair", text="Only the ground was different. All else was the same."),),
                place=place(0, 31, 24, 9),
            ),
        ),
    )


def _do_it_yourself() -> Band:
    sides = (
        Entry(head="Do", text="Mix in two hands of compost\nWater in the morning\nWrite down every week"),
        Entry(head="Don't", text="Leave pots in the wind\nDrown them\nGuess heights from afar"),
    )
    return Band(
        message="Try it at home",
        tiles=(
            TextTile(role="heading", text="Try it at home", place=place(0, 0, 24, 5)),
            SidesTile(entries=sides, look="do and don't", size="larger", place=place(0, 7, 24, 24)),
        ),
    )
