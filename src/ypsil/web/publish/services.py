"""Opening, closing and withdrawing a report's link."""

from __future__ import annotations

from ypsil.web.compose.services import Report
from ypsil.web.publish import releases
from ypsil.web.publish.files import forget_files
from ypsil.web.publish.models import Publication, Release, new_token

__all__ = [
    "forget_files",
    "publication_of",
    "set_audience",
    "show_at_once",
    "show_changes",
    "withdraw_link",
]


def publication_of(report: Report) -> Publication:
    found, _ = Publication.objects.get_or_create(report=report)
    return found


def set_audience(report: Report, audience: str) -> Publication:
    """Say who can see a report; its link stays the same. Raises ValueError for an unknown audience."""
    publication = publication_of(report)
    publication.audience = Publication.Audience(audience)
    publication.save()
    if publication.audience == Publication.Audience.LINK:
        releases.release(publication, with_changes=publication.latest() is None or publication.shows_at_once)
    return publication


def show_changes(report: Report) -> Release:
    """Let readers see a report as it is now."""
    return releases.release(publication_of(report), with_changes=True)


def show_at_once(report: Report, wanted: bool) -> Publication:
    """Say whether each change of a report reaches readers at once."""
    publication = publication_of(report)
    publication.shows_at_once = wanted
    publication.save()
    if wanted and publication.audience == Publication.Audience.LINK:
        releases.release(publication, with_changes=True)
    return publication


def withdraw_link(report: Report) -> Publication:
    """Make the present link lead nowhere for good; opening the report again gives another one."""
    publication = publication_of(report)
    publication.audience = Publication.Audience.ME
    publication.token = new_token()
    publication.save()
    publication.releases.all().delete()
    return publication
