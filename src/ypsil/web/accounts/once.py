"""A form that makes something is done once, however often it is sent: a second sending leads where the first did.

Browsers send again what they got no answer to, and people press twice. A form carries a name of its own (the tag
``once``); where its first sending led is kept for a day.
"""

from __future__ import annotations

import datetime as dt
import time
from collections.abc import Callable
from functools import wraps
from typing import Any

from django.contrib import messages
from django.db import IntegrityError, transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect

from ypsil.web.accounts.models import SentForm, User

FIELD = "once"
_LOOK_EVERY_S, _WAIT_S = 0.1, 20.0
View = Callable[..., HttpResponse]


def once(view: View) -> View:
    """Let a view do a form's work once; a form without a name is done as it comes."""

    @wraps(view)
    def done(request: HttpRequest, *arguments: Any, **named: Any) -> HttpResponse:
        name = request.POST.get(FIELD, "")[:40] if request.method == "POST" else ""
        if not name or not isinstance(request.user, User):
            return view(request, *arguments, **named)
        try:
            with transaction.atomic():
                sent = SentForm.objects.create(sender=request.user, name=name, path=request.path)
        except IntegrityError:
            led = _where_it_led(request.user, name)
            if not led:
                # The first was cut off, by the end of its process or of all patience: the form may be sent anew.
                SentForm.objects.filter(sender=request.user, name=name, led_to="").delete()
                messages.warning(request, "That did not come to an end. Look whether it is there; else send it again.")
            return redirect(led or "desk")
        led = ""
        try:
            reply = view(request, *arguments, **named)
            led = reply.get("Location", "") if reply.status_code == 302 else ""
            return reply
        finally:
            # What was refused may be sent again, mended.
            if led:
                SentForm.objects.filter(pk=sent.pk).update(led_to=led)
            else:
                sent.delete()

    return done


def _where_it_led(sender: User, name: str) -> str:
    """Return where the first sending led, waiting for it while it is in hand; nothing where it came to nothing."""
    ends = time.monotonic() + _WAIT_S
    while time.monotonic() < ends:
        found = SentForm.objects.filter(sender=sender, name=name).first()
        if found is None or found.led_to:
            return found.led_to if found else ""
        time.sleep(_LOOK_EVERY_S)
    return ""


def forget_sent_forms(before: dt.datetime) -> None:
    """Forget forms that were sent so long ago that nobody sends them again."""
    SentForm.objects.filter(sent__lt=before).delete()
