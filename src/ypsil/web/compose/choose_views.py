"""What can be added: suggestions drawn with one's own data, icons, pictures and shapes."""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any

from django.contrib.auth.decorators import login_required
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_safe

from ypsil.core.draft import instead_of
from ypsil.core.drawing.forms import FORMS
from ypsil.core.drawing.icons import find_icons
from ypsil.core.drawing.ornaments import ORNAMENTS
from ypsil.core.drawing.signs import CATEGORIES, find_signs, sign_named
from ypsil.core.report import ReportBody
from ypsil.core.report.arrangements import ARRANGEMENTS, Finder
from ypsil.core.report.arrangements.model import PICTURE
from ypsil.core.report.suggest import PURPOSES, Suggestion, suggest
from ypsil.core.templates import filled, match
from ypsil.core.templates.leading import fresh
from ypsil.core.tiles import AS_SIGN, IN_ORDER, IN_WORDS, TO_PRESS, as_visual, offered
from ypsil.web.accounts.services import User, asker
from ypsil.web.compose import margin
from ypsil.web.compose.filtering import filters_offered
from ypsil.web.compose.gallery import subjects_for
from ypsil.web.compose.own_templates import own_templates
from ypsil.web.compose.services import report_for, subject_of
from ypsil.web.compose.signs import sign_markup
from ypsil.web.compose.thumbnails import band_drawing, offer_drawing, suggestion_drawing
from ypsil.web.compose.typed_tiles import EMPTY_CELLS
from ypsil.web.gather.services import (
    KeptPicture,
    Table,
    current_preparation,
    pictures_of,
    profile_of,
    report_table,
    tables_of,
)

SHOWN_SUGGESTIONS = 9
SHAPE = "a shape"
_FORM_ROOM = (90.0, 56.0)
# Ready-made bands are filled from so many tables: those in use, then the newest.
MOST_TABLES = 4
# Among so many it is looked for one that fits a band of somebody's own.
MOST_FOR_OWN = 24
# A survey has many questions, and each a few figures of its own.
SHOWN_ANSWERS = 36
SHOWN_UNFITTING = 3
# How much better a suggestion counts that is about a table in use, and how much less the next of the same table.
_IN_USE, _NEXT = 0.35, 0.05
SHOWN_ICONS = 60
SHOWN_SIGNS = 72
MOST_RECENT = 12
MOST_SOUGHT = 200
SHOWN_PICTURES = 24


@login_required
@require_safe
def choose(request: HttpRequest, uid: str, band_id: str) -> HttpResponse:
    """ "What should the reader see?": purposes, and for one of them the fitting visuals, of one table or all."""
    found = report_for(asker(request), uid)
    tables = [table for table in tables_of(asker(request)) if table.current is not None]
    chosen = next((table for table in tables if table.uid == request.GET.get("table")), None)
    purpose = request.GET.get("purpose", "") or _first_fitting(chosen)
    # What is chosen may stand in the place of something: then it is put there, and not at the next free place.
    instead = request.GET.get("instead", "")
    add = {"type": "put_instead", "instead": instead} if instead else {"type": "add_tile", "band": band_id}
    context: dict[str, Any] = {"report": found, "band_id": band_id, "purposes": PURPOSES, "purpose": purpose}
    if purpose in (IN_WORDS, IN_ORDER, AS_SIGN, TO_PRESS):
        body = found.read()
        every = offered(purpose)
        if purpose == TO_PRESS:
            every = [*(("filter", offer) for offer in filters_offered(found, body)), *every]
        context["offers"] = [
            (
                offer,
                json.dumps({**add, "tile": {"type": name, **offer.content}}),
                offer_drawing(name, offer, body.style),
            )
            for name, offer in every
        ]
    elif purpose == PICTURE:
        context["pictures"] = [
            (kept, json.dumps({**add, "tile": _picture_tile(kept)}))
            for kept in pictures_of(asker(request))[:SHOWN_PICTURES]
        ]
        context["add"] = json.dumps(add)
    elif purpose == SHAPE:
        context["forms"] = [
            (form, form.outline(*_FORM_ROOM), json.dumps({**add, "tile": {"type": "shape", "form": name}}))
            for name, form in FORMS.items()
        ]
        context["forms"] += [
            (one, one.outline(*_FORM_ROOM), json.dumps({**add, "tile": {"type": "ornament", "ornament": name}}))
            for name, one in ORNAMENTS.items()
        ]
    elif purpose == "a few numbers":
        context["empty_cells"] = EMPTY_CELLS
    elif purpose in PURPOSES:
        used = set(found.read().tables())
        context["suggestions"] = _suggestions([chosen] if chosen else tables, used, add, purpose)
        context |= {"tables": tables, "chosen": chosen}
    context["has_tables"] = bool(tables)
    return render(request, "compose/_choose.html", context)


def _picture_tile(kept: KeptPicture) -> dict[str, Any]:
    return {"type": "picture", "picture": kept.name, "aspect": round(kept.width / kept.height, 4)}


def _first_fitting(table: Table | None) -> str:
    """Return the first purpose that something of a table serves, where one was chosen."""
    preparation = current_preparation(table) if table is not None else None
    if table is None or preparation is None:
        return ""
    asked, profile = report_table(table, preparation), profile_of(preparation)
    return next((one for one in PURPOSES if any(found.fits for found in suggest(one, table.uid, asked, profile))), "")


@login_required
@require_safe
def instead(request: HttpRequest, uid: str, tile_id: str) -> HttpResponse:
    """What could be shown in the place of a visual, drawn with its table."""
    found = report_for(asker(request), uid)
    body = found.read()
    tile = as_visual(body.tile(tile_id))
    table = tables_of(found.owner).filter(uid=tile.table).first() if tile else None
    subject = subject_of(table) if table else None
    if tile is None or subject is None:
        raise Http404
    others = [one for one in map(as_visual, body.tiles()) if one is not None and one.id != tile.id]
    shown = []
    for one, says in instead_of(tile, others, subject):
        by = one.tile.model_copy(update={"why": f"{one.reason[:1].upper()}{one.reason[1:]}."})
        edit = {
            "type": "swap_visual",
            "tile": tile.id,
            "by": by.model_dump(mode="json", exclude={"id", "place"}),
            "says": says.model_dump(mode="json", exclude_defaults=True) if says else "",
        }
        shown.append((by.label(), by.why, suggestion_drawing(one), json.dumps(edit)))
    return render(request, "compose/_instead.html", {"shown": shown})


@login_required
@require_safe
def arrangements(request: HttpRequest, uid: str) -> HttpResponse:
    """Ready-made bands, drawn with the author's own tables; ``index`` tells where the one that is chosen is put."""
    found = report_for(asker(request), uid)
    body = found.read()
    index = request.GET.get("index", "")
    at = {"index": int(index)} if index.isdecimal() and len(index) < 5 else {}
    used = body.tables()
    tables = [table for table in tables_of(asker(request)) if table.current is not None]
    tables.sort(key=lambda table: used.index(table.uid) if table.uid in used else len(used))
    asked = []
    for table in tables[:MOST_TABLES]:
        preparation = current_preparation(table)
        if preparation is not None:
            asked.append((table.uid, report_table(table, preparation), profile_of(preparation)))
    finder = Finder(asked)
    made = [(one, one.made(finder, body.page)) for one in ARRANGEMENTS.values()]
    alone = {key: table for key, table, _ in asked}
    shown = [
        {
            "arrangement": one,
            "is_filled": one.is_filled(band),
            "drawing": band_drawing(band, body, alone),
            "edit": json.dumps({"type": "add_band", **at, "band": band.model_dump(mode="json")}),
        }
        for one, band in made
    ]
    own = [
        {**one, "edit": json.dumps({"type": "add_band", **at, "band": one["band"].model_dump(mode="json")})}
        for one in _own_bands(asker(request), body, tables[:MOST_FOR_OWN])
    ]
    return render(request, "compose/_arrangements.html", {"shown": shown, "own": own})


def _own_bands(person: User, body: ReportBody, tables: list[Table]) -> Iterator[dict[str, Any]]:
    """Yield the bands that somebody kept as templates, each with the table that fits it best, those in use first."""
    kept = own_templates(person, bands=True)
    subjects = subjects_for(tables) if kept else []
    asked = {subject.key: subject.table for subject in subjects}
    for template in kept:
        fits = bool(subjects) and match(template, subjects).fits
        made = filled(template, subjects if fits else [], body).body.bands[:1]
        for band in made:
            put = fresh(band)
            yield {"template": template, "fits": fits, "band": put, "drawing": band_drawing(put, body, asked)}


@login_required
@require_safe
def icons(request: HttpRequest) -> HttpResponse:
    """The shipped icons that a search finds, the first of very many; where asked, one's own pictures before them."""
    sought = request.GET.get("q", "").strip()
    found = find_icons(sought)
    own = pictures_of(asker(request)).filter(label__icontains=sought) if "pictures" in request.GET else None
    context = {
        "icons": found[:SHOWN_ICONS],
        "more": max(0, len(found) - SHOWN_ICONS),
        "none": "none" in request.GET,
        "pictures": [] if own is None else own[:SHOWN_PICTURES],
        "shapes": margin.plain_shapes(sought) if "shapes" in request.GET else [],
        "frames": margin.frames(sought) if "frames" in request.GET else [],
    }
    return render(request, "compose/_icons.html", context)


@login_required
@require_safe
def signs(request: HttpRequest) -> HttpResponse:
    """Icons of one line or coloured pictures that a search finds; without one, those that were used last come first."""
    sought, category = request.GET.get("q", "").strip()[:MOST_SOUGHT], request.GET.get("category", "")
    of: Any = "coloured" if request.GET.get("of") == "coloured" else "line"
    found = find_signs(sought, of, category)
    recent = [] if sought or category else [sign_named(name) for name in request.GET.getlist("recent")[:MOST_RECENT]]
    used = [one for one in recent if one is not None]
    shown = [*used, *(one for one in found if one not in used)][:SHOWN_SIGNS]
    own = pictures_of(asker(request)).filter(label__icontains=sought) if "pictures" in request.GET else None
    context = {
        "signs": [(one, sign_markup(one.name)) for one in shown],
        "more": max(0, len(found) - len(shown)),
        "none": "none" in request.GET,
        "pictures": [] if own is None else own[:SHOWN_PICTURES],
        "categories": CATEGORIES,
    }
    return render(request, "compose/_signs.html", context)


def _suggestions(tables: list[Table], used: set[str], add: dict[str, str], purpose: Any) -> list[dict[str, Any]]:
    """Return what tables offer for a purpose: of several first those in use, where none is the one that came last."""
    found: list[tuple[Table, Suggestion, float]] = []
    if len(tables) > 1 and not used:
        used = {max(tables, key=lambda table: table.current.created if table.current else table.created).uid}
    for table in tables:
        preparation = current_preparation(table)
        if preparation is not None:
            found_table = report_table(table, preparation)
            suggested = suggest(purpose, table.uid, found_table, profile_of(preparation))
            in_use = _IN_USE if table.uid in used else 0.0
            # The first of another table says more than the ninth of one.
            found += [(table, one, one.score + in_use - _NEXT * rank) for rank, one in enumerate(suggested)]
    found.sort(key=lambda one: -one[2])
    most = SHOWN_ANSWERS if purpose == "what people answered" else SHOWN_SUGGESTIONS
    fitting = [one for one in found if one[1].fits][:most]
    unfitting = [one for one in found if not one[1].fits][:SHOWN_UNFITTING]
    return [
        {
            "table": table,
            "suggestion": one,
            "drawing": suggestion_drawing(one) if one.fits else "",
            "edit": json.dumps({**add, "tile": one.tile.model_dump(mode="json", exclude={"id", "place"})}),
        }
        for table, one, _ in fitting + unfitting
    ]
