"""People who are named as readers, and the letters that tell them."""

from __future__ import annotations

import datetime as dt

from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.urls import reverse
from django.utils import timezone

from ypsil.core.errors import YpsilError
from ypsil.web.outbox.services import send
from ypsil.web.publish.models import Invited, Publication

MOST_NAMED = 500
MOST_AT_ONCE = 50
# Whoever asks for their link is not written to more often than this.
_BETWEEN = dt.timedelta(minutes=2)


def name_readers(publication: Publication, typed: str, site: str) -> list[Invited]:
    """Name people by their addresses, apart by commas, spaces or lines, and write to those who are new; ``site`` is the
    address of this installation. Raises YpsilError, with nothing done, for what is no address."""
    addresses = list(dict.fromkeys(part.lower() for part in typed.replace(",", " ").replace(";", " ").split()))
    if not addresses:
        raise YpsilError("no address was given", remedy="type one or several, apart by commas")
    for address in addresses:
        try:
            validate_email(address)
        except ValidationError:
            raise YpsilError(f"“{address[:80]}” is no mail address", remedy="mend it and try again") from None
    there = set(publication.invited.values_list("address", flat=True))
    new = [address for address in addresses if address not in there]
    if len(addresses) > MOST_AT_ONCE:
        raise YpsilError(f"at most {MOST_AT_ONCE} people are named at once", remedy="name them in parts")
    if len(there) + len(new) > MOST_NAMED:
        raise YpsilError(f"a report has at most {MOST_NAMED} readers who are named", remedy="take some away first")
    made = [Invited.objects.create(publication=publication, address=address) for address in new]
    if publication.audience == Publication.Audience.NAMED:
        write_to(publication, site)
    return made


def write_to(publication: Publication, site: str) -> None:
    """Write to all who are named and were not written to."""
    for invited in publication.invited.filter(written=None):
        write(invited, site)


def write(invited: Invited, site: str) -> None:
    """Send somebody the link that is only theirs."""
    publication = invited.publication
    address = site + reverse("come", args=[publication.token, invited.key])
    author = publication.report.owner.username
    until = f"\n\nIt can be read until {publication.last_day:%-d %B %Y}." if publication.last_day else ""
    text = (
        f"{author} lets you read “{publication.report}”.\n\n{address}\n\nThe link is yours alone: whoever has it reads "
        f"in your name.{until}\n"
    )
    send(invited.address, f"A report for you: {publication.report}", text)
    Invited.objects.filter(pk=invited.pk).update(written=timezone.now())


def write_again(publication: Publication, address: str, site: str) -> None:
    """Send somebody who is named their link once more; whether anybody was is said to nobody."""
    found = publication.invited.filter(address=address.strip().lower()).first()
    if found is not None and (found.written is None or found.written < timezone.now() - _BETWEEN):
        write(found, site)
