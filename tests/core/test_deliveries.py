"""Pictures in sizes and kinds: read with Pillow, a general-purpose library."""

import io
import json
import re
from pathlib import Path
from urllib.parse import urlencode

import pytest
import typst
from PIL import Image, ImageChops, ImageStat

from tests.core.test_drafts import subject
from tests.core.test_templates import MONTHS, made
from ypsil.cli import main
from ypsil.core.drawing.faces import FONT_FOLDER
from ypsil.core.errors import YpsilError
from ypsil.core.export import file_format, page_to_svg, scene_to_file
from ypsil.core.export.base import Delivery
from ypsil.core.export.resolution import saying_dpi
from ypsil.core.package import package_of
from ypsil.core.render import compose
from ypsil.core.report import ReportBody
from ypsil.core.report.document import Band
from ypsil.core.tiles import TextTile
from ypsil.core.tiles.filter import filter_by

TABLE = subject(MONTHS)


def page_of(body):
    return compose(body, {"t": TABLE.table}, is_opened=True)


@pytest.fixture(scope="module")
def page():
    return page_of(made("snapshot").body)


@pytest.mark.parametrize("ending", ["png", "jpg", "webp"])
@pytest.mark.parametrize(
    ("wanted", "times"), [({"scale": 1}, 1), ({"scale": 3}, 3), ({"width": 500}, None), ({"dpi": 192}, 2)]
)
def test_pictures_come_in_the_size_that_is_wanted(page, ending, wanted, times):
    image = Image.open(io.BytesIO(file_format(ending).page(page, Delivery(**wanted))))
    assert image.format == {"png": "PNG", "jpg": "JPEG", "webp": "WEBP"}[ending]
    assert image.width == pytest.approx(500 if times is None else times * page.width, abs=1)
    assert image.width / image.height == pytest.approx(page.width / page.height, rel=0.01)


def test_all_kinds_show_the_same(page):
    shown = [
        Image.open(io.BytesIO(file_format(ending).page(page, Delivery(scale=1)))).convert("RGB")
        for ending in ("png", "jpg", "webp")
    ]
    for other in shown[1:]:
        assert max(ImageStat.Stat(ImageChops.difference(shown[0], other)).mean) < 3


@pytest.mark.parametrize("ending", ["png", "jpg"])
def test_the_dots_of_print_are_said_in_the_file(page, ending):
    image = Image.open(io.BytesIO(file_format(ending).page(page, Delivery(dpi=150))))
    assert image.info["dpi"] == pytest.approx((150, 150), abs=0.1)


def test_dots_are_said_once():
    buffer = io.BytesIO()
    Image.new("RGB", (4, 4), "red").save(buffer, "PNG", dpi=(72, 72))
    said = saying_dpi(saying_dpi(buffer.getvalue(), 300), 600)
    image = Image.open(io.BytesIO(said))
    image.load()
    assert said.count(b"pHYs") == 1 and image.info["dpi"] == pytest.approx((600, 600), abs=0.1)


@pytest.mark.parametrize("wanted", [{"scale": 0}, {"scale": 9}, {"width": 30_000}, {"dpi": 5_000}, {"scale": -1}])
def test_sizes_that_help_nobody_are_refused(page, wanted):
    with pytest.raises(YpsilError, match="too large, or nothing"):
        file_format("png").page(page, Delivery(**wanted))


def test_a_page_taller_than_webp_can_hold_is_made_smaller():
    rows = tuple(Band(tiles=(TextTile(text=f"Line {n}"),), least_rows=200) for n in range(12))
    page = page_of(ReportBody(title="T", bands=rows))
    image = Image.open(io.BytesIO(file_format("webp").page(page, Delivery(scale=1))))
    assert page.height > 16_383 and image.height <= 16_383


def test_letters_as_outlines_need_no_fonts_and_look_the_same():
    prose = {"blocks": [{"runs": [{"text": "Upright "}, {"text": "slanted", "looks": ["italic"]}, {"text": " שלום"}]}]}
    words = TextTile.model_validate({"text": prose, "turn": 20})
    body = made("snapshot").body
    page = page_of(body.model_copy(update={"bands": (Band(tiles=(words,)), *body.bands)}))
    svg = page_to_svg(page, is_outlined=True)
    shown = [seen(one) for one in (svg, page_to_svg(page))]
    assert ImageStat.Stat(ImageChops.difference(*shown)).mean[0] < 0.5
    assert "<text" not in svg and "font-face" not in svg
    for view in page.tiles():
        written = view.tile.writes(view.context)
        if written is not None and view.scene.texts():
            first = written.spoken(view.context).split()[0]
            assert re.search(rf"<title>[^<]*{re.escape(first)}", svg)
    assert "<text" in page_to_svg(page)


def seen(svg):
    """Draw an SVG file with a program that was not made for ours."""
    source = b'#set page(width: auto, height: auto, margin: 0pt)\n#image(bytes(sys.inputs.svg), format: "svg")'
    fonts = typst.Fonts(font_paths=[str(FONT_FOLDER)], include_system_fonts=False)
    png = typst.compile(source, font_paths=fonts, format="png", sys_inputs={"svg": svg}, ppi=72)
    return Image.open(io.BytesIO(png)).convert("L")


def test_the_command_line_has_them(tmp_path, capsys):
    report = tmp_path / "ours.ypsil"
    body = made("snapshot").body
    report.write_bytes(package_of(body, {"t": TABLE.table}))
    for ending, words in (
        ("webp", ["--scale", "1"]), ("png", ["--dpi", "150"]), ("svg", ["--outlines"]),
        ("pdf", ["--pages", "A4", "--bleed", "--numbers"]), ("docx", []), ("pptx", []),
    ):  # fmt: skip
        out = tmp_path / f"ours.{ending}"
        assert main(["build", str(report), *words, "--out", str(out)]) == 0, capsys.readouterr()
        assert out.stat().st_size > 1_000
    with pytest.raises(SystemExit):
        main(["build", str(report), "--pages", "A9", "--out", str(tmp_path / "x.pdf")])


def test_several_sizes_are_made_at_once(tmp_path, capsys):
    report = tmp_path / "ours.ypsil"
    report.write_bytes(package_of(made("snapshot").body, {"t": TABLE.table}))
    out = tmp_path / "ours.png"
    assert main(["build", str(report), "--sizes", "1x, 1200px,96dpi,1x", "--out", str(out)]) == 0
    said = json.loads(capsys.readouterr().out)
    assert [Path(one).name for one in said["files"]] == ["ours-1x.png", "ours-1200px.png", "ours-96dpi.png"]
    wide = [Image.open(one).width for one in said["files"]]
    assert wide[1] == 1_200 and wide[0] == wide[2] and not out.exists()
    for sizes, ending, problem in (("2x", "pdf", "only pictures have sizes"), ("huge", "png", "“huge” is no size")):
        assert main(["build", str(report), "--sizes", sizes, "--out", str(tmp_path / f"x.{ending}")]) == 1
        assert problem in capsys.readouterr().err and not list(tmp_path.glob("x*"))


def test_a_file_is_made_as_readers_would_choose(tmp_path, capsys):
    report = tmp_path / "ours.ypsil"
    body = made("snapshot").body
    column = next(one.name for one in TABLE.table.columns if one.kind == "category")
    chosen = str(TABLE.table.frame()[column].drop_nulls()[0])
    tile = filter_by("t", column)
    report.write_bytes(
        package_of(body.model_copy(update={"bands": (Band(tiles=(tile,)), *body.bands)}), {"t": TABLE.table})
    )
    contents = []
    for words in ([], ["--choose", urlencode({column.lower(): chosen})]):
        assert main(["build", str(report), *words, "--out", str(tmp_path / "ours.svg")]) == 0, capsys.readouterr().err
        contents.append((tmp_path / "ours.svg").read_text())
    assert contents[0] != contents[1] and f"{chosen}</text>" in contents[1]
    capsys.readouterr()
    assert main(["build", str(report), "--choose", f"{column.lower()}=Nowhere", "--out", str(tmp_path / "x.svg")]) == 1
    said = capsys.readouterr().err
    assert "“Nowhere” is not in the data" in said and f"what can be chosen: {column.lower()}" in said


def test_one_drawing_is_webp_too(page):
    scene = next(view.scene for view in page.tiles() if view.scene.name)
    assert Image.open(io.BytesIO(scene_to_file(scene, "webp"))).format == "WEBP"
