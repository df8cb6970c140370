"""Gather through its real addresses: a step of a 100,000-row table switched, a 1M-row table opened."""

from __future__ import annotations

import itertools
import json
import os
import tempfile

import pandas as pd
import polars as pl

from benchmarks.pages import pages
from benchmarks.timing import Row, side_by_side


def gather(small: pl.DataFrame, large: pl.DataFrame) -> list[Row]:
    """Measure requests against a database of their own, beside the same work with pandas on rows in memory."""
    with tempfile.TemporaryDirectory() as home:
        os.environ["YPSIL_HOME"] = home
        os.environ["DJANGO_SETTINGS_MODULE"] = "ypsil.web.settings"
        os.environ["TASK_BACKEND"] = "django_tasks.backends.immediate.ImmediateBackend"
        return _measured(small, large)


def _measured(small: pl.DataFrame, large: pl.DataFrame) -> list[Row]:
    import django

    django.setup()
    from django.conf import settings
    from django.core.management import call_command
    from django.test import Client

    settings.ALLOWED_HOSTS = ["testserver"]
    call_command("migrate", verbosity=0)
    from ypsil.web.accounts.models import User
    from ypsil.web.gather.arrivals import receive

    user = User.objects.create(username="bench")
    client = Client()
    client.force_login(user)
    tables = [receive(user, name, frame.write_csv().encode(), table=None) for name, frame in
              (("small.csv", small), ("large.csv", large))]  # fmt: skip
    for table in tables:
        table.refresh_from_db()
    short, long = (f"/tables/{arrival.table.uid}/" for arrival in tables)
    frame = pd.DataFrame(small.to_dict(as_series=False))

    def send(change: dict[str, object]) -> None:
        reply = client.post(f"{short}recipe/", json.dumps(change), content_type="application/json")
        assert reply.status_code == 200, reply.content
        client.get(f"{short}rows/?columns=1")

    send({"action": "add", "step": {"type": "calculate", "name": "Each", "calculation": "Cost / Visits"}})
    flips, counts = itertools.cycle([False, True]), itertools.count(1)

    def switched() -> None:
        send({"action": "switch", "at": 0, "on": next(flips)})

    def added() -> None:
        step = {"type": "keep_rows", "where": [{"column": "Visits", "test": "at_least", "values": [next(counts)]}]}
        send({"action": "replace", "at": 1, "step": step})

    def opened() -> None:
        client.get(long)
        client.get(f"{long}rows/?columns=1")

    def with_pandas() -> None:
        frame.assign(Each=frame["Cost"] / frame["Visits"]).describe(include="all")

    found = [
        side_by_side("a step switched, 100,000 rows, to its rows", switched, "pandas describe", with_pandas, "<200 ms")
    ]
    send({"action": "add", "step": {"type": "take", "count": 99_999}})
    found.append(
        side_by_side("a new step, 100,000 rows, to its rows", added, "pandas describe", with_pandas, "<200 ms")
    )
    found.append(
        side_by_side("opening a table of 1M rows", opened, "polars count", lambda: large.select(pl.len()), "<1 s")
    )
    return found + pages(client, user, [one.table.uid for one in tables[:2]], small)
