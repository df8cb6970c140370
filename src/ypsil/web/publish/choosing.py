"""A published page as a reader chose to see it: made when somebody asks, kept for a while, and bounded.

What is chosen stands in the address and nowhere else. However many different addresses are asked for, a few pages are
made at once, and the pages that are kept take no more than their room.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from threading import BoundedSemaphore

from django.http import QueryDict

from ypsil.core.cache import Cache
from ypsil.core.choosing import Choices
from ypsil.core.document import read_document
from ypsil.core.reading import has_control
from ypsil.core.report import ReportBody
from ypsil.core.report.choosing import choices_of
from ypsil.web.compose.services import Sources, sources_of, view_of
from ypsil.web.publish import releases
from ypsil.web.publish.models import Publication, Release
from ypsil.web.publish.releases import Made

# Longer addresses than what browsers and proxies commonly pass on say nothing (common practice, no source).
LONGEST_QUERY = 4_000
_KEPT_BYTES = 32 << 20
_AT_ONCE, _WAIT_S = 2, 10.0
_pages: Cache[str, Made] = Cache("pages as chosen", _KEPT_BYTES, lambda made: len(made.body) + len(made.layout))
_making = BoundedSemaphore(_AT_ONCE)


class TooMany(Exception):
    """More pages are being made than this server makes at once."""


@dataclass(frozen=True, slots=True)
class AsChosen:
    """A page as somebody chose to see it: the query that says so, always the same for the same choices, a digest of all
    that it is made of, and the page itself, made when it is asked for."""

    query: str
    digest: str
    page: Callable[[], Made]


def asked_by(query: QueryDict) -> dict[str, Sequence[str]]:
    """Return what the query of an address says; nothing where it is longer than any choice needs."""
    return {} if len(query.urlencode()) > LONGEST_QUERY else {name: query.getlist(name) for name in query}


def chosen_by(query: QueryDict, view: ReportBody, sources: Sources) -> Choices:
    """Return what the query of an address chooses of a report."""
    return choices_of(view.as_read(), sources.tables, asked_by(query))


def view_asked(query: QueryDict) -> str:
    """Return the query of an address as it stays through a door; nothing where it is too long."""
    said = query.urlencode()
    return said if len(said) <= LONGEST_QUERY else ""


def as_chosen(
    publication: Publication, release: Release, asked: Mapping[str, Sequence[str]], *, is_wide: bool = False
) -> AsChosen | None:
    """Return a release as a reader chose to see it; None where they chose nothing of it. Where a window ``is_wide``,
    what a phone would show is left out: drawing it would take as long as half of the rest. Its page raises TooMany."""
    if not asked or not has_control(release.body):
        return None
    report = publication.report
    view = view_of(read_document(Release.objects.values_list("document", flat=True).get(pk=release.pk)))
    sources = sources_of(report, view)
    choices = choices_of(view.as_read(), sources.tables, asked)
    if not choices.made and not choices.problems:
        return None
    query, said = choices.query(), repr(sorted(choices.problems.items()))
    digest = hashlib.sha256(f"{release.key}\n{sources.digest}\n{query}\n{said}\n{is_wide}".encode()).hexdigest()[:32]
    # What cannot be chosen is said in the words that it was asked in, and kept for nobody.
    key = None if choices.problems else digest
    return AsChosen(
        query,
        digest,
        lambda: _made(
            key,
            lambda: releases.make_published(publication, view, sources, choices, has_narrow=not is_wide),
        ),
    )


def _made(key: str | None, make: Callable[[], Made]) -> Made:
    """Return the page that is kept under a key, or make it in turn; raises TooMany."""
    if key is not None and (found := _pages.get(key)) is not None:
        return found
    if not _making.acquire(timeout=_WAIT_S):
        raise TooMany
    try:
        # Somebody else may have had the same made meanwhile.
        made = (_pages.get(key) if key is not None else None) or make()
        return made if key is None else _pages.put(key, made)
    finally:
        _making.release()
