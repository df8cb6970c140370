"""Registries: a file in a room is all that adding takes, shown with files that are added here."""

import subprocess
import sys
from pathlib import Path

import pytest

from tests.factories import csv_table, report_table, total
from ypsil.core import proof
from ypsil.core.answers import answer
from ypsil.core.export import FORMATS, FileFormat, scene_to_file
from ypsil.core.proof import CHECKS, findings_of
from ypsil.core.questions import parse_question
from ypsil.core.render import compose
from ypsil.core.report import Band, Frame, ReportBody, TextTile, VisualTile
from ypsil.core.report.document import PageFormat
from ypsil.core.tables.steps import STEPS
from ypsil.core.tiles import HOLDERS, KINDS, offered
from ypsil.core.visuals import VISUALS

CORE = Path(proof.__file__).parents[1]
# A file for each room, and an expression that finds what it adds.
ADDED = {
    "visuals/ranks/echo.py": (
        "from dataclasses import replace\nfrom ypsil.core.visuals.ranks.bar import VISUAL as BAR\n"
        "VISUAL = replace(BAR, name='echo', label='Echo')\n",
        "__import__('ypsil.core.visuals', fromlist=['VISUALS']).VISUALS['echo'].label == 'Echo'",
    ),
    "tables/steps/echo.py": (
        "from typing import Literal\nfrom ypsil.core.tables.steps.base import Applied, Step\n"
        "class Echo(Step):\n    title = 'Echo'\n    purpose = 'nothing'\n    inputs = ()\n"
        "    type: Literal['echo'] = 'echo'\n    def apply(self, rows, context):\n        return Applied(rows)\n",
        "__import__('ypsil.core.tables.recipe', fromlist=['x']).parse_recipe({'steps': [{'type': 'echo'}]}).steps",
    ),
    "tiles/echo.py": (
        "from typing import Literal\nfrom ypsil.core.tiles.base import Offer, TileKind, Written\n"
        "class Echo(TileKind):\n    type: Literal['echo'] = 'echo'\n    said: str = ''\n"
        "    def writes(self, context):\n        return Written(self.said, 'body')\n",
        "__import__('ypsil.core.report', fromlist=['x']).parse_edit({'type': 'add_tile', 'band': 'b', "
        "'tile': {'type': 'echo', 'said': 'hello'}}).tile.said == 'hello'",
    ),
    "proof/checks/echo.py": (
        "from ypsil.core.proof.base import Check\nCHECK = Check('echo', 'none', 1, lambda page: ())\n",
        "__import__('ypsil.core.proof', fromlist=['x']).CHECKS[0].name == 'echo'",
    ),
    "export/formats/echo.py": (
        "from ypsil.core.export.base import FileFormat\n"
        "FORMAT = FileFormat('echo', 'Echo', 'text/plain', 99, lambda page: b'', lambda scene, language: b'echo')\n",
        "__import__('ypsil.core.export', fromlist=['x']).scene_to_file(None, 'echo') == b'echo'",
    ),
}


@pytest.fixture(scope="module")
def scratch(tmp_path_factory):
    """The core with one more file in each of its rooms."""
    folder = tmp_path_factory.mktemp("scratch")
    subprocess.run(["cp", "-r", str(CORE.parent), str(folder)], check=True)
    for name, (text, _) in ADDED.items():
        (folder / "ypsil/core" / name).write_text(text)
    return folder


@pytest.mark.parametrize("name", ADDED)
def test_one_file_adds_one(scratch, name):
    found = [sys.executable, "-c", f"import sys; sys.exit(not ({ADDED[name][1]}))"]
    done = subprocess.run(found, cwd=scratch, env={"PYTHONPATH": str(scratch)}, capture_output=True, text=True)
    assert done.returncode == 0, done.stderr[-600:]


def test_what_is_there_is_found_in_its_order():
    assert [one for one in FORMATS if one in ("svg", "png", "pdf")] == ["pdf", "png", "svg"]
    assert all(isinstance(one, FileFormat) and one.label and "/" in one.media_type for one in FORMATS.values())
    assert [step.model_fields["type"].default for step in STEPS][:3] == ["rename", "change_kind", "order_values"]
    assert len({step.offered_at for step in STEPS}) == len(STEPS) == 27
    told = {"answers", "callout", "key", "levels", "overlap", "parts", "people", "points", "quote", "sides", "steps"}
    plain = {"code", "connector", "details", "framed", "group", "picture", "played", "shape", "sign", "sources", "spot"}
    plain |= {"filter", "ornament", "text", "timeline", "visual"}
    assert set(KINDS) == told | plain and {"group"} == HOLDERS
    labels = [offer.label for _, offer in offered()]
    assert labels[:4] == ["A title", "A heading", "An opening", "A paragraph"] and "Sources" in labels[8:]
    assert len(VISUALS) >= 60
    assert CHECKS[0].name == "waiting" and {"empty-text", "no-heading", "long-page"} < {check.name for check in CHECKS}
    assert all(check.source for check in CHECKS)


def test_a_drawing_becomes_a_file_of_each_format():
    table = csv_table()
    from ypsil.core.style import HouseStyle
    from ypsil.core.visuals import Box, draw

    found = answer(table.frame, table.columns, parse_question(total(per=[{"column": "Branch"}])))
    scene = draw("bar", found, {}, Box(300, 200), HouseStyle())
    starts = {"pdf": b"%PDF", "png": b"\x89PNG", "svg": b"<svg"}
    assert {ending: scene_to_file(scene, ending)[:4] for ending in starts} == starts


def page(*tiles, **more):
    return compose(ReportBody(title="T", bands=(Band(tiles=tiles),), **more), {"t": report_table()})


def test_each_check_finds_its_fault_and_nothing_in_a_page_without():
    title = TextTile(id="a1", role="title", text="Visits")
    lost = VisualTile.model_validate({"id": "c1", "table": "gone", "question": total(), "visual": "kpi"})
    assert findings_of(page(title)) == []
    waiting = findings_of(page(title, lost))
    assert [(one.tile, one.kind) for one in waiting] == [("c1", "problem")]
    assert "no longer there" in waiting[0].said
    empty = findings_of(page(title, TextTile(id="e1", role="body", place=Frame(column=0, row=20, width=4, height=4))))
    assert [(one.tile, one.kind, one.said) for one in empty] == [
        ("e1", "remark", "Empty body: nothing is written there yet.")
    ]
    headless = findings_of(page(TextTile(id="p1", text="A paragraph")))
    assert [one.said[:22] for one in headless] == ["The page has no title:"]
    tall = TextTile(id="h1", role="title", text="Tall", place=Frame(column=0, row=0, width=4, height=120))
    long = findings_of(page(tall, page=PageFormat(height=600)))
    assert [one.said for one in long] == ["Page 1 is 408 px longer than its format: a tile on it is too high."]


@pytest.mark.parametrize(("shelf", "name"), [(VISUALS, "name"), (FORMATS, "ending")], ids=["visuals", "formats"])
def test_what_a_file_says_it_holds_is_what_it_holds(shelf, name):
    assert [getattr(one, name) for one in shelf.values()] == list(shelf)
