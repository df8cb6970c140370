"""Actions: one verb a file, and each refuses whoever it is not for, whoever calls it."""

from importlib import import_module
from inspect import signature
from pathlib import Path

import pytest
from django.http import Http404

import ypsil.web
from ypsil.core.errors import EditRefused
from ypsil.core.templates import Keeping
from ypsil.web.compose.actions.edit_report import EditRequest
from ypsil.web.compose.actions.keep_dress import keep_dress
from ypsil.web.compose.actions.keep_moment import keep_moment
from ypsil.web.compose.actions.keep_template import keep_template
from ypsil.web.compose.actions.make_report import make_report
from ypsil.web.compose.actions.theme_words import WordsRequest
from ypsil.web.gather.actions.rename_table import rename_table
from ypsil.web.gather.actions.take_in import DataRequest
from ypsil.web.gather.models import Arrival
from ypsil.web.publish.orders import Order
from ypsil.web.publish.services import Access

HERE = Path(ypsil.web.__file__).parent
# What makes something new has nothing to look for.
MAKERS = {"make_report", "keep_report", "bring_picture", "bring_template", "outline_text", "draw_miniatures"}


def verbs():
    return {
        path.stem: getattr(import_module(f"ypsil.web.{path.parts[-3]}.actions.{path.stem}"), path.stem)
        for path in sorted(HERE.glob("*/actions/*.py"))
        if path.stem != "__init__"
    }


def test_each_file_holds_the_verb_that_it_is_named_after_and_takes_who_asks():
    assert len(verbs()) >= 20
    for name, verb in verbs().items():
        assert next(iter(signature(verb).parameters)) == "asker", name
        assert verb.__doc__, name


@pytest.fixture
def wanted(owner, table, report):
    arrival = Arrival.objects.create(owner=owner.user, name="v", file_name="v.csv")
    moment = keep_moment(owner.user, report.uid, "Ours")
    style = keep_dress(owner.user, report.uid, "Ours")
    own, _ = keep_template(owner.user, report.uid, Keeping("Ours"))
    rename = {"type": "rename", "title": "Theirs"}
    return {
        "edit_report": (report.uid, EditRequest(rename, report.revision)),
        "delete_report": (report.uid,),
        "bring_back_report": (report.uid,),
        "copy_report": (report.uid,),
        "rename_report": (report.uid, "Theirs"),
        "tag_report": (report.uid, "theirs"),
        "undo_change": (report.uid,),
        "redo_change": (report.uid,),
        "keep_moment": (report.uid, "Theirs"),
        "bring_back_moment": (report.uid, moment.uid),
        "forget_moment": (report.uid, moment.uid),
        "type_numbers": (report.uid, report.read().bands[0].id, "A 1\nB 2"),
        "keep_numbers": (report.uid, "c1", "A 1\nB 2"),
        "theme_words": (report.uid, WordsRequest("c1", "Staff", ["kind"])),
        "show_table": (table.uid,),
        "order_file": (report.uid, Order("svg")),
        "draw_page": (table.uid,),
        "take_style": (report.uid, b'{"ink": {"$type": "color", "$value": "#111111"}}', "a.json"),
        "switch_template": (report.uid, "ranked-list", [], "", {}),
        "join_tables": ([table.uid],),
        "keep_dress": (report.uid, "Theirs"),
        "wear_dress": (report.uid, style.uid),
        "drop_dress": (report.uid,),
        "change_dress": (report.uid, style.uid),
        "wear_everywhere": (style.uid,),
        "take_back_dress": (style.uid,),
        "rename_dress": (style.uid, "Theirs"),
        "forget_dress": (style.uid,),
        "keep_template": (report.uid, Keeping("Theirs")),
        "forget_template": (own.name,),
        "fill_template": ("ranked-list", [table.uid], "", "", {}),
        "take_in": (DataRequest("v.csv", b"Day,Visits\n2026-01-01,1\n", table.uid),),
        "take_other_sheet": (table.uid, 1, "Sheet"),
        "cancel_arrival": (arrival.uid,),
        "change_recipe": (table.uid, {"action": "undo"}),
        "change_themes": (table.uid, {"do": "undo"}),
        "show_version": (table.uid, 1),
        "delete_version": (table.uid, 1),
        "keep_older": (table.uid,),
        "name_columns": (table.uid, {"Visits": "Loans"}),
        "rename_table": (table.uid, "Theirs"),
        "credit_table": (table.uid, {"note": "theirs"}),
        "delete_table": (table.uid,),
        "write_file": (table.uid, 1, "csv"),
        "set_access": (report.uid, Access("link"), ""),
        "name_readers": (report.uid, "a@example.org", ""),
        "forget_reader": (report.uid, "a@example.org"),
        "renew_link": (report.uid, ""),
        "keep_state": (report.uid, "As it was"),
        "forget_state": (report.uid, 1),
        "set_sites": (report.uid, "example.org"),
        "show_changes": (report.uid,),
        "show_at_once": (report.uid,),
        "withdraw_link": (report.uid,),
    }


def test_nothing_can_be_done_to_what_is_somebody_elses(other, wanted, table, report):
    assert wanted.keys() == verbs().keys() - MAKERS
    before = (table.recipe, table.name, table.note, report.document, report.revision)
    for name, given in wanted.items():
        more = {"wanted": True} if name == "show_at_once" else {}
        with pytest.raises(Http404):
            verbs()[name](other.user, *given, **more)
    table.refresh_from_db()
    report.refresh_from_db()
    assert (table.recipe, table.name, table.note, report.document, report.revision) == before
    assert not hasattr(report, "publication")


def test_names_and_titles_are_tidied_and_refused_in_words(owner, table):
    assert str(make_report(owner.user, "  The   month ")) == "The month"
    for title in ("  ", "x" * 201):
        with pytest.raises(EditRefused, match="1 to 200 letters"):
            make_report(owner.user, title)
    with pytest.raises(EditRefused, match="needs a name"):
        rename_table(owner.user, table.uid, " ")
