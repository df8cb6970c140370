"""Filters for numbers in templates."""

from django import template

from ypsil.core.figures import format_number

register = template.Library()


@register.filter
def thousands(value: object) -> str:
    """Return a whole number with its thousands set apart."""
    return format_number(float(str(value)), decimals=0)


@register.filter
def words(text: str) -> list[str]:
    """Return the words of a text, for a loop over a few fixed things."""
    return text.split()
