"""A published page as a reader chose to see it: made when somebody asks, kept for a while, and bounded.

What is chosen stands in the address and nowhere else. However many different addresses are asked for, the pages that
are kept take no more than their room, and ``in_turn`` has a few made at once.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from django.http import QueryDict

from ypsil.core.cache import Cache
from ypsil.core.choosing import Choices
from ypsil.core.document import read_document
from ypsil.core.reading import has_control, with_refused
from ypsil.core.report import ReportBody
from ypsil.core.report.choosing import choices_of
from ypsil.web.compose.services import Sources, sources_of, view_of
from ypsil.web.gather.services import states_of
from ypsil.web.publish import releases
from ypsil.web.publish.models import Publication, Release
from ypsil.web.publish.releases import Made

# Longer addresses than what browsers and proxies commonly pass on say nothing (common practice, no source).
LONGEST_QUERY = 4_000
_KEPT_BYTES = 32 << 20
_pages: Cache[str, Made] = Cache("pages as chosen", _KEPT_BYTES, lambda made: len(made.body) + len(made.layout))


@dataclass(frozen=True, slots=True)
class AsChosen:
    """A page as somebody chose to see it: the query that says so, always the same for the same choices, a digest of all
    that it is made of, and the page itself, made when it is asked for."""

    query: str
    digest: str
    page: Callable[[], Made]


@dataclass(frozen=True, slots=True)
class _Basis:
    """What readers choose from: a report as it was released, and its tables in these ``states``."""

    view: ReportBody
    states: str
    _sources: Sources

    def sources(self) -> Sources:
        """Return its tables as one page is made of them: they remember all that they were asked, so that those that
        stay here are never asked anything."""
        return replace(self._sources, tables={uid: replace(table) for uid, table in self._sources.tables.items()})


_MOST_BASES = 100
_bases: Cache[str, _Basis] = Cache("reports to choose from", _MOST_BASES, lambda _: 1)


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
    publication: Publication, release: Release, query: QueryDict, *, is_wide: bool = False
) -> AsChosen | None:
    """Return a release as the query of an address chooses to see it; None where it chooses nothing of it. Where a
    window ``is_wide``, what a phone would show is left out: drawing it would take as long as half of the rest."""
    asked = asked_by(query)
    if not asked or not has_control(release.body):
        return None
    basis = _basis_of(publication, release)
    sources = basis.sources()
    choices = choices_of(basis.view.as_read(), sources.tables, asked)
    if not choices.made and not choices.problems:
        return None
    said = repr(sorted(choices.problems.items()))
    # What cannot be chosen can be written in any number of ways; the page that it is said in is the same.
    key = _digest(release.key, basis.states, choices.query(), str(is_wide)) if choices.made else ""

    def make() -> Made:
        made = replace(choices, problems={})
        return releases.make_published(publication, basis.view, sources, made, has_narrow=not is_wide)

    def page() -> Made:
        made = _pages.get_or_make(key, make) if key else releases.made_of(release)
        return replace(made, body=with_refused(made.body, choices.problems))

    return AsChosen(choices.query(), _digest(key, said), page)


def _basis_of(publication: Publication, release: Release) -> _Basis:
    """Return what readers choose from, as the tables are now."""
    report, found = publication.report, _bases.get(release.key)
    if found is None:
        document = Release.objects.values_list("document", flat=True).get(pk=release.pk)
        view = view_of(read_document(document))
    else:
        view = found.view
    states = repr(sorted(states_of(report.owner, set(view.tables())).items()))
    if found is None or found.states != states:
        found = _bases.put(release.key, _Basis(view, states, sources_of(report, view)))
    return found


def _digest(*parts: str) -> str:
    return hashlib.sha256("\n".join(parts).encode()).hexdigest()[:32]
