"""Preparing tables: remarks decided, steps changed and undone, versions compared, held and shown again."""

import datetime as dt
import io
import json

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from openpyxl import load_workbook

from tests.factories import VISITS, workbook_bytes
from tests.web.conftest import arrive, file
from ypsil.core.tables import write
from ypsil.web.compose.services import page_of, sources_of
from ypsil.web.gather import arrivals, recipes
from ypsil.web.gather.models import Arrival, Blob, Preparation, Table
from ypsil.web.gather.preparing import base, prepared, rows_of

UNTIDY = "Title\n\nBranch,Visits,Cost\n" + "Alder Lane,12,£3\nalder lane,14,£5\nElm,9,£2\nElm,9,£2\nTotal,44,£12\n"


def send(client, of, **change):
    return client.post(f"/tables/{of.uid}/recipe/", json.dumps(change), content_type="application/json")


def add(client, of, **step):
    return send(client, of, action="add", step=step)


def rows(table, version=None):
    table.refresh_from_db()
    return rows_of(prepared(table, version)).frame


def remark(table, code):
    found = base(table.current, table.read_recipe().reading).remarks
    return next(one for one in found if one["code"] == code)


@pytest.fixture
def untidy(owner):
    return arrive(owner, UNTIDY, name="untidy.csv").table


def test_a_proposal_is_accepted_and_its_step_can_be_undone_and_redone(owner, untidy):
    offer = remark(untidy, "near-duplicate-values")["offers"][0]
    reply = send(owner, untidy, action="accept", key="near-duplicate-values/Branch", change=offer["change"]).json()
    assert "Accepted: see the steps" in reply["margin"]
    assert rows(untidy)["Branch"].n_unique() == 2
    assert send(owner, untidy, action="undo").json()["said"].startswith("Undone: Added: In “Branch”")
    assert rows(untidy)["Branch"].n_unique() == 3
    send(owner, untidy, action="redo")
    assert rows(untidy)["Branch"].n_unique() == 2
    assert send(owner, untidy, action="redo").status_code == 422


def test_a_proposal_is_left_and_taken_up_again(owner, untidy):
    reply = send(owner, untidy, action="leave", key="duplicate-rows").json()
    assert "Left as it is" in reply["margin"]
    assert rows(untidy).height == 4
    assert "Keep each row once" in send(owner, untidy, action="take_up", key="duplicate-rows").json()["margin"]


def test_what_was_put_right_is_undone_one_by_one_and_the_file_stays(owner, untidy):
    send(owner, untidy, action="leave", key="total-row", done=True)
    assert rows(untidy).height == 5
    assert rows(untidy)["Cost"].to_list() == [3, 5, 2, 2, 12]
    reply = send(owner, untidy, action="leave", key="currency/Cost", done=True).json()
    assert "Amounts of money in Cost: read as it stands in the file." in reply["margin"]
    assert rows(untidy)["Cost"].to_list()[0] == "£3"
    send(owner, untidy, action="take_up", key="total-row")
    assert rows(untidy).height == 4
    assert owner.get(f"/tables/{untidy.uid}/versions/1/file/").content == UNTIDY.encode()


def test_encoding_separator_and_day_order_are_changed_by_hand(owner):
    table = arrive(owner, "Caf\xe9;Day\nZo\xeb;01/02/2026\nA;03/04/2026\n".encode("cp1252"), name="a.csv").table
    assert rows(table).columns == ["Café", "Day"]
    send(owner, table, action="reading", settings={"day_first": {"Day": False}})
    assert rows(table)["Day"][0].isoformat() == "2026-01-02"
    send(owner, table, action="reading", settings={"encoding": "cp437"})
    assert rows(table).columns[0] != "Café"
    send(owner, table, action="reading", settings={"separator": ","})
    assert rows(table).width == 1
    assert send(owner, table, action="reading", settings={"encoding": "morse"}).status_code == 422


def test_steps_are_added_changed_moved_switched_and_removed(owner, table):
    add(owner, table, type="calculate", name="Per visit", calculation="Cost / Visits")
    add(owner, table, type="take", count=2)
    assert rows(table)["Per visit"].to_list() == [2.5, 1.875]
    send(owner, table, action="replace", at=1, step={"type": "take", "count": 3})
    assert rows(table).height == 3
    send(owner, table, action="move", at=1, to=0)
    assert [step.type for step in Table.objects.get().read_recipe().steps] == ["take", "calculate"]
    send(owner, table, action="switch", at=0, on=False)
    assert rows(table).height == 6
    send(owner, table, action="remove", at=1)
    assert "Per visit" not in rows(table).columns
    assert send(owner, table, action="remove", at=7).status_code == 422


def test_a_step_that_does_not_fit_is_refused_and_nothing_changes(owner, table):
    reply = add(owner, table, type="calculate", name="x", calculation="Visits / Cots")
    assert reply.status_code == 422
    assert "did you mean Cost?" in reply.json()["message"]
    assert Table.objects.get().recipe_number == 0
    assert send(owner, table, action="fly").status_code == 422
    reply = owner.post(f"/tables/{table.uid}/recipe/", "[not json", content_type="application/json")
    assert reply.status_code == 400


def test_the_table_can_be_seen_after_each_step(owner, table):
    add(owner, table, type="take", count=4)
    add(owner, table, type="drop_columns", columns=["Cost"])
    seen = owner.get(f"/tables/{table.uid}/rows/?after=1&columns=1").json()
    assert seen["total"] == 4
    assert "Cost" in [head["name"] for head in seen["columns"]]
    assert owner.get(f"/tables/{table.uid}/rows/?after=0").json()["total"] == 6


def test_a_corrected_cell_stays_correct_when_newer_data_arrives_in_another_order(owner, table):
    send(owner, table, action="correct", row=4, column="Visits", value="77")
    assert rows(table)["Visits"].to_list()[3] == 77
    head, *lines = VISITS.strip().split("\n")
    arrive(owner, "\n".join([head, *reversed(lines)]), table)
    assert rows(table)["Visits"].to_list()[2] == 77
    assert (
        "does not fit" in send(owner, table, action="correct", row=1, column="Visits", value="many").json()["message"]
    )
    assert send(owner, table, action="correct", row=99, column="Visits", value="1").status_code == 422


def test_steps_replay_on_newer_data_and_the_comparison_says_what_changed(owner, table, report):
    add(owner, table, type="rename", column="Cost", to="Spent")
    more = VISITS + "2026-04-01,Alder Lane,Adult,50,100,yes,Fine\n"
    page = owner.post(f"/tables/{table.uid}/newer/", {"file": file(more), "way": "file"}, follow=True).content.decode()
    assert "<strong>1</strong> added" in page
    assert "Visits of the spring" in page
    assert "“Spent”" not in page, "columns are the same under the steps"
    assert rows(table)["Spent"].to_list()[-1] == 100
    assert "850" in page
    assert "900" in page


RENAMED = VISITS.replace("Visits", "Visitors").replace("120", "920")


def test_a_held_table_is_let_in_by_saying_what_the_column_is_called_now(owner, table, report):
    reply = owner.post(f"/tables/{table.uid}/newer/", {"file": file(RENAMED), "way": "file"}, follow=True)
    page = reply.content.decode()
    assert "Version 2 of “visits” waits for you" in page
    assert '<option value="Visitors" selected>' in page
    assert "no column “Visits”" in page
    assert sources_of(report).held[0].newest.number == 2
    page = owner.post(f"/tables/{table.uid}/held/", {"column-0": "Visitors"}, follow=True).content.decode()
    assert "“Visits” is now called “Visitors” in the file" in page
    table.refresh_from_db()
    assert (table.current.number, table.held) == (2, None)
    assert rows(table)["Visits"][0] == 920
    assert page_of(report).problems() == []
    arrive(owner, RENAMED.replace("920", "921"), table)
    table.refresh_from_db()
    assert (table.current.number, table.held) == (3, None), "the new name is remembered"


def test_a_held_version_is_accepted_as_it_is_or_set_aside(owner, table, report):
    arrive(owner, RENAMED, table)
    owner.post(f"/tables/{table.uid}/held/", {"discard": ""})
    table.refresh_from_db()
    assert (table.current.number, table.held) == (1, None)
    arrive(owner, RENAMED, table)
    assert owner.post(f"/tables/{table.uid}/held/", {"column-0": ""}).status_code == 422
    owner.post(f"/tables/{table.uid}/held/", {"accept": ""})
    table.refresh_from_db()
    assert table.current.number == 3
    assert "Choose" in page_of(report).problems()[0] or page_of(report).problems()


def test_a_step_that_no_longer_applies_holds_the_table(owner, table):
    add(owner, table, type="rename", column="Cost", to="Spent")
    arrive(owner, VISITS.replace("Cost", "Expense"), table)
    table.refresh_from_db()
    assert table.held.number == 2
    page = owner.get(f"/tables/{table.uid}/held/").content.decode()
    assert "The step “Rename “Cost” to “Spent””" in page
    assert "needed" in page


def test_a_change_of_kind_that_reports_cannot_use_holds_the_table(owner, table, report):
    words = VISITS
    for number in ("120", "80,", "300,620", "40,90", "310"):
        words = words.replace(number, "many" + (number[number.index(",") :] if "," in number else ""), 1)
    arrive(owner, words, table)
    table.refresh_from_db()
    assert table.held is not None
    assert "No column is gone" in owner.get(f"/tables/{table.uid}/held/").content.decode()


def test_an_older_version_is_made_current_again(owner, table, report):
    arrive(owner, VISITS.replace("120", "999"), table)
    owner.post(f"/tables/{table.uid}/versions/1/current/")
    assert rows(table)["Visits"][0] == 120
    assert sources_of(report).tables[table.uid].frame()["Visits"][0] == 120


def test_columns_are_looked_up_in_another_table_and_loops_are_refused(owner, table):
    places = arrive(owner, "Branch,Area\nAlder Lane,Town\nBook bus,Hills\n", name="places.csv").table
    look = {"type": "look_up", "table": places.uid, "key": [{"here": "Branch", "there": "Branch"}]}
    reply = add(owner, table, **look, columns=["Area"]).json()
    assert "3 rows did not" in reply["margin"]
    arrive(owner, "Branch,Area\nAlder Lane,City\nMarket Square,City\nBook bus,Hills\n", places)
    assert rows(table)["Area"][0] == "City", "a newer version of the other table is followed"
    back = {**look, "table": table.uid, "columns": ["Kind"]}
    reply = add(owner, places, **back)
    assert reply.status_code == 422
    assert "looks into" in reply.json()["message"]


def test_another_persons_table_cannot_be_looked_into(owner, other, table):
    theirs = arrive(other, "Branch,Secret\nAlder Lane,1\nElm,2\n", name="s.csv").table
    key = [{"here": "Branch", "there": "Branch"}]
    reply = add(owner, table, type="look_up", table=theirs.uid, key=key, columns=["Secret"])
    assert reply.status_code == 422
    assert "not there any more" in reply.json()["message"]


def test_a_column_is_looked_at_closely_and_what_another_kind_would_lose_is_listed(owner, table):
    page = owner.get(f"/tables/{table.uid}/column/?name=Visits").content.decode()
    for text in ("lowest", "median", "310", "5 different, 1 missing"):
        assert text in page
    page = owner.get(f"/tables/{table.uid}/column/?name=Branch&kind=number").content.decode()
    assert "6 values would become missing" in page
    assert "“Market Square”" in page
    assert owner.get(f"/tables/{table.uid}/column/?name=Nothing").status_code == 404


def test_forms_of_all_steps_open_and_completions_come(owner, table):
    from ypsil.core.tables.steps import STEPS

    for step in STEPS:
        kind = step.model_fields["type"].default
        reply = owner.get(f"/tables/{table.uid}/step/?type={kind}")
        assert reply.status_code == (200 if step.inputs else 404), kind
    proposals = owner.get(f"/tables/{table.uid}/completions/?text=2 * Vis&cursor=7").json()["proposals"]
    assert proposals[0] == {"insert": "Visits", "label": "Visits", "what": "number", "start": 4, "end": 7}


def test_the_form_for_merging_proposes_groups_to_tick(owner, untidy):
    page = owner.get(f"/tables/{untidy.uid}/step/?type=merge_spellings&column=Branch").content.decode()
    assert 'value="Alder Lane"' in page
    assert "alder lane" in page


@pytest.mark.parametrize(
    ("fields", "name", "columns", "count"),
    [
        ({"text": "Branch\tVisits\nAlder\t3\nElm\t4\n", "text_is": "cells"}, "Pasted table", ["Branch", "Visits"], 2),
        ({"text": "Long hours\n\nKind staff\n", "text_is": "lines"}, "Pasted answers", ["Answer"], 2),
        ({"text": "One\nanswer\n\nAnother\n", "text_is": "paragraphs", "name": "Notes"}, "Notes", ["Answer"], 2),
        ({"text": "Branch\tVisits\nAlder\t3\nElm\t4\n"}, "Pasted table", ["Branch", "Visits"], 2),
        ({"text": "Long hours\nKind staff\nWarm", "asked": "What is  good?"}, "What is good?", ["What is good?"], 3),
        ({"text": "What is good?\nHours\nStaff\nBooks"}, "What is good?", ["What is good?"], 3),
    ],
)
def test_cells_and_answers_are_pasted(owner, fields, name, columns, count):
    owner.post("/tables/new/", {"way": "paste", **fields})
    table = Table.objects.get()
    assert table.name == name
    assert rows(table).columns == columns
    assert rows(table).height == count


def test_how_pasted_text_was_read_is_turned_with_one_press(owner):
    owner.post("/tables/new/", {"way": "paste", "text": "Long hours\nKind staff\nWarm rooms"})
    table = Table.objects.get()
    page = owner.get(f"/tables/{table.uid}/").content.decode()
    assert "Each line was read as an answer: 3 answers." in page and "They are cells of a table" in page
    as_cells = {"reading": {"text_rows": None}}
    send(owner, table, action="accept", key="answers-read", change=as_cells)
    assert (rows(table).columns, rows(table).height) == (["Long hours"], 2)
    page = owner.get(f"/tables/{table.uid}/").content.decode()
    assert "Each line is an answer" in page
    send(owner, table, action="accept", key="one-column", change={"reading": {"text_rows": "line"}})
    assert rows(table).columns == ["Answer"]


def test_rows_are_typed_and_changed_later(owner):
    cells = json.dumps([["Branch", "Visits", ""], ["Alder", "3", ""], ["Elm", "4", ""], ["", "", ""]])
    owner.post("/tables/new/", {"way": "type", "cells": cells, "name": "Mine"})
    table = Table.objects.get()
    assert rows(table).rows() == [("Alder", 3), ("Elm", 4)]
    page = owner.get(f"/tables/{table.uid}/newer/").content.decode()
    assert 'value="Alder"' in page
    assert 'value="type" checked' in page
    owner.post(f"/tables/{table.uid}/newer/", {"way": "type", "cells": cells.replace('"4"', '"5"')})
    assert rows(table)["Visits"].to_list() == [3, 5]
    assert owner.post("/tables/new/", {"way": "type", "cells": "[[", "name": "x"}).status_code == 422
    assert owner.post("/tables/new/", {"way": "type", "cells": "[[]]", "name": "x"}).status_code == 422


def test_several_files_are_stacked_with_their_names(owner):
    files = [
        SimpleUploadedFile("visits_2026-01.csv", b"Branch,Visits\nAlder,3\n"),
        SimpleUploadedFile("visits_2026-02.csv", b"Branch,Visits,New\nAlder,5,x\n"),
    ]
    page = owner.post("/tables/new/", {"way": "file", "file": files}, follow=True).content.decode()
    assert "“New” is not in 1 of 2" in page
    table = Table.objects.get()
    assert rows(table).rows() == [
        ("visits_2026-01.csv", "Alder", 3, None), ("visits_2026-02.csv", "Alder", 5, "x"),
    ]  # fmt: skip
    other = [SimpleUploadedFile("a.csv", b"A,B\n1,2\n"), SimpleUploadedFile("b.csv", b"C,D\n1,2\n")]
    reply = owner.post("/tables/new/", {"way": "file", "file": other, "name": "t"})
    assert "others than those of a.csv" in reply.content.decode()


def test_another_sheet_of_a_workbook_becomes_the_next_version(owner):
    data = workbook_bytes(["A", "B"], [1, 2], title="first")
    book = load_workbook(io.BytesIO(data))
    book.create_sheet("second").append(["A", "B"])
    book["second"].append([7, 8])
    buffer = io.BytesIO()
    book.save(buffer)
    table = arrive(owner, buffer.getvalue(), name="two.xlsx").table
    assert "<option>second</option>" in owner.get(f"/tables/{table.uid}/").content.decode()
    owner.post(f"/tables/{table.uid}/versions/1/sheet/", {"sheet": "second"})
    assert rows(table).rows() == [(7, 8)]
    arrive(owner, buffer.getvalue(), table, name="three.xlsx")
    assert rows(table).rows() == [(7, 8)], "the chosen sheet is meant again"
    page = owner.post(f"/tables/{table.uid}/versions/1/sheet/", {"sheet": "third"}, follow=True).content.decode()
    assert "no sheet “third”" in page


@pytest.mark.parametrize("ending", ["csv", "xlsx", "json", "parquet"])
def test_the_prepared_table_is_downloaded(owner, table, ending):
    add(owner, table, type="take", count=2)
    reply = owner.get(f"/tables/{table.uid}/prepared.{ending}")
    assert reply.headers["Content-Disposition"] == f'attachment; filename="visits.{ending}"'
    again = arrive(owner, reply.content, name=f"again.{ending}").table
    assert rows(again)["Visits"].to_list() == [120, 80]
    assert owner.get(f"/tables/{table.uid}/prepared.exe").status_code == 404


def test_credits_stand_in_the_sources_of_reports(owner, table, report):
    fields = {"made_by": "Door counters", "origin": "monthly sheet", "licence": "CC0", "note": "Two doors."}
    owner.post(f"/tables/{table.uid}/credits/", fields)
    source = sources_of(report).tables[table.uid].source
    assert source.startswith("visits (Door counters; monthly sheet; licence CC0; visits.csv, 6 rows, read ")
    assert source.endswith("Two doors.")


@pytest.mark.django_db(transaction=True)
def test_a_change_of_a_large_table_is_applied_in_the_background(owner, table, monkeypatch):
    monkeypatch.setattr(recipes, "PREPARE_AT_ONCE_ROWS", 3)
    reply = add(owner, table, type="take", count=4).json()
    assert owner.get(reply["arrival"]).url == f"/tables/{table.uid}/"
    assert rows(table).height == 4
    reply = add(owner, table, type="rename", column="Nothing", to="x").json()
    assert "no column “Nothing”" in owner.get(reply["arrival"]).content.decode()
    assert len(Table.objects.get().read_recipe().steps) == 1


def test_a_change_cancelled_in_the_background_changes_nothing(owner, table):
    recipe = {"steps": [{"type": "take", "count": 2}]}
    arrival = Arrival.objects.create(
        owner=owner.user, table=table, name="v", file_name="v", recipe=recipe, said="Added"
    )
    owner.post(f"/arrivals/{arrival.uid}/cancel/")
    arrivals.work_on.call(arrival.pk)
    assert rows(table).height == 6


def test_old_preparations_are_forgotten_and_made_again(owner, table):
    for count in range(1, 10):
        add(owner, table, type="take", count=count)
        send(owner, table, action="remove", at=0)
    assert Preparation.objects.count() <= 5
    assert Blob.objects.count() <= 7
    Preparation.objects.all().delete()
    assert rows(table).height == 6


def test_a_version_reads_the_same_for_one_person_only(owner, other, table):
    assert other.get(f"/tables/{table.uid}/rows/").status_code == 404
    assert send(other, table, action="undo").status_code == 404


@pytest.mark.django_db(transaction=True)
def test_a_large_workbook_is_made_in_the_background(owner, other, table, monkeypatch):
    monkeypatch.setattr(write, "_CELLS_AT_ONCE", {"xlsx": 10})
    reply = owner.get(f"/tables/{table.uid}/prepared.xlsx")
    assert "The file is ready" in owner.get(reply.url).content.decode()
    made = owner.get(reply.url + "file/")
    assert [cell.value for cell in load_workbook(io.BytesIO(made.content)).active["D"]][:2] == ["Visits", 120]
    assert other.get(reply.url + "file/").status_code == 404
    again = owner.get(f"/tables/{table.uid}/prepared.xlsx").url
    assert owner.get(reply.url).status_code == 404, "the one before is forgotten"
    assert owner.get(again + "file/").status_code == 200


def test_a_change_from_a_window_that_is_behind_is_not_made(owner, table):
    add(owner, table, type="take", count=3)
    reply = send(owner, table, action="remove", at=0, number=0)
    assert reply.status_code == 409
    assert "changed in another window" in reply.json()["message"]
    assert "Take the first 3 rows" in reply.json()["margin"]
    assert rows(table).height == 3


def test_a_table_is_renamed_unless_the_name_is_taken(owner, table):
    arrive(owner, name="other.csv")
    page = owner.post(f"/tables/{table.uid}/name/", {"name": "other"}, follow=True).content.decode()
    assert "already have a table called “other”" in page
    owner.post(f"/tables/{table.uid}/name/", {"name": " Spring  visits "})
    assert Table.objects.filter(name="Spring visits").exists()


def test_a_table_is_deleted_for_good_only_after_asking(owner, other, table, report):
    page = owner.get(f"/tables/{table.uid}/delete/").content.decode()
    assert "Visits of the spring" in page
    assert other.post(f"/tables/{table.uid}/delete/").status_code == 404
    owner.post(f"/tables/{table.uid}/delete/")
    assert not (Table.objects.exists() or Blob.objects.exists() or Preparation.objects.exists())
    assert owner.get(f"/reports/{report.uid}/").status_code == 200


def test_a_calculation_that_asks_for_the_day_is_made_again_the_next_day(owner, table, monkeypatch):
    class Tomorrow(dt.date):
        @classmethod
        def today(cls):
            return dt.date(2040, 1, 2)

    add(owner, table, type="calculate", name="Age", calculation="year(today())")
    assert rows(table)["Age"][0] == dt.date.today().year
    monkeypatch.setattr(dt, "date", Tomorrow)
    assert rows(table)["Age"][0] == 2040


@pytest.mark.parametrize("odd", ["²", "१", "-1", "1e300", "9" * 5000, "9" * 30, "NaN", "", "１"])
def test_numbers_in_addresses_that_are_none_are_no_fault(owner, table, odd):
    """Each is a digit to some part of the language and not to another."""
    arrive(owner, table=table)
    for part in ("", "rows/", "comparison/", "step/", "completions/"):
        fields = {"version": odd, "after": odd, "at": odd, "start": odd, "count": odd, "cursor": odd, "before": odd}
        fields |= {f"c{odd}": "Elm", "sort": f"c{odd}", "type": "take", "text": "Vis"}
        assert owner.get(f"/tables/{table.uid}/{part}", fields).status_code == 200, part
    assert owner.get(f"/tables/{table.uid}/themes/", {"start": odd, "length": odd}).status_code == 200
