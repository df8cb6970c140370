"""What readers choose: controls, what the data offers at them, choices in addresses, and what they change on a page."""

import datetime as dt
import random
from urllib.parse import parse_qs

import html5lib
import polars as pl
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ypsil.core.choosing import MOST_LISTED, Choice, Control, choices_from, offered_by
from ypsil.core.choosing.choices import MOST_VALUES
from ypsil.core.export import FORMATS, page_to_svg
from ypsil.core.proof import findings_of
from ypsil.core.reading import heard, reading_body
from ypsil.core.render import compose
from ypsil.core.report import ReportBody, ReportTable
from ypsil.core.report.choosing import choices_of
from ypsil.core.tables.model import Column

SOME = random.Random(7)
BRANCHES = ("Alder Lane", "Dunmere", "Elmstow")
ROWS = 360
FRAME = pl.DataFrame(
    {
        "Branch": [BRANCHES[place % 3] for place in range(ROWS)],
        "Month": [dt.date(2025 + place // 12 % 2, place % 12 + 1, 1) for place in range(ROWS)],
        "Age": [SOME.randint(5, 90) for _ in range(ROWS)],
        "Comes for": [["books"] if place % 2 else ["books", "quiet"] for place in range(ROWS)],
        "Again": [place % 4 > 0 for place in range(ROWS)],
        "Note": [f"note {place}" for place in range(ROWS)],
    }
)
COLUMNS = (
    Column("Branch", "category"),
    Column("Month", "date", form="month"),
    Column("Age", "number"),
    Column("Comes for", "list"),
    Column("Again", "yesno"),
    Column("Note", "text"),
)
WAYS = {"Branch": "values", "Month": "period", "Age": "amount", "Comes for": "values", "Again": "values"}
COUNT = {"measures": [{"stat": "count"}]}
PER_BRANCH = COUNT | {"per": [{"column": "Branch"}]}
PER_MONTH = COUNT | {"per": [{"column": "Month", "by": "month"}]}


def table(frame=FRAME, columns=COLUMNS, name="Visits"):
    return ReportTable(name, columns, lambda: frame, f"{frame.height} {name}", f"{name}.csv")


def filter_of(column, **more):
    return {
        "type": "filter",
        "id": f"f{column[:3].lower().strip()}",
        "table": "t",
        "column": column,
        "way": WAYS.get(column, "values"),
        **more,
    }


def visual(name, question, kind="kpi", **more):
    return {"type": "visual", "id": name, "table": "t", "visual": kind, "question": question, **more}


def report(*tiles):
    bands = [{"id": f"b{place}", "tiles": [tile]} for place, tile in enumerate(tiles)]
    return ReportBody.model_validate({"title": "T", "bands": bands})


def shown(body, asked="", tables=None, **more):
    """Return a page as somebody sees it who asks for it by the query of an address."""
    tables = tables or {"t": table()}
    return compose(body, tables, choices=choices_of(body, tables, parse_qs(asked, keep_blank_values=True)), **more)


def view(page, name):
    return next(one for one in page.tiles() if one.tile.id == name)


def figure(page, name):
    """Return what a single figure says."""
    return view(page, name).drawn.answer.rows[0][0]


def offer(column, **more):
    described = next(one for one in COLUMNS if one.name == column)
    return offered_by(Control("it", "t", column, **more), described, lambda: FRAME, "key")


@pytest.mark.parametrize(
    ("asked", "rows"),
    [
        ("", 360),
        ("branch=Dunmere", 120),
        ("branch=Dunmere&branch=Elmstow", 240),
        ("branch=dunmere", 120),
        ("month-from=2026-01", 180),
        ("month-to=2025-03", 45),
        ("month-from=2025-11&month-to=2026-02", 60),
        ("month-from=2026-02&month-to=2025-11", 60),
        ("month-last=3", 45),
        ("month-last=99", 360),
        ("comes-for=quiet", 180),
        ("again=Yes", 270),
        ("branch=&month-from=&month-to=&month-last=&age-from=&age-to=", 360),
        ("utm_source=letter", 360),
    ],
)
def test_what_is_chosen_narrows_the_page(asked, rows):
    body = report(*(filter_of(column) for column in WAYS), visual("rows", COUNT))
    page = shown(body, asked)
    assert figure(page, "rows") == rows
    assert page.context.choices.problems == {}
    left = "360 rows" if rows == 360 else f"{rows} of 360 rows"
    assert left in view(page, "fbra").scene.description


def test_amounts_are_counted_as_somebody_would_count_them():
    body = report(filter_of("Age"), visual("rows", COUNT))
    for low, high in ((10, 20), (18.5, 65), (None, 30), (60, None)):
        wanted = sum((low is None or age >= low) and (high is None or age <= high) for age in FRAME["Age"])
        asked = "&".join(f"age-{end}={value}" for end, value in (("from", low), ("to", high)) if value is not None)
        assert figure(shown(body, asked), "rows") == wanted


@pytest.mark.parametrize(
    ("asked", "said", "rows"),
    [
        ("branch=Nowhere", "“Nowhere” is not in the data, and is left out.", 360),
        ("branch=Nowhere&branch=Dunmere", "“Nowhere” is not in the data, and is left out.", 120),
        ("branch=a&branch=b&branch=c&branch=d", "“a”, “b”, “c” and 1 more are not in the data, and are left out.", 360),
        ("age-from=ten", "“ten” is not a number, and is left out.", 360),
        ("age-from=nan&age-to=1e999", "“nan” is not a number, and is left out.", 360),
        ("month-last=soon", "“soon” is not a number of months, and is left out.", 360),
        ("month-last=-3", "“-3” is not a number of months, and is left out.", 360),
        ("month-from=spring", "“spring” is not a month of the data, and is left out.", 360),
        ("month-from=2031", "“2031” is not a month of the data, and is left out.", 360),
        ("month-to=1999-12", "“1999-12” is not a month of the data, and is left out.", 360),
    ],
)  # fmt: skip
def test_what_cannot_be_chosen_is_left_out_and_said(asked, said, rows):
    body = report(*(filter_of(column) for column in WAYS), visual("rows", COUNT))
    page = shown(body, asked)
    problems = [one for every in page.context.choices.problems.values() for one in every]
    assert said in problems
    assert figure(page, "rows") == rows
    assert said in reading_body(page, is_asked=True)


def test_a_month_further_back_than_all_is_the_first_one():
    offered = offer("Month")
    assert choices_from([offered], {"month-from": ["1990-01"], "month-to": ["2150"]}).query() == (
        "month-from=2025-01&month-to=2026-12"
    )


@pytest.mark.parametrize(
    "hostile",
    [
        "branch=" + "x" * 5_000,
        "&".join(f"branch={place}" for place in range(3_000)),
        "branch=%00%ff%3Cscript%3Ealert(1)%3C/script%3E",
        "age-from=" + "9" * 400 + "&age-to=" + "-" * 400,
        "month-last=" + "9" * 5_000,
        "month-last=٣",
        "month-from=2026-13&month-to=0000-00",
        "branch[$ne]=1&branch%5B%5D=2",
    ],
)
def test_crafted_addresses_do_no_harm(hostile):
    body = report(*(filter_of(column) for column in WAYS), visual("rows", COUNT))
    page = shown(body, hostile)
    markup = reading_body(page, is_asked=True)
    assert "<script" not in markup
    html5lib.HTMLParser(strict=True, namespaceHTMLElements=False).parseFragment(markup)
    assert all(len(one) < 600 for every in page.context.choices.problems.values() for one in every)
    assert len(page.context.choices.query()) < 300


def choice_of(offered):
    """Return any choice that can be made at a control."""
    if offered.way == "values":
        return st.builds(
            lambda some: Choice(values=tuple(v for v in offered.values if v in some)),
            st.sets(st.sampled_from(offered.values)),
        )
    if offered.way == "amount":
        numbers = st.integers(0, 100).map(str)
        return st.tuples(numbers, numbers).map(lambda ends: Choice(low=min(ends, key=float), high=max(ends, key=float)))
    keys = list(offered.starts())
    ends = st.tuples(st.sampled_from(keys), st.sampled_from(keys)).map(lambda two: Choice(low=min(two), high=max(two)))
    return st.one_of(ends, st.integers(1, len(keys)).map(lambda last: Choice(last=last)), st.just(Choice()))


@settings(max_examples=25, deadline=None)
@given(st.data())
def test_what_is_written_into_an_address_is_read_from_it_again(data):
    every = [
        offered_by(Control(name, "t", name), next(one for one in COLUMNS if one.name == name), lambda: FRAME, "key")
        for name in WAYS
    ]
    empty = choices_from(every, {})
    query = ""
    made = {one.control.id: data.draw(choice_of(one)) for one in every}
    for name, choice in made.items():
        # One after the other, as somebody presses.
        query = choices_from(every, parse_qs(query)).query(name, choice)
    read = choices_from(every, parse_qs(query))
    assert dict(read.made) == {name: choice for name, choice in made.items() if choice.is_made}
    assert read.query() == query and read.problems == {}
    assert empty.query() == ""


def test_columns_that_are_called_alike_have_names_of_their_own():
    names = ["Age", "age!", "Age-from", "---", "Größe", "年"]
    every = [
        offered_by(
            Control(str(place), "t", name),
            Column(name, "category"),
            lambda: pl.DataFrame({n: ["x"] for n in names}),
            "key2",
        )
        for place, name in enumerate(names)
    ]
    keys = list(choices_from(every, {}).keys.values())
    assert keys == ["age", "age-2", "age-from-2", "by", "größe", "年"]
    assert choices_from(every, {"größe": ["x"]}).query() == "gr%C3%B6%C3%9Fe=x"


def test_at_a_control_for_one_only_one_is_taken():
    page = shown(report(filter_of("Branch", takes="one"), visual("rows", COUNT)), "branch=Elmstow&branch=Dunmere")
    assert figure(page, "rows") == 120
    assert page.context.choices.query() == "branch=Dunmere"


def test_so_many_values_are_taken_and_no_more():
    many = pl.DataFrame({"Name": [f"n{place:04d}" for place in range(1_000)]})
    offered = offered_by(Control("it", "t", "Name"), Column("Name", "category"), lambda: many, "many")
    choices = choices_from([offered], {"name": [f"n{place:04d}" for place in range(400)]})
    assert len(choices.of("it").values) == MOST_VALUES
    assert choices.problems["it"] == (f"Only the first {MOST_VALUES} are taken.",)
    tile = {"type": "filter", "id": "it", "table": "t", "column": "Name"}
    body = report(tile)
    markup = reading_body(
        shown(body, "name=n0999", {"t": table(many, (Column("Name", "category"),), "Many")}), is_asked=True
    )
    assert markup.count('type="checkbox"') == MOST_LISTED + 1, "what is chosen is listed, wherever it stands"
    assert "or one of 500 more" in markup


def test_choices_at_other_tables_are_heard_where_a_column_is_the_same():
    other = pl.DataFrame({"Branch": ["Dunmere"] * 5 + ["Elmstow"] * 2, "Month": ["May"] * 7})
    tables = {"t": table(), "u": table(other, (Column("Branch", "category"), Column("Month", "category")), "Survey")}
    body = report(
        filter_of("Branch"), filter_of("Month"), visual("here", COUNT), {**visual("there", COUNT), "table": "u"}
    )
    page = shown(body, "branch=Dunmere&month-last=6", tables)
    assert figure(page, "here") == 30
    assert figure(page, "there") == 5, "a column that is called the same and holds something else does not listen"


def test_what_is_spared_stays_as_it_is():
    body = report(filter_of("Branch", spares=("stays",)), visual("stays", COUNT), visual("listens", COUNT))
    page = shown(body, "branch=Dunmere")
    assert (figure(page, "stays"), figure(page, "listens")) == (360, 120)


def test_a_filter_may_be_for_its_own_band_alone():
    here = {"id": "b", "tiles": [filter_of("Branch", reach="band"), visual("near", COUNT)]}
    far = {"id": "c", "tiles": [visual("far", COUNT)]}
    body = ReportBody.model_validate({"title": "T", "bands": [here, far]})
    page = shown(body, "branch=Dunmere")
    assert (figure(page, "near"), figure(page, "far")) == (120, 360)
    assert "120 of 360 rows" in view(page, "fbra").scene.description
    far["tiles"].append(filter_of("Again"))
    page = shown(ReportBody.model_validate({"title": "T", "bands": [here, far]}), "branch=Dunmere&again=Yes")
    assert (figure(page, "near"), figure(page, "far")) == (90, 270)
    assert "90 of 360 rows" in view(page, "fbra").scene.description, "what filters the page is heard here"
    assert "270 of 360 rows" in view(page, "faga").scene.description, "and what filters another band is not"


def test_a_drawing_of_the_same_names_keeps_them_all_and_the_chosen_stand_out():
    body = report(
        filter_of("Branch"), filter_of("Month"), visual("bars", PER_BRANCH, "bar"), visual("line", PER_MONTH, "line")
    )
    plain, one, two = (shown(body, asked) for asked in ("", "branch=Dunmere", "branch=Dunmere&branch=Elmstow"))
    fills = [
        {shape.title.group: shape.fill for shape in view(page, "bars").scene.shapes if getattr(shape, "title", "")}
        for page in (plain, one)
    ]
    assert [row[0] for row in view(one, "bars").drawn.answer.rows] == [
        row[0] for row in view(plain, "bars").drawn.answer.rows
    ]
    assert len(set(fills[0].values())) == 1 and fills[1]["Dunmere"] not in (fills[1]["Elmstow"], fills[1]["Alder Lane"])
    faded = {
        shape.title.group: shape.opacity for shape in view(two, "bars").scene.shapes if getattr(shape, "title", "")
    }
    assert faded["Dunmere"] == faded["Elmstow"] == 1 and faded["Alder Lane"] < 0.5
    # A stretch of time is what is looked at; one month is something that stands out.
    assert view(shown(body, "month-last=6"), "line").drawn.answer.height == 6
    assert view(shown(body, "month-from=2026-03&month-to=2026-03"), "line").drawn.answer.height == 24


def test_live_figures_and_told_rows_follow():
    live = {"blocks": [{"runs": [{"text": "Rows: "}, {"figure": {"table": "t", "question": COUNT}}]}]}
    listed = {"type": "points", "id": "list", "feed": {"table": "t", "head": "Note", "most": 5}}
    body = report(filter_of("Branch"), filter_of("Age"), {"type": "text", "id": "words", "text": live}, listed)
    page = shown(body, "branch=Dunmere")
    assert "Rows: 120" in " ".join(one.words for one in heard(page))
    assert view(page, "list").tile.listed(view(page, "list").context)[0][0] == "note 1"
    nothing = shown(body, "age-from=91", for_readers=True)
    assert view(nothing, "list").drawn.problem == "No row fits what is chosen.", "and not that it is being updated"


def test_a_filter_whose_column_is_gone_says_so_to_its_author_and_readers_choose_by_the_others():
    body = report(filter_of("Branch"), filter_of("Gone"), filter_of("Note"), visual("rows", COUNT))
    page = shown(body, "branch=Dunmere&gone=1&note=note+1")
    assert figure(page, "rows") == 120
    assert "no longer there" in view(page, "fgon").drawn.problem
    assert "“Note”: it holds free text" in view(page, "fnot").drawn.problem
    markup = reading_body(shown(body, "", for_readers=True), is_asked=True)
    assert 'data-key="branch"' in markup and 'data-key="gone"' not in markup


def test_a_table_without_rows_offers_nothing_and_breaks_nothing():
    none = FRAME.clear()
    body = report(*(filter_of(column) for column in WAYS), visual("rows", COUNT))
    page = shown(body, "branch=Dunmere&month-last=3&age-from=1", {"t": table(none)})
    assert figure(page, "rows") == 0
    html5lib.HTMLParser(strict=True, namespaceHTMLElements=False).parseFragment(reading_body(page, is_asked=True))


def test_of_many_days_months_are_offered():
    days = pl.DataFrame({"Day": [dt.date(2020, 1, 1) + dt.timedelta(days=place) for place in range(2_000)]})
    offered = offered_by(Control("it", "t", "Day", by="day"), Column("Day", "date"), lambda: days, "days")
    assert (offered.grain, len(offered.periods)) == ("month", 66)


class TestSmallGroups:
    PROTECTED = PER_BRANCH | {"least_base": 10}

    def page(self, asked, *, branches=("A",) * 200 + ("B",) * 3, **more):
        count = len(branches)
        frame = pl.DataFrame(
            {"Branch": branches, "Kind": ["x", "y"] * (count // 2) + ["x"] * (count % 2), "Note": ["n"] * count}
        )
        columns = (Column("Branch", "category"), Column("Kind", "category"), Column("Note", "text"))
        quotes = {"type": "points", "id": "list", "feed": {"table": "t", "head": "Note", "most": 5}}
        words = COUNT | {"per": [{"column": "Note", "by": "word"}]}
        body = report(
            filter_of("Branch"),
            visual("hides", self.PROTECTED, "bar"),
            visual("plain", COUNT),
            visual("words", words, "cloud"),
            quotes,
        )
        return shown(body, asked, {"t": table(frame, columns, f"few {count}")}, **more)

    @pytest.mark.parametrize("asked", ["branch=B", "branch=A"])
    def test_where_one_part_hides_small_groups_no_part_shows_them_by_choice(self, asked):
        page = self.page(asked, for_readers=True)
        assert figure(self.page(""), "plain") == 203
        for name in ("plain", "words"):
            assert not view(page, name).drawn.answer.height, name
            assert "fewer than 10 people" in view(page, name).scene.description + "".join(
                t.text for t in view(page, name).scene.texts()
            )
        assert "fewer than 10 people" in view(page, "list").drawn.problem
        assert view(page, "fbra").scene.description.endswith("so few of 203 rows that they are hidden.")

    def test_and_everything_where_all_are_large(self):
        page = self.page("branch=B", branches=("A",) * 200 + ("B",) * 30)
        assert figure(page, "plain") == 30
        assert "30 of 230 rows" in view(page, "fbra").scene.description


def test_it_is_drawn_in_files_and_read_out():
    body = report(filter_of("Branch", title="Your branch"), filter_of("Month"), visual("rows", COUNT))
    page = shown(body, "branch=Dunmere")
    assert [one.words for one in heard(page) if "Your branch" in one.words] == [
        "Filter: Your branch. Dunmere. 120 of 360 rows."
    ]
    assert "120 of 360 rows" in page_to_svg(page)
    for name in ("pdf", "pptx", "docx", "html", "png"):
        assert FORMATS[name].page(page), name
    assert "<form" not in reading_body(page), "nobody answers in a file"


def test_one_that_has_still_to_be_chosen_is_for_its_author_alone():
    body = report({"type": "filter", "id": "new"}, visual("rows", COUNT))
    assert view(shown(body), "new").tile.hints()
    assert [one.tile.id for one in shown(body, for_readers=True).tiles()] == ["rows"]
    assert findings_of(shown(body)) is not None


def test_numbers_behind_a_drawing_lead_to_what_they_are_of():
    body = report(filter_of("Branch"), visual("bars", PER_BRANCH, "bar"))
    markup = reading_body(shown(body, "branch=Dunmere"), is_asked=True)
    assert '<a href="?branch=Dunmere&amp;branch=Elmstow">Elmstow</a>' in markup
    assert '<a href="?">Dunmere</a>' in markup, "what is chosen is taken back"
    assert 'data-chooses="branch"' in markup
