"""Who may read a published report: by its audience, its end, its password, and by what somebody shows of themselves."""

from __future__ import annotations

import datetime as dt
import ipaddress
from enum import Enum

from django.contrib.auth.hashers import check_password
from django.core import signing
from django.db.models import F, Sum
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from django.utils.crypto import salted_hmac

from ypsil.web.publish.models import Invited, Publication, WrongPassword

_REMEMBERED = dt.timedelta(days=90)
_LATELY = dt.timedelta(minutes=15)
# Wrong passwords within that time: of one place, and of all together.
MOST_WRONG, MOST_WRONG_OF_ALL = 10, 200
_NETWORK_BITS = 64
_SALT = "ypsil.publish.access"


class Verdict(Enum):
    """What somebody who comes to a link is shown."""

    SHOWN = "the report"
    GONE = "that nothing is there"
    ENDED = "that the link has ended"
    PASSWORD = "where the password is asked for"
    NAMED = "where those who are named ask for their link"


def verdict_on(request: HttpRequest, publication: Publication) -> Verdict:
    """Return what whoever makes a request is shown of a publication. Its author reads it as the others do."""
    if not publication.is_open:
        return Verdict.GONE
    if publication.has_ended:
        return Verdict.ENDED
    if publication.audience == Publication.Audience.NAMED and not _is_named(request, publication):
        return Verdict.NAMED
    if publication.password and not _has_opened(request, publication):
        return Verdict.PASSWORD
    return Verdict.SHOWN


def _is_named(request: HttpRequest, publication: Publication) -> bool:
    # What address somebody gave for their account shows nothing: anybody can give any. A letter that arrived does.
    if request.user == publication.report.owner:
        return True
    shown = _said(request, f"reader-{publication.pk}")
    return shown is not None and Invited.objects.filter(publication=publication, key=shown).exists()


def _has_opened(request: HttpRequest, publication: Publication) -> bool:
    return _said(request, f"opened-{publication.pk}") == _digest(publication)


def _digest(publication: Publication) -> str:
    """Return what shows that somebody knew the password that there is now."""
    return salted_hmac(_SALT, publication.password).hexdigest()


def _said(request: HttpRequest, name: str) -> str | None:
    try:
        found = signing.loads(request.COOKIES.get(name, ""), salt=_SALT, max_age=_REMEMBERED)
    except signing.BadSignature:
        return None
    return str(found)


def _remember(response: HttpResponse, publication: Publication, name: str, said: str, *, is_secure: bool) -> None:
    response.set_cookie(
        f"{name}-{publication.pk}",
        signing.dumps(said, salt=_SALT),
        max_age=_REMEMBERED,
        path=f"/r/{publication.token}/",
        httponly=True,
        samesite="Lax",
        secure=is_secure,
    )


def let_in(response: HttpResponse, request: HttpRequest, invited: Invited) -> None:
    """Let somebody who came by their own link read from now on."""
    Invited.objects.filter(pk=invited.pk).update(came=timezone.now())
    _remember(response, invited.publication, "reader", invited.key, is_secure=request.is_secure())


def knows_password(response: HttpResponse, request: HttpRequest, publication: Publication) -> None:
    """Let somebody who gave the right password read from now on."""
    _remember(response, publication, "opened", _digest(publication), is_secure=request.is_secure())


def is_right(request: HttpRequest, publication: Publication, password: str) -> bool:
    """Tell whether a password is right; wrong ones are counted."""
    who = _who(request)
    if check_password(password, publication.password):
        WrongPassword.objects.filter(publication=publication, who=who).delete()
        return True
    WrongPassword.objects.filter(publication=publication, since__lt=timezone.now() - _LATELY).delete()
    WrongPassword.objects.get_or_create(publication=publication, who=who)
    WrongPassword.objects.filter(publication=publication, who=who).update(count=F("count") + 1)
    return False


def is_barred(request: HttpRequest, publication: Publication) -> bool:
    """Tell whether too many wrong passwords were given lately, from one place or from all."""
    lately = WrongPassword.objects.filter(publication=publication, since__gte=timezone.now() - _LATELY)
    own = lately.filter(who=_who(request)).values_list("count", flat=True).first() or 0
    return own >= MOST_WRONG or (lately.aggregate(all=Sum("count"))["all"] or 0) >= MOST_WRONG_OF_ALL


def place_of(said: str) -> str:
    """Return where somebody comes from, by the address of their connection: that itself, or of one by IPv6 the network,
    in which a host takes as many addresses as it likes (64 bits: RFC 4291, 2.5.1; RFC 8981)."""
    try:
        address = ipaddress.ip_address(said)
    except ValueError:
        return said
    return said if address.version == 4 else str(ipaddress.ip_network((address, _NETWORK_BITS), strict=False))


def _who(request: HttpRequest) -> str:
    """Return a digest of where a request came from: the address itself is kept nowhere."""
    return salted_hmac(_SALT, place_of(request.META.get("REMOTE_ADDR", ""))).hexdigest()
