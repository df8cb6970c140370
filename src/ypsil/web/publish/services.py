"""Opening, closing and withdrawing a report's link."""

from __future__ import annotations

from ypsil.web.compose.models import Report
from ypsil.web.publish.models import Publication, new_token


def publication_of(report: Report) -> Publication:
    found, _ = Publication.objects.get_or_create(report=report)
    return found


def set_audience(report: Report, audience: str) -> Publication:
    """Say who can see a report; its link stays the same. Raises ValueError for an unknown audience."""
    publication = publication_of(report)
    publication.audience = Publication.Audience(audience)
    publication.save()
    return publication


def withdraw_link(report: Report) -> Publication:
    """Make the present link lead nowhere for good; opening the report again gives another one."""
    publication = publication_of(report)
    publication.audience = Publication.Audience.ME
    publication.token = new_token()
    publication.save()
    return publication
