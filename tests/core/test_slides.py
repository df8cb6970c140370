"""A page as slides: read back with python-pptx, a general-purpose library; structure by ECMA-376, part 1."""

import datetime as dt
import io
import zipfile

import pytest
from lxml import etree
from pptx import Presentation
from pptx.enum.chart import XL_CHART_TYPE
from pptx.enum.shapes import MSO_SHAPE_TYPE

from tests.core.test_drafts import TABLES, subject
from tests.core.test_templates import MONTHS, fitting, made
from tests.factories import total
from ypsil.core.document.page_formats import PAGE_FORMATS
from ypsil.core.draft import draft
from ypsil.core.errors import YpsilError
from ypsil.core.export import file_format
from ypsil.core.render import compose
from ypsil.core.report import ReportBody
from ypsil.core.report.document import Band
from ypsil.core.style.cards import Card
from ypsil.core.style.grounds import Ground
from ypsil.core.templates import templates
from ypsil.core.tiles import TextTile, VisualTile
from ypsil.core.visuals import VISUALS

TABLE = subject(MONTHS)
PER_MONTH = total("Visits", per=[{"column": "Month", "by": "month"}])
PER_BRANCH = total("Visits", per=[{"column": "Branch"}])
BY_BRANCH = PER_MONTH | {"split": {"column": "Branch"}}
BOTH = {
    "measures": [{"stat": "sum", "column": "Visits"}, {"stat": "sum", "column": "Loans"}],
    "per": [{"column": "Month", "by": "month"}],
}
# Each visual that office programs draw themselves, with a question that it can answer and the chart it becomes.
NATIVE = [
    ("column", PER_BRANCH, XL_CHART_TYPE.COLUMN_CLUSTERED),
    ("bar", PER_BRANCH, XL_CHART_TYPE.BAR_CLUSTERED),
    ("stacked_column", BY_BRANCH, XL_CHART_TYPE.COLUMN_STACKED),
    ("stacked_bar", BY_BRANCH, XL_CHART_TYPE.BAR_STACKED),
    ("share_column", BY_BRANCH, XL_CHART_TYPE.COLUMN_STACKED_100),
    ("share_bar", BY_BRANCH, XL_CHART_TYPE.BAR_STACKED_100),
    ("line", BY_BRANCH, XL_CHART_TYPE.LINE),
    ("area", PER_MONTH, XL_CHART_TYPE.AREA),
    ("stacked_area", BY_BRANCH, XL_CHART_TYPE.AREA_STACKED),
    ("pie", PER_BRANCH, XL_CHART_TYPE.PIE),
    ("donut", PER_BRANCH, XL_CHART_TYPE.DOUGHNUT),
    ("scatter", BOTH, XL_CHART_TYPE.XY_SCATTER),
    ("combined", BOTH, XL_CHART_TYPE.COLUMN_CLUSTERED),
    ("radar", PER_BRANCH | {"split": {"column": "Kind"}}, XL_CHART_TYPE.RADAR),
]


def page_of(body, about=TABLE):
    return compose(body, {about.key: about.table}, is_opened=True)


def deck_of(body, about=TABLE):
    return Presentation(io.BytesIO(file_format("pptx").page(page_of(body, about))))


def of(*tiles, **more):
    return ReportBody(title="Ours", bands=(Band(tiles=tiles, **more),))


def drawn(visual, question, **more):
    return VisualTile.model_validate({"table": "t", "question": question, "visual": visual} | more)


def charts_of(deck):
    return [shape for slide in deck.slides for shape in slide.shapes if shape.has_chart]


def shapes_in(shapes):
    for shape in shapes:
        yield shape
        if shape.shape_type == MSO_SHAPE_TYPE.GROUP:
            yield from shapes_in(shape.shapes)


def words_of(slide):
    return "\n".join(shape.text_frame.text for shape in shapes_in(slide.shapes) if shape.has_text_frame)


@pytest.mark.parametrize(("visual", "question", "kind"), NATIVE, ids=[one[0] for one in NATIVE])
def test_a_visual_becomes_a_chart_with_its_numbers(visual, question, kind):
    page = page_of(of(drawn(visual, question)))
    deck = deck_of(of(drawn(visual, question)))
    (frame,) = charts_of(deck)
    assert frame.chart.plots[0] and frame.chart.chart_type == kind
    answer = page.tiles()[0].drawn.answer
    wanted = sorted(
        value for column in answer.of("measure")[-1:] for value in answer.values(column) if value is not None
    )
    last = list(frame.chart.plots)[-1]
    series = last.series if visual != "combined" else list(list(frame.chart.plots)[1].series)
    found = sorted(value for one in series for value in one.values if value is not None)
    assert found == pytest.approx(wanted)


def test_every_visual_that_says_so_is_tried_here():
    tried = {name for name, _, _ in NATIVE} | {"bubble", "histogram"}
    assert {name for name, one in VISUALS.items() if one.native} == tried


def test_bubbles_and_classes_become_charts():
    three = BOTH | {"measures": [*BOTH["measures"], {"stat": "count"}], "per": [{"column": "Branch"}]}
    (bubbles,) = charts_of(deck_of(of(drawn("bubble", three))))
    assert bubbles.chart.chart_type == XL_CHART_TYPE.BUBBLE
    classes = {"measures": [{"stat": "count"}], "per": [{"column": "Visits", "by": {"bins": 6}}]}
    (histogram,) = charts_of(deck_of(of(drawn("histogram", classes))))
    assert histogram.chart.plots[0].gap_width < 10


def test_the_line_beside_columns_has_an_axis_of_its_own():
    (frame,) = charts_of(deck_of(of(drawn("combined", BOTH))))
    columns, line = frame.chart.plots
    assert [one.name for one in columns.series] == ["Total Visits"]
    assert [one.name for one in line.series] == ["Total Loans"]
    axes = [plot._element.findall("{*}axId") for plot in (columns, line)]
    assert not {one.get("val") for one in axes[0]} & {one.get("val") for one in axes[1]}


def test_a_chart_can_be_edited_with_its_numbers_in_a_workbook():
    (frame,) = charts_of(deck_of(of(drawn("column", PER_BRANCH))))
    import openpyxl

    book = openpyxl.load_workbook(io.BytesIO(frame.chart.part.chart_workbook.xlsx_part.blob))
    rows = list(book.active.values)
    assert rows[0][1] == "Total Visits" and len(rows) == 1 + len(frame.chart.plots[0].categories)


def test_a_chart_has_the_colours_and_the_order_of_the_page():
    tile = drawn("bar", PER_BRANCH, options={"emphasis": "Elmstow"})
    page = page_of(of(tile))
    (frame,) = charts_of(deck_of(of(tile)))
    names = [view.title.group for view in page.tiles()[0].scene.shapes if getattr(view, "title", "")]
    assert list(frame.chart.plots[0].categories) == list(dict.fromkeys(name for name in names if name))
    assert frame.chart.category_axis.reverse_order
    series = frame.chart.plots[0].series[0]
    place = list(frame.chart.plots[0].categories).index("Elmstow")
    seen = {str(series.points[index].format.fill.fore_color.rgb) for index in [place]}
    assert seen == {page.report.style.accent.removeprefix("#").upper()}
    assert str(series.format.fill.fore_color.rgb) == page.report.style.quiet.removeprefix("#").upper()


def test_a_slide_a_band_with_its_heading_as_title_its_words_and_notes():
    body = made("month-in-figures").body
    page, deck = page_of(body), deck_of(body)
    bands = [band for band in page.bands if band.tiles]
    assert len(deck.slides) == len(bands)
    for slide, band in zip(deck.slides, bands, strict=True):
        assert slide.shapes.title is not None and slide.shapes.title.text_frame.text.strip()
        words = words_of(slide)
        for view in band.tiles:
            written = view.tile.writes(view.context)
            if written is not None:
                said = written.spoken(view.context).split("\n")
                assert all(" ".join(line.split()) in " ".join(words.split()) for line in said)
        if band.band.message:
            assert slide.notes_slide.notes_text_frame.text.startswith(band.band.message)
    first = next(view for view in page.tiles() if view.tile.heading())
    assert deck.slides[0].shapes.title.text_frame.text == first.tile.writes(first.context).spoken(first.context)
    assert deck.core_properties.title == body.title and deck.core_properties.author == ""


def test_a_band_without_a_heading_has_its_message_as_a_title_above_the_slide():
    deck = deck_of(of(drawn("column", PER_BRANCH), message="Hill leads"))
    (slide,) = deck.slides
    title = slide.shapes.title
    assert title.text_frame.text == "Hill leads" and title.top + title.height < 0


@pytest.mark.parametrize("name", templates())
def test_all_that_is_seen_is_said_or_decoration(name):
    deck = deck_of(made(name).body, fitting(name))
    for slide in deck.slides:
        numbers = [shape.shape_id for shape in shapes_in(slide.shapes)]
        assert len(set(numbers)) == len(numbers)
        for shape in slide.shapes:
            named = shape._element.find(".//{*}cNvPr")
            is_text = shape.has_text_frame and shape.text_frame.text.strip()
            is_decoration = named.find(".//{*}decorative") is not None
            assert is_text or named.get("descr") or is_decoration, named.get("name")


def test_screens_are_one_slide_and_long_pages_a_slide_a_band():
    two = [Band(tiles=(TextTile(text="One"),)), Band(tiles=(TextTile(text="Two"),))]
    tall = ReportBody(title="T", bands=tuple(two))
    assert len(deck_of(tall).slides) == 2
    screen = tall.model_copy(update={"page": PAGE_FORMATS["dashboard-4x3"].page})
    deck = deck_of(screen)
    assert len(deck.slides) == 1 and (deck.slide_width, deck.slide_height) == (1024 * 9525, 768 * 9525)


def test_a_ground_reaches_the_edges_of_its_slide():
    plain = deck_of(of(TextTile(text="On it"), ground=Ground(colour="accent")))
    assert str(plain.slides[0].background.fill.fore_color.rgb) == "14697F"
    fading = deck_of(of(TextTile(text="On it"), ground=Ground(colour="accent", to="deep")))
    picture = fading.slides[0].shapes[0]
    assert (picture.left, picture.top) == (0, 0)
    assert (picture.width, picture.height) == (fading.slide_width, fading.slide_height)


def test_cards_stand_behind_and_what_they_hold_does_not_move():
    tile = TextTile(text="Held", card=Card())
    deck = deck_of(of(tile))
    card, words = [shape for shape in deck.slides[0].shapes if shape.name in ("Card", tile.label())]
    assert card.left < words.left and card.top < words.top


def test_what_leads_somewhere_does_on_slides():
    goal = Band(tiles=(TextTile(text="There"),))
    leading = TextTile.model_validate(
        {
            "text": {
                "blocks": [
                    {"runs": [{"text": "out", "link": "https://example.org/a"}]},
                    {"runs": [{"text": "on", "link": f"#{goal.id}"}]},
                ]
            }
        }
    )
    deck = deck_of(ReportBody(title="T", bands=(Band(tiles=(leading,)), goal)))
    runs = [run for shape in shapes_in(deck.slides[0].shapes) if shape.has_text_frame
            for paragraph in shape.text_frame.paragraphs for run in paragraph.runs]  # fmt: skip
    assert runs[0].hyperlink.address == "https://example.org/a"
    click = runs[1]._r.find(".//{*}hlinkClick")
    assert click.get("action") == "ppaction://hlinksldjump"
    relation = click.get("{http://schemas.openxmlformats.org/officeDocument/2006/relationships}id")
    assert deck.slides[0].part.related_part(relation) is deck.slides[1].part


def test_words_keep_their_looks_lists_and_direction():
    prose = {
        "blocks": [
            {"runs": [{"text": "Bold", "looks": ["bold"]}, {"text": " and "}, {"text": "2", "looks": ["above"]}]},
            {"kind": "bullet", "runs": [{"text": "first"}]},
            {"kind": "number", "runs": [{"text": "second"}]},
            {"runs": [{"text": "שלום לכולם"}]},
        ]
    }
    deck = deck_of(of(TextTile.model_validate({"text": prose})))
    title = deck.slides[0].shapes.title.shape_id
    (shape,) = [one for one in deck.slides[0].shapes if one.has_text_frame and one.shape_id != title]
    said = etree.tostring(shape._element).decode()
    bold, plain, above = shape.text_frame.paragraphs[0].runs
    assert bold.font.bold and not plain.font.bold and 'baseline="30000"' in etree.tostring(above._r).decode()
    assert above.font.size == plain.font.size
    assert "buChar" in said and 'buAutoNum type="arabicPeriod" startAt="1"' in said and 'rtl="1"' in said
    assert plain.font.name == "Source Sans 3"


@pytest.mark.parametrize("awkward", ["a < b & “c”\x0b d", "=1+1", "x" * 3000, "図書館 📚", "\u202eevil"])
def test_awkward_words_stand_on_slides(awkward):
    deck = deck_of(of(TextTile(text=awkward), drawn("column", PER_BRANCH, title=awkward[:500])))
    assert len(deck.slides) == 1


def test_the_same_page_gives_the_same_bytes_without_days_of_making():
    body = made("month-in-figures").body
    first = file_format("pptx").page(page_of(body))
    assert first == file_format("pptx").page(page_of(body))
    with zipfile.ZipFile(io.BytesIO(first)) as found:
        assert found.testzip() is None
        assert {info.date_time for info in found.infolist()} == {(1980, 1, 1, 0, 0, 0)}
        within = [name for name in found.namelist() if name.endswith(".xlsx")]
        assert within
        with zipfile.ZipFile(io.BytesIO(found.read(within[0]))) as book:
            assert b"2000-01-01T00:00:00Z" in book.read("docProps/core.xml")


def test_a_report_without_anything_is_no_slides():
    with pytest.raises(YpsilError, match="the report is empty"):
        deck_of(ReportBody(title="Empty"))


@pytest.mark.parametrize("name", TABLES)
def test_any_draft_becomes_slides(name):
    about = subject(TABLES[name]())
    body = draft([about], ReportBody(title="T")).body
    deck = deck_of(body, about)
    assert len(deck.slides) == len([band for band in page_of(body, about).bands if band.tiles])


def test_very_many_values_become_a_picture():
    first = dt.date(2004, 1, 1)
    rows = "When,Value\n" + "".join(f"{first + dt.timedelta(days=n)},{n % 97}\n" for n in range(5_000))
    about = subject(rows)
    each = {"measures": [{"stat": "first", "column": "Value"}], "per": [{"column": "When"}]}
    body = of(drawn("line", each))
    assert page_of(body, about).tiles()[0].drawn.answer.height > 4_000
    deck = deck_of(body, about)
    assert not charts_of(deck)
    (one,) = [
        shape for shape in deck.slides[0].shapes if shape.shape_type in (MSO_SHAPE_TYPE.GROUP, MSO_SHAPE_TYPE.PICTURE)
    ]
    assert one._element.find(".//{*}cNvPr").get("descr").startswith("First Value")


def test_whole_tiles_lead_where_they_do_on_the_page():
    goal = Band(tiles=(TextTile(text="There"),))
    out = drawn("column", PER_BRANCH, leads_to="https://example.org/chart")
    cloud = drawn("kpi", total("Visits"), leads_to="https://example.org/figure")
    body = ReportBody(title="T", bands=(Band(tiles=(TextTile(text="on", leads_to=f"#{goal.id}"), out, cloud)), goal))
    deck = deck_of(body)
    leading = [one for one in deck.slides[0].shapes._spTree.iter("{*}cNvPr") if one.find("{*}hlinkClick") is not None]
    goals = []
    for one in leading:
        relation = one.find("{*}hlinkClick").get(
            "{http://schemas.openxmlformats.org/officeDocument/2006/relationships}id"
        )
        goals.append(deck.slides[0].part.rels[relation].target_ref)
    assert goals[1:] == ["https://example.org/chart", "https://example.org/figure"] and goals[0].endswith("slide2.xml")


def test_scales_that_do_not_begin_at_zero_begin_where_the_page_has_them():
    near = subject("When,Value\n" + "".join(f"2024-{1 + n:02d}-01,{900 + 10 * n}\n" for n in range(12)))
    asked = {"measures": [{"stat": "mean", "column": "Value"}], "per": [{"column": "When", "by": "month"}]}
    (free,) = charts_of(deck_of(of(drawn("line", asked, options={"from_zero": False})), near))
    (usual,) = charts_of(deck_of(of(drawn("line", asked)), near))
    assert 880 <= free.chart.value_axis.minimum_scale <= 900 and usual.chart.value_axis.minimum_scale is None
