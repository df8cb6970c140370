"""What the other stages may ask of Compose: a report's page, drawn from the versions it can use."""

from __future__ import annotations

import datetime as dt
import hashlib
from collections.abc import Sequence
from contextlib import suppress
from dataclasses import dataclass

from django.conf import settings
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404
from django.utils import timezone

from ypsil.core.choosing import Choices
from ypsil.core.draft import Subject
from ypsil.core.drawing.pictures import Picture
from ypsil.core.errors import YpsilError
from ypsil.core.render import Page, compose, draw_narrow
from ypsil.core.report import ReportBody, ReportTable
from ypsil.core.report.document import walk
from ypsil.core.report.needs import UnmetNeed, unmet_needs
from ypsil.core.tables import Column
from ypsil.core.tiles import AnyTile, Drawn, Memory, drawings
from ypsil.web.accounts.services import User
from ypsil.web.compose.layouts import layout_at_hand, layout_of
from ypsil.web.compose.models import Report, view_of
from ypsil.web.compose.pressed import hosts
from ypsil.web.compose.render import band_label
from ypsil.web.gather.services import (
    Table,
    Version,
    columns_of,
    current_preparation,
    current_preparations,
    pictures_named,
    prepared,
    profile_of,
    report_table,
    tables_of,
)
from ypsil.web.program import program_digest

__all__ = [
    "Held",
    "Report",
    "Sources",
    "broken_by",
    "compose_view",
    "forget_resting",
    "hosts",
    "layout_at_hand",
    "layout_of",
    "narrow_drawings",
    "page_of",
    "parts_of",
    "report_for",
    "reports_of",
    "resting_of",
    "sources_of",
    "unmet_of",
    "users_of",
    "view_of",
]
RESTS_FOR = dt.timedelta(days=30)
_drawings = drawings(settings.DRAWINGS_BYTES)


@dataclass(frozen=True, slots=True)
class Held:
    """A table whose newest version waits for its author: reports show ``shown``, and these tiles need something."""

    table: Table
    newest: Version
    shown: Version | None
    needs: list[UnmetNeed]


@dataclass(frozen=True, slots=True)
class Sources:
    """The tables of a report in the versions it shows, what is held back, and the pictures it shows."""

    tables: dict[str, ReportTable]
    held: list[Held]
    digest: str
    pictures: dict[str, Picture]


def reports_of(user: User) -> QuerySet[Report]:
    """Return somebody's reports, without those that were deleted."""
    return Report.objects.filter(owner=user, rests_since=None)


def resting_of(user: User) -> QuerySet[Report]:
    """Return somebody's reports that were deleted and can be brought back."""
    return Report.objects.filter(owner=user, rests_since__isnull=False)


def forget_resting() -> None:
    """Delete for good what has rested for 30 days."""
    Report.objects.filter(rests_since__lt=timezone.now() - RESTS_FOR).delete()


def report_for(asker: User, uid: str) -> Report:
    """Return a report of the asker's; there is no other (404)."""
    return get_object_or_404(reports_of(asker), uid=uid)


@dataclass(frozen=True, slots=True)
class Part:
    """A band of a report that readers see, or a tile of one, with what it is called."""

    id: str
    label: str
    is_band: bool


def parts_of(report: Report) -> list[Part]:
    """Return the bands of a report that readers see, each before what stands in it."""
    found = []
    shown = [band for band in report.read().as_read().bands if not band.is_tray]
    for number, band in enumerate(shown, 1):
        found.append(Part(band.id, band_label(number, band), is_band=True))
        told = [tile for tile in band.shown() if not tile.decorates() and not tile.joins()]
        found += [Part(tile.id, f"– {tile.label()}", is_band=False) for tile in told]
    return found


def compose_view(
    view: ReportBody,
    sources: Sources,
    *,
    for_readers: bool = False,
    is_opened: bool = False,
    choices: Choices | None = None,
) -> Page:
    """Compose bands with their tiles from the versions that their sources show; ``choices`` are what readers chose."""
    return compose(
        view,
        sources.tables,
        _drawings,
        pictures=sources.pictures,
        for_readers=for_readers,
        is_opened=is_opened,
        choices=choices,
    )


def remembered() -> Memory:
    """Return where drawings are remembered."""
    return _drawings


def sources_of(report: Report, document: ReportBody | None = None) -> Sources:
    """Return the tables of a report in the version that each table shows, and what is held back of them."""
    document = document or report.read()
    tables: dict[str, ReportTable] = {}
    held: list[Held] = []
    seen = [program_digest(), str(report.revision)]
    asked = list(tables_of(report.owner).filter(uid__in=document.tables()))
    preparations = current_preparations(asked)
    for table in asked:
        preparation = preparations.get(table.uid)
        if preparation is None:
            continue
        if table.held is not None:
            needs = unmet_needs(document, table.uid, columns_of(prepared(table, table.held)))
            held.append(Held(table, table.held, table.current, needs))
        tables[table.uid] = report_table(table, preparation)
        shown = tables[table.uid]
        seen.append(f"{shown.source}:{preparation.rows_blob_id}:{shown.columns!r}")
    pictures = pictures_named(report.owner, document.pictures())
    seen += pictures
    return Sources(tables, held, hashlib.sha256("\n".join(sorted(seen)).encode()).hexdigest(), pictures)


def subject_of(table: Table) -> Subject | None:
    """Return a table as drafts are made of it; None while it has no rows to show."""
    preparation = current_preparation(table)
    return (
        None if preparation is None else Subject(table.uid, report_table(table, preparation), profile_of(preparation))
    )


def page_of(report: Report, sources: Sources | None = None, *, is_opened: bool = False) -> Page:
    """Compose a report's page from the versions it shows; one that ``is_opened`` for a file that nobody can press."""
    document = report.read()
    sources = sources or sources_of(report, document)
    return compose_view(document, sources, is_opened=is_opened)


def broken_by(report: Report, body: ReportBody, tiles: Sequence[AnyTile]) -> bool:
    """Tell whether one of some tiles of a report goes wrong as it is drawn. What is drawn is remembered."""
    if not tiles:
        return False
    ids = {tile.id for tile in tiles}
    bands = tuple(
        band.model_copy(update={"tiles": tuple(tile for tile in band.tiles if ids & {one.id for one in walk([tile])})})
        for band in body.bands
    )
    alone = body.model_copy(update={"bands": bands})
    page = compose_view(alone, sources_of(report, alone))
    return any(view.drawn.is_broken for view in page.tiles() if view.tile.id in ids)


def narrow_drawings(page: Page) -> dict[str, Drawn]:
    """Return the page's visuals as a phone shows them."""
    return draw_narrow(page)


def unmet_of(owner: User, table_uid: str, columns: tuple[Column, ...]) -> list[tuple[str, UnmetNeed]]:
    """Return the tiles that a table with these columns would leave without an answer, with their reports' titles."""
    found = []
    for _, document in _using(owner, table_uid):
        found += [(document.title, need) for need in unmet_needs(document, table_uid, columns)]
    return found


def _using(owner: User, table_uid: str) -> list[tuple[Report, ReportBody]]:
    """Return the reports that ask a table, read; the others are not, nor one that this program cannot read."""
    found = []
    for report in reports_of(owner).filter(uses__table_uid=table_uid):
        with suppress(YpsilError):
            found.append((report, report.read()))
    return found


def users_of(owner: User, table_uid: str) -> list[tuple[Report, list[str]]]:
    """Return the reports that show a table, each with the names of its tiles that do."""
    found = []
    for report, document in _using(owner, table_uid):
        tiles = document.tiles()
        names = [tile.label() for tile in tiles if any(one.table == table_uid for one in tile.questions())]
        if names:
            found.append((report, names))
    return found
