"""Signs on the screen."""

from __future__ import annotations

from django.utils.safestring import SafeString, mark_safe

from ypsil.core.drawing.signs.markup import sign_svg

_SIZE = 28


def sign_markup(name: str, size: float = _SIZE) -> SafeString:
    """Return a sign as markup; it is made of shipped outlines alone."""
    return mark_safe(sign_svg(name, size))
