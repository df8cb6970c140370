"""Take in a template from a file."""

from __future__ import annotations

from ypsil.core.templates import template_from
from ypsil.web.accounts.services import User
from ypsil.web.compose import own_templates
from ypsil.web.compose.models import OwnTemplate


def bring_template(asker: User, data: bytes) -> OwnTemplate:
    """Keep the template of a file as one of the asker's own; raises YpsilError where the file holds none."""
    return own_templates.keep(asker, template_from(data))
