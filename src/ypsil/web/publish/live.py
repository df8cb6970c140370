"""That a published report has newer numbers: told to every page that is open within a second."""

from __future__ import annotations

from django.db.models import Max

from ypsil.web.events import Watch
from ypsil.web.publish.models import Publication


def release_now(publication_id: int) -> dict[str, int | None]:
    """Return the number of the newest release; none where the link leads nowhere now."""
    found = Publication.objects.filter(pk=publication_id, report__rests_since=None)
    found = found.exclude(audience=Publication.Audience.ME)
    return {"release": found.annotate(newest=Max("releases__number")).values_list("newest", flat=True).first()}


releases = Watch(release_now, is_last=lambda now: now["release"] is None)
