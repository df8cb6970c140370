"""Thornwick School's garden club, invented: seedlings under three treatments, and pupils' exit notes."""

from __future__ import annotations

import csv
import datetime as dt
import io
import math
import random

SEED = 20260410
TREATMENTS = {"Compost": 1.18, "Plain soil": 1.0, "Sand": 0.66}
FIRST_DAY = dt.date(2026, 4, 13)
WEEKS = 9
SEEDLINGS = 6

_NOTES = (
    "I learned that seedlings need light and water but not too much water",
    "Compost made the plants grow tall",
    "The sand plants were small but their roots were long",
    "Measuring every week is hard work but fun",
    "I want to grow tomatoes at home",
    "We measured the roots with a ruler and string",
    "Plants turn to the light, that surprised me",
    "Worms make the soil better",
    "I liked digging and the worms",
    "Too much water made the roots rot",
    "Seeds need warm soil to wake up",
    "My favourite was watching the beans climb",
    "I still wonder why sand holds no water",
    "A fair test changes one thing only",
    "Our graph showed that compost wins",
    "I would like to measure leaves next time",
)


def seedlings_csv() -> bytes:
    """Return the heights of 18 seedlings over nine weeks; one seedling dies, one week a ruler is missing."""
    chance = random.Random(SEED)
    buffer = io.StringIO()
    writer = csv.writer(buffer)
    writer.writerow(["Measured", "Treatment", "Seedling", "Height"])
    for treatment, vigour in TREATMENTS.items():
        for seedling in range(1, SEEDLINGS + 1):
            own = chance.uniform(0.88, 1.12)
            for week in range(WEEKS):
                day = FIRST_DAY + dt.timedelta(weeks=week)
                height = 16 / (1 + math.exp(-(week - 4.5) / 1.4)) * vigour * own + chance.uniform(-0.3, 0.3)
                dead = treatment == "Sand" and seedling == 4 and week > 5
                cell = "" if dead else f"{max(0.2, height):.1f}"
                writer.writerow([day.strftime("%d/%m/%Y"), treatment, f"{treatment[0]}{seedling}", cell])
    return buffer.getvalue().encode()


def exit_notes_csv() -> bytes:
    """Return what pupils wrote on the way out, and whether they want to come again."""
    chance = random.Random(SEED + 1)
    buffer = io.StringIO()
    writer = csv.writer(buffer)
    writer.writerow(["Year group", "Come again", "What I take with me"])
    for _ in range(96):
        first, second = chance.sample(_NOTES, 2)
        note = first if chance.random() < 0.6 else f"{first}. {second}"
        writer.writerow([f"Year {chance.choice([5, 6, 7])}", "Yes" if chance.random() < 0.86 else "No", note])
    return buffer.getvalue().encode()
