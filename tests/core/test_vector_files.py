"""Vector drawings that people bring: what of them is kept, what never is, in every kind of file.

The attacks are those of the OWASP XSS Filter Evasion Cheat Sheet, of the HTML5 Security Cheatsheet (html5sec.org, its
SVG vectors) and of "SVG: The Good, the Bad and the Ugly" (Heiderich, Frosch, Jensen, Holz 2011), written from memory.
"""

import io
import re

import numpy as np
import pytest
from PIL import Image

from ypsil.core.drawing.picture_files import read_picture
from ypsil.core.drawing.rasters import raster_of
from ypsil.core.errors import UnreadableFile
from ypsil.core.export import page_to_pdf, page_to_png, page_to_svg
from ypsil.core.render import compose
from ypsil.core.report import ReportBody

HEAD = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 40 20">'
GOOD = '<rect width="40" height="20" fill="#cc0000"/>'
ATTACKS = [
    "<script>alert(1)</script>",
    '<script xlink:href="https://example.org/x.js"/>',
    '<rect width="1" height="1" onload="alert(1)" onclick="alert(1)"/>',
    '<g onmouseover="alert(1)"><rect width="1" height="1"/></g>',
    '<a xlink:href="javascript:alert(1)"><rect width="9" height="9"/></a>',
    '<a href="&#106;avascript:alert(1)"><text y="9">x</text></a>',
    "<foreignObject><body xmlns='http://www.w3.org/1999/xhtml' onload='alert(1)'/></foreignObject>",
    '<iframe xmlns="http://www.w3.org/1999/xhtml" src="javascript:alert(1)"/>',
    '<image href="https://example.org/pixel.png" width="1" height="1"/>',
    '<image xlink:href="data:image/svg+xml;base64,PHN2Zy8+" width="1" height="1"/>',
    '<feImage xlink:href="https://example.org/x"/>',
    '<use xlink:href="https://example.org/x.svg#a"/>',
    '<use href="data:image/svg+xml,%3Csvg id=%22a%22 onload=%22alert(1)%22/%3E#a"/>',
    '<animate attributeName="href" to="javascript:alert(1)"/>',
    '<set attributeName="onmouseover" to="alert(1)"/>',
    '<animateTransform onbegin="alert(1)" attributeName="transform"/>',
    '<handler type="text/javascript">alert(1)</handler>',
    '<style>@import url("https://example.org/x.css");</style>',
    "<style>rect { fill: url(https://example.org/x#a); }</style>",
    '<style>* { background: url("javascript:alert(1)"); }</style>',
    '<rect width="1" height="1" style="fill:url(https://example.org/x#a);behavior:url(#x)"/>',
    '<rect width="1" height="1" fill="url(javascript:alert(1))"/>',
    '<rect width="1" height="1" style="fill:expression(alert(1))"/>',
    '<rect width="1" height="1" fill="\\75rl(https://example.org)"/>',
    "<metadata><script>alert(1)</script></metadata>",
    "<switch><foreignObject><script>alert(1)</script></foreignObject></switch>",
    '<filter id="f"><feImage href="//example.org/x"/></filter><rect width="1" height="1" filter="url(#f)"/>',
    '<text><textPath xlink:href="javascript:alert(1)">x</textPath></text>',
    '<embed src="https://example.org"/><object data="https://example.org"/>',
    '<x:script xmlns:x="http://www.w3.org/1999/xhtml">alert(1)</x:script>',
    '<discard onbegin="alert(1)"/>',
    '<audio xmlns="http://www.w3.org/1999/xhtml" src="x" onerror="alert(1)"/>',
    '<?xml-stylesheet href="javascript:alert(1)"?>',
    '<rect width="1" height="1" id="x&quot; onload=&quot;alert(1)"/>',
]
NEVER = re.compile(
    rb"script|\son\w+\s*=|https?://(?!www\.w3\.org/2000/svg)|javascript|data:|foreign|iframe|import|expression|<image|"
    rb"<style|<animate|<set|behavior|\\|//example",
    re.IGNORECASE,
)


def svg(inside, head=HEAD):
    return f"{head}{inside}</svg>".encode()


def pixels(content):
    with Image.open(io.BytesIO(content)) as opened:
        return np.asarray(opened.convert("RGBA"))


@pytest.mark.parametrize("attack", ATTACKS)
def test_nothing_that_could_do_something_is_kept(attack):
    for content in (svg(GOOD + attack), svg(attack + GOOD), svg(f"<g>{attack}{GOOD}</g>")):
        found = read_picture(content, "drawing.svg")
        assert not NEVER.search(found.content), found.content
        assert b"#cc0000" in found.content


def test_the_head_itself_can_do_nothing():
    head = HEAD.replace("<svg ", '<svg onload="alert(1)" baseProfile="full" ')
    assert not NEVER.search(read_picture(svg(GOOD, head), "drawing.svg").content)


@pytest.mark.parametrize(
    ("content", "said"),
    [
        (b'<!DOCTYPE svg [<!ENTITY a "b">]>' + svg(GOOD), "entities"),
        (b'<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]>' + svg("<text>&x;</text>"), "entities"),
        (b"<svg", "broken"),
        (b"<html><svg/></html>", "no drawing"),
        (svg("<script>alert(1)</script>"), "nothing that can be drawn"),
        (svg(GOOD * 20_001), "20,000 parts"),
        (svg('<g id="a"><use href="#a"/><rect width="1" height="1"/></g>'), "uses itself"),
        (
            svg('<rect id="a0" width="1" height="1"/>'
                + "".join(f'<g id="a{n + 1}">' + f'<use href="#a{n}"/>' * 10 + "</g>" for n in range(7))),
            "far too many",
        ),
        (svg(GOOD) + b" " * 5_000_001, "larger than 5 MB"),
        (svg("<g>" * 5_000 + GOOD + "</g>" * 5_000), "drawn"),
    ],
)  # fmt: skip
def test_what_cannot_be_taken_is_said(content, said):
    with pytest.raises(UnreadableFile, match=said):
        read_picture(content, "drawing.svg")


def test_a_plain_doctype_is_passed_over():
    kind = b'<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://www.w3.org/Graphics/SVG/1.1/DTD/svg11.dtd">'
    assert b"#cc0000" in read_picture(kind + svg(GOOD), "drawing.svg").content


def test_what_is_clean_stays_as_it_is():
    once = read_picture(svg(GOOD + '<text x="1" y="9" font-size="5">A <tspan fill="#fff">b</tspan> c</text>'), "d.svg")
    again = read_picture(once.content, "d.svg")
    assert again.content == once.content and again.digest == once.digest
    assert b"A <tspan" in once.content.replace(b"ns0:", b"") and (once.width, once.height) == (40, 20)


def test_classes_styles_gradients_and_uses_are_drawn():
    inside = (
        "<style>.a, #b { fill: #00aa00 } .c{stroke:none;fill:url(#g)} .d:hover{fill:red}</style>"
        '<defs><linearGradient id="g"><stop offset="0" stop-color="#0000ff"/><stop offset="1" stop-color="#0000ff"/>'
        '</linearGradient><rect id="unit" width="10" height="10"/></defs>'
        '<rect class="a" width="10" height="20"/><rect id="b" x="10" width="10" height="20"/>'
        '<rect class="c" x="20" width="10" height="20"/><use href="#unit" x="30" style="fill:#ff0000"/>'
    )
    seen = pixels(raster_of(read_picture(svg(inside), "d.svg")))
    wide = seen.shape[1] / 40
    at = [tuple(seen[int(5 * wide), int(x * wide)][:3]) for x in (5, 15, 25, 35)]
    assert at == [(0, 170, 0), (0, 170, 0), (0, 0, 255), (255, 0, 0)]
    # Where nothing is drawn it is clear.
    assert seen[int(15 * wide), int(35 * wide)][3] == 0


@pytest.mark.parametrize(
    ("head", "size"),
    [
        ('<svg xmlns="http://www.w3.org/2000/svg" width="10mm" height="5mm">', (38, 19)),
        ('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4000 2000">', (2400, 1200)),
        ('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 30 60" height="120">', (60, 120)),
        ('<svg xmlns="http://www.w3.org/2000/svg" width="100%" viewBox="0 0 8 4">', (8, 4)),
        ('<svg xmlns="http://www.w3.org/2000/svg">', (300, 150)),
    ],
)
def test_a_size_is_heard_in_each_unit(head, size):
    found = read_picture(svg(GOOD, head), "d.svg")
    assert (found.width, found.height) == size


def test_a_drawing_is_seen_in_every_file_and_stays_one():
    drawing = read_picture(svg(GOOD), "d.svg")
    tile = {"id": "p1", "type": "picture", "picture": drawing.name, "aspect": 2, "alt": "Red",
            "place": {"column": 0, "row": 0, "width": 12, "height": 24}}  # fmt: skip
    body = ReportBody.model_validate({"title": "T", "bands": [{"id": "b1", "tiles": [tile]}]})
    made = compose(body, {}, pictures={drawing.name: drawing})
    view = made.tiles()[0]
    seen = pixels(page_to_png(made, scale=1))
    middle = seen[int(view.y + view.scene.height / 2), int(view.x + view.scene.width / 2)]
    assert tuple(middle[:3]) == (204, 0, 0)
    assert "data:image/svg+xml;base64," in page_to_svg(made)
    assert page_to_pdf(made).startswith(b"%PDF")


def test_words_on_a_drawing_can_be_read():
    drawing = read_picture(svg('<rect width="20" height="20" fill="#000"/>'), "d.svg")
    ground = {"colour": "#ffffff", "picture": drawing.name}
    text = {"id": "t1", "type": "text", "text": "Words", "place": {"column": 0, "row": 0, "width": 12, "height": 6}}
    body = ReportBody.model_validate({"title": "T", "bands": [{"id": "b1", "ground": ground, "tiles": [text]}]})
    made = compose(body, {}, pictures={drawing.name: drawing})
    assert made.tiles()[0].scene.texts()[0].fill
