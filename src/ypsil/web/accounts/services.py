"""What the other stages may ask of accounts: who asks, and that a form is done once."""

from __future__ import annotations

from django.http import Http404, HttpRequest

from ypsil.web.accounts.models import User
from ypsil.web.accounts.once import forget_sent_forms, once

__all__ = ["User", "asker", "forget_sent_forms", "once"]


def asker(request: HttpRequest) -> User:
    """Return who asks; for somebody who is not signed in nothing is there (404)."""
    if not isinstance(request.user, User):
        raise Http404
    return request.user
