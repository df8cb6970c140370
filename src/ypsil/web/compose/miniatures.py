"""The small pictures of reports on the desk: drawn once for what they show, and kept with their report."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass

from django.db import transaction
from django.utils.safestring import SafeString, mark_safe

from ypsil.core.errors import YpsilError
from ypsil.core.render import compose
from ypsil.core.report import ReportBody
from ypsil.core.report.grid import place_of
from ypsil.web.compose.models import Miniature, Report
from ypsil.web.compose.services import sources_of
from ypsil.web.compose.thumbnails import miniature_height, report_miniature
from ypsil.web.program import program_digest

# Somebody who has hundreds of reports waits for no more pictures than the first screens show.
_AT_ONCE = 24


@dataclass(frozen=True, slots=True)
class Small:
    """The small picture of a report as it was drawn last (empty where there is none, or where it is far down the
    desk), and whether it is as it would be drawn now."""

    markup: SafeString
    is_current: bool


def miniatures_of(reports: Sequence[Report], states: dict[str, str]) -> dict[int, Small]:
    """Return the small picture of each report; ``states`` tell of each of their owner's tables what it shows. Nothing
    is drawn: the desk is there at once, with the pictures of its first reports, and asks for what is not current or
    further down once it is looked at.

    The reports come with their ``uses``, so that all pictures cost one query.
    """
    first = reports[:_AT_ONCE]
    kept = {one.report_id: one for one in Miniature.objects.filter(report__in=[report.pk for report in first])}
    found = {report.pk: Small(mark_safe(""), is_current=False) for report in reports}
    for report in first:
        if one := kept.get(report.pk):
            found[report.pk] = Small(mark_safe(one.markup), one.key == _key(report, states))
    return found


def miniature_now(report: Report, states: dict[str, str]) -> SafeString:
    """Return the small picture of a report as it is now, drawn where it is not kept."""
    kept, key = getattr(report, "miniature", None), _key(report, states)
    return mark_safe(kept.markup) if kept is not None and kept.key == key else _drawn(report, key)


def _key(report: Report, states: dict[str, str]) -> str:
    seen = [f"{use.table_uid}={states.get(use.table_uid, '')}" for use in report.uses.all()]
    return hashlib.sha256("\n".join([program_digest(), str(report.revision), *sorted(seen)]).encode()).hexdigest()


def _drawn(report: Report, key: str) -> SafeString:
    try:
        top = _top(report.read())
    except YpsilError:
        # One that this program cannot read says so when it is opened.
        return mark_safe("")
    sources = sources_of(report, top)
    markup = report_miniature(compose(top, sources.tables, pictures=sources.pictures))
    with transaction.atomic():
        Miniature.objects.update_or_create(report=report, defaults={"key": key, "markup": markup})
    return markup


def _top(report: ReportBody) -> ReportBody:
    """Return a report with the bands that a small picture shows: its top."""
    shown = []
    rows, page = 0, report.page
    for band in report.bands:
        if rows * page.row >= miniature_height(page.width):
            break
        shown.append(band)
        places = [place_of(tile, page) for tile in band.tiles]
        rows += max((place.row + place.height for place in places), default=0) + 2 * page.band_padding
    return report.model_copy(update={"bands": tuple(shown)})
