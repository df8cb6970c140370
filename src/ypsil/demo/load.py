"""Loading the sample scenario: the author, the tables and the reports. Doing it twice changes nothing."""

from __future__ import annotations

from django.conf import settings
from django.db import transaction

from ypsil.core.report import Report as Document
from ypsil.demo.gallery import gallery_report
from ypsil.demo.libraries import (
    MONTHS,
    branches_csv,
    counter_csv,
    daily_loans_csv,
    earlier_survey_csv,
    programme_csv,
    survey_csv,
    visits_workbook,
)
from ypsil.demo.pictures import bookshelf_png
from ypsil.demo.reports import garden_report, libraries_report
from ypsil.demo.school import exit_notes_csv, seedlings_csv
from ypsil.demo.survey import THEMES, survey_report

CREDITS = {
    "made_by": "Brackenshire Libraries, door counters",
    "origin": "monthly workbook of the branches",
    "licence": "CC0 1.0",
}


@transaction.atomic
def load_demo() -> None:
    """Make the sample author with tables and reports, unless they are there."""
    from ypsil.web.accounts.models import User
    from ypsil.web.gather.pictures import keep_picture
    from ypsil.web.publish.services import set_audience

    author, made = User.objects.get_or_create(username=settings.DEMO_NAME)
    if not made:
        return
    author.set_password(settings.DEMO_PASSWORD)
    author.save()
    branches = _table(author, "Branches", "branches.csv", branches_csv())
    visits = _visits(author, branches)
    survey = _table(author, "Readers survey", "readers_survey.csv", survey_csv())
    waves = _waves(author, survey)
    seedlings = _table(author, "Seedlings", "seedlings.csv", seedlings_csv())
    notes = _table(author, "Exit notes", "exit_notes.csv", exit_notes_csv())
    loans = _table(author, "Daily loans", "loans_market_square.csv", daily_loans_csv())
    counter = _table(author, "Door counter", "counter_market_square.csv", counter_csv())
    programme = _table(author, "Programme", "programme.csv", programme_csv())
    shelf = keep_picture(author, bookshelf_png(), "two shelves.png").name
    gallery = {"visits": visits, "survey": survey, "loans": loans, "programme": programme, "counter": counter}
    _report(author, gallery_report(picture=shelf, **gallery))
    _report(author, garden_report(seedlings, notes))
    _report(author, survey_report(survey, waves))
    set_audience(_report(author, libraries_report(visits, survey)), "link")
    _hold_visits(author, visits)


def _table(author, name: str, file_name: str, data: bytes) -> str:  # type: ignore[no-untyped-def]
    from ypsil.web.gather.arrivals import receive

    return receive(author, file_name, data, table=None, name=name).table.uid


def _waves(author, survey: str) -> str:  # type: ignore[no-untyped-def]
    """Take in the survey of the autumn before, put this spring's below it, and find themes in the comments."""
    from ypsil.web.gather.models import Table
    from ypsil.web.gather.recipes import change

    uid = _table(author, "Readers survey, both waves", "readers_survey_2025.csv", earlier_survey_csv())
    step = {"type": "stack_table", "table": survey, "table_name": "Readers survey"}
    change(Table.objects.get(uid=uid), author, {"action": "add", "step": step})
    for theme, terms in THEMES.items():
        wanted = {"do": "put", "column": "Comment", "theme": theme, "terms": terms, "language": "en"}
        change(Table.objects.get(uid=uid), author, {"action": "themes", **wanted})
    return uid


def _visits(author, branches: str) -> str:  # type: ignore[no-untyped-def]
    """Take the monthly workbook in three times: prepared after the first, held at the last, which renames a column."""
    from ypsil.web.gather.arrivals import receive
    from ypsil.web.gather.models import Table
    from ypsil.web.gather.preparing import base
    from ypsil.web.gather.recipes import change

    uid = _table(author, "Visits", "visits_2026-07.xlsx", visits_workbook(MONTHS - 2))
    table = Table.objects.get(uid=uid)
    for name, value in CREDITS.items():
        setattr(table, name, value)
    table.save()
    spellings = next(
        remark
        for remark in base(table.current, table.read_recipe().reading).remarks
        if remark["code"] == "near-duplicate-values"
    )
    key = f"{spellings['code']}/{spellings['column']}"
    change(table, author, {"action": "accept", "key": key, "change": spellings["offers"][0]["change"]})
    look_up = {"type": "look_up", "table": branches, "table_name": "Branches", "columns": ["Area"]}
    look_up |= {"key": [{"here": "Branch", "there": "Branch"}]}
    change(table, author, {"action": "add", "step": look_up})
    receive(author, "visits_2026-08.xlsx", visits_workbook(MONTHS - 1), table=table)
    return uid


def _hold_visits(author, uid: str) -> None:  # type: ignore[no-untyped-def]
    """The latest file calls the visits something else, so it waits for the author."""
    from ypsil.web.gather.arrivals import receive
    from ypsil.web.gather.models import Table

    receive(author, "visits_2026-09.xlsx", visits_workbook(visits="Visitors"), table=Table.objects.get(uid=uid))


def _report(author, document: Document):  # type: ignore[no-untyped-def]
    from ypsil.web.compose.edits import keep_report

    return keep_report(author, document)
