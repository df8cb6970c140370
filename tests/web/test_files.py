"""Files of a report: at once, in turn, of a part, in several sizes."""

import io
import zipfile
from types import SimpleNamespace

import pytest
from PIL import Image
from pypdf import PdfReader

from tests.web.conftest import change, signed_in
from ypsil.core.errors import YpsilError
from ypsil.web.compose.edits import create_report
from ypsil.web.publish import files
from ypsil.web.publish.models import MadeFile
from ypsil.web.publish.orders import Order


@pytest.fixture
def queued(monkeypatch):
    """Orders wait until somebody takes them up, as with a worker."""
    make_next = files.make_next
    monkeypatch.setattr(files, "make_next", SimpleNamespace(enqueue=lambda: None, call=make_next.call))

    def work():
        while MadeFile.objects.filter(state=MadeFile.State.WAITING).exists():
            make_next.call()

    return work


def ask(client, report, **form):
    return client.post(f"/reports/{report.uid}/files/", form)


def band_of(report):
    return report.read().bands[0].id


@pytest.mark.parametrize("ending", ["pdf", "png", "jpg", "webp", "svg", "html", "pptx", "docx", "xlsx", "zip", "ypsil"])
def test_each_kind_is_there_at_one_press(owner, report, ending):
    answer = owner.get(f"/reports/{report.uid}/files/{ending}/")
    assert answer.status_code == 200 and len(answer.content) > 500
    assert answer.headers["Content-Disposition"] == f'attachment; filename="visits-of-the-spring.{ending}"'
    assert answer.headers["X-Content-Type-Options"] == "nosniff"


def test_a_tile_and_a_band_are_files_of_their_own(owner, report):
    whole = Image.open(io.BytesIO(owner.get(f"/reports/{report.uid}/files/png/").content))
    for part in ("tile=c1", f"band={band_of(report)}"):
        answer = owner.get(f"/reports/{report.uid}/files/png/?{part}")
        assert Image.open(io.BytesIO(answer.content)).height <= whole.height
        assert answer.headers["Content-Disposition"].startswith('attachment; filename="visits-of-the-spring')
    assert owner.get(f"/reports/{report.uid}/files/png/?tile=gone").status_code == 404
    assert owner.get(f"/reports/{report.uid}/files/png/?band=gone").status_code == 404


def test_the_margin_of_a_tile_and_of_a_band_lead_to_their_files(owner, report):
    tile = owner.get(f"/reports/{report.uid}/tiles/c1/").content.decode()
    band = owner.get(f"/reports/{report.uid}/bands/{band_of(report)}/margin/")
    assert f"/reports/{report.uid}/files/svg/?tile=c1" in tile and "Copy as picture" in tile
    if band.status_code == 200:
        assert f"?band={band_of(report)}" in band.content.decode()


def test_a_file_is_made_in_turn_and_got_when_it_is_ready(owner, report, queued):
    asked = ask(owner, report, ending="pdf", paper="A4", numbers="on")
    waiting = owner.get(asked.url)
    assert "is being made" in waiting.content.decode()
    made = MadeFile.objects.get()
    state = f"/files/{made.uid}/state/"
    assert owner.get(state).json() == {"state": "waiting", "part": 0.0}
    assert owner.get(f"/files/{made.uid}/content/").status_code == 404
    queued()
    assert owner.get(state).json() == {"state": "ready", "part": 1.0}
    assert "Download it" in owner.get(asked.url).content.decode()
    got = owner.get(f"/files/{made.uid}/content/")
    pages = PdfReader(io.BytesIO(got.content)).pages
    assert got.headers["Content-Type"] == "application/pdf" and round(float(pages[0].mediabox.height)) == 842
    assert made.name in owner.get(f"/reports/{report.uid}/publish/").content.decode()


def test_several_sizes_come_as_one_zip_with_how_far_it_is(owner, report, queued, monkeypatch):
    parts = []
    monkeypatch.setattr(files, "_has_done", lambda made, part: parts.append(part))
    ask(owner, report, ending="png", sizes=["1x", "3x"], size="500px")
    queued()
    made = MadeFile.objects.get()
    assert parts == pytest.approx([1 / 3, 2 / 3, 1])
    with zipfile.ZipFile(io.BytesIO(made.content)) as found:
        widths = {name.rsplit("-", 1)[1]: Image.open(found.open(name)).width for name in found.namelist()}
    assert widths["500px.png"] == 500 and widths["3x.png"] == 3 * widths["1x.png"]
    assert made.name.endswith(".zip") and made.media_type == "application/zip"


def test_the_same_is_not_made_twice_and_anew_once_the_report_changed(owner, report, queued):
    first, again = ask(owner, report, ending="pdf", size="3x"), ask(owner, report, ending="pdf", size="1x")
    assert first.url == again.url, "sizes are nothing to a PDF"
    change(owner, report, {"type": "rename", "title": "Another"})
    assert ask(owner, report, ending="pdf").url != first.url
    assert MadeFile.objects.count() == 2


@pytest.mark.parametrize(
    ("form", "said"),
    [
        ({"ending": "exe"}, "no such kind of file"),
        ({"ending": "png", "size": "huge"}, "is no size"),
        ({"ending": "pdf", "band": "gone"}, "there is no band"),
        ({"ending": "pdf", "tile": "gone"}, "there is no tile"),
        ({"ending": "png", "sizes": [f"{n}x" for n in range(1, 10)]}, "at most 8 sizes"),
    ],
)
def test_what_cannot_be_had_is_refused_in_words(owner, report, form, said):
    answer = ask(owner, report, **form)
    assert answer.status_code == 422 and said in answer.content.decode()
    assert not MadeFile.objects.exists()


def test_a_size_that_is_too_large_is_said_where_the_file_was_to_be(owner, report, queued):
    asked = ask(owner, report, ending="png", size="99999px")
    queued()
    assert "too large" in owner.get(asked.url).content.decode()
    assert ask(owner, report, ending="png", size="99999px").url != asked.url


def test_a_fault_of_the_program_is_said_and_the_next_file_is_made(owner, report, queued, monkeypatch):
    asked = ask(owner, report, ending="svg")
    with monkeypatch.context() as broken:
        broken.setattr(files, "page_for", lambda *_: 1 / 0)
        files.make_next.call()
    assert "fault of the program" in owner.get(asked.url).content.decode()
    after = ask(owner, report, ending="svg")
    queued()
    assert "Download it" in owner.get(after.url).content.decode()


def test_two_hundred_wait_and_people_take_turns(owner, other, report, queued):
    for n in range(200):
        ask(owner, report, ending="png", size=f"{100 + n}px")
    full = ask(owner, report, ending="png", size="99px")
    assert full.status_code == 422 and "200 files are waiting" in full.content.decode()
    theirs = create_report(other.user, "Theirs")
    change(
        other, theirs, {"type": "add_tile", "band": theirs.read().bands[0].id, "tile": {"type": "text", "text": "A"}}
    )
    asked = ask(other, theirs, ending="svg")
    assert "200 files were asked for before" in other.get(asked.url).content.decode()
    files.make_next.call()
    files.make_next.call()
    owners = list(MadeFile.objects.filter(state="ready").order_by("begun").values_list("owner", flat=True))
    assert owners == [owner.user.pk, other.user.pk]


def test_what_a_worker_left_in_the_middle_is_taken_up(owner, report, queued):
    ask(owner, report, ending="svg")
    MadeFile.objects.update(state=MadeFile.State.MAKING)
    files.resume_files()
    queued()
    assert MadeFile.objects.get().state == MadeFile.State.READY


def test_files_are_kept_for_a_day_and_twenty_of_each_person(owner, report, queued):
    for n in range(23):
        ask(owner, report, ending="png", size=f"{100 + n}px")
        queued()
    assert MadeFile.objects.count() == 20
    MadeFile.objects.update(asked=MadeFile.objects.first().asked - 2 * files.KEPT_FOR)
    files.forget_files()
    assert not MadeFile.objects.exists()


def test_an_order_is_only_its_askers(owner, other, report, queued):
    asked = ask(owner, report, ending="svg")
    queued()
    made = MadeFile.objects.get()
    for address in (asked.url, f"/files/{made.uid}/state/", f"/files/{made.uid}/content/"):
        assert other.get(address).status_code == 404
    assert ask(other, report, ending="svg").status_code == 404
    assert signed_in("third").get(asked.url).status_code == 404


def test_orders_are_read_as_they_were_kept():
    order = Order("pdf", band="b1", paper="A4", has_bleed=True)
    assert Order.of_json(order.as_json()) == order
    assert Order("png", paper="A4").as_json() == Order("png").as_json()
    with pytest.raises(YpsilError, match="is no size"):
        Order("png").delivery("12")
