"""How often a wrong password may be tried: for a name from one address, and for a name from all addresses together."""

from __future__ import annotations

from datetime import timedelta

from axes.models import AccessAttempt
from django.conf import settings
from django.db.models import Sum
from django.http import HttpRequest
from django.utils import timezone


def counted_by(request: HttpRequest, credentials: dict[str, str] | None = None) -> list[str | list[str]]:
    """Return what failures are counted by: the name where it was tried from many addresses, else both.

    A few failures from one address lock the name for that address alone: nobody else can lock somebody out so.
    """
    name = (credentials or {}).get("username") or request.POST.get("username", "")
    since = timezone.now() - timedelta(hours=settings.AXES_COOLOFF_TIME)
    tried = AccessAttempt.objects.filter(username__iexact=name, attempt_time__gte=since)
    failures = tried.aggregate(all=Sum("failures_since_start"))["all"] or 0
    return ["username"] if failures >= settings.SIGN_IN_FAILURES_OF_A_NAME else [["username", "ip_address"]]
