"""Requests made by chance to every address, with odd values in it: done, or refused, and never a fault of the server.

More of them: ``FUZZ=5000 pytest tests/web/test_odd_requests.py``. Each is made from its number, so that a failure can
be made again.
"""

import json
import os
import random
from urllib.parse import quote, urlencode

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction
from django.urls import get_resolver

from tests.odd import ODD_NUMBERS, ODD_TEXTS, Made, odd_json
from tests.web.test_access import POSTED
from ypsil.core.report.edits import edit_schema
from ypsil.core.tables.recipe import Recipe
from ypsil.web.compose.actions.keep_moment import keep_moment
from ypsil.web.publish.services import publication_of

MANY = int(os.environ.get("FUZZ", "400"))
EDITS, RECIPES = edit_schema(), Recipe.model_json_schema()
COLUMNS = ("Day", "Branch", "Kind", "Visits", "Cost", "Open", "Comment")
FIELDS = {
    "sign-in": ("username", "password", "next"), "sign-up": ("username", "password1", "password2", "email"),
    "forgotten": ("email",), "new-password": ("new_password1", "new_password2"),
    "change-address": ("address-email", "address-password"),
    "account": ("old_password", "new_password1", "new_password2"), "delete-account": (),
    "new-table": ("name", "way", "text", "cells", "what", "asked", "for", "sent"),
    "newer-file": ("cells", "text", "way"),
    "credits": ("source", "licence", "note", "name"), "new-report": ("title", "sent"), "rename-table": ("name",),
    "held": ("accept", "column-0", "column-1", "column-99", "discard"), "other-sheet": ("sheet",),
    "publish": (
        "audience", "show", "at_once", "password", "ends", "no_copying", "has_password", "name", "addresses", "forget",
        "renew", "keep", "state", "let_go", "allow", "sites", "moves",
    ),
    "ask-for-link": ("address",), "give-password": ("password",),
    "show-table": ("for", "report", "what"), "report-tables": ("table",),
    "delete-version": (), "delete-table": ("sure",), "delete-report": ("sure",),
    "from-desk": ("do", "title", "tags"), "template": ("do", "title", "format", "table", "role-amount", "role-when"),
    "style": ("do", "name"), "report-style": ("do", "name", "style"),
    "join-tables": ("table",),
    "from-text": ("text", "title", "do", "take-0", "take-1"),
    "as-template": ("title", "says", "band", "sent"),
    "ask-file": ("ending", "band", "tile", "sizes", "size", "paper", "bleed", "numbers", "outlines"),
}  # fmt: skip
SENT = (
    "text", "edit", "base", "known", "theme", "words", "term", "number", "action", "wanted", "figure", "changes",
)  # fmt: skip
ASKED = (
    "after", "sort", "dir", "find", "c0", "c3", "start", "count", "first", "columns", "name", "kind", "at", "type",
    "text", "cursor", "version", "page", "purpose", "table", "question", "visual", "term", "slot", "q", "as",
    "revision", "way", "band", "for", "next", "theme", "part", "of", "tile", "settings", "width", "column", "step",
    "number", "known", "order", "instead", "index", "times", "format", "role-amount",
    "url", "maxwidth",
)  # fmt: skip


def a_text(chance):
    return str(chance.choice((*ODD_TEXTS, *ODD_NUMBERS, *COLUMNS, "1", "c1", "month", "column", "sum", '{"type": 1}')))


def a_path(pattern, chance, known):
    """Return an address of a pattern, with parts that are there, or seldom odd ones."""
    made, first = [], pattern.partition("/")[0]
    for part in pattern.replace("<", ">").split(">"):
        kind, _, name = part.partition(":")
        if kind not in ("str", "int"):
            made.append(part)
        elif chance.random() < 0.05:
            odd = chance.choice(["0", "9" * 12, "1" * 5000, "x", "²", "१", "..", "%", "-1", "a" * 300, "\x00"])
            made.append(quote(odd, safe=""))
        else:
            made.append(str(chance.choice(known.get(f"{first} {name}") or known.get(name, ("1",)))))
    return "/" + "".join(made)


def a_body(name, chance, report):
    """Return what a form or a script of a page may send, and as what."""
    drawn = chance.random()
    named = (*COLUMNS, "c1", "2026-01", "Alder Lane", report.read().bands[0].id)
    if name == "edit" and drawn < 0.9:
        oddness = chance.choice([0, 0.02, 0.1])
        sent = {"base": report.revision, "edit": Made(EDITS, chance, oddness=oddness, named=named).some(EDITS)}
        if drawn < 0.1:
            sent[chance.choice(["base", "id", "spell", "known"])] = odd_json(chance)
        return json.dumps(sent), "application/json"
    if name == "recipe" and drawn < 0.9:
        step = Made(RECIPES, chance, named=named).some(RECIPES["properties"]["steps"]["items"])
        action = chance.choice(["add", "replace", "remove", "move", "switch", "undo", "reading", "correct", "x"])
        place = chance.choice([0, 1, -1, 10**20, None, "0", 1.5])
        return json.dumps({"action": action, "step": step, "at": place, "to": place, "on": True}), "application/json"
    if name in FIELDS and drawn < 0.8:
        fields = {field: a_text(chance) for field in FIELDS[name] if chance.random() < 0.7}
        if name in ("new-table", "newer-file") and chance.random() < 0.5:
            content = a_text(chance).encode() * chance.choice([1, 1, 40])
            fields["file"] = SimpleUploadedFile(f"{a_text(chance)[:60]}.csv", content)
            return fields, None
        return urlencode(fields), "application/x-www-form-urlencoded"
    if drawn < 0.5:
        asked = chance.sample(SENT, 3)
        return json.dumps({one: odd_json(chance) for one in asked}), "application/json"
    sent = chance.choice(["", "[]", "1", "null", "{", "[" * 100_000, '{"base": NaN}', "²", '"\\ud800"', "{}" * 3])
    return sent, "application/json"


@pytest.fixture
def known(owner, table, report):
    return {
        "tables uid": (table.uid,), "reports uid": (report.uid,), "table": (table.uid,), "number": (1, 2),
        "ending": ("csv", "svg", "png", "xlsx"),
        "digest": ("a1",), "part": ("c1", report.read().bands[0].id, "gone"),
        "tile_id": ("c1",), "band_id": (report.read().bands[0].id,),
        "token": (publication_of(report).token,),
        "moment": (keep_moment(owner.user, report.uid, "As it was").uid,),
    }  # fmt: skip


def _asked(owner, name, address, accept, chance, report):
    if chance.random() < (0.1 if name in POSTED or name in FIELDS else 0.9):
        return owner.get(address, headers=accept)
    body, kind = a_body(name, chance, report)
    more = {} if kind is None else {"content_type": kind}
    return owner.post(address, body, headers=accept, **more)


@pytest.mark.parametrize("part", range(4))
def test_an_odd_request_is_done_or_refused(owner, known, report, part):
    owner.raise_request_exception = False
    patterns = [pattern for found in get_resolver().url_patterns for pattern in found.url_patterns]
    data = [pattern for pattern in patterns if pattern.name in ("edit", "recipe")]
    answered = set()
    for number in range(part, MANY, 4):
        chance = random.Random(f"request {number}")
        pattern = chance.choice(patterns if chance.random() < 0.6 else data)
        address = a_path(str(pattern.pattern), chance, known)
        query = urlencode({name: a_text(chance) for name in chance.sample(ASKED, chance.choice([0, 1, 3]))})
        accept = {"accept": chance.choice(["application/json", "text/html"])}
        owner.force_login(owner.user)
        with transaction.atomic():
            reply = _asked(owner, pattern.name, f"{address}?{query}", accept, chance, report)
            # Each finds everything as it was at first.
            transaction.set_rollback(True)
        seen = getattr(reply, "exc_info", None)
        assert reply.status_code < 500, f"request {number}: {address[:120]} {seen and seen[1]!r}"
        answered.add(reply.status_code)
    assert {200, 404} <= answered
