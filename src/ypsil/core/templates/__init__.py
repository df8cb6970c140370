"""Templates: pages whose tables are still open, each one file of data with what it needs, and how they are filled."""

from ypsil.core.templates.files import template_file, template_from
from ypsil.core.templates.filling import filled, page_of, styled
from ypsil.core.templates.keeping import Keeping, KeptTemplate, Wording, kept_template, wordings
from ypsil.core.templates.matching import Match, can_play, match
from ypsil.core.templates.model import Need, Template
from ypsil.core.templates.shipped import template_called, templates
from ypsil.core.templates.switching import switched

__all__ = [
    "Keeping",
    "KeptTemplate",
    "Match",
    "Need",
    "Template",
    "Wording",
    "can_play",
    "filled",
    "kept_template",
    "match",
    "page_of",
    "styled",
    "switched",
    "template_called",
    "template_file",
    "template_from",
    "templates",
    "wordings",
]
