"""What readers see: a release, made once of a document and its tables as they were then.

A reader's request reads it and works nothing out. Newer data makes the next release by itself; the author's changes
reach readers when the author says so, or at once where that is ticked.
"""

from __future__ import annotations

import hashlib
import io
from dataclasses import dataclass

from django.db import transaction
from django.urls import reverse
from django.utils import timezone
from django.utils.text import Truncator
from django_tasks import task

from ypsil.core.choosing import Choices
from ypsil.core.document import read_document
from ypsil.core.drawing.fills import AddressOf
from ypsil.core.export import page_to_png
from ypsil.core.export.formats.jpeg import as_jpeg
from ypsil.core.reading import heard, reading_body
from ypsil.core.render import Page
from ypsil.core.report import ReportBody
from ypsil.web.compose.services import (
    Report,
    Sources,
    compose_view,
    hosts,
    layout_of,
    narrow_drawings,
    sources_of,
    view_of,
)
from ypsil.web.gather.services import address_of as own_address
from ypsil.web.gather.services import size_asked, states_of
from ypsil.web.program import program_digest
from ypsil.web.publish import live
from ypsil.web.publish.models import Publication, Release

KEPT_RELEASES = 5
_LEAST_SAID, _MOST_SAID = 20, 200
# What programs show that name a link (common practice, no source), in px.
_WIDE_PX, _HIGH_PX = 1200, 630


@dataclass(frozen=True, slots=True)
class Made:
    """A page for readers: its title, what stands in it, and the pictures it shows."""

    title: str
    body: str
    pictures: list[str]
    layout: str
    layout_digest: str
    language: str
    said: str = ""


def make_page(
    view: ReportBody,
    sources: Sources,
    address_of: AddressOf = own_address,
    *,
    has_numbers: bool = True,
    choices: Choices | None = None,
    has_narrow: bool = True,
) -> Made:
    """Compose a report for wide windows and, with ``has_narrow``, for phones, with the numbers behind its drawings, as
    readers chose to see it."""
    page = compose_view(view, sources, for_readers=True, choices=choices)
    digest, layout = layout_of(page)
    narrow = narrow_drawings(page) if has_narrow else {}
    body = reading_body(page, narrow, address_of=address_of, hosts=hosts(), has_numbers=has_numbers, is_asked=True)
    return Made(view.title, body, sorted(sources.pictures), layout, digest, view.language, _said(page))


def make_published(
    publication: Publication,
    view: ReportBody,
    sources: Sources,
    choices: Choices | None = None,
    *,
    has_narrow: bool = True,
) -> Made:
    """Compose a report as the readers of a link see it."""
    address_of = _addresses(publication.token)
    has_numbers = publication.lets_copy
    return make_page(view, sources, address_of, has_numbers=has_numbers, choices=choices, has_narrow=has_narrow)


def made_of(release: Release) -> Made:
    """Return a release as the page that was made of it."""
    return Made(release.title, release.body, [], release.layout, release.layout_digest, release.spoken, release.said)


def _said(page: Page) -> str:
    """Return a sentence or two that say what a page is about: its first text that is no heading."""
    texts = [one.words for one in heard(page) if one.kind == "Text" and len(one.words) >= _LEAST_SAID]
    return Truncator(texts[0] if texts else "").chars(_MOST_SAID)


def release(publication: Publication, *, with_changes: bool) -> Release:
    """Make the next release, of the document as it is now or as readers see it; nothing is made where it would be the
    same as the last."""
    report = Report.objects.select_related("owner").get(pk=publication.report_id)
    last = publication.latest()
    takes_changes = with_changes or last is None
    document = report.document if takes_changes or last is None else last.document
    revision = report.revision if takes_changes or last is None else last.revision
    view = view_of(read_document(document))
    key = _key(report, publication, document, view)
    if last is not None and last.key == key:
        if takes_changes and last.revision != revision:
            Release.objects.filter(pk=last.pk).update(revision=revision, document=document)
        return last
    made = make_published(publication, view, sources_of(report, view))
    with transaction.atomic():
        number = 1 if last is None else last.number + 1
        kept, _ = Release.objects.update_or_create(
            publication=publication,
            number=number,
            defaults={
                "key": key,
                "revision": revision,
                "document": document,
                "title": made.title,
                "body": made.body,
                "pictures": made.pictures,
                "layout": made.layout,
                "layout_digest": made.layout_digest,
                "said": made.said,
                "language": made.language,
            },
        )
        transaction.on_commit(lambda: picture_release.enqueue(kept.pk))
        transaction.on_commit(lambda: live.releases.look(publication.pk))
        publication.releases.filter(number__lte=number - KEPT_RELEASES, kept_as="").delete()
    return kept


def _key(report: Report, publication: Publication, document: object, view: ReportBody) -> str:
    """Return a digest of all that a release shows: its document, its tables as they are, the program that draws it."""
    asked = set(view.tables())
    states = states_of(report.owner, asked)
    used = sorted(f"{uid}={states.get(uid, '')}" for uid in asked)
    said = [program_digest(), publication.token, f"{publication.lets_copy} {publication.moves}", repr(document), *used]
    return hashlib.sha256("\n".join(said).encode()).hexdigest()


def _addresses(token: str) -> AddressOf:
    return lambda picture, longest_px: (
        reverse("published-picture", args=[token, picture.digest]) + size_asked(longest_px)
    )


def release_due(owner_id: int) -> None:
    """Make the releases that newer data, or changes that are shown at once, call for."""
    open_ones = Publication.objects.filter(report__owner_id=owner_id).exclude(audience=Publication.Audience.ME)
    for publication in open_ones.select_related("report__owner"):
        release(publication, with_changes=publication.shows_at_once)


def look_again(publication: Publication) -> None:
    """With the first reader of a day, let the next release be made where one is due: calculations may ask for the day,
    and the program may draw otherwise."""
    today = timezone.localdate()
    earlier = Publication.objects.filter(pk=publication.pk).exclude(looked_at=today)
    if publication.looked_at != today and earlier.update(looked_at=today):
        release_in_background.enqueue(publication.report.owner_id)


def look_at_all() -> None:
    """Let all that is due be made: this program may draw otherwise than the one before."""
    open_ones = Publication.objects.exclude(audience=Publication.Audience.ME)
    for owner_id in sorted(set(open_ones.values_list("report__owner_id", flat=True))):
        release_in_background.enqueue(owner_id)


@task()
def picture_release(release_id: int) -> None:
    """Draw the upper part of a release, as others show it who name its link."""
    found = Release.objects.filter(pk=release_id).select_related("publication__report__owner").first()
    if found is None or found.picture is not None:
        return
    report = found.publication.report
    view = view_of(read_document(found.document))
    page = compose_view(view, sources_of(report, view), for_readers=True)
    if page.tiles():
        Release.objects.filter(pk=release_id).update(picture=upper_part(page))


def upper_part(page: Page) -> bytes:
    """Return the upper part of a page as JPEG, 1200 by 630 pixels."""
    from PIL import Image

    whole = Image.open(io.BytesIO(page_to_png(page, scale=_WIDE_PX / page.width))).convert("RGB")
    sheet = Image.new("RGB", (_WIDE_PX, _HIGH_PX), page.report.style.paper)
    sheet.paste(whole.crop((0, 0, _WIDE_PX, min(whole.height, _HIGH_PX))), (0, 0))
    buffer = io.BytesIO()
    sheet.save(buffer, "PNG")
    return as_jpeg(buffer.getvalue())


@task()
def release_in_background(owner_id: int) -> None:
    """Make what is due, beside the requests."""
    release_due(owner_id)
