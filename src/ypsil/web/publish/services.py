"""What can be done to a report's link: who sees it, how, for how long, and what they see."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

from django.contrib.auth.hashers import make_password
from django.utils import timezone

from ypsil.core.errors import YpsilError
from ypsil.web.compose.services import Report
from ypsil.web.publish import inviting, releases
from ypsil.web.publish.embedding import sites_typed
from ypsil.web.publish.files import forget_files
from ypsil.web.publish.models import Publication, Release, new_token

__all__ = [
    "Access",
    "forget_files",
    "forget_state",
    "keep_state",
    "publication_of",
    "renew_link",
    "set_access",
    "set_audience",
    "set_sites",
    "show_at_once",
    "show_changes",
    "withdraw_link",
]
MOST_KEPT = 50
_LEAST_LETTERS = 6


@dataclass(frozen=True, slots=True)
class Access:
    """Who can see a report, and how: ``password`` None leaves the one that there is, empty takes it away."""

    audience: str
    password: str | None = None
    ends: dt.datetime | None = None
    lets_copy: bool = True
    moves: bool = False


def publication_of(report: Report) -> Publication:
    found, _ = Publication.objects.get_or_create(report=report)
    return found


def set_access(report: Report, access: Access, site: str) -> Publication:
    """Say who can see a report; its link stays the same. Those who are named are written to; ``site`` is the address of
    this installation. Raises ValueError for an unknown audience, YpsilError for what cannot be a password or an end."""
    publication = publication_of(report)
    publication.audience = Publication.Audience(access.audience)
    if access.password:
        if len(access.password) < _LEAST_LETTERS:
            raise YpsilError(
                f"a password has at least {_LEAST_LETTERS} letters or digits", remedy="choose a longer one"
            )
        publication.password = make_password(access.password)
    elif access.password is not None:
        publication.password = ""
    if access.ends is not None and access.ends <= timezone.now() and access.ends != publication.ends:
        raise YpsilError("that day is over", remedy="choose a later one, or none")
    publication.ends, publication.lets_copy, publication.moves = access.ends, access.lets_copy, access.moves
    publication.save()
    if publication.is_open:
        releases.release(publication, with_changes=publication.latest() is None or publication.shows_at_once)
    if publication.audience == Publication.Audience.NAMED:
        inviting.write_to(publication, site)
    return publication


def set_audience(report: Report, audience: str) -> Publication:
    """Say who can see a report, all else as usual. Raises ValueError for an unknown audience."""
    return set_access(report, Access(audience), "")


def show_changes(report: Report) -> Release:
    """Let readers see a report as it is now."""
    return releases.release(publication_of(report), with_changes=True)


def show_at_once(report: Report, wanted: bool) -> Publication:
    """Say whether each change of a report reaches readers at once."""
    publication = publication_of(report)
    publication.shows_at_once = wanted
    publication.save()
    if wanted and publication.is_open:
        releases.release(publication, with_changes=True)
    return publication


def withdraw_link(report: Report) -> Publication:
    """Make the present link lead nowhere for good; opening the report again gives another one. States that were kept
    are kept for that."""
    publication = publication_of(report)
    publication.audience = Publication.Audience.ME
    publication.token = new_token()
    publication.save()
    publication.releases.filter(kept_as="").delete()
    return publication


def renew_link(report: Report, site: str) -> Publication:
    """Give a report another link; the present one leads nowhere from now on, also those of people who are named, who
    are sent theirs anew."""
    publication = publication_of(report)
    publication.token = new_token()
    publication.save()
    for invited in publication.invited.all():
        invited.key, invited.written, invited.came = new_token(), None, None
        invited.save()
    if publication.is_open:
        releases.release(publication, with_changes=False)
    if publication.audience == Publication.Audience.NAMED:
        inviting.write_to(publication, site)
    return publication


def set_sites(report: Report, typed: str) -> Publication:
    """Say which sites may show a report within their pages; raises YpsilError for what is no site."""
    publication = publication_of(report)
    publication.sites = sites_typed(typed)
    publication.save()
    return publication


def keep_state(report: Report, name: str) -> Release:
    """Keep what readers see now under a name, beside the report that follows its data.

    Raises YpsilError without a name, and where very many are kept already.
    """
    publication = publication_of(report)
    name = " ".join(name.split())[:80]
    if not name:
        raise YpsilError("a state that is kept has a name", remedy="say what it is, such as “As of 1 March”")
    if publication.releases.exclude(kept_as="").count() >= MOST_KEPT:
        raise YpsilError(f"{MOST_KEPT} states are kept already", remedy="take one of them away first")
    found = publication.latest() or releases.release(publication, with_changes=True)
    kept = Release.objects.get(pk=found.pk)
    if kept.kept_as:
        # What is kept already is kept under another name as well, as a copy that is the newest.
        kept.pk, kept.number = None, kept.number + 1
    kept.kept_as, kept.kept_token = name, publication.token
    kept.save()
    return kept


def forget_state(report: Report, number: int) -> None:
    """Let a state that was kept go; nothing where there is none of that number."""
    publication = publication_of(report)
    Release.objects.filter(publication=publication, number=number).update(kept_as="")
    newest = publication.releases.order_by("-number").values_list("number", flat=True).first() or 0
    publication.releases.filter(number__lte=newest - releases.KEPT_RELEASES, kept_as="").delete()
