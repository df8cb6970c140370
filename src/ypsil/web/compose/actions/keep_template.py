"""Keep a report, or one band of it, as a template."""

from __future__ import annotations

from ypsil.core.templates import Keeping, KeptTemplate, kept_template
from ypsil.web.accounts.services import User
from ypsil.web.compose import own_templates
from ypsil.web.compose.gallery import subjects_shown
from ypsil.web.compose.models import OwnTemplate, new_template_name
from ypsil.web.compose.services import report_for


def keep_template(asker: User, uid: str, keeping: Keeping) -> tuple[OwnTemplate, KeptTemplate]:
    """Keep the asker's report, or a band of it, as a template; return it with what could not go into it. Raises
    YpsilError where there is nothing to keep."""
    body = report_for(asker, uid).read()
    made = kept_template(body, subjects_shown(asker, body), keeping, new_template_name())
    return own_templates.keep(asker, made.template), made
