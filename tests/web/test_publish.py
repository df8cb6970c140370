"""Publishing: who sees what."""

import asyncio
import io
import re

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from pypdf import PdfReader

from tests.factories import VISITS
from tests.web.conftest import arrive, change
from ypsil.web.compose.edits import create_report
from ypsil.web.events import Watch
from ypsil.web.gather.blobs import forget_table
from ypsil.web.publish import live, releases
from ypsil.web.publish.services import publication_of, set_audience, withdraw_link


@pytest.fixture
def link(report):
    return f"/r/{set_audience(report, 'link').token}/"


def test_only_me_until_it_is_opened(owner, stranger, report):
    address = f"/r/{publication_of(report).token}/"
    assert stranger.get(address).status_code == 404
    owner.post(f"/reports/{report.uid}/publish/", {"audience": "link"})
    assert stranger.get(address).status_code == 200
    owner.post(f"/reports/{report.uid}/publish/", {"audience": "me"})
    assert stranger.get(address).status_code == 404
    owner.post(f"/reports/{report.uid}/publish/", {"audience": "link"})
    assert stranger.get(address).status_code == 200, "the link is stable"


def test_a_stranger_sees_drawings_texts_and_numbers_without_signing_in(stranger, link):
    page = stranger.get(link).content.decode()
    assert re.search(r"<h1[^>]*>.*Visits of the spring.*</h1>", page)
    assert 'role="graphics-document"' in page
    assert page.count('role="graphics-document"') == 2, "one drawing for wide windows, one for phones"
    assert '<th scope="col">Day</th>' in page
    assert "noindex" in page


def test_the_preview_is_what_a_stranger_sees_once_the_changes_are_shown(owner, stranger, report, link):
    preview, shown = owner.get(f"/reports/{report.uid}/preview/"), stranger.get(link)
    pages = [page.content.decode() for page in (preview, shown)]
    bodies = [page[page.index("<section") : page.index("</main>")] for page in pages]
    assert bodies[0] == bodies[1] and "data-live" in pages[1] and "data-live" not in pages[0]


def test_the_places_of_tiles_come_in_a_style_sheet_that_is_kept_for_good(owner, stranger, report, link):
    text = {
        "id": "n1",
        "type": "text",
        "text": "narrow " * 2_800,
        "place": {"column": 0, "row": 0, "width": 1, "height": 4},
    }
    change(owner, report, {"type": "add_tile", "band": report.read().bands[0].id, "tile": text})
    owner.post(f"/reports/{report.uid}/publish/", {"show": "1"})
    for client, page in ((stranger, link), (owner, f"/reports/{report.uid}/")):
        address = re.search(r'href="([^"]*/layout/[^"]*)"', client.get(page).content.decode())[1]
        sheet = client.get(address)
        assert (sheet.status_code, sheet.headers["Content-Type"]) == (200, "text/css")
        assert "immutable" in sheet.headers["Cache-Control"]
        height = int(re.search(r"\.t-n1\{grid-column:1/span 1;grid-row:\d+/span (\d+)\}", sheet.content.decode())[1])
        assert height > 2_000, "far beyond what classes could be made for"
    assert stranger.get(address).status_code in (302, 404)
    assert stranger.get(link + "layout/gone.css").status_code == 404


def test_a_layout_that_is_no_longer_at_hand_is_made_anew_and_not_kept(owner, report):
    sheet = owner.get(f"/reports/{report.uid}/layout/0123456789abcdef.css")
    assert (sheet.headers["Cache-Control"], b".t-c1{" in sheet.content) == ("no-store", True)


def test_newer_data_reaches_readers_by_itself_and_changes_when_the_author_says_so(
    owner, stranger, table, report, link, django_capture_on_commit_callbacks
):
    assert "Jan 2026, 200" in stranger.get(link).content.decode()
    change(owner, report, {"type": "change_tile", "tile": "c1", "changes": {"title": "Footfall"}})
    with django_capture_on_commit_callbacks(execute=True):
        arrive(owner, VISITS.replace("120", "920"), table)
    page = stranger.get(link).content.decode()
    assert ("Jan 2026, 1,000" in page, "Footfall" in page) == (True, False)
    stage = owner.get(f"/reports/{report.uid}/publish/").content.decode()
    assert "readers do not see that yet" in stage
    owner.post(f"/reports/{report.uid}/publish/", {"show": "1"})
    page = stranger.get(link).content.decode()
    assert ("Jan 2026, 1,000" in page, "Footfall" in page) == (True, True)
    assert "The report as it is now" in owner.get(f"/reports/{report.uid}/publish/").content.decode()


def test_where_it_is_ticked_each_change_reaches_readers_at_once(
    owner, stranger, report, link, django_capture_on_commit_callbacks
):
    owner.post(f"/reports/{report.uid}/publish/", {"at_once": "1"})
    with django_capture_on_commit_callbacks(execute=True):
        change(owner, report, {"type": "change_tile", "tile": "c1", "changes": {"title": "Footfall"}})
    assert "Footfall" in stranger.get(link).content.decode()


def test_a_reader_makes_nobody_compose_prepare_or_validate(stranger, report, link, monkeypatch):
    stranger.get(link)
    for name in (
        "ypsil.web.publish.releases.make_page",
        "ypsil.web.gather.preparing.base",
        "ypsil.core.document.read_document",
    ):
        monkeypatch.setattr(name, None)
    with CaptureQueriesContext(connection) as seen:
        assert stranger.get(link).status_code == 200
    assert len(seen) <= 4


def test_a_deleted_table_takes_nothing_from_readers(owner, stranger, table, link, django_capture_on_commit_callbacks):
    with django_capture_on_commit_callbacks(execute=True):
        forget_table(table)
    assert "Jan 2026, 200" in stranger.get(link).content.decode()


def test_only_the_latest_releases_are_kept(owner, report, link):
    for place in range(8):
        change(owner, report, {"type": "change_tile", "tile": "c1", "changes": {"title": f"Title {place}"}})
        owner.post(f"/reports/{report.uid}/publish/", {"show": "1"})
        owner.post(f"/reports/{report.uid}/publish/", {"show": "1"})
    numbers = list(publication_of(report).releases.order_by("number").values_list("number", flat=True))
    assert numbers == [5, 6, 7, 8, 9]


def test_an_unchanged_page_is_answered_with_304_and_a_changed_one_is_not(
    owner, stranger, table, link, monkeypatch, django_capture_on_commit_callbacks
):
    tag = stranger.get(link).headers["ETag"]
    assert stranger.get(link, headers={"if-none-match": tag}).status_code == 304
    with monkeypatch.context() as another:
        another.setattr("ypsil.web.publish.reader_views.program_digest", lambda: "another program")
        assert stranger.get(link, headers={"if-none-match": tag}).status_code == 200
    with django_capture_on_commit_callbacks(execute=True):
        arrive(owner, VISITS.replace("120", "920"), table)
    assert stranger.get(link, headers={"if-none-match": tag}).status_code == 200


def test_a_withdrawn_link_stays_dead_and_says_so_like_one_that_never_was(owner, stranger, report, link):
    owner.post(f"/reports/{report.uid}/publish/", {"withdraw": "1"})
    gone = stranger.get(link)
    assert gone.status_code == 404
    assert "withdrawn by its author" in gone.content.decode()
    assert gone.content == stranger.get("/r/never-was/").content
    set_audience(report, "link")
    assert stranger.get(link).status_code == 404
    assert stranger.get(f"/r/{publication_of(report).token}/").status_code == 200


def test_links_cannot_be_guessed(report):
    tokens = {withdraw_link(report).token for _ in range(20)}
    assert len(tokens) == 20
    assert min(map(len, tokens)) >= 32


def test_an_unknown_audience_is_refused(owner, report):
    assert owner.post(f"/reports/{report.uid}/publish/", {"audience": "world"}).status_code == 404
    assert publication_of(report).audience == "me"


@pytest.mark.parametrize(
    ("ending", "start"), [("svg", b"<svg"), ("png", b"\x89PNG"), ("pdf", b"%PDF"), ("xlsx", b"PK"), ("zip", b"PK")]
)
def test_the_whole_report_comes_as_a_file(owner, report, ending, start):
    reply = owner.get(f"/reports/{report.uid}/files/{ending}/")
    assert reply.content.startswith(start)
    assert f"visits-of-the-spring.{ending}" in reply.headers["Content-Disposition"]
    assert owner.get(f"/reports/{report.uid}/files/exe/").status_code == 404


def test_the_proof_says_which_tile_waits_for_what(owner, table, report):
    assert "Every tile has the data" in owner.get(f"/reports/{report.uid}/proof/").content.decode()
    arrive(owner, VISITS.replace("Visits", "Visitors"), table)
    assert "no column “Visits”" in owner.get(f"/reports/{report.uid}/proof/").content.decode()


def test_another_program_makes_its_pages_before_anybody_reads_them(stranger, report, link, monkeypatch):
    monkeypatch.setattr("ypsil.web.publish.releases.program_digest", lambda: "another program")
    releases.look_at_all()
    assert publication_of(report).latest().number == 2
    releases.look_at_all()
    assert publication_of(report).latest().number == 2


def test_a_report_says_its_language_and_writes_numbers_as_is_usual_there(owner, stranger, report):
    reply = change(owner, report, {"type": "change_report", "changes": {"language": "de"}}).json()
    assert reply["language"] == "de"
    margin = owner.get(f"/reports/{report.uid}/margin/").content.decode()
    assert '<option value="de" selected>Deutsch</option>' in margin
    assert "as usual: 1.234,5<" in margin
    assert '<html lang="de" dir="ltr">' in stranger.get(f"/r/{set_audience(report, 'link').token}/").content.decode()
    assert '<html lang="de" dir="ltr">' in owner.get(f"/reports/{report.uid}/preview/").content.decode()
    made = PdfReader(io.BytesIO(owner.get(f"/reports/{report.uid}/files/pdf/").content))
    assert made.root_object["/Lang"] == "de"


def test_readers_learn_no_names_of_tables_and_columns_that_they_do_not_see(owner, stranger, table, report):
    """A tile that waits says why to its author, and to readers that it is being updated."""
    address = f"/r/{set_audience(report, 'link').token}/"
    unfit = {"visual": "timeline", "options": {}, "title": "", "alt": ""}
    change(owner, report, {"type": "change_tile", "tile": "c1", "changes": unfit})
    releases.release(publication_of(report), with_changes=True)
    read = stranger.get(address).content.decode()
    assert "This part is being updated." in read and "it needs dates" not in read
    arrive(owner, VISITS.replace("Visits", "Salaries"), table, name="visits.csv")
    owner.post(f"/tables/{table.uid}/held/", {"accept": "1"})
    releases.release(publication_of(report), with_changes=True)
    read = stranger.get(address).content.decode()
    assert "Salaries" not in read and "no column" not in read
    assert "no column" in owner.get(f"/reports/{report.uid}/").content.decode()
    assert "no column" in owner.get(f"/reports/{report.uid}/proof/").content.decode()


def test_a_page_that_was_compressed_on_its_way_is_known_again(owner, stranger, link):
    first = stranger.get(link, headers={"accept-encoding": "gzip"})
    assert first.headers["ETag"].startswith('W/"') and first.headers["Content-Encoding"] == "gzip"
    again = stranger.get(link, headers={"accept-encoding": "gzip", "if-none-match": first.headers["ETag"]})
    assert (again.status_code, again.content) == (304, b"")


def test_a_deleted_report_is_gone_for_its_author_and_its_readers_and_its_table_stays(
    owner, stranger, report, table, link
):
    asked = owner.get(f"/reports/{report.uid}/delete/").content.decode()
    assert "The link stops working" in asked
    assert stranger.get(link).status_code == 200
    assert owner.post(f"/reports/{report.uid}/delete/").url == "/"
    assert (stranger.get(link).status_code, owner.get(f"/reports/{report.uid}/").status_code) == (404, 404)
    assert owner.get(f"/tables/{table.uid}/").status_code == 200


def test_a_report_of_words_alone_has_no_workbook_and_says_so(owner):
    words = create_report(owner.user, "Only words")
    reply = owner.get(f"/reports/{words.uid}/files/xlsx/")
    assert reply.status_code == 422 and "nothing for a workbook" in reply.content.decode()
    assert owner.get(f"/reports/{words.uid}/files/zip/").content[:2] == b"PK"


def test_open_pages_are_told_of_newer_numbers_and_that_there_is_nothing_any_more(
    owner, report, link, table, django_capture_on_commit_callbacks
):
    publication = publication_of(report)
    before = live.release_now(publication.pk)["release"]
    with django_capture_on_commit_callbacks(execute=True):
        arrive(owner, VISITS.replace("120", "920"), table)
    assert live.release_now(publication.pk) == {"release": before + 1}
    set_audience(report, "me")
    assert live.release_now(publication.pk) == {"release": None}


def test_what_is_told_ends_with_the_link(monkeypatch):
    told = iter([3, 3, 4, None])
    watch = Watch(lambda _: {"release": next(told)}, live.releases._is_last)
    monkeypatch.setattr("ypsil.web.events.EVERY_S", 0)

    async def heard():
        return [event async for event in watch.events(1)]

    assert asyncio.run(heard()) == [
        'data: {"release": 3}\n\n',
        'data: {"release": 4}\n\n',
        'data: {"release": null}\n\n',
    ]
