"""The checks: every module in ``checks`` that has a CHECK."""

from __future__ import annotations

from ypsil.core.proof import checks
from ypsil.core.proof.base import Check, Finding
from ypsil.core.registry import values_in
from ypsil.core.render import Page

CHECKS: tuple[Check, ...] = tuple(
    sorted(values_in(checks.__name__, str(checks.__file__), "CHECK", Check), key=lambda one: one.place)
)


def findings_of(page: Page) -> list[Finding]:
    """Return what all checks find on a page, in their order."""
    return [finding for check in CHECKS for finding in check.find(page)]
