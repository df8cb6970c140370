"""Compose and Publish through their real addresses: an edit to what changed, the desk, a page for readers."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import polars as pl

from benchmarks.timing import Row, side_by_side

_TILES = 100
_REPORTS = 50
_EDITS = 2_000


def pages(client: Any, user: Any, tables: list[str], frame: pl.DataFrame) -> list[Row]:
    """Measure edits of a report of 100 charts, the desk with 50 reports, a published page, and what readers choose on
    one, over a table of 100,000 rows and one of 1M."""
    table_uid = tables[0]
    from ypsil.web.compose.edits import keep_report
    from ypsil.web.publish.services import set_audience

    large = keep_report(user, _report(table_uid, _TILES))
    small = keep_report(user, _report(table_uid, 12))
    for _ in range(_REPORTS - 2):
        keep_report(user, _report(table_uid, 4))
    link = f"/r/{set_audience(small, 'link').token}/"

    def counted() -> object:
        return frame.select(pl.len())

    def got(address: str) -> Callable[[], object]:
        def ask() -> None:
            assert client.get(address).status_code == 200

        return ask

    what = "an edit to what changed, "
    return [
        side_by_side(f"{what}12 charts", _edits(client, small), "polars count", counted, "<60 ms"),
        side_by_side(
            f"{what}12, {_EDITS:,} before", _edits(client, _long(user, table_uid)), "polars count", counted, "<70 ms"
        ),
        side_by_side(f"{what}{_TILES} charts", _edits(client, large), "polars count", counted, "<120 ms"),
        side_by_side("opening a report of 12 charts", got(f"/reports/{small.uid}/"), "polars count", counted, "-"),
        side_by_side(f"the desk with {_REPORTS} reports", got("/"), "polars count", counted, "<150 ms"),
        side_by_side("a published page, at the server", got(link), "polars count", counted, "<4 ms"),
        *(
            side_by_side(f"a filter change there, 12 tiles, {size} rows", _chosen(client, user, uid), *beside)
            for size, uid, beside in zip(
                ("100,000", "1M"),
                tables,
                (("polars count", counted, "<100 ms"), ("polars count", counted, "<1 s")),
                strict=True,
            )
        ),
    ]


def _chosen(client: Any, user: Any, table_uid: str) -> Callable[[], object]:
    """Return what somebody does who chooses on a published page: amounts that nobody chose before, in a kind."""
    from ypsil.core.report import Band
    from ypsil.core.tiles.filter import filter_by
    from ypsil.web.compose.edits import keep_report
    from ypsil.web.publish.services import set_audience

    by = (("Kind", "values"), ("Visits", "amount"), ("Day", "period"))
    tiles = tuple(filter_by(table_uid, column, way=way) for column, way in by)
    charts = _report(table_uid, 12)
    report = keep_report(user, charts.model_copy(update={"bands": (Band(tiles=tiles), *charts.bands)}))
    link = f"/r/{set_audience(report, 'link').token}/"
    least = iter(range(1, 400))

    def choose() -> None:
        # As the page's script asks in a wide window.
        asked = f"{link}?kind=Adult&visits-from={next(least)}&day-last=20"
        answer = client.get(asked, headers={"X-Window": "wide"})
        assert answer.status_code == 200 and b" of " in answer.content

    return choose


def _report(table_uid: str, tiles: int) -> Any:
    from ypsil.core.report import Band, ReportBody, VisualTile

    stats = ("sum", "mean", "min", "max")
    made = [
        VisualTile.model_validate(
            {
                "id": f"t{place}",
                "table": table_uid,
                "visual": "column",
                "title": f"Chart {place}",
                "question": {
                    "measures": [{"stat": stats[place % 4], "column": ("Visits", "Cost")[place % 2]}],
                    "per": [{"column": ("Branch", "Kind")[place // 4 % 2]}],
                },
                "place": {"column": place % 2 * 12, "row": place % 20 // 2 * 45, "width": 12, "height": 42},
            }
        )
        for place in range(tiles)
    ]
    bands = [Band(id=f"b{first}", tiles=tuple(made[first : first + 20])) for first in range(0, tiles, 20)]
    return ReportBody(title=f"A report of {tiles}", bands=tuple(bands))


def _long(user: Any, table_uid: str) -> Any:
    """Return a report with a long log: each entry sets a title of its own."""
    from ypsil.web.compose.edits import keep_report
    from ypsil.web.compose.models import Change

    report = keep_report(user, _report(table_uid, 12))
    change = {"id": "t1", "path": ["title"], "was": ["a"], "value": ["b"], "type": "set"}
    batch = {"type": "batch", "label": "change_tile", "changes": [change]}
    Change.objects.bulk_create(
        [Change(report=report, author=user, number=number + 1, change=batch) for number in range(_EDITS)]
    )
    report.revision = _EDITS
    report.save(update_fields=["revision"])
    return report


def _edits(client: Any, report: Any) -> Callable[[], object]:
    """Return what gives one tile after the other another title, as the editor does."""
    known: dict[str, str] = {}
    number = report.revision

    def edit() -> None:
        nonlocal number
        number += 1
        change = {"type": "change_tile", "tile": f"t{number % 12}", "changes": {"title": f"Title {number}"}}
        body = {"base": number - 1, "id": f"{report.uid}{number}", "edit": change, "known": known}
        reply = client.post(f"/reports/{report.uid}/edits/", json.dumps(body), content_type="application/json")
        assert reply.status_code == 200, reply.content
        known.update({one["id"]: one["digest"] for band in reply.json()["patch"]["bands"] for one in band["tiles"]})

    return edit
