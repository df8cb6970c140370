"""Nothing on a page is under 12 px on screen or 8 pt on paper, whatever is drawn, in any format, of many values."""

import pytest

from tests.core.test_awkward_drawings import AWKWARD
from tests.core.test_visuals import GOOD, TABLES
from tests.factories import VISITS, csv_table, report_table
from ypsil.core.document.page_formats import PAGE_FORMATS
from ypsil.core.proof import findings_of
from ypsil.core.render import compose
from ypsil.core.report import ReportBody
from ypsil.core.visuals import VISUALS

# 8 pt at 96 px an inch (W3C, CSS Values and Units Level 4, 6.2).
ON_PAPER, ON_SCREEN = 8 * 96 / 72, 12
SIZES = ((12, 30), (8, 26))
ROUNDED = 0.01


def least_type(name, table, page, size):
    tile = {"id": "a", "type": "visual", "table": "t", "question": GOOD[name], "visual": name}
    tile["place"] = {"column": 0, "row": 0, "width": size[0], "height": size[1]}
    report = {"title": "T", "page": page.model_dump(), "bands": [{"id": "b", "tiles": [tile]}]}
    composed = compose(ReportBody.model_validate(report), {"t": report_table(table)})
    return min((text.font.size for text in composed.tiles()[0].scene.texts()), default=ON_SCREEN)


@pytest.mark.parametrize("name", VISUALS)
def test_no_visual_has_smaller_type_in_any_format(name):
    table = csv_table(TABLES.get(name, VISITS))
    for format_ in ("tall", "dashboard-4x3", "a4", "slide-16x9", "post-square"):
        named = PAGE_FORMATS[format_]
        least = ON_PAPER if named.group == "Printed page" else ON_SCREEN
        for size in SIZES:
            assert least_type(name, table, named.page, size) >= least - ROUNDED, (format_, size)


@pytest.mark.parametrize("name", VISUALS)
def test_no_visual_has_smaller_type_for_many_or_long_values(name):
    for kind in ("400 categories", "60 series", "300 letters", "huge and tiny"):
        found = least_type(name, csv_table(AWKWARD[kind]), PAGE_FORMATS["tall"].page, SIZES[0])
        assert found >= ON_SCREEN - ROUNDED, kind


def test_smaller_words_that_somebody_asks_for_are_said_by_the_proof():
    words = {"column": "Comment", "by": "word"}
    cloud = {"id": "a", "type": "visual", "table": "t", "visual": "cloud", "options": {"smallest": 9, "largest": 10}}
    cloud["question"] = {"measures": [{"stat": "count"}], "per": [words]}
    report = ReportBody.model_validate({"title": "T", "bands": [{"id": "b", "tiles": [cloud]}]})
    said = [one.said for one in findings_of(compose(report, {"t": report_table()}))]
    assert any("very small" in one for one in said)
