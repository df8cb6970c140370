"""What the other stages may ask of Compose: a report's page, drawn from the versions it can use."""

from __future__ import annotations

import hashlib
from collections import OrderedDict
from dataclasses import dataclass

from django.db.models import QuerySet

from ypsil.core.report import Page, ReportTable, compose
from ypsil.core.report import Report as Document
from ypsil.core.report.compose import Drawn, draw_narrow
from ypsil.core.report.needs import UnmetNeed, unmet_needs
from ypsil.web.accounts.models import User
from ypsil.web.compose.models import Report
from ypsil.web.gather.models import Table, Version
from ypsil.web.gather.services import columns_of, report_table

_REMEMBERED_DRAWINGS = 2000


class _Drawings(OrderedDict[str, Drawn]):
    """Drawings by content, the longest unused ones forgotten first."""

    def __setitem__(self, key: str, drawn: Drawn) -> None:
        super().__setitem__(key, drawn)
        self.move_to_end(key)
        while len(self) > _REMEMBERED_DRAWINGS:
            self.popitem(last=False)


_drawings = _Drawings()


@dataclass(frozen=True, slots=True)
class Held:
    """A table whose newest version a report cannot use: it shows ``shown``, and these tiles need something."""

    table: Table
    newest: Version
    shown: Version | None
    needs: list[UnmetNeed]


@dataclass(frozen=True, slots=True)
class Sources:
    """The tables of a report in the versions it shows, and what is held back."""

    tables: dict[str, ReportTable]
    held: list[Held]
    digest: str


def reports_of(user: User) -> QuerySet[Report]:
    return Report.objects.filter(owner=user)


def sources_of(report: Report, document: Document | None = None) -> Sources:
    """Return, for each table of a report, its newest version that every tile can use.

    Where the newest lacks something, the report stays with the last good one; where none ever fitted, with
    the newest, and the tiles say what they miss.
    """
    document = document or report.read()
    tables: dict[str, ReportTable] = {}
    held: list[Held] = []
    seen = [str(report.revision)]
    for table in Table.objects.filter(owner=report.owner_id, uid__in=document.tables()):
        versions = list(table.versions.all())
        if not versions:
            continue
        needs = unmet_needs(document, table.uid, columns_of(versions[0]))
        shown = versions[0]
        if needs:
            good = (one for one in versions[1:] if not unmet_needs(document, table.uid, columns_of(one)))
            last_good = next(good, None)
            held.append(Held(table, versions[0], last_good, needs))
            shown = last_good or versions[0]
        tables[table.uid] = report_table(shown)
        seen.append(f"{table.uid}:{table.name}:{shown.rows_blob_id}")
    return Sources(tables, held, hashlib.sha256("\n".join(sorted(seen)).encode()).hexdigest())


def page_of(report: Report, sources: Sources | None = None) -> Page:
    """Compose a report's page from the versions it shows."""
    document = report.read()
    sources = sources or sources_of(report, document)
    return compose(document, sources.tables, _drawings)


def narrow_drawings(page: Page, sources: Sources) -> dict[str, Drawn]:
    """Return the page's visuals as a phone shows them."""
    return draw_narrow(page, sources.tables, _drawings)
