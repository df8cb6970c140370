"""Whether somebody has what would be sent already."""

from __future__ import annotations

from django.utils.http import parse_etags


def is_unchanged(asked: str | None, tag: str) -> bool:
    """Tell whether an If-None-Match header names an entity tag, or anything at all.

    Tags are compared weakly (RFC 9110, 13.1.2): compression on the way makes a weak tag of a strong one.

    >>> is_unchanged('"a", W/"b"', '"b"'), is_unchanged('"b"', 'W/"b"'), is_unchanged("*", '"b"')
    (True, True, True)
    >>> is_unchanged('"a"', '"b"'), is_unchanged(None, '"b"')
    (False, False)
    """
    known = [one.removeprefix("W/") for one in parse_etags(asked or "")]
    return tag.removeprefix("W/") in known or known == ["*"]
