"""Loading the sample scenario: the author, the tables and the reports. Doing it twice changes nothing."""

from __future__ import annotations

from django.conf import settings
from django.db import transaction

from ypsil.core.report import Report as Document
from ypsil.core.tables import read_table
from ypsil.demo.libraries import survey_csv, visits_workbook
from ypsil.demo.reports import garden_report, libraries_report
from ypsil.demo.school import exit_notes_csv, seedlings_csv


@transaction.atomic
def load_demo() -> None:
    """Make the sample author with tables and reports, unless they are there."""
    from ypsil.web.accounts.models import User
    from ypsil.web.publish.services import set_audience

    author, made = User.objects.get_or_create(username=settings.DEMO_NAME)
    if not made:
        return
    author.set_password(settings.DEMO_PASSWORD)
    author.save()
    visits = _table(author, "Visits", "visits_2026-09.xlsx", visits_workbook())
    survey = _table(author, "Readers survey", "readers_survey.csv", survey_csv())
    seedlings = _table(author, "Seedlings", "seedlings.csv", seedlings_csv())
    notes = _table(author, "Exit notes", "exit_notes.csv", exit_notes_csv())
    _report(author, garden_report(seedlings, notes))
    set_audience(_report(author, libraries_report(visits, survey)), "link")


def _table(author, name: str, file_name: str, data: bytes) -> str:  # type: ignore[no-untyped-def]
    from ypsil.web.gather.arrivals import store_version

    read = read_table(data, file_name)
    return store_version(author, read, data, file_name=file_name, table=None, name=name, sheet="").table.uid


def _report(author, document: Document):  # type: ignore[no-untyped-def]
    from ypsil.web.compose.models import Report

    return Report.objects.create(owner=author, document=document.as_json())
