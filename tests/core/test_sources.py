"""Sources: what is collected, numbers that point to it, addresses that lead there, who made the report."""

import io
from dataclasses import replace

import pytest
from PIL import Image
from pypdf import PdfReader

from tests.factories import report_table, total
from ypsil.core.drawing.picture_files import read_picture
from ypsil.core.errors import EditRefused
from ypsil.core.export import page_to_pdf, page_to_svg
from ypsil.core.render import compose
from ypsil.core.report import ReportBody, parse_edit
from ypsil.core.report.nodes import document_of, report_of, with_tables
from ypsil.core.report.sources import named_sources

# What the typesetter leaves above a place that something leads to, in points.
ABOVE = 11
MORE = "Town archive, https://example.org/archive.\nInterview with the caretaker"


def chart(name="chart", table="t", row=0, **more):
    place = {"column": 0, "row": row, "width": 12, "height": 30}
    question = total(per=[{"column": "Branch"}])
    return {"id": name, "type": "visual", "table": table, "question": question, "visual": "bar", "place": place, **more}


def text(name="words", **more):
    place = {"column": 12, "row": 0, "width": 12, "height": 6}
    return {"id": name, "type": "text", "text": "Visits rose.", "place": place, **more}


def foot(**more):
    return {"id": "foot", "type": "sources", "place": {"column": 0, "row": 60, "width": 24, "height": 6}, **more}


def report(*tiles, **more):
    return ReportBody.model_validate({"title": "T", "bands": [{"id": "b", "tiles": [*tiles]}], **more})


def tables(*names):
    return {name: replace(report_table(), source=f"Table {name} (visits.csv)") for name in names or "t"}


def view(made, name):
    return next(one for one in made.tiles() if one.tile.id == name)


def words(made, name="foot"):
    return " ".join(text.text.strip() for text in view(made, name).scene.texts())


def links_of(content):
    page = PdfReader(io.BytesIO(content)).pages[0]
    return [one.get_object() for one in page["/Annots"]]


def down_to(link):
    """How far down its page a link leads, in points."""
    goal = link.get("/Dest") or link["/A"]["/D"]
    page = goal[0].get_object()
    return float(page["/MediaBox"][3]) - float(goal[3])


def done(before, **edit):
    return parse_edit(edit).apply(before)


def typed(found):
    return [(one.id, one.words) for one in found.tile("foot").more]


class TestCollected:
    def test_tables_typed_lines_and_thanks_stand_in_the_order_of_their_numbers(self):
        picture = {"id": "p", "type": "picture", "picture": "picture:" + "0" * 64, "credit": "Photo by Ida Fenn"}
        body = report(chart(), picture, foot(more=[{"id": "one", "words": "Town archive"}]))
        found = named_sources(body, tables())
        assert [one.words for one in found] == ["Table t (visits.csv)", "Town archive", "Photo by Ida Fenn"]
        said = words(compose(body, tables()))
        assert said == "Sources: Table t (visits.csv); Town archive. Picture: Photo by Ida Fenn."

    def test_sets_of_icons_and_faces_are_named_where_that_is_wanted(self):
        sign = {"id": "s", "type": "sign", "sign": "line:book"}
        without, wanted = report(sign, foot()), report(sign, foot(names_icons=True, names_type=True))
        assert named_sources(without, {}) == ()
        said = words(compose(wanted, {}))
        assert "line icons (MIT License)" in said and "Source Sans 3 (SIL Open Font License 1.1)" in said
        assert "coloured" not in said

    def test_who_made_it_stands_above(self):
        made = compose(
            report(chart(), foot(made_by="Made by the libraries, https://example.org", look="list")), tables()
        )
        lines = [text.text for text in view(made, "foot").scene.texts()]
        assert lines[0].startswith("Made by the libraries")
        assert "https://example.org" in {text.link for text in view(made, "foot").scene.texts()}

    def test_a_logo_stands_beside_the_words_and_they_make_room(self):
        buffer = io.BytesIO()
        Image.new("RGB", (200, 100), "#c02020").save(buffer, "PNG")
        logo = read_picture(buffer.getvalue(), "logo.png")
        plain = compose(report(chart(), foot()), tables())
        made = compose(report(chart(), foot(logo=logo.name)), tables(), pictures={logo.name: logo})
        assert min(text.x for text in view(made, "foot").scene.texts()) > 80
        assert min(text.x for text in view(plain, "foot").scene.texts()) == 0
        assert report(chart(), foot(logo=logo.name)).pictures() == [logo.name]


class TestNumbers:
    def test_a_number_beside_a_chart_and_behind_a_text_points_to_the_line(self):
        cites = {"cites": [{"table": "t"}]}
        made = compose(report(chart(**cites), text(**cites), foot()), tables())
        plain = compose(report(chart(), text(), foot()), tables())
        number = view(made, "chart").scene.texts()[-1]
        assert number.text == "1" and number.anchor == "end"
        # It stands below the drawing, which made room.
        assert max(one.y for one in view(made, "chart").scene.texts()[:-1]) < number.y - number.font.size / 2
        assert view(made, "chart").scene.height == view(plain, "chart").scene.height
        assert words(made, "words").endswith("1") and not words(plain, "words").endswith("1")
        assert words(made).startswith("Source: 1") and words(plain).startswith("Source: Table")

    def test_numbers_rise_follow_the_order_and_forget_what_is_gone(self):
        more = [{"id": "one", "words": "Town archive"}, {"id": "two", "words": "Interview"}]
        cites = [{"typed": "two"}, {"table": "t"}, {"typed": "gone"}]
        made = compose(report(chart(cites=cites), foot(more=more)), tables())
        assert view(made, "chart").scene.texts()[-1].text == "1, 3"
        fewer = compose(report(chart(cites=cites), foot(more=more[1:])), tables())
        assert view(fewer, "chart").scene.texts()[-1].text == "1, 2"

    def test_tables_keep_their_numbers_under_other_names(self):
        content = {"cites": [{"table": "a"}, {"typed": "one"}], "table": "a"}
        assert with_tables(content, {"a": "b"}) == {"cites": [{"table": "b"}, {"typed": "one"}], "table": "b"}
        before = report(chart(cites=[{"table": "t"}]), foot(more=[{"id": "one", "words": "Town archive"}]))
        assert report_of(document_of(before), before.style) == before

    def test_a_text_that_is_typed_into_does_not_take_its_number_in(self):
        made = compose(report(chart(), text(cites=[{"table": "t"}]), foot()), tables())
        one = view(made, "words")
        assert one.tile.plain == "Visits rose." and one.tile.writes(one.context).prose.plain() == "Visits rose."

    @pytest.mark.parametrize("cite", [{}, {"table": "t", "typed": "one"}, {"what": "t"}])
    def test_a_number_points_to_one_source(self, cite):
        with pytest.raises(EditRefused):
            done(report(chart(), foot()), type="change_tile", tile="chart", changes={"cites": [cite]})


class TestTyped:
    def test_lines_that_stay_or_are_mended_keep_their_numbers(self):
        first = done(report(foot()), type="change_tile", tile="foot", changes={"more": MORE})
        (archive, _), (caretaker, _) = typed(first)
        mended = done(first, type="change_tile", tile="foot", changes={"more": MORE.replace("caretaker", "guard")})
        assert typed(mended) == [(archive, MORE.split("\n")[0]), (caretaker, "Interview with the guard")]
        above = done(first, type="change_tile", tile="foot", changes={"more": f"A new one\n\n{MORE}"})
        assert [name for name, _ in typed(above)][1:] == [archive, caretaker]
        assert typed(above)[0][0] not in (archive, caretaker)
        fewer = done(first, type="change_tile", tile="foot", changes={"more": MORE.split("\n")[1]})
        assert typed(fewer) == [(caretaker, MORE.split("\n")[1])]

    def test_far_too_many_or_too_long_ones_are_refused_in_words(self):
        with pytest.raises(EditRefused, match="at most 40"):
            done(report(foot()), type="change_tile", tile="foot", changes={"more": "\n".join(map(str, range(50)))})
        with pytest.raises(EditRefused, match="500"):
            done(report(foot()), type="change_tile", tile="foot", changes={"more": "x" * 501})


class TestInFiles:
    def test_addresses_lead_there_in_svg_and_pdf_and_numbers_to_the_sources(self):
        more = [{"id": "one", "words": "See https://example.org/archive."}]
        made = compose(report(chart(cites=[{"typed": "one"}]), foot(more=more)), tables())
        assert 'href="https://example.org/archive"' in page_to_svg(made)
        links = links_of(page_to_pdf(made))
        assert [one["/A"]["/URI"] for one in links if "/A" in one and "/URI" in one["/A"]] == [
            "https://example.org/archive"
        ]
        # The number leads to where the sources stand (ISO 32000-2, 12.3.2).
        [leap] = [one for one in links if "/URI" not in one.get("/A", {})]
        assert 0 <= view(made, "foot").y * 0.75 - down_to(leap) <= ABOVE

    def test_a_band_is_reached_in_svg_and_pdf(self):
        bands = [
            {"id": "top", "tiles": [text(leads_to="#goal")]},
            {"id": "goal", "tiles": [text("other") | {"place": {"column": 0, "row": 90, "width": 12, "height": 6}}]},
        ]
        made = compose(ReportBody.model_validate({"title": "T", "bands": bands}), {})
        svg = page_to_svg(made)
        assert 'href="#goal"' in svg and '<rect id="goal"' in svg
        [leap] = links_of(page_to_pdf(made))
        assert 0 <= made.bands[1].place.y * 0.75 - down_to(leap) <= ABOVE

    def test_a_page_of_many_sources_is_as_high_as_they_need(self):
        more = [{"id": f"s{place}", "words": f"Source number {place} of a long list"} for place in range(40)]
        made = compose(report(chart(), foot(more=more, look="list")), tables())
        place = view(made, "foot")
        assert max(text.y for text in place.scene.texts()) <= place.scene.height
