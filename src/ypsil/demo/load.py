"""Loading the sample scenario: the author, the tables and the reports. Doing it twice changes nothing."""

from __future__ import annotations

from collections.abc import Mapping

from django.conf import settings
from django.db import transaction

from ypsil.core.tiles import as_text
from ypsil.demo.gallery import gallery_report
from ypsil.demo.kinds import kinds_page
from ypsil.demo.libraries import (
    MONTHS,
    branches_csv,
    counter_csv,
    daily_loans_csv,
    earlier_survey_csv,
    joining_csv,
    programme_csv,
    survey_csv,
    visits_workbook,
)
from ypsil.demo.pages import board_page, public_page
from ypsil.demo.pictures import bookshelf_png
from ypsil.demo.reports import garden_report, libraries_report
from ypsil.demo.school import exit_notes_csv, seedlings_csv
from ypsil.demo.survey import THEMES, survey_report
from ypsil.web.accounts.services import User
from ypsil.web.compose.actions.draw_miniatures import draw_miniatures
from ypsil.web.compose.actions.edit_report import EditRequest, edit_report
from ypsil.web.compose.actions.fill_template import fill_template
from ypsil.web.compose.actions.keep_dress import keep_dress
from ypsil.web.compose.actions.keep_report import keep_report
from ypsil.web.compose.actions.rename_report import rename_report
from ypsil.web.compose.actions.tag_report import tag_report
from ypsil.web.compose.actions.wear_dress import wear_dress
from ypsil.web.gather.actions.bring_picture import bring_picture
from ypsil.web.gather.actions.change_recipe import change_recipe
from ypsil.web.gather.actions.credit_table import credit_table
from ypsil.web.gather.actions.take_in import DataRequest, take_in
from ypsil.web.gather.services import remarks_of, table_for
from ypsil.web.publish.actions.keep_state import keep_state
from ypsil.web.publish.actions.name_readers import name_readers
from ypsil.web.publish.actions.set_access import set_access
from ypsil.web.publish.actions.set_sites import set_sites
from ypsil.web.publish.services import Access

CREDITS = {
    "made_by": "Brackenshire Libraries, door counters",
    "origin": "monthly workbook of the branches",
    "licence": "CC0 1.0",
}


@transaction.atomic
def load_demo() -> None:
    """Make the sample author with tables and reports, unless they are there."""
    author, made = User.objects.get_or_create(username=settings.DEMO_NAME)
    _let_in(author, is_new=made)
    if not made:
        return
    branches = _table(author, "Branches", "branches.csv", branches_csv())
    visits = _visits(author, branches)
    survey = _table(author, "Readers survey", "readers_survey.csv", survey_csv())
    waves = _waves(author, survey)
    seedlings = _table(author, "Seedlings", "seedlings.csv", seedlings_csv())
    notes = _table(author, "Exit notes", "exit_notes.csv", exit_notes_csv())
    loans = _table(author, "Daily loans", "loans_market_square.csv", daily_loans_csv())
    counter = _table(author, "Door counter", "counter_market_square.csv", counter_csv())
    programme = _table(author, "Programme", "programme.csv", programme_csv())
    joining = _table(author, "Joining", "joining.csv", joining_csv())
    shelf = bring_picture(author, bookshelf_png(), "two shelves.png").name
    gallery = {"visits": visits, "survey": survey, "loans": loans, "programme": programme, "counter": counter}
    gallery |= {"joining": joining}
    keep_report(author, gallery_report(picture=shelf, **gallery))
    keep_report(author, kinds_page(shelf, visits))
    _of_template(author, "year-in-numbers", visits, "The year in numbers", {})
    answers = {
        "What follows from what they wrote?": "Next week everybody waters at the roots, and the worms get a window."
    }
    pupils = _of_template(author, "exit-notes", notes, "What pupils wrote", answers)
    kept_as = {}
    for page, tags in (
        (garden_report(seedlings, notes), "school"),
        (survey_report(survey, waves), "survey"),
        (board_page(visits, survey), "board, monthly"),
    ):
        kept_as[tags] = keep_report(author, page).uid
        tag_report(author, kept_as[tags], tags)
    for page, tags in ((public_page(visits, survey, shelf), "public"), (libraries_report(visits, survey), "monthly")):
        kept = keep_report(author, page)
        tag_report(author, kept.uid, tags)
        kept_as[tags] = kept.uid
        set_access(author, kept.uid, Access("link", moves=tags == "public"), "")
        set_sites(author, kept.uid, "*")
    keep_state(author, kept_as["monthly"], "As of the end of August 2026")
    # The board reads by name; its letter waits in the outbox of the demonstration.
    site = "http://localhost:8000"
    set_access(author, kept_as["board, monthly"], Access("named"), site)
    name_readers(author, kept_as["board, monthly"], "chair@board.brackenshire.example", site)
    libraries = keep_dress(author, kept_as["monthly"], "Brackenshire Libraries").uid
    wear_dress(author, kept_as["survey"], libraries)
    wear_dress(author, pupils, keep_dress(author, kept_as["school"], "Garden club").uid)
    # The latest file calls the visits something else, so it waits for the author.
    take_in(author, DataRequest("visits_2026-09.xlsx", visits_workbook(visits="Visitors"), visits))
    draw_miniatures(author)


def _let_in(author: User, *, is_new: bool) -> None:
    """Let the sample's password in, which the demo's page names.

    To try a password takes a second, by design; what was found to let it in is noted beside the database.
    """
    note = settings.HOME / "sample_password.is"
    if not is_new and note.exists() and note.read_text() == author.password:
        return
    if is_new or not author.check_password(settings.DEMO_PASSWORD):
        author.set_password(settings.DEMO_PASSWORD)
        author.save()
    note.write_text(author.password)


def close_sample() -> None:
    """Let nobody sign in with the sample's password, which everybody knows, where the demo is not served."""
    sample = User.objects.filter(username=settings.DEMO_NAME).first()
    if sample is not None and sample.has_usable_password() and sample.check_password(settings.DEMO_PASSWORD):
        sample.set_unusable_password()
        sample.save()


def _of_template(author: User, template: str, table: str, title: str, answers: Mapping[str, str]) -> str:
    """Make a report of a template with a table in it, and answer the questions that it asks its author; return its
    uid."""
    report = fill_template(author, template, [table], "", "", {})
    rename_report(author, report.uid, title)
    report.refresh_from_db()
    for tile in report.read().tiles():
        if (text := as_text(tile)) is not None and text.hint in answers:
            edit = {"type": "change_tile", "tile": tile.id, "changes": {"text": answers[text.hint]}}
            report.refresh_from_db()
            edit_report(author, report.uid, EditRequest(edit, report.revision))
    return report.uid


def _table(author: User, name: str, file_name: str, data: bytes) -> str:
    table = take_in(author, DataRequest(file_name, data, name=name)).table
    assert table is not None
    return table.uid


def _waves(author: User, survey: str) -> str:
    """Take in the survey of the autumn before, put this spring's below it, and find themes in the comments."""
    uid = _table(author, "Readers survey, both waves", "readers_survey_2025.csv", earlier_survey_csv())
    step = {"type": "stack_table", "table": survey, "table_name": "Readers survey"}
    change_recipe(author, uid, {"action": "add", "step": step})
    for theme, terms in THEMES.items():
        wanted = {"do": "put", "column": "Comment", "theme": theme, "terms": terms, "language": "en"}
        change_recipe(author, uid, {"action": "themes", **wanted})
    return uid


def _visits(author: User, branches: str) -> str:
    """Take the monthly workbook in three times: prepared after the first, held at the last, which renames a column."""
    uid = _table(author, "Visits", "visits_2026-07.xlsx", visits_workbook(MONTHS - 2))
    credit_table(author, uid, CREDITS)
    remarks = remarks_of(table_for(author, uid))
    spellings = next(remark for remark in remarks if remark["code"] == "near-duplicate-values")
    key = f"{spellings['code']}/{spellings['column']}"
    change_recipe(author, uid, {"action": "accept", "key": key, "change": spellings["offers"][0]["change"]})
    on = [{"here": "Branch", "there": "Branch"}]
    look_up = {"type": "look_up", "table": branches, "table_name": "Branches", "columns": ["Area"], "key": on}
    change_recipe(author, uid, {"action": "add", "step": look_up})
    take_in(author, DataRequest("visits_2026-08.xlsx", visits_workbook(MONTHS - 1), uid))
    return uid
