"""Pictures that people bring: taken within limits, made anew, and drawn inside digits."""

import io
import struct
import zlib

import pytest
from PIL import Image

from ypsil.core.answers import answer_of_rows
from ypsil.core.answers.model import AnswerColumn
from ypsil.core.drawing import scene_to_svg
from ypsil.core.drawing.picture_files import MAX_BYTES, read_picture
from ypsil.core.drawing.pictures import is_picture_name
from ypsil.core.errors import DrawingRefused, UnreadableFile
from ypsil.core.export import scene_to_file
from ypsil.core.render import compose
from ypsil.core.report import Band, Frame, ReportBody, ReportTable, VisualTile
from ypsil.core.style import HouseStyle
from ypsil.core.tables.read import read_table
from ypsil.core.tiles import drawings
from ypsil.core.visuals import Box, draw

RED = (220, 20, 20)


def file_of(image, kind="PNG", **settings):
    file = io.BytesIO()
    image.save(file, kind, **settings)
    return file.getvalue()


def red(width=60, height=40, mode="RGB"):
    return Image.new(mode, (width, height), RED)


def opened(picture):
    return Image.open(io.BytesIO(picture.content))


@pytest.mark.parametrize(
    ("kind", "media_type"),
    [("PNG", "image/png"), ("GIF", "image/png"), ("WEBP", "image/png"), ("JPEG", "image/jpeg")],
)
def test_pictures_of_the_usual_kinds_are_taken(kind, media_type):
    picture = read_picture(file_of(red(), kind), "red")
    assert (picture.media_type, picture.width, picture.height) == (media_type, 60, 40)
    assert is_picture_name(picture.name)
    shown = opened(picture).convert("RGB").getpixel((30, 20))
    assert all(abs(one - other) <= 6 for one, other in zip(shown, RED, strict=True)), "JPEG is near, not equal"


def test_the_same_pixels_have_the_same_name():
    assert read_picture(file_of(red()), "a.png").name == read_picture(file_of(red(), optimize=True), "b.png").name


def test_clear_parts_stay_clear():
    picture = read_picture(file_of(Image.new("RGBA", (10, 10), (0, 0, 0, 0))), "clear.png")
    assert opened(picture).getpixel((5, 5))[3] == 0


def test_a_picture_stands_upright_and_does_not_tell_where_it_was_taken():
    image = red(60, 40)
    image.paste((0, 0, 255), (0, 0, 60, 10))
    details = Image.Exif()
    details[0x0112] = 6  # to be turned a quarter clockwise (Exif 2.3, orientation)
    details[0x010E] = "beside the church"
    picture = read_picture(file_of(image, "JPEG", exif=details.tobytes(), quality=95), "phone.jpg")
    assert (picture.width, picture.height) == (40, 60)
    assert opened(picture).getpixel((35, 30))[2] > 200, "what was on top is on the right"
    assert not opened(picture).getexif()
    assert b"church" not in picture.content


def test_large_pictures_are_made_smaller():
    picture = read_picture(file_of(red(4800, 1200)), "wide.png")
    assert (picture.width, picture.height) == (3600, 900)


def png_that_claims(width, height):
    """Return a PNG whose head says that it is huge, with nothing in it."""
    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    chunks = ((b"IHDR", head), (b"IDAT", zlib.compress(b"")), (b"IEND", b""))
    return b"\x89PNG\r\n\x1a\n" + b"".join(
        struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data)) for kind, data in chunks
    )


@pytest.mark.parametrize(
    ("content", "said"),
    [
        (b"", "not a picture"),
        (b"Branch,Visits\nQuay,3\n", "not a picture"),
        (b'<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg"><script/></svg>', "nothing that can be drawn"),
        (file_of(red(600, 400), "JPEG")[:400], "broken"),
        (png_that_claims(10_000, 10_000), "100 million pixels"),
        (png_that_claims(20_000, 10_000), "far more than 40 million pixels"),
        (png_that_claims(100_000, 100_000), "far more than 40 million pixels"),
        (b"\x00" * (MAX_BYTES + 1), "50 MB"),
    ],
    ids=["nothing", "table", "svg", "cut short", "too large", "200 million pixels", "bomb", "too many bytes"],
)
def test_what_is_no_picture_is_refused_in_words(content, said):
    with pytest.raises(UnreadableFile, match=said) as problem:
        read_picture(content, "file.png")
    assert problem.value.remedy


def share(value=0.4):
    columns = (AnswerColumn("Share of Kind that is Digital", "number", "measure", "%"),)
    return answer_of_rows("share", columns, [(value,)], 10)


def numerals(picture, value=0.4):
    options, at_hand = {"picture": picture.name}, {picture.name: picture}
    return draw("filled_numerals", share(value), options, Box(400, 300), HouseStyle(), pictures=at_hand)


def test_digits_are_filled_with_the_picture_in_pixels():
    picture = read_picture(file_of(red(300, 200)), "red.png")
    image = Image.open(io.BytesIO(scene_to_file(numerals(picture), "png"))).convert("RGB")
    pixels = list(image.get_flattened_data() if hasattr(image, "get_flattened_data") else image.getdata())
    full = sum(pixel == RED for pixel in pixels)
    veiled = sum(pixel[0] > 235 and 180 < pixel[1] < 235 and pixel[1] == pixel[2] for pixel in pixels)
    assert full / (full + veiled) == pytest.approx(0.4, abs=0.03), "the share of the digits' area shows it as it is"


def test_a_page_says_where_the_picture_is_found_and_a_file_holds_it():
    scene = numerals(read_picture(file_of(red()), "red.png"))
    assert "data:image/png;base64," in scene_to_svg(scene)
    page = scene_to_svg(scene, address_of=lambda picture, _: f"/pictures/{picture.digest}/")
    assert 'href="/pictures/' in page
    assert "base64" not in page


def test_a_picture_that_is_gone_is_said():
    with pytest.raises(DrawingRefused, match="no longer there"):
        draw("filled_numerals", share(), {"picture": "picture:" + "0" * 64}, Box(400, 300), HouseStyle())


def test_an_unknown_icon_is_still_refused():
    with pytest.raises(DrawingRefused, match="no icon"):
        draw("filled_numerals", share(), {"picture": "picture:of nothing"}, Box(400, 300), HouseStyle())


@pytest.fixture
def report():
    picture = read_picture(file_of(red()), "red.png")
    question = {"measures": [{"stat": "share", "column": "Kind", "values": ["Digital"]}]}
    tile = VisualTile.model_validate(
        {
            "table": "t",
            "question": question,
            "visual": "filled_numerals",
            "options": {"picture": picture.name},
            "place": Frame(column=0, row=0, width=8, height=26).model_dump(),
        }
    )
    read = read_table(b"Kind\nDigital\nPrint\n", "kinds.csv")
    tables = {"t": ReportTable("Kinds", read.columns, lambda: read.frame, "digest", "kinds.csv")}
    return ReportBody(title="Kinds", bands=(Band(tiles=(tile,)),)), tables, {picture.name: picture}


def test_a_report_names_its_pictures_and_draws_them(report):
    document, tables, pictures = report
    assert document.pictures() == list(pictures)
    page = compose(document, tables, pictures=pictures)
    assert not page.problems()
    assert "<image" in scene_to_svg(page.tiles()[0].scene)


def test_what_was_drawn_with_a_picture_is_not_shown_to_those_without_it(report):
    document, tables, pictures = report
    memory = drawings(1 << 24)
    compose(document, tables, memory, pictures=pictures)
    page = compose(document, tables, memory)
    assert "no longer there" in page.problems()[0][1]
    assert "<image" not in scene_to_svg(page.tiles()[0].scene)
    assert not compose(document, tables, memory, pictures=pictures).problems()
