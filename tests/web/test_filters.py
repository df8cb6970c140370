"""What readers of a published page choose: it stands in the address, is worked out once, and is bounded."""

import re
from urllib.parse import urlencode

import html5lib
import pytest
from django.test import Client

from tests.factories import VISITS
from tests.web.conftest import arrive, change
from ypsil.web.publish import choosing, openings, releases
from ypsil.web.publish.access import place_of
from ypsil.web.publish.services import (
    Access,
    keep_state,
    publication_of,
    set_access,
    set_audience,
    set_sites,
)

FILTERS = [
    {"type": "filter", "id": "f1", "column": "Branch"},
    {"type": "filter", "id": "f2", "column": "Day", "way": "period"},
    {"type": "filter", "id": "f3", "column": "Visits", "way": "amount"},
]


@pytest.fixture
def filtered(owner, table, report):
    """A report with a chart per branch, one per month, and three filters."""
    band = report.read().bands[0].id
    for tile in FILTERS:
        assert (
            change(owner, report, {"type": "add_tile", "band": band, "tile": {**tile, "table": table.uid}}).status_code
            == 200
        )
    question = {"measures": [{"stat": "sum", "column": "Visits"}], "per": [{"column": "Branch"}]}
    bars = {"type": "visual", "id": "c2", "table": table.uid, "visual": "bar", "question": question}
    assert change(owner, report, {"type": "add_tile", "band": band, "tile": bars}).status_code == 200
    report.refresh_from_db()
    return report


@pytest.fixture
def link(filtered):
    return f"/r/{set_audience(filtered, 'link').token}/"


@pytest.fixture(autouse=True)
def nothing_kept():
    choosing._pages.clear()
    choosing._bases.clear()


def read(address, client=None, **headers):
    return (client or Client()).get(address, headers=headers)


def tile(answer, name):
    """Return the markup of a tile."""
    return re.search(rf'id="at-{name}">.*?\n</?div|id="at-{name}">.*', answer.content.decode(), re.DOTALL)[0]


def test_what_is_chosen_stands_in_the_address_and_narrows_the_page(link):
    plain, chosen = read(link), read(f"{link}?branch=Market+Square")
    assert "Jan 2026, 200" in tile(plain, "c1") and "Jan 2026" not in tile(chosen, "c1")
    assert "Feb 2026, 300" in tile(chosen, "c1")
    assert "3 of 6 rows" in tile(chosen, "f1") and "6 rows" in tile(plain, "f1")
    assert re.search(r'value="Market Square" checked', tile(chosen, "f1"))
    for answer in (plain, chosen):
        html5lib.HTMLParser(strict=True, namespaceHTMLElements=False).parse(answer.content.decode())
    # Its layout is found as well, should it be another.
    layout = re.search(r'<link rel="stylesheet" href="([^"]*)" data-layout>', chosen.content.decode())[1]
    assert read(layout.replace("&amp;", "&")).status_code == 200


def test_it_works_without_scripts_as_one_form(link):
    page = read(link).content.decode()
    assert page.count('<form id="filters" method="get"></form>') == 1
    names = set(re.findall(r' form="filters"[^>]* name="([^"]*)"', page))
    assert names == {"branch", "day-last", "day-from", "day-to", "visits-from", "visits-to"}
    # What a browser sends with nothing filled in.
    sent = read(f"{link}?day-last=&day-from=2026-02&day-to=&visits-from=200&visits-to=")
    assert "2 of 6 rows" in sent.content.decode()


def test_what_is_not_in_the_data_is_said_and_left_out(link):
    answer = read(f"{link}?branch=Nowhere&visits-from=many")
    assert answer.status_code == 200
    assert "“Nowhere” is not in the data, and is left out." in answer.content.decode()
    assert "“many” is not a number, and is left out." in answer.content.decode()
    assert "6 rows" in tile(answer, "f1")
    long = read(f"{link}?branch={'x' * 9_000}")
    assert long.status_code == 200 and "not in the data" not in long.content.decode(), "so long an address says nothing"


def test_the_same_choices_are_worked_out_once_and_recognised(link, monkeypatch):
    made = []
    real = releases.make_published
    monkeypatch.setattr(releases, "make_published", lambda *given, **more: made.append(given) or real(*given, **more))
    first = read(f"{link}?branch=Dunmere&branch=Market+Square&visits-from=100.0")
    again = read(f"{link}?visits-from=100&utm=1&branch=Market+Square")
    assert len(made) == 1 and "“Dunmere” is not in the data" in first.content.decode()
    assert "not in the data" not in again.content.decode(), "what cannot be chosen is said to who asked for it"
    assert "“Elmstow” is not in" in read(f"{link}?branch=Elmstow&branch=Market+Square&visits-from=100").content.decode()
    assert len(made) == 1
    assert first.headers["ETag"] != again.headers["ETag"] != read(link).headers["ETag"]
    same = read(f"{link}?branch=Market+Square&visits-from=100", **{"If-None-Match": again.headers["ETag"]})
    assert same.status_code == 304 and not same.content
    assert again.headers["Cache-Control"] == "no-cache, private"


def test_newer_data_is_what_is_chosen_from(link, owner, table, django_capture_on_commit_callbacks):
    assert "Feb 2026, 300" in tile(read(f"{link}?branch=Market+Square"), "c1")
    with django_capture_on_commit_callbacks(execute=True):
        arrive(owner, VISITS.replace(",300,", ",900,"), table)
    assert "Feb 2026, 900" in tile(read(f"{link}?branch=Market+Square"), "c1")


def test_what_its_author_changed_and_did_not_show_yet_is_not_shown_to_who_chooses(link, owner, filtered):
    read(link)
    change(owner, filtered, {"type": "change_tile", "tile": "c1", "changes": {"title": "Secret"}})
    assert "Secret" not in read(f"{link}?branch=Market+Square").content.decode()


def test_however_many_addresses_take_no_more_than_their_room(link, monkeypatch):
    most = 300_000
    monkeypatch.setattr(choosing, "_pages", choosing.Cache("few", most, lambda made: len(made.body)))
    for number in range(40):
        assert read(f"{link}?visits-from={number}").status_code == 200
    ((basis, _),) = choosing._bases._kept.values()
    assert not any(table._frames or table._shared or table._answers for table in basis._sources.tables.values())
    usage = choosing._pages.usage()
    assert usage.size <= most and usage.forgotten > 0
    # Whatever else stands in an address, or is not in the data, is no choice, and makes no page.
    monkeypatch.setattr(releases, "make_published", None)
    for number in range(20):
        assert read(f"{link}?ref={number}&branch[]=x{number}").status_code == 200
        answer = read(f"{link}?branch=x{number}&visits-from=y{number}&day-last=-{number}")
        for said in (f"“x{number}” is not in the data", f"“y{number}” is not a number", f"“-{number}” is not"):
            assert said in answer.content.decode()
        html5lib.HTMLParser(strict=True, namespaceHTMLElements=False).parse(answer.content.decode())
    assert choosing._pages.usage().misses == usage.misses


def test_an_address_cannot_write_elsewhere_on_the_page(link):
    names = {"branch": '<p class="rows" id="named-f2">', "visits-from": '" id="named-f1"'}
    answer = read(f"{link}?{urlencode(names)}")
    page = answer.content.decode()
    html5lib.HTMLParser(strict=True, namespaceHTMLElements=False).parse(page)
    assert page.count('<p class="rows"') == 3 and page.count(' id="named-f2"') == 1
    assert "is not in the data" in tile(answer, "f1") and "is not a number" in tile(answer, "f3")


def test_a_change_that_is_not_shown_yet_makes_no_page_anew(link, owner, filtered, monkeypatch):
    made = []
    real = releases.make_published
    monkeypatch.setattr(releases, "make_published", lambda *given, **more: made.append(given) or real(*given, **more))
    read(f"{link}?branch=Market+Square")
    change(owner, filtered, {"type": "change_tile", "tile": "c1", "changes": {"title": "Secret"}})
    read(f"{link}?branch=Market+Square")
    assert len(made) == 1


@pytest.mark.parametrize(
    ("access", "status"),
    [(Access("me"), 404), (Access("named"), 403), (Access("link", password="open sesame"), 403)],
)
def test_who_may_not_read_it_may_choose_nothing(filtered, link, access, status):
    read(f"{link}?branch=Market+Square")
    set_access(filtered, access, "http://testserver")
    answer = read(f"{link}?branch=Market+Square")
    assert answer.status_code == status and "Market" not in re.sub(r'value="[^"]*"', "", answer.content.decode())


def test_a_view_that_was_sent_stays_chosen_behind_a_password(filtered, link):
    set_access(filtered, Access("link", password="open sesame"), "http://testserver")
    reader = Client()
    door = read(f"{link}?branch=Market+Square", reader).content.decode()
    assert 'name="view" value="branch=Market+Square"' in door
    wrong = reader.post(f"{link}password/", {"password": "no", "view": "branch=Market+Square"})
    assert 'value="branch=Market+Square"' in wrong.content.decode()
    right = reader.post(f"{link}password/", {"password": "open sesame", "view": "branch=Market+Square\r\nX: y"})
    assert right.status_code == 302 and right.url.startswith(f"{link}?branch=Market+Square")
    assert "\n" not in right.url and "3 of 6 rows" not in right.url
    assert "3 of 6 rows" in read(f"{link}?branch=Market+Square", reader).content.decode()


def test_a_state_that_stays_cannot_be_chosen_from(filtered, link):
    read(link)
    kept = keep_state(filtered, "As of 1 March")
    page = read(f"{link}kept/{kept.number}/?branch=Market+Square").content.decode()
    assert 'form="filters"' not in page and " disabled" in page
    assert "Jan 2026, 200" in page


def test_where_somebody_comes_from_is_their_network():
    assert place_of("192.0.2.7") != place_of("192.0.2.8")
    # Addresses for examples: RFC 3849.
    assert place_of("2001:db8:1:2::3") == place_of("2001:db8:1:2:ffff::9") != place_of("2001:db8:1:3::3")
    assert place_of("") == "" and place_of("unix:") == "unix:"


def test_parts_within_other_sites_are_chosen_from_as_well(filtered, link):
    set_sites(filtered, "https://www.school.example")
    read(link)
    band = filtered.read().bands[0].id
    for part in ("", f"{band}/"):
        page = read(f"{link}embed/{part}?branch=Market+Square").content.decode()
        assert "3 of 6 rows" in page and page.count('<form id="filters"') == 1
        html5lib.HTMLParser(strict=True, namespaceHTMLElements=False).parse(page)
        assert "“Nowhere” is not in the data" in read(f"{link}embed/{part}?branch=Nowhere").content.decode()
    chart = read(f"{link}embed/c1/?branch=Market+Square").content.decode()
    assert "Feb 2026, 300" in chart and '<form id="filters"' not in chart
    own = read(f"{link}embed/f1/").content.decode()
    assert own.count('<form id="filters"') == 1, "a filter alone is a form as well"


def test_its_author_tries_it_in_the_preview_and_on_the_screen(owner, filtered):
    notes = owner.get(f"/reports/{filtered.uid}/present/notes/?branch=Market+Square").content.decode()
    assert "Feb 2026, 300" in notes and "Jan 2026" not in notes
    for address in ("preview/", "present/"):
        page = owner.get(f"/reports/{filtered.uid}/{address}?branch=Market+Square").content.decode()
        assert "3 of 6 rows" in page, address
    tags = {
        owner.get(f"/reports/{filtered.uid}/preview/?branch={name}").headers["ETag"] for name in ("", "Market+Square")
    }
    assert len(tags) == 2


def test_choosing_is_not_opening(filtered, link):
    openings._counted.clear()
    read(link, **{"Sec-Fetch-Dest": "document"})
    for name in ("Market+Square", "Alder+Lane"):
        read(f"{link}?branch={name}", **{"Sec-Fetch-Dest": "empty"})
    openings.write_down()
    assert openings.openings_of(publication_of(filtered)) == (1, 1)


def test_without_copying_nothing_leads_from_numbers(filtered, link):
    assert '<td><a href="?branch=Market+Square">' in read(link).content.decode()
    set_access(filtered, Access("link", lets_copy=False), "http://testserver")
    page = read(f"{link}?branch=Market+Square").content.decode()
    assert "<td>" not in page and "3 of 6 rows" in page


class TestFiles:
    @pytest.fixture
    def ordered(self, owner, filtered, django_capture_on_commit_callbacks):
        """Ask for a file as the form on the page Publish does."""

        def ask(**form):
            with django_capture_on_commit_callbacks(execute=True):
                return owner.post(f"/reports/{filtered.uid}/files/", form)

        return ask

    def test_a_file_is_had_as_readers_chose_to_see_the_page(self, owner, filtered, link, ordered):
        assert "As readers chose to see it" in owner.get(f"/reports/{filtered.uid}/publish/").content.decode()
        view = f"https://host.example{link}?branch=Market+Square#b1"
        answer = ordered(ending="svg", view=view)
        assert answer.status_code == 302
        content = owner.get(f"{answer.url}content/").content.decode()
        assert "3 of 6 rows" in content
        # Of a part alone, though the filter stands elsewhere.
        part = owner.get(f"{ordered(ending='svg', tile='c1', view=view).url}content/").content.decode()
        assert "Feb" in part and "Jan" not in part
        plain = owner.get(f"{ordered(ending='svg', tile='c1').url}content/").content.decode()
        assert "Jan" in plain

    @pytest.mark.parametrize(
        ("view", "said"),
        [
            ("branch=Nowhere", "“Nowhere” is not in the data"),
            ("https://host.example/r/token/?nothing=1", "nothing of it can be chosen in this report"),
        ],
    )
    def test_a_view_that_cannot_be_had_is_refused_in_words(self, ordered, view, said):
        answer = ordered(ending="svg", view=view)
        assert answer.status_code == 422 and said in answer.content.decode()


class TestInTheEditor:
    def test_filters_by_the_columns_of_the_table_are_offered(self, owner, report, table):
        band = report.read().bands[0].id
        page = owner.get(f"/reports/{report.uid}/choose/{band}/?purpose=something+to+press").content.decode()
        for said in ("Filter by Branch", "readers choose among 3 names", "Filter by Day", "readers choose a period"):
            assert said in page
        assert "Filter by Comment" not in page

    def test_its_column_and_its_listeners_are_changed_beside_it(self, owner, filtered):
        margin = owner.get(f"/reports/{filtered.uid}/tiles/f1/").content.decode()
        assert "Readers choose by" in margin and ">Kind</option>" in margin
        assert "Which parts listen: all" in margin and margin.count('<label class="choice"><input type="checkbox"') == 2
        change(owner, filtered, {"type": "change_tile", "tile": "f1", "changes": {"spares": ["c1"]}})
        assert "all but 1" in owner.get(f"/reports/{filtered.uid}/tiles/f1/").content.decode()

    def test_one_of_a_table_that_is_gone_says_so(self, owner, filtered, table):
        table.delete()
        page = owner.get(f"/reports/{filtered.uid}/").content.decode()
        assert "no longer there" in page
