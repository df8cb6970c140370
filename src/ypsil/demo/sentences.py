"""Sentences of the sample reports: text with live figures in it."""

from __future__ import annotations

from typing import Any

from ypsil.core.prose import Block, LiveFigure, Prose, Run


def sentence(*parts: str | LiveFigure | tuple[str | LiveFigure, str]) -> Prose:
    """Return a paragraph; what comes with a look is in that look."""
    return Prose(blocks=(Block(runs=tuple(_run(part) for part in parts)),))


def _run(part: str | LiveFigure | tuple[str | LiveFigure, str]) -> Run:
    said, look = part if isinstance(part, tuple) else (part, "")
    looks = {"looks": (look,)} if look else {}
    return Run.model_validate({("text" if isinstance(said, str) else "figure"): said, **looks})


def live(table: str, measure: dict[str, Any], question: dict[str, Any] | None = None, **more: Any) -> LiveFigure:
    """Return a live figure of one measure; ``question`` says per what, where and in which order."""
    return LiveFigure.model_validate({"table": table, "question": {"measures": [measure], **(question or {})}, **more})


def first(table: str, measure: dict[str, Any], column: str, where: list[dict[str, Any]] | None = None) -> LiveFigure:
    """Return the name of the group that has most."""
    order = {"by": "value", "descending": True}
    question = {"per": [{"column": column}], "order": order, "keep": 1, "where": where or []}
    return live(table, measure, question, take="name")
