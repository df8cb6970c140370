"""What the forms of the page Publish do, each by the name of its button."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Mapping

from django.http import Http404
from django.utils import timezone
from django.utils.dateparse import parse_date

from ypsil.core.errors import YpsilError
from ypsil.web.accounts.services import User
from ypsil.web.publish.actions.forget_reader import forget_reader
from ypsil.web.publish.actions.forget_state import forget_state
from ypsil.web.publish.actions.keep_state import keep_state
from ypsil.web.publish.actions.name_readers import name_readers
from ypsil.web.publish.actions.renew_link import renew_link
from ypsil.web.publish.actions.set_access import set_access
from ypsil.web.publish.actions.set_sites import set_sites
from ypsil.web.publish.actions.show_at_once import show_at_once
from ypsil.web.publish.actions.show_changes import show_changes
from ypsil.web.publish.actions.withdraw_link import withdraw_link
from ypsil.web.publish.models import Publication
from ypsil.web.publish.services import Access

Form = Mapping[str, str]
_WHO_SEES = {
    "me": "Only you can see the report now.",
    "named": "The people whom you name can see the report now.",
    "link": "Anyone with the link can see the report now.",
}


def change(who: User, uid: str, form: Form, site: str) -> str:
    """Do what a form asks for; return what is said of it. ``site`` is the address of this installation. Raises
    YpsilError for what cannot be done, and Http404 for what nobody offered."""
    for name, made in _BUTTONS.items():
        if name in form:
            return made(who, uid, form, site)
    audience = form.get("audience", "")
    if audience not in Publication.Audience.values:
        raise Http404
    set_access(who, uid, _access(form, audience), site)
    return _WHO_SEES[audience]


def _withdraw(who: User, uid: str, form: Form, site: str) -> str:
    withdraw_link(who, uid)
    return "The link was withdrawn. It leads nowhere now, and will not come back."


def _renew(who: User, uid: str, form: Form, site: str) -> str:
    renew_link(who, uid, site)
    return "The report has another link now. The one before leads nowhere."


def _show(who: User, uid: str, form: Form, site: str) -> str:
    show_changes(who, uid)
    return "Readers see the report as it is now."


def _show_at_once(who: User, uid: str, form: Form, site: str) -> str:
    wanted = form["at_once"] == "1"
    show_at_once(who, uid, wanted=wanted)
    return "Readers see each change at once." if wanted else "Readers see changes when you say so."


def _name(who: User, uid: str, form: Form, site: str) -> str:
    made = name_readers(who, uid, form.get("addresses", ""), site)
    return f"{made[0].address} is named." if len(made) == 1 else f"{len(made)} people are named."


def _forget(who: User, uid: str, form: Form, site: str) -> str:
    forget_reader(who, uid, form["forget"])
    return f"{form['forget'][:80]} cannot read it any more."


def _keep(who: User, uid: str, form: Form, site: str) -> str:
    kept = keep_state(who, uid, form.get("state", ""))
    return f"“{kept.kept_as}” stays as it is, at a link of its own."


def _let_go(who: User, uid: str, form: Form, site: str) -> str:
    number = form["let_go"]
    forget_state(who, uid, int(number[:9]) if number.isascii() and number.isdigit() else 0)
    return "That state is no longer kept."


def _sites(who: User, uid: str, form: Form, site: str) -> str:
    publication = set_sites(who, uid, form.get("sites", ""))
    return "No other site may show it." if not publication.sites else "These sites may show it within their pages."


_BUTTONS: dict[str, Callable[[User, str, Form, str], str]] = {
    "withdraw": _withdraw,
    "renew": _renew,
    "show": _show,
    "at_once": _show_at_once,
    "name": _name,
    "forget": _forget,
    "keep": _keep,
    "let_go": _let_go,
    "allow": _sites,
}


def _access(form: Form, audience: str) -> Access:
    """Return who is to see a report, as a form says; a form without the other fields leaves all as usual."""
    password: str | None = form.get("password", "")
    if not password and "has_password" in form:
        password = None
    said = form.get("ends", "").strip()
    try:
        day = parse_date(said) if said else None
    except ValueError:
        day = None
    if said and day is None:
        raise YpsilError("that is no day", where="Ends after", remedy="give it as 2027-03-01")
    # The whole of the day is still within.
    ends = None
    if day is not None and day < dt.date.max:
        ends = timezone.make_aware(dt.datetime.combine(day + dt.timedelta(days=1), dt.time()))
    return Access(audience, password, ends, lets_copy="no_copying" not in form, moves="moves" in form)
