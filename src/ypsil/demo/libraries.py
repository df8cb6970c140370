"""Brackenshire Libraries, invented: visits by month and branch, and a readers' survey. Fixed seed."""

from __future__ import annotations

import csv
import datetime as dt
import io
import math
import random

from openpyxl import Workbook

SEED = 20261001
BRANCHES = {
    "Alder Lane": 1.0,
    "Brack Harbour": 0.8,
    "Cobble Street": 1.3,
    "Dunmere": 0.55,
    "Elmstow": 0.7,
    "Fennick Green": 0.45,
    "Market Square": 1.9,
    "Thistle Hill": 0.6,
    "Wether Road": 0.5,
    "Book bus": 0.35,
}
AREAS = {
    "Alder Lane": "Town",
    "Brack Harbour": "Coast",
    "Cobble Street": "Town",
    "Dunmere": "Coast",
    "Elmstow": "Hills",
    "Fennick Green": "Hills",
    "Market Square": "Town",
    "Thistle Hill": "Hills",
    "Wether Road": "Coast",
    "Book bus": "Villages",
}
# How a tired hand writes Cobble Street.
SLIP = "Cobble Steret"
FIRST_ROW = 4
FIRST_MONTH = (2024, 10)
MONTHS = 24
HEADER = ["Month", "Branch", "Kind", "Visits", "Loans", "Events", "Cost (£)"]


def month_start(index: int) -> dt.date:
    """Return the first day of the month that is ``index`` months after the first one."""
    months = FIRST_MONTH[0] * 12 + FIRST_MONTH[1] - 1 + index
    return dt.date(months // 12, months % 12 + 1, 1)


def visit_rows(months: int) -> list[list[object]]:
    """Return a row a month, branch and kind of reader, with seasons, growth and one closure."""
    chance = random.Random(SEED)
    rows: list[list[object]] = []
    for index in range(months):
        month = month_start(index)
        season = 1 + 0.14 * math.cos((month.month - 10) / 12 * 2 * math.pi)
        for branch, size in BRANCHES.items():
            closed = branch == "Dunmere" and month in (dt.date(2025, 7, 1), dt.date(2025, 8, 1))
            for kind in ("Adult", "Child"):
                holidays = 1.35 if kind == "Child" and month.month in (7, 8) else 1.0
                growth = 1 + (0.011 if kind == "Child" else 0.003) * index
                share = 0.62 if kind == "Adult" else 0.38
                visits = round(1450 * size * share * season * holidays * growth * chance.uniform(0.93, 1.07))
                loans = round(visits * chance.uniform(0.78, 0.92))
                events = max(0, round(size * (6 if kind == "Child" else 4) * season + chance.uniform(-1.5, 1.5)))
                cost = round(visits * chance.uniform(2.1, 2.7) + 260 * size, 2)
                if closed:
                    rows.append([month, branch, kind, None, None, 0, round(190 * size, 2)])
                else:
                    rows.append([month, branch, kind, visits, loans, events, cost])
    return rows


def visits_workbook(months: int = MONTHS, *, visits: str = "Visits") -> bytes:
    """Return the monthly workbook as the branches send it.

    It has a title, months merged over their rows, odd cells, a slip of the hand, a total row and a note.
    ``visits`` is what the column of visits is called.
    """
    rows = visit_rows(months)
    book = Workbook()
    sheet = book.active
    assert sheet is not None
    sheet.title = "visits"
    sheet.append(["Brackenshire Libraries: visits, loans and events"])
    sheet.append([])
    sheet.append([visits if name == "Visits" else name for name in HEADER])
    for number, row in enumerate(rows):
        cells = ["n/a" if cell is None else cell for cell in row]
        if number % 97 == 11:
            # Some branches type their counts with a comma, which the workbook keeps as text.
            cells[3] = f"{row[3]:,}"
        if number % 160 == 64:
            cells[1] = SLIP
        sheet.append(cells)
    a_month = 2 * len(BRANCHES)
    for first in range(FIRST_ROW, FIRST_ROW + len(rows), a_month):
        sheet.merge_cells(start_row=first, end_row=first + a_month - 1, start_column=1, end_column=1)
    totals = [sum(row[index] or 0 for row in rows) for index in (3, 4, 5, 6)]  # type: ignore[misc]
    sheet.append(["Total", None, None, *totals])
    sheet.append(["Note: the doors at Dunmere were closed for repairs in July and August 2025"])
    buffer = io.BytesIO()
    book.save(buffer)
    return buffer.getvalue()


def branches_csv() -> bytes:
    """Return what is known of each branch: where it lies and how long it is open."""
    buffer = io.StringIO()
    writer = csv.writer(buffer)
    writer.writerow(["Branch", "Area", "Open hours a week"])
    for branch, area in AREAS.items():
        writer.writerow([branch, area, round(18 + 14 * BRANCHES[branch])])
    return buffer.getvalue().encode()


_LIKED = (
    "The staff are {warm} and always {help}",
    "{Warm} staff and a quiet reading room",
    "I love the story time for children on Saturday",
    "Story time is the best hour of our week",
    "Good choice of new books and audio books",
    "The reading room is warm in winter, thank you",
    "My children ask for the book bus every week",
    "The book bus driver is {warm} and knows us all",
    "Helpful with forms and the public computers",
    "A quiet place to study close to home",
    "Craft mornings bring the whole village together",
    "Large print shelves are well kept",
    "{Warm} people, comfortable chairs and free coffee",
    "The garden behind the library is lovely for reading",
)
_WISHED = (
    "Please bring longer opening hours on Sunday",
    "Longer opening hours in the evening would help workers",
    "Opening hours changed twice and the website did not say",
    "More new books, the shelves look tired",
    "The public computers are slow and often taken",
    "Too few chairs in the reading room after school",
    "The wifi drops in the study corner",
    "Parking is difficult on market days",
    "Waiting lists for new books are too long",
    "The lift was broken again, hard with a pushchair",
    "More large print and audio books please",
    "The book bus should stop at our village twice a month",
)
_PLAIN = ("No comment", "It is fine", "Good", "All well with me", "Books, quiet and warmth")
# How many of those who give a rating write about what they like.
_PRAISE = {1: 0.04, 2: 0.1, 3: 0.3, 4: 0.7, 5: 0.88}
_REASONS = ("Borrow books", "Study", "Computers", "Story time", "Events", "Read papers")
AGES = ("Under 16", "16 to 24", "25 to 44", "45 to 64", "65 and over")


WAVES = ("Autumn 2025", "Spring 2026")
_SATISFIED = ("Very dissatisfied", "Dissatisfied", "Neither satisfied nor dissatisfied", "Satisfied", "Very satisfied")
_NO_OPINION = "Don't know"
# What readers are asked to be satisfied with: how much better or worse than their rating, and how many do not know.
_ASPECTS = {
    "Staff": (0.7, 0.02),
    "Choice of books": (0.0, 0.04),
    "Opening hours": (-0.9, 0.03),
    "Computers": (-0.5, 0.3),
}
_AGE_WEIGHTS = {"Under 16": 0.8, "16 to 24": 1.6, "25 to 44": 1.15, "45 to 64": 0.9, "65 and over": 0.85}
_SURVEY_COLUMNS = ["Answered", "Branch", "Age", "Rating", "Would recommend", "Comes for", "Comment", "Wave"]


def survey_csv() -> bytes:
    """Return the readers' survey of this spring: ratings, yes/no, several answers in a cell, written comments."""
    return _survey(618, dt.date(2026, 5, 4), SEED + 1, WAVES[1], kindness=0)


def earlier_survey_csv() -> bytes:
    """Return the survey of the autumn before, asked in the same way and answered by fewer."""
    return _survey(431, dt.date(2025, 10, 6), SEED + 4, WAVES[0], kindness=-1)


def _survey(people: int, start: dt.date, seed: int, wave: str, *, kindness: int) -> bytes:
    chance, more, written = random.Random(seed), random.Random(seed + 100), random.Random(seed + 200)
    buffer = io.StringIO()
    writer = csv.writer(buffer)
    aspects = [f"Satisfied with: {aspect}" for aspect in _ASPECTS]
    writer.writerow([*_SURVEY_COLUMNS, *aspects, "How likely to recommend us (0 to 10)", "Weight"])
    names, sizes = list(BRANCHES), list(BRANCHES.values())
    for _ in range(people):
        day = start + dt.timedelta(days=chance.randrange(42))
        rating = chance.choices([1, 2, 3, 4, 5], [3 - kindness, 7 - 3 * kindness, 18, 40, 32 + 4 * kindness])[0]
        recommend = "Yes" if chance.random() < (0.15, 0.3, 0.6, 0.9, 0.98)[rating - 1] else "No"
        reasons = "; ".join(sorted(chance.sample(_REASONS, chance.choice([1, 1, 2, 2, 3]))))
        writer.writerow(
            [
                day.isoformat(),
                chance.choices(names, sizes)[0],
                age := chance.choices(AGES, [12, 9, 24, 28, 27])[0],
                rating if chance.random() > 0.02 else "n/a",
                recommend if chance.random() > 0.03 else "",
                reasons,
                _comment(written, rating),
                wave,
                *(_satisfaction(more, rating, *leaning) for leaning in _ASPECTS.values()),
                min(10, max(0, round(2 * rating + more.uniform(-2.4, 1.6)))) if more.random() > 0.05 else "",
                round(_AGE_WEIGHTS[age] * more.uniform(0.97, 1.03), 2),
            ]
        )
    return buffer.getvalue().encode()


def _satisfaction(chance: random.Random, rating: int, leaning: float, unknown: float) -> str:
    if chance.random() < unknown:
        return _NO_OPINION
    return _SATISFIED[min(4, max(0, round(rating - 1 + leaning + chance.gauss(0, 0.8))))]


def _comment(chance: random.Random, rating: int) -> str:
    if chance.random() < 0.28:
        return ""
    if chance.random() < 0.1:
        return chance.choice(_PLAIN)
    pools = [_LIKED if chance.random() < _PRAISE[rating] else _WISHED for _ in range(chance.choice([1, 1, 2]))]
    text = ". ".join(chance.choice(pool) for pool in pools)
    warm = chance.choice(["friendly", "kind", "patient", "friendly"])
    text = text.format(warm=warm, Warm=warm.capitalize(), help=chance.choice(["help", "smile", "listen"]))
    return text + chance.choice(["", ".", "!", "."])


def daily_loans_csv() -> bytes:
    """Return the loans of Market Square day by day from January to September 2026; Sundays are closed."""
    chance = random.Random(SEED + 2)
    buffer = io.StringIO()
    writer = csv.writer(buffer)
    writer.writerow(["Day", "Loans", "Minutes open"])
    for index in range(273):
        day = dt.date(2026, 1, 1) + dt.timedelta(days=index)
        if day.weekday() == 6:
            continue
        season = 1 + 0.25 * math.sin((day.month - 4) / 12 * 2 * math.pi)
        usual = (95, 80, 84, 88, 110, 168)[day.weekday()] * season
        writer.writerow([day.isoformat(), round(usual * chance.uniform(0.8, 1.2)), 360 if day.weekday() == 5 else 540])
    return buffer.getvalue().encode()


# Visits of an hour at Market Square, as a share of the day's busiest.
_OPEN_HOURS = {9: 0.35, 10: 0.7, 11: 0.85, 12: 0.6, 13: 0.5, 14: 0.62, 15: 0.95, 16: 1.0, 17: 0.74, 18: 0.4}


def counter_csv() -> bytes:
    """Return the door counter of Market Square hour by hour for four weeks of September 2026; Sundays are closed."""
    chance = random.Random(SEED + 3)
    buffer = io.StringIO()
    writer = csv.writer(buffer)
    writer.writerow(["Time", "Visits"])
    for index in range(28):
        day = dt.date(2026, 9, 1) + dt.timedelta(days=index)
        for hour, share in _OPEN_HOURS.items() if day.weekday() != 6 else ():
            usual = (34, 30, 31, 33, 40, 58)[day.weekday()] * share
            writer.writerow([f"{day.isoformat()} {hour:02d}:00", round(usual * chance.uniform(0.75, 1.25))])
    return buffer.getvalue().encode()


PROGRAMME = (
    ("Market Square reopens", "2026-01-12", "2026-02-20", 640),
    ("Author evenings", "2026-02-10", "2026-03-24", 212),
    ("Book bus route 2", "2026-03-02", "2026-09-30", 1180),
    ("Alder Lane roof repair", "2026-04-13", "2026-06-05", 0),
    ("Harbour story nights", "2026-05-01", "2026-08-28", 455),
    ("Summer reading club", "2026-07-06", "2026-08-30", 1530),
    ("Computer mornings", "2026-09-01", "2026-09-29", 96),
)


def programme_csv() -> bytes:
    """Return what the libraries planned for the year, from when to when, and how many took part."""
    buffer = io.StringIO()
    writer = csv.writer(buffer)
    writer.writerow(["Event", "Start", "End", "Took part"])
    writer.writerows(PROGRAMME)
    return buffer.getvalue().encode()


# How far those came who saw the poster at the market, in the order of the way.
JOINING = (
    ("Saw the poster", 1240),
    ("Came in", 612),
    ("Asked about a card", 391),
    ("Got a card", 318),
    ("Borrowed within a month", 247),
)


def joining_csv() -> bytes:
    """Return how many people came how far on the way to a library card."""
    return "".join(["Stage,People\n", *(f"{stage},{people}\n" for stage, people in JOINING)]).encode()
