"""Visuals: one file each; the registry tells what each needs and what it is for."""

from ypsil.core.visuals.base import Box, Fit, Visual
from ypsil.core.visuals.registry import VISUALS, checked_options, draw, fit, native, ranked, registry_json, visual

__all__ = [
    "VISUALS",
    "Box",
    "Fit",
    "Visual",
    "checked_options",
    "draw",
    "fit",
    "native",
    "ranked",
    "registry_json",
    "visual",
]
