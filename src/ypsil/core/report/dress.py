"""A house style as a thing of its own, which many reports wear: colours, type, logo, charts, cards, icons, and how
numbers and words are written."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict, Field

from ypsil.core.report.document import ReportBody
from ypsil.core.style.cards import CardManner
from ypsil.core.style.house import HouseStyle
from ypsil.core.style.icons import IconManner

MOST_NAMED = 80
_COLOURS = ("ink", "muted", "paper", "grid", "quiet", "accent", "rise", "watch", "fall", "palette")
_OF_STYLE = {
    "its colours": _COLOURS,
    "the type of its headings": ("heading_family", "heading_size"),
    "the type of its text": ("body_family", "body_size"),
    "its logo": ("logo", "logo_room"),
    "how its charts are drawn": ("charts",),
}
_OF_REPORT = {
    "how its cards look": ("cards",),
    "how its icons look": ("icons",),
    "its language and how numbers are written": ("language", "locale"),
}


class Dress(BaseModel):
    """All that a report wears; ``language`` and ``locale`` are as in a report."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    name: str = Field(min_length=1, max_length=MOST_NAMED)
    style: HouseStyle = HouseStyle()
    cards: CardManner = CardManner()
    icons: IconManner = IconManner()
    language: str = Field("en", pattern=r"^[a-z]{2,3}$")
    locale: str = Field("", max_length=20)


def dress_of(report: ReportBody, name: str) -> Dress:
    """Return what a report wears, under a name."""
    return Dress(
        name=name,
        style=report.style,
        cards=report.cards,
        icons=report.icons,
        language=report.language,
        locale=report.locale,
    )


def worn(report: ReportBody, dress: Dress) -> ReportBody:
    """Return a report in a dress; its page, its tiles and its words stay."""
    update = {name: getattr(dress, name) for name in ("style", "cards", "icons", "language", "locale")}
    return report.model_copy(update=update)


def departures(report: ReportBody, dress: Dress) -> list[str]:
    """Return in words in what a report departs from a dress; nothing where it wears all of it.

    >>> from ypsil.core.style.cards import CardManner
    >>> departures(ReportBody(title="Ours", cards=CardManner(corner=2)), Dress(name="House"))
    ['how its cards look']
    """
    found = [said for said, names in _OF_STYLE.items() if _differs(report.style, dress.style, names)]
    return found + [said for said, names in _OF_REPORT.items() if _differs(report, dress, names)]


def _differs(one: BaseModel, other: BaseModel, names: tuple[str, ...]) -> bool:
    return any(getattr(one, name) != getattr(other, name) for name in names)
