"""Every address as a stranger, another member and the owner."""

import pytest
from django.db import connection
from django.template.loader import render_to_string
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.urls import get_resolver, reverse

from ypsil.core.templates import Keeping
from ypsil.web.compose.actions.keep_dress import keep_dress
from ypsil.web.compose.actions.keep_moment import keep_moment
from ypsil.web.compose.actions.keep_template import keep_template
from ypsil.web.gather.blobs import keep
from ypsil.web.gather.models import Arrival, KeptPicture
from ypsil.web.publish.models import MadeFile
from ypsil.web.publish.services import publication_of

OPEN = {"sign-in", "sign-out", "sign-up", "forgotten", "forgotten-sent", "new-password", "outbox"}
OWN_DESK = {
    "account",
    "change-address",
    "delete-account",
    "desk",
    "new-table",
    "new-report",
    "from-text",
    "gallery",
    "template",
    "template-picture",
    "bring-template",
    "join-tables",
    "styles",
    "icons",
    "signs",
    "bring-picture",
}
# Of reports that are open: this one is not.
OF_LINKS = {
    "come",
    "ask-for-link",
    "give-password",
    "kept-state",
    "live-page",
    "embedded",
    "embedded-css",
    "oembed",
    "published-preview",
}
TYPED = {"typed-draw", "typed-turn", "typed-keep"}
POSTED = TYPED | {
    "ask-file",
    "ask-for-link",
    "give-password",
    "bring-style",
    "join-tables",
    "style",
    "report-style",
    "bring-template",
    "forget-template",
    "figure",
    "figures",
    "here",
    "state",
    "from-desk",
    "change-address",
    "bring-picture",
    "typed-start",
    "tile-themes",
    "edit",
    "undo",
    "redo",
    "cancel-arrival",
    "credits",
    "rename-table",
    "recipe",
    "make-current",
    "other-sheet",
    "show-table",
    "moments",
    "moment-back",
    "moment-forgotten",
}
OF_TABLES = {
    "table", "newer-file", "credits", "table-rows", "table-column", "recipe", "step-form", "completions", "comparison",
    "held", "rename-table", "delete-table", "themes", "theme-part", "show-table",
}  # fmt: skip


@pytest.fixture
def addresses(owner, table, report):
    arrival = Arrival.objects.create(owner=owner.user, name="v", file_name="v.csv")
    file = {"makes": "csv", "state": Arrival.State.DONE, "original": keep(b"A")}
    made = Arrival.objects.create(owner=owner.user, name="v", file_name="v.csv", **file)
    kept = KeptPicture.objects.create(owner=owner.user, blob=keep(b"P"), media_type="image/png", width=1, height=1)
    ordered = MadeFile.objects.create(owner=owner.user, report=report, name="r.pdf", wanted={}, content=b"%PDF")
    moment = keep_moment(owner.user, report.uid, "As it was")
    style = keep_dress(owner.user, report.uid, "Ours")
    own, _ = keep_template(owner.user, report.uid, Keeping("Ours"))
    values = {
        **dict.fromkeys(OF_TABLES, (table.uid,)),
        **dict.fromkeys(("original-file", "make-current", "other-sheet", "delete-version"), (table.uid, 1)),
        "prepared-file": (table.uid, "csv"),
        **dict.fromkeys(("template", "template-picture"), ("meeting",)),
        "style": (style.uid,),
        **dict.fromkeys(("template-file", "forget-template"), (own.name,)),
        "arrival": (arrival.uid,), "arrival-state": (arrival.uid,), "cancel-arrival": (arrival.uid,),
        "made-file": (made.uid,),
        "tile-margin": (report.uid, "c1"), "tile-numbers": (report.uid, "c1"), "instead": (report.uid, "c1"),
        "tile-term": (report.uid, "c1"), "tile-themes": (report.uid, "c1"),
        **dict.fromkeys(("typed-draw", "typed-turn", "typed-keep"), (report.uid, "c1")),
        **dict.fromkeys(("typed-start", "band-margin", "tidied"), (report.uid, report.read().bands[0].id)),
        "layout": (report.uid, "a1"), "published-layout": (publication_of(report).token, "a1"),
        "picture": (kept.blob_id,),
        **dict.fromkeys(("moment-picture", "moment-back", "moment-forgotten"), (report.uid, moment.uid)),
        "published-picture": (publication_of(report).token, kept.blob_id),
        "choose": (report.uid, report.read().bands[0].id),
        "new-password": ("MQ", "a1-b2"),
        **dict.fromkeys(("ordered", "ordered-state", "ordered-file"), (ordered.uid,)),
        "report-file": (report.uid, "svg"), "published": (publication_of(report).token,),
        **dict.fromkeys(("ask-for-link", "give-password", "live-page"), (publication_of(report).token,)),
        "come": (publication_of(report).token, "nobody"), "published-preview": (publication_of(report).token,),
        **dict.fromkeys(("embedded", "embedded-css"), (publication_of(report).token, "c1")), "oembed": (),
        "kept-state": (publication_of(report).token, 1),
    }  # fmt: skip

    patterns = [pattern for part in get_resolver().url_patterns for pattern in part.url_patterns]
    names = [pattern.name for pattern in patterns]
    return {
        name: reverse(name, args=values.get(name, () if name in OPEN | OWN_DESK else (report.uid,))) for name in names
    }


def ask(client, name, address):
    if name in POSTED:
        return client.post(address, "{}", content_type="application/json").status_code
    return client.get(address).status_code


def test_private_things_answer_404_to_members_and_lead_strangers_to_signing_in(addresses, other, stranger):
    for name, address in addresses.items():
        if name in OPEN | OWN_DESK:
            continue
        assert ask(other, name, address) == 404, name
        assert ask(stranger, name, address) == (404 if name.startswith("published") or name in OF_LINKS else 302), name


def test_the_owner_reaches_everything(addresses, owner):
    for name, address in addresses.items():
        # Tiles of typed numbers and of words have their own tests: this report's tile is neither.
        if name not in OPEN | TYPED | OF_LINKS | {"published", "published-picture", "published-layout", "tile-term"}:
            queries = {"table-column": "?name=Visits", "step-form": "?type=take"}
            assert ask(owner, name, address + queries.get(name, "")) in (200, 204, 302, 400, 422), name


def test_head_answers_as_get_does_with_nothing_in_it(addresses, owner):
    for name, address in addresses.items():
        # What goes on for ever is not compared.
        if name not in POSTED | {"sign-out", "published-layout", "published-picture", "live", "live-page"}:
            head, whole = owner.head(address), owner.get(address)
            assert (name, head.status_code, head.content) == (name, whole.status_code, b"")


def test_nothing_private_is_kept_by_a_browser_or_on_the_way(addresses, owner):
    kept_for_good = {
        "icons",
        "layout",
        "moment-picture",
        "picture",
        "theme-part",
        "published-layout",
        "published-picture",
        "published",
    }
    for name, address in addresses.items():
        if name not in POSTED | OPEN | kept_for_good:
            assert "no-store" in owner.get(address).headers["Cache-Control"], name


def test_strangers_cannot_tell_what_exists(stranger, addresses, report):
    real = stranger.get(f"/reports/{report.uid}/")
    made_up = stranger.get("/reports/made-up/")
    assert (real.status_code, real.url.replace(report.uid, "made-up")) == (made_up.status_code, made_up.url)


def test_every_page_has_the_strict_content_policy(addresses, owner):
    for name in ("desk", "report", "publish", "preview", "table"):
        policy = owner.get(addresses[name]).headers["Content-Security-Policy"]
        assert "default-src 'self'" in policy
        assert "unsafe" not in policy


def test_no_page_has_inline_styles_or_scripts(addresses, owner):
    for name in ("desk", "report", "publish", "preview", "table", "tile-margin", "proof"):
        page = owner.get(addresses[name]).content.decode()
        assert " style=" not in page, name
        assert "<style" not in page, name
        assert "<script>" not in page, name
        assert " onclick" not in page, name


def test_a_post_without_a_token_is_refused(report, owner):
    strict = Client(enforce_csrf_checks=True)
    strict.force_login(owner.user)
    assert strict.post(f"/reports/{report.uid}/undo/").status_code == 403


def test_pages_for_what_went_wrong_say_what_to_do(stranger):
    assert "There is nothing here" in stranger.get("/nowhere/").content.decode()
    assert "open too long" in render_to_string("403_csrf.html")
    for name in ("400.html", "403.html", "500.html"):
        assert "Go to the desk" in render_to_string(name)


MOST_QUERIES = 12


def test_no_view_asks_the_database_many_questions(addresses, owner):
    asked = {}
    for name, address in addresses.items():
        if name in POSTED | OPEN | TYPED | {"tile-term"} or name.startswith("published"):
            continue
        queries = {"table-column": "?name=Visits", "step-form": "?type=take"}
        owner.get(address + queries.get(name, ""))
        with CaptureQueriesContext(connection) as seen:
            owner.get(address + queries.get(name, ""))
        asked[name] = len(seen)
    assert {name: count for name, count in asked.items() if count > MOST_QUERIES} == {}
    assert len(asked) > 25
