"""Templates of somebody's own: kept from their reports, or brought from files."""

from __future__ import annotations

from django.http import Http404

from ypsil.core.errors import YpsilError
from ypsil.core.templates import Template
from ypsil.web.accounts.services import User
from ypsil.web.compose.models import OwnTemplate

# More than that are no longer looked through.
MOST = 200


def own_templates(person: User, *, bands: bool = False) -> list[Template]:
    """Return the pages that somebody kept as templates, or the bands, the newest first."""
    found = [kept.read() for kept in OwnTemplate.objects.filter(owner=person)[:MOST]]
    return [template for template in found if template.is_band == bands]


def own_template(person: User, name: str) -> Template:
    """Return one of somebody's own; there is none of others (404)."""
    return kept_of(person, name).read()


def kept_of(person: User, name: str) -> OwnTemplate:
    """Return one of somebody's own as it is stored; there is none of others (404)."""
    kept = OwnTemplate.objects.filter(owner=person, name=name).first()
    if kept is None:
        raise Http404("There is no template of that name.")
    return kept


def keep(person: User, template: Template) -> OwnTemplate:
    """Keep a template; raises YpsilError where somebody has as many as can be kept."""
    if OwnTemplate.objects.filter(owner=person).count() >= MOST:
        raise YpsilError(f"you have {MOST} templates of your own", remedy="take some away first")
    return OwnTemplate.objects.create(owner=person, content=template.model_dump(mode="json", exclude_defaults=True))
