"""Pictures that people bring: kept for their owner, shown to others only on a published page that has them."""

import io

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from tests.web.conftest import change
from ypsil.web.gather.models import Blob, KeptPicture, ScreenPicture, Thumbnail
from ypsil.web.gather.pictures import keep_picture, pictures_named
from ypsil.web.publish.services import set_audience, withdraw_link


def png(colour="red"):
    file = io.BytesIO()
    Image.new("RGB", (30, 20), colour).save(file, "PNG")
    return file.getvalue()


def bring(client, content, name="shelf.png"):
    return client.post("/pictures/", {"file": SimpleUploadedFile(name, content)})


@pytest.fixture
def shown(owner, report):
    """A picture of the owner's, inside the digits of the report."""
    kept = keep_picture(owner.user, png(), "shelf.png")
    question = {"measures": [{"stat": "share", "column": "Branch", "values": ["Elmstow"]}]}
    changes = {"visual": "filled_numerals", "question": question, "options": {"picture": kept.name}}
    assert change(owner, report, {"type": "change_tile", "tile": "c1", "changes": changes}).status_code == 200
    return kept


def test_a_picture_is_kept_once_and_found_among_ones_own(owner):
    first, again = bring(owner, png()).json(), bring(owner, png(), "other name.png").json()
    assert first == again == {"name": first["name"], "label": "shelf", "aspect": first["aspect"]}
    assert KeptPicture.objects.count() == 1
    assert 'title="shelf"' in owner.get("/icons/?pictures&q=SHE").content.decode()
    assert 'title="shelf"' not in owner.get("/icons/?pictures&q=heart").content.decode()
    assert 'title="shelf"' not in owner.get("/icons/?q=").content.decode()


def test_shapes_are_plain_ones_pictures_and_icons(owner):
    bring(owner, png())
    found = owner.get("/icons/?pictures&shapes").content.decode()
    for name in ("rectangle", "rounded", "ellipse", "shelf", "aeroplane"):
        assert f'title="{name}"' in found
    assert 'title="ellipse"' not in owner.get("/icons/?pictures").content.decode()


@pytest.mark.parametrize("content", [b"", b"<svg/>", b"Branch\nQuay\n"], ids=["nothing", "svg", "table"])
def test_what_is_no_picture_is_refused_and_nothing_is_kept(owner, content):
    reply = bring(owner, content)
    assert reply.status_code == 422
    assert reply.json()["message"].endswith(".")
    assert not KeptPicture.objects.exists()
    assert not Blob.objects.exists()


def test_no_file_at_all_is_said(owner):
    assert "No picture was chosen" in owner.post("/pictures/").json()["message"]


def test_a_picture_is_its_owners(owner, other, shown):
    address = f"/pictures/{shown.blob_id}/"
    reply = owner.get(address)
    assert (reply.headers["Content-Type"], reply.headers["X-Content-Type-Options"]) == ("image/png", "nosniff")
    assert Image.open(io.BytesIO(reply.content)).size == (30, 20)
    assert other.get(address).status_code == 404
    assert 'title="shelf"' not in other.get("/icons/?pictures").content.decode()


def test_the_editor_shows_it_by_its_address(owner, report, shown):
    page = owner.get(f"/reports/{report.uid}/").content.decode()
    assert f'<image href="/pictures/{shown.blob_id}/"' in page
    margin = owner.get(f"/reports/{report.uid}/tiles/c1/").content.decode()
    assert ">shelf</button>" in margin


def test_readers_of_a_link_see_the_pictures_of_its_page_and_no_others(owner, stranger, report, shown):
    more = keep_picture(owner.user, png("blue"), "more.png")
    token = set_audience(report, "link").token
    page = stranger.get(f"/r/{token}/").content.decode()
    address = f"/r/{token}/pictures/{shown.blob_id}/"
    assert f'<image href="{address}"' in page
    assert stranger.get(address).headers["Content-Type"] == "image/png"
    assert stranger.get(f"/r/{token}/pictures/{more.blob_id}/").status_code == 404
    assert stranger.get(f"/pictures/{shown.blob_id}/").status_code != 200
    withdraw_link(report)
    assert stranger.get(address).status_code == 404


def test_a_report_that_names_somebody_elses_picture_does_not_get_it(owner, other, report, shown):
    shown.owner = other.user
    shown.save()
    page = owner.get(f"/reports/{report.uid}/").content.decode()
    assert "its picture is no longer there" in page
    assert "<image" not in page
    margin = owner.get(f"/reports/{report.uid}/tiles/c1/").content.decode()
    assert "a picture that is gone" in margin


def test_files_of_a_report_hold_its_pictures(owner, report, shown):
    svg = owner.get(f"/reports/{report.uid}/files/svg/").content.decode()
    assert "data:image/png;base64," in svg
    assert owner.get(f"/reports/{report.uid}/files/pdf/").content.startswith(b"%PDF")


DRAWING = (
    b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 30 20" onload="alert(1)"><script>alert(1)</script>'
    b'<rect width="30" height="20" fill="#cc0000"/></svg>'
)


def test_a_drawing_is_taken_in_without_what_could_run_and_is_served_where_nothing_can(owner):
    name = bring(owner, DRAWING, "plan.svg").json()["name"]
    reply = owner.get(f"/pictures/{name.removeprefix('picture:')}/")
    assert reply["Content-Type"] == "image/svg+xml" and b"#cc0000" in reply.content
    assert b"alert" not in reply.content
    assert reply["Content-Security-Policy"] == "default-src 'none'; style-src 'unsafe-inline'; sandbox"
    assert reply["X-Content-Type-Options"] == "nosniff"


def test_screens_get_a_picture_as_large_as_they_show_it_and_files_the_whole(owner):
    file = io.BytesIO()
    Image.new("RGB", (3000, 2000), "red").save(file, "JPEG")
    name = bring(owner, file.getvalue(), "large.jpg").json()["name"]
    digest = name.removeprefix("picture:")
    assert ScreenPicture.objects.filter(pk=digest).count() == 1, "made as it comes"
    with Image.open(io.BytesIO(owner.get(f"/pictures/{digest}/").content)) as served:
        assert served.size == (1280, 853)
    whole = pictures_named(owner.user, [name])[name]
    assert (whole.width, whole.height) == (3000, 2000)
    with Image.open(io.BytesIO(whole.content)) as kept:
        assert kept.size == (3000, 2000)


def test_where_a_picture_is_shown_small_little_of_it_is_sent(owner, report):
    file = io.BytesIO()
    Image.new("RGB", (3000, 2000), "red").save(file, "JPEG")
    name = bring(owner, file.getvalue(), "large.jpg").json()["name"]
    digest = name.removeprefix("picture:")
    assert Thumbnail.objects.filter(pk=digest).count() == 1, "made as it comes"
    with Image.open(io.BytesIO(owner.get(f"/pictures/{digest}/?small").content)) as served:
        assert served.size == (680, 453)
    band = report.read().bands[0].id
    for width, asked in ((6, "/?small"), (24, "/")):
        tile = {"type": "picture", "picture": name, "aspect": 1.5, "alt": "Red", "id": f"w{width}"}
        tile["place"] = {"column": 0, "row": 100, "width": width, "height": 20 * width // 6}
        change(owner, report, {"type": "add_tile", "band": band, "tile": tile})
        page = owner.get(f"/reports/{report.uid}/").content.decode()
        drawn = page[page.index(f'data-tile="w{width}"') :]
        assert f'href="/pictures/{digest}{asked}"' in drawn[: drawn.index("</svg>")]


def test_one_that_is_small_is_served_as_it_is(owner):
    name = bring(owner, png()).json()["name"]
    assert owner.get(f"/pictures/{name.removeprefix('picture:')}/").content
    assert ScreenPicture.objects.count() == 0


def test_signs_are_found_by_what_they_mean_and_those_used_last_come_first(owner):
    page = owner.get("/signs/?q=cost").content.decode()
    assert 'data-icon="line:coin"' in page
    first = owner.get("/signs/?of=coloured&recent=coloured:fox&recent=coloured:gone").content.decode()
    assert first.index('data-icon="coloured:fox"') < first.index("<svg")
    assert "coloured:gone" not in first
    assert "Nothing goes by that word" in owner.get("/signs/?q=xqxq").content.decode()
    food = owner.get("/signs/?category=Food").content.decode()
    assert 'data-icon="line:apple"' in food
