"""The gallery: templates drawn with an author's own tables, and what each of them still needs."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from threading import Lock

from django.http import Http404
from django.utils.safestring import SafeString

from ypsil.core.document.page_formats import KINDS_OF_PAGE, PAGE_FORMATS
from ypsil.core.draft import Draft, Subject, draft
from ypsil.core.errors import YpsilError
from ypsil.core.report import ReportBody
from ypsil.core.tables.model import Column
from ypsil.core.templates import Match, Need, Template, can_play, filled, match, page_of, templates
from ypsil.web.accounts.services import User
from ypsil.web.compose.own_templates import own_template, own_templates
from ypsil.web.compose.services import remembered, subject_of
from ypsil.web.compose.thumbnails import whole_page
from ypsil.web.gather.services import Table, current_preparation, tables_of

# What the page by rules is called among the templates.
BY_RULES = "by-rules"
FORMAT_NAMES = {
    "tall": "Tall infographic", "dashboard": "Dashboard", "print": "Printed page", "slides": "Slides", "post": "Post",
}  # fmt: skip
_MOST_KEPT, _LONGEST_KEPT = 4, 300_000
# How much of a page a card shows, in times its width.
_CARD_PART = 1.25
_kept: OrderedDict[tuple[str, int], Subject] = OrderedDict()
_lock = Lock()


@dataclass(frozen=True, slots=True)
class Offered:
    """A template in the gallery: with the tables that were chosen it fits, or lacks something; without any, nothing is
    said of that."""

    template: Template
    found: Match | None

    @property
    def fits(self) -> bool:
        return self.found is None or self.found.fits

    @property
    def is_own(self) -> bool:
        return self.template.name not in templates()

    @property
    def formats(self) -> str:
        return ", ".join(FORMAT_NAMES[name] for name in self.template.formats)


@dataclass(frozen=True, slots=True)
class Playing:
    """A role of a template, who plays it and why, and who else could."""

    need: Need
    column: str
    why: str
    able: Sequence[Column]


def tables_with_rows(person: User) -> list[Table]:
    """Return the tables of somebody that something can be drawn of, the newest first."""
    return [table for table in tables_of(person) if table.current is not None]


def chosen_among(tables: Sequence[Table], uids: Sequence[str]) -> list[Table]:
    """Return the tables that were chosen, in the order of choosing; the first where none was. There are no others
    (404)."""
    by_uid = {table.uid: table for table in tables}
    if any(uid not in by_uid for uid in uids):
        raise Http404("There is no such table.")
    return [by_uid[uid] for uid in dict.fromkeys(uids)] or list(tables[:1])


def subjects_for(tables: Sequence[Table]) -> list[Subject]:
    """Return tables as pages are made of them; those that were looked at last are at hand, with their answers."""
    return [one for table in tables if (one := _subject(table)) is not None]


def subjects_shown(person: User, body: ReportBody) -> list[Subject]:
    """Return the tables of somebody that a report asks, as pages are made of them."""
    return subjects_for(list(tables_of(person).filter(uid__in=body.tables())))


def _subject(table: Table) -> Subject | None:
    preparation = current_preparation(table)
    if preparation is None:
        return None
    key = (f"{table.uid}:{table.name}", preparation.pk)
    with _lock:
        if key in _kept:
            _kept.move_to_end(key)
            return _kept[key]
    found = subject_of(table)
    if found is not None and found.profile.rows <= _LONGEST_KEPT:
        with _lock:
            _kept[key] = found
            while len(_kept) > _MOST_KEPT:
                _kept.popitem(last=False)
    return found


def template_for(person: User, name: str) -> Template | None:
    """Return a template by its name, shipped or somebody's own; None for the page by rules. There is no other (404)."""
    return None if name == BY_RULES else templates().get(name) or own_template(person, name)


def offered(
    person: User, subjects: Sequence[Subject], purpose: str = "", kind: str = "", words: str = ""
) -> list[Offered]:
    """Return the templates for a purpose and a kind of page that are found by some words: one's own first, and of
    these and the others each time those that fit."""
    found = [
        Offered(template, match(template, subjects) if subjects else None)
        for template in (*own_templates(person), *templates().values())
        if (not purpose or template.purpose == purpose)
        and (not kind or kind in template.formats)
        and _is_found(template, words)
    ]
    return sorted(found, key=lambda one: (not one.is_own, not one.fits))


def _is_found(template: Template, words: str) -> bool:
    said = " ".join((template.title, template.purpose, template.structure, template.says, template.words)).lower()
    return all(word in said for word in words.lower().split())


def drawn(
    template: Template | None,
    subjects: Sequence[Subject],
    *,
    title: str = "",
    kind: str = "",
    roles: Mapping[str, str] | None = None,
) -> Draft:
    """Return a page of a template, or by rules, with tables in it; raises YpsilError where they lack what the template
    needs."""
    called = title or next((subject.table.name for subject in subjects), "") or "A page"
    if template is None:
        page = PAGE_FORMATS[KINDS_OF_PAGE.get(kind, "tall")].page
        return draft(subjects, ReportBody(title=called, page=page), title)
    page = (
        PAGE_FORMATS[KINDS_OF_PAGE[kind]].page
        if kind in KINDS_OF_PAGE and kind != template.format
        else page_of(template)
    )
    return filled(template, subjects, ReportBody(title=called, page=page), title, roles)


def skeleton(template: Template) -> Draft:
    """Return a template that no table is in: what belongs where."""
    return filled(template, [], ReportBody(title=template.title, page=page_of(template)))


def playing(found: Match) -> list[Playing]:
    """Return who plays which role of a template."""
    by_role = {one.need.role: one for one in found.played}
    return [
        Playing(
            need,
            by_role[need.role].column if need.role in by_role else "",
            by_role[need.role].why if need.role in by_role else "",
            can_play(need, found.subject),
        )
        for need in found.template.needs
    ]


def picture(template: Template | None, subjects: Sequence[Subject]) -> SafeString:
    """Return the small picture of a template with tables in it; of one that does not fit, what it needs in words."""
    try:
        made = drawn(template, subjects) if subjects or template is None else skeleton(template)
    except YpsilError:
        if template is None:
            raise
        made = skeleton(template)
    return small_picture(made.body, subjects, _CARD_PART)


def small_picture(body: ReportBody, subjects: Sequence[Subject], part: float = 0.0) -> SafeString:
    """Return a page as a drawing, so many times as high as it is wide at most; 0: all of it."""
    tables = {subject.key: subject.table for subject in subjects}
    return whole_page(body, tables, remembered(), part)
