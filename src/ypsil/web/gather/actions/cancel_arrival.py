"""Stop what is being done with a file in the background."""

from __future__ import annotations

from django.shortcuts import get_object_or_404

from ypsil.web.accounts.services import User
from ypsil.web.gather.arrivals import cancel
from ypsil.web.gather.models import Arrival


def cancel_arrival(asker: User, uid: str) -> Arrival:
    """Stop background work of the asker's; nothing of it is stored."""
    arrival = get_object_or_404(Arrival, owner=asker, uid=uid)
    cancel(arrival)
    return arrival
