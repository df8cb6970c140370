"""A page as a workbook and as pictures of its tiles: read back with other programs' libraries."""

import datetime as dt
import io
import zipfile

import openpyxl
import pytest
from PIL import Image
from python_calamine import CalamineWorkbook

from tests.core.test_drafts import TABLES, subject
from tests.core.test_templates import MONTHS, SURVEY, made
from tests.factories import total
from ypsil.cli import main
from ypsil.core.draft import draft
from ypsil.core.errors import YpsilError
from ypsil.core.export import FORMATS, file_format, scene_to_file
from ypsil.core.package import package_of
from ypsil.core.render import compose
from ypsil.core.report import ReportBody
from ypsil.core.report.document import Band
from ypsil.core.tiles import TextTile, VisualTile, as_visual

TABLE = subject(MONTHS)


def page_of(body, about=TABLE):
    return compose(body, {about.key: about.table}, is_opened=True)


def book_of(body, about=TABLE):
    return openpyxl.load_workbook(io.BytesIO(file_format("xlsx").page(page_of(body, about))))


def of(*questions, title="Visits"):
    tiles = [
        VisualTile.model_validate({"table": "t", "question": one, "visual": "table", "title": title})
        for one in questions
    ]
    return ReportBody(title="Ours", bands=(Band(tiles=tuple(tiles)),))


PER_MONTH = total("Visits", per=[{"column": "Month", "by": "month"}])


def test_each_visual_has_its_sheet_with_its_question_and_its_whole_answer():
    body = made("month-in-figures").body
    book, page = book_of(body), page_of(body)
    answers = [view.drawn.answer for view in page.tiles() if view.drawn.answer is not None]
    assert len(book.worksheets) == len(answers) + 1
    for sheet, answer in zip(book.worksheets[1:], answers, strict=True):
        assert sheet["A2"].value == answer.sentence
        assert sheet["A3"].value.startswith(f"n = {answer.base}")
        assert sheet.max_row == 5 + answer.height and sheet.max_column == len(answer.columns)
        for place, column in enumerate(answer.columns, 1):
            if column.role == "measure":
                cells = [sheet.cell(row, place).value for row in range(6, sheet.max_row + 1)]
                assert cells == pytest.approx(list(answer.values(column)), nan_ok=True)
    contents = book.worksheets[0]
    assert contents["A1"].value == body.title
    links = [cell.hyperlink.location for row in contents.iter_rows() for cell in row if cell.hyperlink]
    assert links == [f"'{sheet.title}'!A1" for sheet in book.worksheets[1:]]
    assert any("Source" in str(cell.value) for row in contents.iter_rows() for cell in row)


def test_numbers_keep_their_formats_and_months_are_dates():
    share = {"measures": [{"stat": "share"}], "per": [{"column": "Branch"}]}
    book = book_of(of(PER_MONTH, share, total("Cost (£)", per=[{"column": "Branch"}])))
    months, shares, cost = book.worksheets[1:]
    assert months["A6"].value == dt.datetime(2024, 1, 1) and months["A6"].number_format == "mmm yyyy"
    assert months["B6"].number_format == "#,##0"
    assert shares["B6"].value == pytest.approx(1 / 3) and shares["B6"].number_format.endswith("%")
    assert cost["B6"].number_format.startswith('"£"#,##0')
    # Another library reads the same.
    other = CalamineWorkbook.from_filelike(io.BytesIO(file_format("xlsx").page(page_of(of(PER_MONTH)))))
    assert other.get_sheet_by_index(1).to_python()[5][0] == dt.date(2024, 1, 1)


@pytest.mark.parametrize("ending", ["xlsx", "zip"])
def test_the_same_page_gives_the_same_bytes(ending):
    body = made("snapshot").body
    assert file_format(ending).page(page_of(body)) == file_format(ending).page(page_of(body))


def test_awkward_titles_become_names_that_sheets_can_have():
    body = of(*[PER_MONTH] * 5, title="[Visits] per month: how/they * changed?")
    body = body.model_copy(update={"bands": (body.bands[0], *of(PER_MONTH, PER_MONTH, title="Contents").bands)})
    titles = [sheet.title for sheet in book_of(body).worksheets]
    assert len({title.lower() for title in titles}) == len(titles) == 8
    assert all(0 < len(title) <= 31 and not set(title) & set("[]:*?/\\'") for title in titles)
    hebrew = book_of(of(PER_MONTH, title="ביקורים לפי חודש")).worksheets[1]
    assert hebrew.title == "ביקורים לפי חודש"


def test_nothing_in_it_is_run_as_a_formula():
    about = subject("Name,Visits\n=1+1,4\n@cmd,5\n+3,6\nPlain,7\n")
    book = book_of(of(total("Visits", per=[{"column": "Name"}]), title="=HYPERLINK(1)"), about)
    cells = [cell for sheet in book.worksheets for row in sheet.iter_rows() for cell in row]
    assert not any(cell.data_type == "f" for cell in cells)
    assert {"'=1+1", "'@cmd", "'+3", "Plain"} <= {cell.value for cell in cells}


def test_a_page_without_answers_has_no_workbook_and_one_without_tiles_no_pictures():
    words = ReportBody(title="Words", bands=(Band(tiles=(TextTile(text="Only words"),)),))
    with pytest.raises(YpsilError, match="no tile of the report asks a table"):
        book_of(words)
    with pytest.raises(YpsilError, match="the report is empty"):
        file_format("zip").page(page_of(ReportBody(title="Empty")))


@pytest.mark.parametrize("name", TABLES)
def test_any_draft_becomes_both(name):
    about = subject(TABLES[name]())
    body = draft([about], ReportBody(title="T")).body
    page = page_of(body, about)
    if any(map(as_visual, body.tiles())):
        assert len(book_of(body, about).worksheets) > 1
    with zipfile.ZipFile(io.BytesIO(file_format("zip").page(page))) as made_of:
        assert made_of.testzip() is None


def test_the_tiles_are_pictures_of_their_size_with_what_they_show_in_words():
    about = subject(SURVEY)
    page = page_of(draft([about], ReportBody(title="T")).body, about)
    with zipfile.ZipFile(io.BytesIO(file_format("zip").page(page))) as found:
        names = found.namelist()
        assert names[-1] == "descriptions.txt" and all(name.isascii() for name in names)
        said = found.read("descriptions.txt").decode("utf-8-sig")
        for view, name in zip([one for one in page.tiles() if one.scene.shapes], names, strict=False):
            size = Image.open(io.BytesIO(found.read(name))).size
            assert size == pytest.approx((2 * view.scene.width, 2 * view.scene.height), abs=2)
            assert name in said
    assert "Would you come again?" in said


def test_they_are_built_on_the_command_line_and_no_drawing_alone_is_one(tmp_path, capsys):
    body = made("meeting").body
    report = tmp_path / "ours.ypsil"
    report.write_bytes(package_of(body, {"t": TABLE.table}))
    for ending in ("xlsx", "zip"):
        out = tmp_path / f"ours.{ending}"
        assert main(["build", str(report), "--out", str(out)]) == 0
        assert out.read_bytes()[:2] == b"PK"
    scene = page_of(body).tiles()[0].scene
    with pytest.raises(YpsilError, match="a drawing alone"):
        scene_to_file(scene, "xlsx")
    assert [one.ending for one in FORMATS.values()][-2:] == ["xlsx", "zip"]
