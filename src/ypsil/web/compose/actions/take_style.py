"""Dress a report in the style of a file: design tokens, or the colours of a logo or a photograph."""

from __future__ import annotations

from collections.abc import Callable

from ypsil.core.drawing.picture_files import read_picture
from ypsil.core.errors import YpsilError
from ypsil.core.report import ReportBody
from ypsil.core.style.from_pictures import colours_in
from ypsil.core.style.harmony import harmonious, roles_of
from ypsil.core.style.tokens import style_from
from ypsil.web.accounts.services import User
from ypsil.web.compose.edits import take_body
from ypsil.web.compose.services import report_for

# As many as most charts have series; a picture of fewer is filled up by harmony.
_COLOURS = 8


def take_style(asker: User, uid: str, data: bytes, file_name: str) -> tuple[str, ...]:
    """Dress the asker's report in the style of a file; return what was passed over, in words. Raises YpsilError for a
    file that holds neither tokens nor a picture with a colour."""
    report = report_for(asker, uid)
    is_text = data[:1] in (b"{", b"[", b" ", b"\n", b"\xef") or file_name.lower().endswith((".json", ".tokens"))
    dressed, notes = _of_tokens(data, report.read()) if is_text else (_of_picture(data, file_name), ())
    take_body(report.pk, asker, dressed, "restyle")
    return notes


def _of_tokens(data: bytes, now: ReportBody) -> tuple[Callable[[ReportBody], ReportBody], tuple[str, ...]]:
    found = style_from(data, now.style)

    def dressed(body: ReportBody) -> ReportBody:
        corner = body.cards.corner if found.corner is None else found.corner
        cards = body.cards.model_copy(update={"corner": corner})
        return body.model_copy(update={"style": found.style, "cards": cards})

    return dressed, found.notes


def _of_picture(data: bytes, file_name: str) -> Callable[[ReportBody], ReportBody]:
    found = colours_in(read_picture(data, file_name), _COLOURS)
    if not found:
        raise YpsilError("nothing of the picture has a colour: all of it is clear", remedy="give another")
    more = [one for one in harmonious(found[0], "neighbours", _COLOURS) if one not in found]
    palette = [*found, *more][:_COLOURS]

    def dressed(body: ReportBody) -> ReportBody:
        return body.model_copy(update={"style": body.style.composed(roles_of(found[0]), palette)})

    return dressed
