"""The page editor's requests."""

import csv
import html
import io
import json
import os
import re
from pathlib import Path

import pytest
from django.contrib.staticfiles import finders

from tests.factories import VISITS
from tests.web.conftest import arrive, change
from ypsil.core.tiles import visual as visual_tile
from ypsil.web.compose.edits import apply_edit
from ypsil.web.compose.margin import looks_for
from ypsil.web.compose.models import Report
from ypsil.web.compose.services import page_of, sources_of
from ypsil.web.gather.models import Table

TITLE = {"type": "change_tile", "tile": "c1", "changes": {"title": "Visits by month"}}


def title_of(report):
    report.refresh_from_db()
    return report.read().tile("c1").title


def test_a_new_report_opens_with_its_title_on_the_page(owner):
    reply = owner.post("/reports/new/", {"title": "Our month"}, follow=True)
    assert 'data-role="title"' in reply.content.decode()
    assert "Our month" in reply.content.decode()


@pytest.mark.parametrize("title", ["", "   ", "x" * 201])
def test_a_report_needs_a_title(owner, title):
    assert owner.post("/reports/new/", {"title": title}).status_code == 422


def test_an_edit_is_saved_and_said_and_the_page_comes_back_redrawn(owner, report):
    reply = change(owner, report, TITLE).json()
    assert reply["saved"].startswith("Saved ")
    assert "Visits by month" in reply["page"]
    assert reply["can_undo"] and not reply["can_redo"]
    assert title_of(report) == "Visits by month"


def test_undo_and_redo_survive_a_reload(owner, report):
    change(owner, report, TITLE)
    owner.post(f"/reports/{report.uid}/undo/")
    assert title_of(report) == ""
    page = owner.get(f"/reports/{report.uid}/").content.decode()
    assert "data-redo" in page and 'x-bind:disabled="cannotRedo">' in page
    owner.post(f"/reports/{report.uid}/redo/")
    assert title_of(report) == "Visits by month"


def test_undoing_more_than_there_is_changes_nothing(owner, report):
    for _ in range(5):
        assert owner.post(f"/reports/{report.uid}/undo/").status_code == 200
    report.refresh_from_db()
    assert len(report.read().tiles()) == 1


def test_one_person_never_undoes_anothers_edit(owner, other, report):
    change(owner, report, TITLE)
    apply_edit(report.pk, other.user, {"type": "rename", "title": "Renamed"}, report.revision + 1)
    owner.post(f"/reports/{report.uid}/undo/")
    report.refresh_from_db()
    assert (title_of(report), report.read().title) == ("", "Renamed")


def test_edits_of_different_things_from_two_tabs_merge(owner, report):
    base = report.revision
    assert change(owner, report, TITLE, base).status_code == 200
    assert change(owner, report, {"type": "rename", "title": "Spring"}, base).status_code == 200
    report.refresh_from_db()
    assert (report.read().title, title_of(report)) == ("Spring", "Visits by month")


def test_a_stale_edit_from_a_second_tab_is_refused_with_both_values(owner, report):
    base = report.revision
    change(owner, report, TITLE, base)
    reply = change(owner, report, TITLE | {"changes": {"title": "Footfall"}}, base)
    assert reply.status_code == 409
    assert "“Visits by month”" in reply.json()["message"]
    assert "“Footfall”" in reply.json()["message"]
    assert title_of(report) == "Visits by month"
    assert reply.json()["revision"] == base + 1


@pytest.mark.parametrize(
    ("edit", "status"),
    [
        ({"type": "change_tile", "tile": "c1", "changes": {"question": {"measures": []}}}, 422),
        ({"type": "change_tile", "tile": "zz", "changes": {"title": "x"}}, 422),
        ({"type": "nonsense"}, 422),
        (None, 422),
        ("x" * 1000, 422),
    ],
)
def test_an_edit_that_does_not_fit_is_refused_and_nothing_is_logged(owner, report, edit, status):
    reply = change(owner, report, edit)
    assert reply.status_code == status
    assert reply.json()["message"].endswith(".")
    assert report.log.count() == 1


@pytest.mark.parametrize("body", ["not json", "[]", "{}", '{"base": "x"}'])
def test_a_body_that_is_no_edit_is_a_bad_request(owner, report, body):
    assert owner.post(f"/reports/{report.uid}/edits/", body, content_type="application/json").status_code == 400


def test_a_base_from_the_future_is_refused(owner, report):
    assert change(owner, report, TITLE, base=99).status_code == 422


def test_the_margin_says_the_sentence_with_words_that_make_edits(owner, report):
    page = owner.get(f"/reports/{report.uid}/tiles/c1/").content.decode()
    for text in ("Show the ", "total", "Visits", "month", "columns", "The numbers behind it", "Jan 2026"):
        assert text in page
    marker = 'data-edit="{&quot;type&quot;: &quot;change_tile&quot;'
    assert page.count(marker) > 20


def test_a_look_goes_to_charts_that_share_settings_and_leaves_their_own_alone(owner, report):
    chart = report.read().tile("c1")
    other = {**chart.model_dump(mode="json"), "id": "c2", "title": "Other", "options": {"reference": 5, "decimals": 2}}
    cloud = {**other, "id": "c3", "visual": "cloud", "title": "Words", "options": {"shape": "ellipse"}}
    for tile in (other, cloud):
        assert (
            change(owner, report, {"type": "add_tile", "band": report.read().bands[0].id, "tile": tile}).status_code
            == 200
        )
    change(owner, report, {"type": "change_tile", "tile": "c1", "changes": {"options": {"scale": "thousands"}}})
    report.refresh_from_db()
    looks = {look.title: json.loads(look.options) for look in looks_for(report.read().tile("c1"), report.read())}
    assert looks == {"Other": {"reference": 5, "scale": "thousands"}}


def test_the_margin_says_which_note_has_lost_its_mark(owner, report):
    note = {"note_at": "Dec 1999", "note": "Closed"}
    change(owner, report, {"type": "change_tile", "tile": "c1", "changes": {"options": note}})
    assert "The note about “Dec 1999” is not shown" in owner.get(f"/reports/{report.uid}/tiles/c1/").content.decode()
    change(
        owner, report, {"type": "change_tile", "tile": "c1", "changes": {"options": {**note, "note_at": "Jan 2026"}}}
    )
    assert "is not shown" not in owner.get(f"/reports/{report.uid}/tiles/c1/").content.decode()


def test_every_edit_that_the_margin_offers_is_accepted_and_drawn(owner, report):
    import html
    import re

    page = owner.get(f"/reports/{report.uid}/tiles/c1/").content.decode()
    found = {html.unescape(text) for text in re.findall(r'data-edit="([^"]+)"', page)}
    assert len(found) > 20
    for text in found:
        reply = change(owner, report, json.loads(text))
        assert reply.status_code == 200, text
        assert 'class="tile visual' in reply.json()["page"]
        if reply.json()["revision"] > report.revision:
            owner.post(f"/reports/{report.uid}/undo/")
            report.refresh_from_db()


def test_every_edit_that_the_chooser_offers_adds_a_tile(owner, report):
    import html
    import re

    band = report.read().bands[0].id
    for purpose in ("how much", "share of a whole", "what people say", "explain in words"):
        page = owner.get(f"/reports/{report.uid}/choose/{band}/", {"purpose": purpose}).content.decode()
        found = [html.unescape(text) for text in re.findall(r'data-edit="([^"]+)"', page)]
        assert found, purpose
        for text in found:
            before = len(report.read().tiles())
            assert change(owner, report, json.loads(text)).status_code == 200
            report.refresh_from_db()
            assert len(report.read().tiles()) == before + 1
    assert page_of(report).problems() == []


def test_the_chooser_shows_one_table_where_that_is_asked(owner, table, report):
    arrive(owner, "Colour,Votes\nRed,3\nBlue,5\nGreen,4\n", name="colours.csv")
    other = Table.objects.exclude(pk=table.pk).get()
    band = report.read().bands[0].id
    address = f"/reports/{report.uid}/choose/{band}/"
    both = owner.get(address, {"purpose": "who is biggest"}).content.decode()
    assert "From visits." in both
    assert "From colours." in both
    alone = owner.get(address, {"purpose": "who is biggest", "table": other.uid}).content.decode()
    assert "From visits." not in alone
    assert "From colours." in alone
    assert (
        "colours does not hold what this needs"
        in owner.get(address, {"purpose": "how it changes", "table": other.uid}).content.decode()
    )


def test_what_people_type_is_never_markup(owner, report):
    nasty = "</script><img src=x onerror=alert(1)>"
    reply = change(owner, report, TITLE | {"changes": {"title": nasty, "alt": nasty}})
    assert "<img src=x" not in reply.json()["page"]
    assert "<img src=x" not in owner.get(f"/reports/{report.uid}/tiles/c1/").content.decode()


def test_a_newer_file_redraws_every_tile(owner, table, report):
    before = owner.get(f"/reports/{report.uid}/").content.decode()
    arrive(owner, VISITS.replace("120", "920"), table)
    after = owner.get(f"/reports/{report.uid}/").content.decode()
    assert "Jan 2026, 200" in before
    assert "Jan 2026, 1,000" in after


def test_a_file_without_a_needed_column_is_held_and_the_last_good_data_stays(owner, table, report):
    arrive(owner, VISITS.replace("Visits", "Visitors").replace("120", "920"), table)
    page = owner.get(f"/reports/{report.uid}/").content.decode()
    assert "Jan 2026, 200" in page
    assert "The report stays with version 1" in page
    assert "Total Visits per month of Day" in page
    assert "no column “Visits”" in page
    held = sources_of(report).held
    assert [(one.newest.number, one.shown.number) for one in held] == [(2, 1)]
    arrive(owner, VISITS.replace("120", "921"), table)
    assert "Jan 2026, 1,001" in owner.get(f"/reports/{report.uid}/").content.decode()
    assert sources_of(report).held == []


def test_the_desk_lists_reports_with_miniatures_and_tables(owner, report, other):
    owner.get(f"/reports/{report.uid}/miniature/")
    page = owner.get("/").content.decode()
    assert "Visits of the spring" in page
    assert 'class="miniature"' in page
    assert "6 rows, version 1" in page
    assert "Visits of the spring" not in other.get("/").content.decode()


def test_settings_stand_by_topics_made_from_the_visuals_model(owner, report):
    page = owner.get(f"/reports/{report.uid}/tiles/c1/").content.decode()
    topics = ["Numbers", "Axes", "Colours", "Notes", "Columns", "Place", "Leads to", "Its sources", "As a file"]
    assert re.findall(r'<details class="settings" data-topic="(.*?)">', page) == topics
    stand_open = page[page.index('<div class="settings">') : page.index('<details class="settings"')]
    assert re.findall(r'data-option="(\w+)"', stand_open) == ["palette", "emphasis", "values_on_marks"]
    assert 'data-option="decimals" data-empty="null"' in page
    edit = {"type": "change_tile", "tile": "c1", "changes": {"options": {"decimals": 1, "average": True}}}
    assert "Average" in change(owner, report, edit).json()["page"]
    bad = {"type": "change_tile", "tile": "c1", "changes": {"options": {"decimals": 99}}}
    assert change(owner, report, bad).status_code == 422


def test_the_look_of_one_chart_is_given_to_another_without_what_belongs_to_it(owner, report):
    report.refresh_from_db()
    tile = report.read().tile("c1")
    second = tile.model_copy(update={"id": "c2", "title": "Second", "options": {"emphasis": "Book bus"}, "place": None})
    band = report.read().bands[0].id
    assert (
        change(owner, report, {"type": "add_tile", "band": band, "tile": second.model_dump(mode="json")}).status_code
        == 200
    )
    options = {"average": True, "decimals": 2, "emphasis": "Alder Lane", "reference": 5}
    change(owner, report, {"type": "change_tile", "tile": "c1", "changes": {"options": options}})
    page = owner.get(f"/reports/{report.uid}/tiles/c1/").content.decode()
    found = re.search(r'data-look="c2" data-options="([^"]*)"', page)
    assert found
    edit = {"type": "change_looks", "options": {"c2": json.loads(html.unescape(found[1]))}}
    assert change(owner, report, edit).status_code == 200
    report.refresh_from_db()
    assert report.read().tile("c2").options == {"average": True, "decimals": 2, "emphasis": "Book bus"}


def test_the_numbers_behind_a_tile_are_a_file_that_holds_no_formula(owner, stranger, report):
    answer = owner.get(f"/reports/{report.uid}/tiles/c1/numbers.csv")
    assert answer["Content-Disposition"].startswith("attachment")
    rows = list(csv.reader(io.StringIO(answer.content.decode())))
    assert rows == [["Day", "Total Visits"], ["2026-01-01", "200"], ["2026-02-01", "300"], ["2026-03-01", "350"]]
    assert owner.get(f"/reports/{report.uid}/tiles/none/numbers.csv").status_code == 404


def test_a_typed_value_reaches_its_place_in_the_question(owner, report):
    page = owner.get(f"/reports/{report.uid}/tiles/c1/").content.decode()
    groups = re.findall(r'data-blanks="([^"]*)">(.*?)</button></span>', page)
    least = next(one for one in groups if "Visits is at least" in one[1])
    edit = json.loads(html.unescape(least[0]))
    path = json.loads(html.unescape(re.search(r'data-path="([^"]*)"', least[1])[1]))
    holder = edit
    for key in path[:-1]:
        holder = holder[key]
    holder[path[-1]] = 200
    assert change(owner, report, edit).status_code == 200
    rows = owner.get(f"/reports/{report.uid}/tiles/c1/numbers.csv").content.decode().split()
    assert rows[1:] == ["Visits", "2026-02-01,300", "2026-03-01,310"]


def test_an_edit_that_goes_wrong_when_it_is_drawn_is_refused_and_nothing_is_stored(owner, report, monkeypatch):
    real = visual_tile.draw

    def draw(name, *given, **more):
        if name == "bar":
            raise RuntimeError("oh")
        return real(name, *given, **more)

    monkeypatch.setattr(visual_tile, "draw", draw)
    number = report.revision
    reply = change(owner, report, {"type": "change_tile", "tile": "c1", "changes": {"visual": "bar"}})
    report.refresh_from_db()
    assert (reply.status_code, report.revision) == (422, number)
    assert "cannot be drawn here, so nothing was changed" in reply.json()["message"]
    monkeypatch.setattr(visual_tile, "draw", real)
    assert change(owner, report, {"type": "change_tile", "tile": "c1", "changes": {"visual": "bar"}}).status_code == 200


def test_a_stored_tile_that_goes_wrong_leaves_every_page_standing(owner, report, monkeypatch):
    def draw(*given, **more):
        raise RuntimeError("oh")

    monkeypatch.setattr(visual_tile, "draw", draw)
    for place in (
        "/",
        *(f"/reports/{report.uid}/{stage}" for stage in ("", "tiles/c1/", "proof/", "preview/", "files/svg/")),
    ):
        assert owner.get(place).status_code == 200, place
    assert change(owner, report, {"type": "rename", "title": "Still here"}).status_code == 200


def test_a_report_is_begun_with_a_table_and_says_which_it_is_made_from(owner, table, report):
    reply = owner.post(f"/tables/{table.uid}/show/")
    made = Report.objects.exclude(pk=report.pk).get()
    assert reply.url == f"/reports/{made.uid}/?table={table.uid}"
    assert (str(made), made.read().tables()) == (table.name, [])
    other = arrive(owner, "A,B\nx,1\ny,2\n", name="bus loans.csv").table
    page = owner.get(f"/reports/{report.uid}/tables/").content.decode()
    assert page.index("Its tables") < page.index(table.name) < page.index("Your other tables") < page.index(other.name)
    assert f"/tables/new/?for={report.uid}" in page
    empty = owner.get(f"/reports/{made.uid}/tables/").content.decode()
    assert "No tile of this report asks a table yet." in empty


def test_a_table_that_was_taken_in_for_a_report_leads_back_to_it(owner, other, report):
    sent = {"way": "paste", "text": "Branch\tLoans\nAlder\t3\nElm\t4\n", "for": report.uid}
    reply = owner.post("/tables/new/", sent)
    assert reply.url.endswith(f"?for={report.uid}")
    assert "Show it on “Visits of the spring”" in owner.get(reply.url).content.decode()
    other.post("/tables/new/", sent)
    theirs = Table.objects.get(owner=other.user)
    page = other.get(f"/tables/{theirs.uid}/?for={report.uid}").content.decode()
    assert "Make a page of it" in page and "Visits of the spring" not in page


def test_what_a_chosen_table_offers_is_shown_at_once(owner, table, report):
    band = report.read().bands[0].id
    page = owner.get(f"/reports/{report.uid}/choose/{band}/?purpose=&table={table.uid}").content.decode()
    assert 'aria-current="true"' in page and "data-edit=" in page
    assert "Choose what the reader should learn" in owner.get(f"/reports/{report.uid}/choose/{band}/").content.decode()


def test_a_browser_is_told_at_once_of_all_scripts_that_the_editor_leads_to(owner, report):
    page = owner.get(f"/reports/{report.uid}/").content.decode()
    told = re.findall(r'<link rel="modulepreload" href="/static/([^"]+)">', page)
    assert len(told) == len(set(told)) > 30 and "ypsil/bench/picking.js" in told
    assert all(finders.find(name) for name in told)
    # None of them leads to one that is not among them.
    for name in told:
        for lead in re.findall(r'(?:from|import) "(\.{1,2}/[^"]+)"', Path(finders.find(name)).read_text()):
            assert os.path.normpath(os.path.join(os.path.dirname(name), lead)) in told
