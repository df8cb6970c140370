"""A change of mind: another template, another style; nothing that somebody made is lost."""

from dataclasses import replace

import pytest

from tests.core.test_templates import MONTHS, SURVEY, made, subject
from ypsil.core.draft import draft
from ypsil.core.drawing.colour import contrast_ratio
from ypsil.core.errors import EditRefused
from ypsil.core.render import compose
from ypsil.core.report import ReportBody, parse_edit
from ypsil.core.report.document import Band
from ypsil.core.report.nodes import document_of, report_of
from ypsil.core.style.palettes import SHIPPED
from ypsil.core.templates import filled, match, page_of, switched, template_called, templates
from ypsil.core.tiles import TextTile, as_text, as_visual

TABLE = subject(MONTHS)


def drawn(name):
    template = template_called(name)
    return filled(template, [TABLE], ReportBody(title="T", page=page_of(template)))


def own_text(body, text, role="body"):
    """Add words of somebody's own to the first band."""
    tile = {"type": "text", "role": role, "text": text}
    return parse_edit({"type": "add_tile", "band": body.bands[0].id, "tile": tile}).apply(body)


FITTING = [name for name in templates() if match(template_called(name), [TABLE]).fits]


@pytest.mark.parametrize("name", FITTING)
def test_every_tile_text_and_question_stays(name):
    before = own_text(draft([TABLE], ReportBody(title="Ours")).body, "We opened a second desk in May.")
    after = switched(before, drawn(name))
    kept = {tile.id: tile for tile in after.everything()}
    for tile in before.tiles():
        if tile.is_open() or tile.names_sources or (tile.why and tile.decorates()):
            continue
        assert tile.id in kept
        assert kept[tile.id].model_copy(update={"place": tile.place, "card": tile.card}) == tile
    assert after.title == "Ours" and len(kept) == len({*kept})
    assert ReportBody.model_validate(after.as_json()) == after
    assert [problem for _, problem in compose(after, {"t": TABLE.table}).problems()] == []


def test_what_asks_the_same_takes_its_place_on_the_new_page():
    before = drawn("month-in-figures").body
    trend = next(tile for tile in map(as_visual, before.tiles()) if tile and tile.visual == "line")
    tuned = before.model_copy()
    tuned = parse_edit({"type": "set_options", "tile": trend.id, "options": {"average": True}}).apply(tuned)
    after = switched(tuned, drawn("slide-summary"))
    moved = as_visual(after.tile(trend.id))
    assert moved.options["average"] is True
    assert (
        next(band for band in after.bands if trend.id in {one.id for one in band.tiles}).message == "How it came there"
    )


def test_own_words_go_where_such_are_asked_for():
    before = own_text(drawn("month-in-figures").body, "Two desks, one queue.", "lead")
    after = switched(before, drawn("from-a-topic"))
    said = next(tile for tile in map(as_text, after.tiles()) if tile and tile.plain == "Two desks, one queue.")
    band = next(band for band in after.bands if said in band.tiles)
    assert band.message == "What it is about" and not band.is_tray


def test_what_finds_no_place_waits_in_the_tray_which_no_reader_sees():
    before = own_text(drawn("month-in-figures").body, "Kept for later.", "quote")
    after = switched(before, drawn("ranked-list"))
    tray = after.tray()
    assert tray is not None and tray is after.bands[-1]
    assert "Kept for later." in [tile.plain for tile in map(as_text, tray.tiles) if tile]
    assert after.as_read().tray() is None
    readers = compose(after, {"t": TABLE.table}, for_readers=True)
    assert not {view.tile.id for view in readers.tiles()} & {tile.id for tile in tray.tiles}


def test_from_the_tray_it_comes_back_to_a_page_that_has_a_place():
    first = drawn("month-in-figures").body
    there = switched(first, drawn("ranked-list"))
    again = switched(there, drawn("month-in-figures"))
    shown = {tile.id for band in again.bands if not band.is_tray for tile in band.shown()}
    visuals = {tile.id for tile in first.tiles() if as_visual(tile)}
    assert visuals <= shown


def test_a_hundred_tiles_are_all_kept():
    body = draft([TABLE], ReportBody(title="T")).body
    for number in range(100):
        body = own_text(body if number % 40 else _with_a_band(body, number), f"Remark {number}")
    after = switched(body, drawn("meeting"))
    said = {tile.plain for tile in map(as_text, after.everything()) if tile}
    assert {f"Remark {number}" for number in range(100)} <= said


def _with_a_band(body, number):
    return parse_edit({"type": "add_band", "band": {"id": f"n{number}", "message": ""}, "index": 0}).apply(body)


def test_groups_stay_whole():
    body = draft([TABLE], ReportBody(title="T")).body
    some = [tile.id for tile in body.bands[0].tiles[:2]]
    grouped = parse_edit({"type": "group_tiles", "tiles": some, "id": "g1"}).apply(body)
    after = switched(grouped, drawn("two-sides"))
    assert {one.id for one in after.tile("g1").below()} == set(some)


@pytest.mark.parametrize("palette", SHIPPED)
def test_a_style_never_makes_a_page_unreadable(palette):
    body = parse_edit({"type": "restyle", "palette": palette}).apply(drawn("month-in-figures").body)
    for view in compose(body, {"t": TABLE.table}).tiles():
        style = view.context.style
        # WCAG 2.2, 1.4.3.
        assert min(contrast_ratio(one, style.paper) for one in (style.ink, style.muted, *style.palette)) >= 4.5


def test_colours_of_ones_own_are_made_readable():
    body = drawn("ranked-list").body
    edit = {"type": "restyle", "colours": {"paper": "#ffffff", "ink": "#eeeeee", "palette": ["#ffff00", "#ffff01"]}}
    style = parse_edit(edit).apply(body).style
    assert min(contrast_ratio(one, "#ffffff") for one in (style.ink, *style.palette)) >= 4.5


def test_only_the_style_changes():
    before = drawn("month-in-figures").body
    after = parse_edit({"type": "restyle", "palette": "ember", "heading_family": "Oswald"}).apply(before)
    assert after.style.heading_family == "Oswald" and after.style.body_family == before.style.body_family
    assert after.model_copy(update={"style": before.style}) == before


@pytest.mark.parametrize(
    ("edit", "said"),
    [
        ({"palette": "mud"}, "there is no palette “mud”"),
        ({"heading_family": "Scrawl"}, "the shipped families are"),
        ({"colours": {"ink": "blue"}}, "is not a colour like"),
        ({"colours": {"palette": []}}, "at least one colour"),
    ],
)
def test_a_style_that_is_none_is_refused_in_words(edit, said):
    with pytest.raises(EditRefused, match=said):
        parse_edit({"type": "restyle", **edit}).apply(made("leaflet", about=subject(SURVEY)).body)


def test_a_style_is_kept_with_the_document():
    before = drawn("month-in-figures").body
    document = document_of(before)
    after = parse_edit({"type": "restyle", "palette": "ember"}).apply(before)
    changed = document_of(after, document, before)
    assert changed.style.digest == after.style.digest() != document.style.digest
    assert report_of(changed, after.style) == after


def test_what_leads_to_a_band_leads_to_where_its_visuals_stand_now():
    before = drawn("month-in-figures").body
    trend = next(tile for tile in map(as_visual, before.tiles()) if tile and tile.visual == "line")
    band = next(band for band in before.bands if trend in band.shown())
    lead = TextTile(role="heading", id="lead1", text="Look at the months", leads_to=f"#{band.id}")
    before = parse_edit({"type": "add_tile", "band": before.bands[0].id, "tile": lead.model_dump(mode="json")}).apply(
        before
    )
    made = drawn("year-in-numbers")
    asking = TextTile(role="heading", id="ask1", hint="What is it?")
    bands = (*made.body.bands, Band(id="b99", message="", tiles=(asking,)))
    after = switched(before, replace(made, body=made.body.model_copy(update={"bands": bands})))
    now = next(one.id for one in after.bands if trend.id in {tile.id for tile in one.shown()})
    leading = after.tile("lead1")
    assert not next(one for one in after.bands if leading in one.shown()).is_tray
    assert leading.leads_to == f"#{now}" != f"#{band.id}"
