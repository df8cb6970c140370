"""A packed report: what is in it, that it opens again as it was, and files built from it with its data or other."""

import io
import json
import zipfile

import polars as pl
import pytest
from PIL import Image
from pypdf import PdfReader
from vega_datasets import data

from ypsil.cli import main
from ypsil.core.drawing.picture_files import read_picture
from ypsil.core.errors import YpsilError
from ypsil.core.package import open_package, package_of
from ypsil.core.report import ReportBody
from ypsil.core.tables.read import read_table
from ypsil.core.tiles import ReportTable

WEATHER = data.seattle_weather()  # NOAA, in vega_datasets
ODD = 'Day,Open,Langs,Note,Share\n2026-03-01,yes,en; de,=1+1,40%\n2026-03-02,no,de,\'quoted,5%\n,,,"two\nlines",\n'


def table(csv, name, key):
    read = read_table(csv.encode(), f"{name}.csv")
    return ReportTable(name, read.columns, lambda: read.frame, f"packed-{key}", f"{name}.csv, read today")


TABLES = {"k1": table(WEATHER.to_csv(index=False), "Weather", "w"), "k2": table(ODD, "Odd & ends", "o")}
TOTAL = {"measures": [{"stat": "sum", "column": "precipitation"}]}


def report():
    runs = [{"text": "Rain: "}, {"figure": {"table": "k1", "question": TOTAL}}]
    text = {"id": "t1", "type": "text", "role": "body", "text": {"blocks": [{"runs": runs}]}}
    asked = TOTAL | {"per": [{"column": "weather"}]}
    bar = {"id": "c1", "type": "visual", "table": "k1", "visual": "bar", "question": asked}
    odd = {"id": "c2", "type": "visual", "table": "k2", "visual": "kpi", "question": {"measures": [{"stat": "count"}]}}
    group = {"id": "g1", "type": "group", "tiles": [odd]}
    bands = [{"id": "b1", "tiles": [text, bar]}, {"id": "b2", "message": "Odd", "tiles": [group]}]
    return ReportBody.model_validate({"title": "Packed", "bands": bands})


PACKED = package_of(report(), TABLES)


def files(packed=PACKED):
    with zipfile.ZipFile(io.BytesIO(packed)) as archive:
        return {info.filename: archive.read(info) for info in archive.infolist()}


def repacked(**changed):
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as archive:
        for name, content in {**files(), **changed}.items():
            if content is not None:
                archive.writestr(name, content)
    return buffer.getvalue()


class TestWhatIsInIt:
    def test_tables_are_called_as_people_call_them(self):
        names = [
            "report.json",
            "tables/weather.csv",
            "tables/weather.json",
            "tables/odd-ends.csv",
            "tables/odd-ends.json",
        ]
        assert list(files()) == names
        assert '"k1"' not in files()["report.json"].decode()

    def test_the_same_report_gives_the_same_bytes(self):
        assert package_of(report(), TABLES) == PACKED

    def test_it_opens_again_as_it_was(self):
        opened = open_package(PACKED, "x.ypsil")
        for key, name in (("weather", "k1"), ("odd-ends", "k2")):
            again, before = opened.tables[key], TABLES[name]
            assert again.frame().equals(before.frame()) and again.frame().schema == before.frame().schema
            assert again.columns == before.columns and (again.name, again.source) == (before.name, before.source)
        assert package_of(opened.report, opened.tables) == PACKED

    def test_pictures_go_with_it(self):
        file = io.BytesIO()
        Image.new("RGB", (20, 10), "navy").save(file, "PNG")
        shown = read_picture(file.getvalue(), "navy.png")
        band = {"id": "b1", "ground": {"picture": shown.name}}
        body = ReportBody.model_validate({"title": "With a picture", "bands": [band]})
        opened = open_package(package_of(body, {}, {shown.name: shown}), "x.ypsil")
        assert (opened.pictures, opened.report) == ({shown.name: shown}, body)

    def test_one_written_by_hand_needs_no_descriptions_and_may_name_tables_as_people_do(self):
        body = files()["report.json"].decode().replace('"table": "odd-ends"', '"table": "Odd & ends"')
        opened = open_package(repacked(**{"tables/weather.json": None, "report.json": body}), "x.ypsil")
        kinds = {column.name: column.kind for column in opened.tables["weather"].columns}
        assert (kinds["date"], kinds["precipitation"]) == ("date", "number")
        assert opened.report.tables() == ["weather", "odd-ends"]

    @pytest.mark.parametrize(
        ("packed", "said"),
        [
            (b"Day,Visits\n", "no packed report"),
            (b"PK\x03\x04 broken", "broken"),
            (repacked(**{"report.json": None}), "no report.json"),
            (repacked(**{"report.json": "{"}), "not JSON"),
            (repacked(**{"report.json": "[]"}), "no report"),
            (repacked(**{"report.json": '{"title": "x", "bands": 1}'}), "report.json"),
            (repacked(**{"tables/weather.json": '{"name": "x", "columns": []}'}), "tables/weather.csv"),
            (repacked(**{"tables/weather.csv": "a,b\n1,2\n"}), "6 are described"),
        ],
    )
    def test_what_is_wrong_with_one_is_said(self, packed, said):
        with pytest.raises(YpsilError) as refused:
            open_package(packed, "x.ypsil")
        assert said in refused.value.line()


@pytest.fixture
def folder(tmp_path, monkeypatch):
    (tmp_path / "r.ypsil").write_bytes(PACKED)
    WEATHER[WEATHER["date"] < "2014-01-01"].to_csv(tmp_path / "half.csv", index=False)
    monkeypatch.chdir(tmp_path)
    return tmp_path


def build(capsys, *arguments):
    code = main(("build", "r.ypsil", *arguments))
    out, err = capsys.readouterr()
    return code, json.loads(out) if out else None, err


def words(path):
    return " ".join(page.extract_text() for page in PdfReader(path).pages)


class TestBuild:
    def test_a_live_figure_follows_the_data_that_is_swapped_in(self, folder, capsys):
        assert build(capsys, "--out", "a.pdf")[0] == 0
        assert f"Rain: {WEATHER['precipitation'].sum():,.0f}" in words("a.pdf")
        code, said, err = build(capsys, "--data", "Weather=half.csv", "--out", "b.pdf")
        half = WEATHER[WEATHER["date"] < "2014-01-01"]["precipitation"].sum()
        assert (code, said["problems"], err) == (0, [], "") and f"Rain: {half:,.0f}" in words("b.pdf")

    def test_filters_apply_to_figures_and_charts(self, folder, capsys):
        build(capsys, "--where", "weather=snow", "--where", "weather=fog", "--out", "a.pdf")
        expected = WEATHER[WEATHER["weather"].isin(["snow", "fog"])]["precipitation"].sum()
        assert f"Rain: {expected:,.0f}" in words("a.pdf")

    @pytest.mark.parametrize("ending", ["png", "jpg", "jpeg", "svg", "pdf"])
    def test_one_band_or_tile_in_each_kind_of_file(self, folder, capsys, ending):
        code, _, _ = build(capsys, "--tile", "c1", "--out", f"a.{ending}")
        whole, _, _ = build(capsys, "--band", "b2", "--out", f"b.{ending}")
        assert (code, whole) == (0, 0) and (folder / f"a.{ending}").read_bytes() != (
            folder / f"b.{ending}"
        ).read_bytes()

    def test_pictures_are_as_wide_as_they_are_wanted(self, folder, capsys):
        build(capsys, "--width", "500", "--out", "a.png")
        build(capsys, "--scale", "1", "--out", "b.jpg")
        assert (Image.open("a.png").width, Image.open("b.jpg").width) == (500, 800)

    def test_a_text_whose_figure_is_missing_is_not_blank_and_the_reason_is_said(self, folder, capsys):
        (folder / "other.csv").write_text("date,weather\n2026-01-01,sun\n")
        code, said, err = build(capsys, "--data", "weather=other.csv", "--out", "a.pdf")
        assert code == 0 and "precipitation" in err and said["problems"]
        assert "being updated" in words("a.pdf") and "Rain" not in words("a.pdf")

    @pytest.mark.parametrize(
        ("arguments", "said"),
        [
            (("--data", "nope=half.csv"), "no table “nope”"),
            (("--data", "half.csv"), "is not a pair"),
            (("--where", "nope=1"), "no table has a column “nope”"),
            (("--where", "wind=strong"), "is no number"),
            (("--band", "zz"), "no band “zz”"),
            (("--tile", "zz"), "no tile “zz”"),
            (("--scale", "90"), "too large"),
        ],
    )
    def test_what_does_not_fit_is_said_on_one_line_and_nothing_is_written(self, folder, capsys, arguments, said):
        code, data, err = build(capsys, *arguments, "--out", "a.png")
        assert (code, data) == (1, None) and said in err and err.count("\n") == 1
        assert not (folder / "a.png").exists()

    def test_endings_that_are_none_are_refused(self, folder, capsys):
        assert "files of the type “docm”" in build(capsys, "--out", "a.docm")[2]


def test_columns_keep_their_kinds_with_other_rows():
    opened = open_package(PACKED, "x.ypsil")
    other = opened.with_rows("odd-ends", b"Day,Open,Langs,Note,Share\n2026,no,de,a,1\n", "other.csv")
    kinds = [column.kind for column in other.tables["odd-ends"].columns]
    assert kinds == [column.kind for column in opened.tables["odd-ends"].columns]
    assert isinstance(other.tables["odd-ends"].frame(), pl.DataFrame)
