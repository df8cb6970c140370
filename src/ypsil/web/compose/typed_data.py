"""A text as data for the editor."""

from __future__ import annotations

import json

from ypsil.core.tiles import Context, Written


def typed_as_data(written: Written, context: Context) -> dict[str, str]:
    """Return what the editor needs to type into a text: its prose as JSON, what its live figures say, and the type it
    is set in."""
    said = written.said(context)
    return {
        "prose": json.dumps(written.prose.model_dump(mode="json", exclude_defaults=True)),
        "said": json.dumps([{"text": one.text, "problem": one.problem} for one in said]),
        "role": written.role,
        "align": written.align,
        "columns": str(written.columns),
        "scale": str(written.scale),
    }
