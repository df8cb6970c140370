"""The mark of a form that makes something."""

from django import template
from django.utils.html import format_html
from django.utils.safestring import SafeString

from ypsil.web.accounts.once import FIELD
from ypsil.web.uids import new_uid

register = template.Library()


@register.simple_tag
def once() -> SafeString:
    """Return a field that names this form among all that are sent: what is sent twice is done once."""
    return format_html('<input type="hidden" name="{}" value="{}">', FIELD, new_uid())
