"""A page as one HTML file that needs nothing else: its letters, pictures, style and script stand in it."""

from __future__ import annotations

import base64
import hashlib
from functools import cache
from pathlib import Path

import ypsil.core.reading as reading
from ypsil.core.drawing.svg import escaped
from ypsil.core.errors import YpsilError
from ypsil.core.export.fonts import font_styles
from ypsil.core.export.states import states_of
from ypsil.core.reading import direction_of, places_css, reading_body
from ypsil.core.render import Page, draw_narrow

_SHIPPED = Path(reading.__file__).parent / "static" / "ypsil"


def page_to_html(page: Page) -> str:
    """Return a page as one file for browsers, which works without a network. Its own policy (W3C, Content Security
    Policy Level 3) lets nothing run in it but its own scripts. What readers choose is worked out before.

    Raises YpsilError for a report without anything in it.
    """
    if not page.tiles():
        raise YpsilError("the report is empty", where=page.report.title, remedy="add something to it first")
    narrow = draw_narrow(page)
    scenes = [view.scene for view in page.tiles()] + [drawn.scene for drawn in narrow.values()]
    scenes += [view.header.scene for view in page.tiles() if view.header]
    states = states_of(page)
    scenes += states.scenes if states else ()
    style = font_styles(scenes) + places_css(page) + _shipped("page.css")
    scripts = [_shipped("marks.js"), *([_shipped("states.js")] if states else [])]
    policy = (
        f"default-src 'none'; img-src data:; font-src data:; style-src {_hash(style)}; "
        f"script-src {' '.join(map(_hash, scripts))}; base-uri 'none'; form-action 'none'"
    )
    held = f'<script type="application/json" id="states">{states.json}</script>\n' if states else ""
    language = escaped(page.report.language)
    return (
        f'<!DOCTYPE html>\n<html lang="{language}" dir="{direction_of(page.report.language)}">\n<head>\n'
        '<meta charset="utf-8">\n<meta name="viewport" content="width=device-width, initial-scale=1">\n'
        f'<meta http-equiv="Content-Security-Policy" content="{escaped(policy)}">\n'
        f"<title>{escaped(page.report.title)}</title>\n<style>{style}</style>\n</head>\n"
        f'<body class="published">\n<main class="page">\n{reading_body(page, narrow)}</main>\n{held}'
        + "".join(f'<script type="module">{script}</script>\n' for script in scripts)
        + "</body>\n</html>\n"
    )


@cache
def _shipped(name: str) -> str:
    return (_SHIPPED / name).read_text()


def _hash(content: str) -> str:
    return f"'sha256-{base64.b64encode(hashlib.sha256(content.encode()).digest()).decode()}'"
