"""House styles of somebody's own, and the reports that wear them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from django.db import transaction
from django.db.models import QuerySet
from django.http import Http404
from pydantic import ValidationError

from ypsil.core.errors import EditRefused, YpsilError
from ypsil.core.report import ReportBody
from ypsil.core.report.dress import MOST_NAMED, Dress, worn
from ypsil.web.accounts.services import User
from ypsil.web.compose.edits import step_back, take_body
from ypsil.web.compose.models import Report, SharedStyle
from ypsil.web.compose.services import reports_of

MOST = 60


@dataclass(frozen=True, slots=True)
class Change:
    """What a report was changed by when a style was put on it: the number of the change, and what it wore before."""

    report: str
    number: int
    before: str


def dresses_of(person: User) -> QuerySet[SharedStyle]:
    """Return somebody's house styles, in the order in which they were made."""
    return SharedStyle.objects.filter(owner=person)


def dress_for(person: User, uid: str) -> SharedStyle:
    """Return one of somebody's house styles; there is none of others (404)."""
    found = dresses_of(person).filter(uid=uid).first()
    if found is None:
        raise Http404("There is no such style.")
    return found


def named(name: str, make: Callable[[str], Dress]) -> Dress:
    """Return a dress under a name as it was typed; raises EditRefused for one that is none."""
    tidy = " ".join(name.split())
    try:
        return make(tidy)
    except ValidationError:
        raise EditRefused(f"a style needs a name of 1 to {MOST_NAMED} letters", remedy="give it one") from None


def keep(person: User, dress: Dress) -> SharedStyle:
    """Keep a dress; raises YpsilError where somebody has as many as can be kept."""
    if dresses_of(person).count() >= MOST:
        raise YpsilError(f"you have {MOST} house styles", remedy="take some away first")
    return SharedStyle.objects.create(owner=person, content=dress.model_dump(mode="json"))


@transaction.atomic
def wear(report: Report, shared: SharedStyle, person: User) -> Change | None:
    """Put a style on a report, as one change that can be undone; return it, or None where it looked so already."""
    before = Report.objects.select_related("wears").get(pk=report.pk)
    dress = shared.read()

    def made(body: ReportBody) -> ReportBody:
        return worn(body, dress)

    after = take_body(report.pk, person, made, "wear_style")
    follow(after, shared)
    if after.revision == before.revision:
        return None
    return Change(after.uid, after.revision, before.wears.uid if before.wears else "")


def follow(report: Report, shared: SharedStyle | None) -> None:
    """Note which style a report wears; that is no change of the report."""
    Report.objects.filter(pk=report.pk).update(wears=shared)


@transaction.atomic
def wear_all(shared: SharedStyle, person: User, reports: QuerySet[Report]) -> int:
    """Put a style on reports; return how many look otherwise now. What was changed is kept, to be taken back."""
    made = [change for report in reports if (change := wear(report, shared, person)) is not None]
    shared.applied = [[change.report, change.number, change.before] for change in made]
    shared.save(update_fields=["applied"])
    return len(made)


@transaction.atomic
def take_back(shared: SharedStyle, person: User) -> tuple[int, int]:
    """Take back what putting a style on changed; return how many reports look as before, and how many were changed
    since and stay as they are."""
    back = stayed = 0
    styles = {one.uid: one for one in dresses_of(person)}
    reports = {report.uid: report for report in reports_of(person)}
    for uid, number, before in shared.applied:
        report = reports.get(uid)
        if report is None or report.revision != number:
            stayed += 1
            continue
        step_back(report.pk, person)
        follow(report, styles.get(before))
        back += 1
    shared.applied = []
    shared.save(update_fields=["applied"])
    return back, stayed
