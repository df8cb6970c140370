"""The scripts that a script leads to, told to a browser at once: it need not read one to learn of the next."""

from __future__ import annotations

import re
from functools import lru_cache
from pathlib import Path

from django import template
from django.contrib.staticfiles import finders
from django.templatetags.static import static
from django.utils.html import format_html, format_html_join
from django.utils.safestring import SafeString

register = template.Library()
_LEADS_TO = re.compile(r'(?:from|import)\s+"(\.{1,2}/[^"]+)"')


@register.simple_tag
def modules_of(name: str) -> SafeString:
    """Return a link for each script that a module of ours imports, and those that these import.

    >>> modules_of("nothing.js")
    ''
    """
    links = [(static(one),) for one in _modules(name)]
    return format_html("{}", format_html_join("\n", '<link rel="modulepreload" href="{}">', links))


@lru_cache(maxsize=16)
def _modules(name: str) -> tuple[str, ...]:
    found: dict[str, None] = {}
    waiting = [name]
    while waiting:
        one = waiting.pop(0)
        path = finders.find(one)
        if one in found or not isinstance(path, str):
            continue
        found[one] = None
        folder = Path("/", one).parent
        for said in _LEADS_TO.findall(Path(path).read_text(encoding="utf-8")):
            waiting.append(str(Path(*_plain((folder / said).parts[1:]))))
    return tuple(one for one in found if one != name)


def _plain(parts: tuple[str, ...]) -> list[str]:
    """Return the parts of a path without those that go back."""
    made: list[str] = []
    for part in parts:
        if part == "..":
            made.pop()
        elif part != ".":
            made.append(part)
    return made
