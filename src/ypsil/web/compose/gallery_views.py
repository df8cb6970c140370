"""The gallery of templates, each drawn with one's own tables; one of them at full size; and its use."""

from __future__ import annotations

from collections.abc import Sequence
from urllib.parse import urlencode

from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from ypsil.core.draft import Subject, certain_join
from ypsil.core.errors import YpsilError
from ypsil.core.tables.shown_names import in_words
from ypsil.core.templates import Template, match, templates
from ypsil.web.accounts.services import asker, once
from ypsil.web.compose import gallery
from ypsil.web.compose.actions.fill_template import fill_template
from ypsil.web.compose.actions.join_tables import join_tables
from ypsil.web.compose.actions.switch_template import switch_template
from ypsil.web.compose.models import Report
from ypsil.web.compose.own_templates import own_templates
from ypsil.web.compose.services import report_for
from ypsil.web.gather.services import Table
from ypsil.web.middleware import sentence_of


@login_required
@require_safe
def templates_shown(request: HttpRequest) -> HttpResponse:
    """All templates, those that fit the chosen tables first."""
    tables, chosen, subjects = _chosen(request)
    laid_out = _laid_out(request)
    looked = {name: request.GET.get(name, "").strip()[:200] for name in ("purpose", "format", "q")}
    found = gallery.offered(asker(request), subjects, looked["purpose"], looked["format"], looked["q"])
    context = {
        "tables": tables,
        "chosen": [table.uid for table in chosen],
        "named": " and ".join(f"“{table.name}”" for table in chosen),
        "asked": _asked(chosen, laid_out),
        "laid_out": laid_out,
        "found": found,
        "purposes": list(dict.fromkeys(one.purpose for one in (*templates().values(), *own_templates(asker(request))))),
        "formats": gallery.FORMAT_NAMES.items(),
        "looked": looked,
        "bands": own_templates(asker(request), bands=True),
        "join": _join(subjects),
        "by_rules": gallery.BY_RULES if subjects and not any(looked.values()) else "",
    }
    return render(request, "compose/gallery.html", context)


@login_required
@require_POST
def join(request: HttpRequest) -> HttpResponse:
    """Make one table of two that go together, and show the templates with it."""
    uids = request.POST.getlist("table")
    try:
        one, other = join_tables(asker(request), uids)
    except YpsilError as refused:
        messages.warning(request, sentence_of(refused))
        return redirect(f"{reverse('gallery')}?{urlencode({'table': uids}, doseq=True)}")
    messages.success(
        request, f"“{one.name}” has the columns of “{other.name}” now. In its steps that can be changed or undone."
    )
    left = [one.uid, *(uid for uid in uids if uid not in (one.uid, other.uid))]
    return redirect(f"{reverse('gallery')}?{urlencode({'table': left}, doseq=True)}")


@login_required
@require_safe
def template_picture(request: HttpRequest, name: str) -> HttpResponse:
    """The small picture of a template with the chosen tables in it."""
    template = gallery.template_for(asker(request), name)
    _, _, subjects = _chosen(request)
    return HttpResponse(gallery.picture(template, subjects), content_type="image/svg+xml")


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
@once
def template_shown(request: HttpRequest, name: str) -> HttpResponse:
    """A template at full size with the chosen tables in it, who plays which role, and the way to a report of it."""
    template = gallery.template_for(asker(request), name)
    given = request.POST if request.method == "POST" else request.GET
    tables, chosen, subjects = _chosen(request)
    roles = {key.removeprefix("role-"): str(value) for key, value in given.items() if key.startswith("role-") and value}
    laid_out = _laid_out(request)
    title, kind = " ".join(given.get("title", "").split())[:200], given.get("format", "")
    problem = ""
    if request.method == "POST" and given.get("do") == "show":
        shown = {
            "for": [laid_out.uid] if laid_out else [],
            "table": [table.uid for table in chosen],
            "title": title,
            "format": kind,
        }
        shown |= {f"role-{role}": column for role, column in roles.items()}
        return redirect(f"{reverse('template', args=[name])}?{urlencode(shown, doseq=True)}")
    if request.method == "POST":
        try:
            uids = [table.uid for table in chosen]
            if laid_out is not None:
                switch_template(asker(request), laid_out.uid, name, uids, kind, roles)
                messages.success(
                    request, "It is laid out anew. What found no place waits at the foot; undo brings all back."
                )
                return redirect("report", laid_out.uid)
            return redirect("report", fill_template(asker(request), name, uids, title, kind, roles).uid)
        except YpsilError as refused:
            problem = sentence_of(refused)
    page = _page(template, subjects, title, kind, roles)
    context = {
        "tables": tables,
        "chosen": [table.uid for table in chosen],
        "named": " and ".join(f"“{table.name}”" for table in chosen),
        "asked": _asked(chosen, laid_out),
        "laid_out": laid_out,
        "kind": kind,
        "title": title,
        "problem": problem,
        # What needs nothing can be filled by hand.
        "own": name if template is not None and name not in templates() else "",
        "can_take": not page["missing"] and (bool(subjects) or not page.get("needs")),
        **page,
    }
    return render(request, "compose/template.html", context, status=422 if problem else 200)


def _page(
    template: Template | None, subjects: Sequence[Subject], title: str, kind: str, roles: dict[str, str]
) -> dict[str, object]:
    """Return what is shown of a template: its page, or what it needs, and its roles."""
    if template is None:
        formats = [(one, gallery.FORMAT_NAMES[one]) for one in gallery.FORMAT_NAMES]
        made = gallery.drawn(None, subjects, title=title, kind=kind)
        page = gallery.small_picture(made.body, subjects)
        return {"picture": page, "formats": formats, "missing": (), "left_out": made.left_out}
    found = match(template, subjects, roles) if subjects else None
    fits = found is not None and found.fits
    made = (
        gallery.drawn(template, subjects, title=title, kind=kind, roles=roles) if fits else gallery.skeleton(template)
    )
    return {
        "template": template,
        "needs": template.required,
        "picture": gallery.small_picture(made.body, subjects if fits else ()),
        "formats": [(one, gallery.FORMAT_NAMES[one]) for one in template.formats],
        "roles": gallery.playing(found) if found is not None else (),
        "missing": found.missing if found is not None else (),
        "left_out": made.left_out,
    }


def _join(subjects: Sequence[Subject]) -> dict[str, object] | None:
    """Return two of the chosen tables that go together for certain, in words; None where none do."""
    found = certain_join(subjects) if len(subjects) > 1 else None
    if found is None or not found.columns:
        return None
    return {
        "one": found.one.table.name,
        "other": found.other.table.name,
        "key": in_words(found.key),
        "columns": [in_words(name) for name in found.columns],
    }


def _chosen(request: HttpRequest) -> tuple[list[Table], list[Table], list[Subject]]:
    """Return one's tables, those that were chosen, and what they hold."""
    given = request.POST if request.method == "POST" else request.GET
    tables = gallery.tables_with_rows(asker(request))
    chosen = gallery.chosen_among(tables, given.getlist("table"))
    return tables, chosen, gallery.subjects_for(chosen)


def _laid_out(request: HttpRequest) -> Report | None:
    """Return the report that is to be laid out anew, where it is one."""
    given = request.POST if request.method == "POST" else request.GET
    uid = given.get("for", "")
    return report_for(asker(request), uid) if uid else None


def _asked(chosen: Sequence[Table], laid_out: Report | None) -> str:
    """Return the chosen tables, and the report that is laid out anew, as they are named in an address."""
    return "&".join(
        [*(f"table={table.uid}" for table in chosen), *([f"for={laid_out.uid}"] if laid_out is not None else [])]
    )
