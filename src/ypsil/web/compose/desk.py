"""What the desk shows: reports that are looked for, in an order, with what is new in them."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from django.utils import timezone

from ypsil.web.accounts.services import User
from ypsil.web.compose.models import DeskVisit, Report

ORDERS = {"changed": "changed last", "name": "by name", "made": "made last"}
# A look at the desk within this time of the one before is part of the same visit.
_SAME_VISIT = dt.timedelta(minutes=30)


@dataclass(frozen=True, slots=True)
class Looked:
    """What somebody looks for on the desk: words of a name, a tag or a table, and the order."""

    words: str = ""
    order: str = "changed"

    def among(self, reports: Iterable[Report], tables: Mapping[str, str]) -> list[Report]:
        """Return the reports that all words are found in, in order; ``tables`` are the names of tables by their uid."""
        words = self.words.casefold().split()
        found = [report for report in reports if all(word in _text_of(report, tables) for word in words)]
        if self.order == "name":
            return sorted(found, key=lambda report: str(report).casefold())
        return sorted(
            found, key=lambda report: report.created if self.order == "made" else report.changed, reverse=True
        )


def _text_of(report: Report, tables: Mapping[str, str]) -> str:
    names = [tables.get(use.table_uid, "") for use in report.uses.all()]
    return " ".join([str(report), *map(str, report.tags), *names]).casefold()


def last_visit(person: User) -> dt.datetime:
    """Return when somebody was at the desk before this visit, and note that they are there now."""
    now = timezone.now()
    visit, made = DeskVisit.objects.get_or_create(person=person, defaults={"latest": now, "before": now})
    if not made:
        if now - visit.latest > _SAME_VISIT:
            visit.before = visit.latest
        visit.latest = now
        visit.save(update_fields=["latest", "before"])
    return visit.before
