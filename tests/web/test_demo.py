"""The sample scenario is worth showing."""

import pytest

from ypsil.core.report import VisualTile
from ypsil.core.tables.read import read_table
from ypsil.core.tiles import KINDS
from ypsil.core.visuals import VISUALS
from ypsil.demo.libraries import survey_csv, visits_workbook
from ypsil.demo.load import load_demo
from ypsil.web import static_css
from ypsil.web.compose.models import Report
from ypsil.web.compose.services import page_of
from ypsil.web.gather.models import Table


@pytest.mark.django_db
def test_it_loads_once_and_every_tile_has_its_data():
    load_demo()
    load_demo()
    assert Table.objects.filter(owner__username="sample").count() == 10
    reports = list(Report.objects.all())
    assert len(reports) == 9
    gallery = next(report.read() for report in reports if report.read().title.startswith("Gallery"))
    shown = [tile.visual for band in gallery.bands[:-2] for tile in band.tiles if isinstance(tile, VisualTile)]
    assert sorted(shown) == sorted(VISUALS), "each once; the last bands are tuned ones and the sources"
    sampler = next(report.read() for report in reports if report.read().title.startswith("Sampler"))
    stands = {tile.type for tile in sampler.tiles()}
    assert stands == set(KINDS) - {"group", "spot", "visual"}, "each kind beside charts once"
    public = next(report.read() for report in reports if report.read().title.startswith("A year"))
    assert len({tile.type for tile in public.tiles()}) >= 10
    poster = next(report.read() for report in reports if report.read().title.startswith("Compost"))
    assert len({tile.type for tile in poster.tiles()}) >= 6
    for report in reports:
        page = page_of(report)
        assert page.problems() == []
        assert all("Choose" not in view.scene.description for view in page.tiles())


def test_the_visits_workbook_is_untidy_and_the_same_each_time():
    data = visits_workbook()
    first, again = read_table(data, "v.xlsx"), read_table(visits_workbook(), "v.xlsx")
    assert {"header-not-first", "numbers-as-text", "missing-codes", "total-row", "footnote-rows"} <= {
        remark.code for remark in first.remarks
    }
    assert first.rows == 480
    assert first.frame.equals(again.frame)


def test_the_survey_has_the_kinds_that_surveys_have():
    kinds = {column.name: column.kind for column in read_table(survey_csv(), "s.csv").columns}
    assert kinds["Comment"] == "text"
    assert kinds["Comes for"] == "list"
    assert kinds["Would recommend"] == "yesno"


def test_the_made_style_sheets_are_current():
    assert (static_css.FOLDER / "fonts.css").read_text() == static_css.fonts_css(), "run `make css`"
