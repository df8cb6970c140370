"""Checks on a composed page before it goes out: one file a check, found by the registry."""

from ypsil.core.proof.base import Check, Finding
from ypsil.core.proof.registry import CHECKS, findings_of

__all__ = ["CHECKS", "Check", "Finding", "findings_of"]
