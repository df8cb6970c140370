"""A report within pages of other sites: which may, what they get. Open Graph by ogp.me, oEmbed 1.0 by oembed.com."""

import io
import re

import html5lib
import pytest
from PIL import Image

from tests.web.conftest import change
from ypsil.core.errors import YpsilError
from ypsil.web.publish import releases
from ypsil.web.publish.embedding import sites_typed
from ypsil.web.publish.services import Access, publication_of, set_access, set_audience, set_sites


@pytest.fixture
def link(report):
    set_sites(report, "https://www.school.example http://localhost:8000")
    return f"/r/{set_audience(report, 'link').token}/"


def policy(answer):
    return dict(part.strip().split(" ", 1) for part in answer.headers["Content-Security-Policy"].split(";"))


def test_only_chosen_sites_may_show_it(stranger, report, link):
    answer = stranger.get(f"{link}embed/")
    assert answer.status_code == 200 and "X-Frame-Options" not in answer.headers
    assert policy(answer)["frame-ancestors"] == "'self' https://www.school.example http://localhost:8000"
    assert policy(stranger.get(link))["frame-ancestors"] == "'self'", "the page itself stands in no other"
    set_sites(report, "*")
    assert policy(stranger.get(f"{link}embed/"))["frame-ancestors"] == "'self' *"
    set_sites(report, "")
    assert stranger.get(f"{link}embed/").status_code == 404


@pytest.mark.parametrize("access", [Access("me"), Access("named"), Access("link", password="open sesame")])
def test_what_is_not_open_to_all_stands_in_no_other_page(stranger, report, link, access):
    set_access(report, access, "http://testserver")
    for address in (f"{link}embed/", f"{link}embed/c1/", f"{link}preview.jpg", f"/oembed/?url=http://testserver{link}"):
        assert stranger.get(address).status_code == 404


def test_a_band_or_a_tile_stands_alone(stranger, report, link):
    band = report.read().bands[0].id
    whole, of_band, of_tile = (stranger.get(f"{link}embed/{part}").content.decode() for part in ("", f"{band}/", "c1/"))
    for page in (whole, of_band, of_tile):
        html5lib.HTMLParser(strict=True, namespaceHTMLElements=False).parse(page)
        assert 'id="at-c1"' in page and page.count("<section") == page.count("</section>")
    assert 'class="tile text' in of_band and 'class="tile text' not in of_tile
    assert of_tile.count('id="at-') == 1
    css = stranger.get(f"{link}embed/c1/place.css").content.decode()
    width = re.search(r'id="at-c1">.*?viewBox="0 0 ([\d.]+) ', of_tile)[1]
    assert f"--wide:{width}!important" in css
    for part in ("gone", "C1", "at-c1", "..", "%22"):
        assert stranger.get(f"{link}embed/{part}/").status_code == 404


def test_lines_to_be_put_in_show_a_picture_where_no_script_runs(owner, report, link):
    stage = owner.get(f"/reports/{report.uid}/publish/?part=c1").content.decode()
    lines = re.search(r'<textarea id="its-lines"[^>]*>(.*?)</textarea>', stage, re.DOTALL)[1]
    assert f"http://testserver{link}embed/c1/" in lines and f"http://testserver{link}preview.jpg" in lines
    assert "embed.js" in lines
    assert re.search(r'<option value="c1" selected>', stage)


def test_the_picture_of_a_link_is_made_with_each_release(stranger, owner, report, django_capture_on_commit_callbacks):
    with django_capture_on_commit_callbacks(execute=True):
        link = f"/r/{set_audience(report, 'link').token}/"
    first = stranger.get(f"{link}preview.jpg")
    picture = Image.open(io.BytesIO(first.content))
    assert (picture.format, picture.size) == ("JPEG", (1200, 630))
    assert first.headers["Cross-Origin-Resource-Policy"] == "cross-origin"
    change(owner, report, {"type": "change_tile", "tile": "c1", "changes": {"title": "Another title of it"}})
    with django_capture_on_commit_callbacks(execute=True):
        owner.post(f"/reports/{report.uid}/publish/", {"show": "1"})
    assert stranger.get(f"{link}preview.jpg").content != first.content
    latest = publication_of(report).latest()
    releases.picture_release.call(latest.pk)
    releases.picture_release.call(-1)


def test_a_page_says_what_others_show_of_it(stranger, owner, report, link):
    band = report.read().bands[0].id
    text = {"type": "text", "text": "Visits rose in spring & summer, more than in any other year."}
    change(owner, report, {"type": "add_tile", "band": band, "tile": text})
    owner.post(f"/reports/{report.uid}/publish/", {"show": "1"})
    root = html5lib.HTMLParser(strict=True, namespaceHTMLElements=False).parse(stranger.get(link).content.decode())
    said = {one.get("property"): one.get("content") for one in root.iter("meta") if one.get("property")}
    assert said["og:title"] == "Visits of the spring" and said["og:type"] == "article"
    assert said["og:url"] == f"http://testserver{link}" and said["og:image"] == f"http://testserver{link}preview.jpg"
    assert said["og:description"].startswith("Visits rose in spring & summer")
    (alternate,) = [one.get("href") for one in root.iter("link") if one.get("type") == "application/json+oembed"]
    told = stranger.get(alternate.removeprefix("http://testserver")).json()
    assert (told["version"], told["type"], told["width"]) == ("1.0", "rich", 800)
    assert f"{link}embed/" in told["html"] and told["thumbnail_url"] == said["og:image"]
    assert stranger.get(f"/oembed/?url=http://testserver{link}&maxwidth=320").json()["width"] == 320
    assert stranger.get(f"/oembed/?url=http://testserver{link}&format=xml").status_code == 501
    assert stranger.get("/oembed/?url=http://testserver/r/none/").status_code == 404
    assert stranger.get("/oembed/").status_code == 404


@pytest.mark.parametrize(
    "typed", ["our school", "ftp://a.example", "https://a.example:99999", "';--", "https://", "http://a.example:x"]
)
def test_what_is_no_site_is_refused_in_words(owner, report, link, typed):
    answer = owner.post(f"/reports/{report.uid}/publish/", {"allow": "1", "sites": typed})
    assert answer.status_code == 422 and "is no site" in answer.content.decode()


def test_sites_are_kept_as_origins():
    assert sites_typed("https://a.example/some/page?x=1, a.example") == ["https://a.example"]
    assert sites_typed("a.example *") == ["*"]
    with pytest.raises(YpsilError, match="at most 30"):
        sites_typed(" ".join(f"s{n}.example" for n in range(31)))
