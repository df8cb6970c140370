"""The same input gives the same bytes, in another process, at another time."""

import os
import subprocess
import sys

MADE = """
import contextlib, hashlib, io, json, os, tempfile
from tests.factories import VISITS, csv_table, report_table, total
from ypsil.cli import main
from ypsil.core.export import FORMATS
from ypsil.core.render import compose
from ypsil.core.report import Band, ReportBody, SourcesTile, TextTile, VisualTile
from ypsil.core.tables.rows import Rows
from ypsil.core.tables.write import WRITERS, write_table

def cli(*words):
    with contextlib.redirect_stdout(io.StringIO()):
        return main(words)

table = csv_table()
asked = total(per=[{"column": "Branch"}])
bar = VisualTile.model_validate({"id": "a", "table": "t", "question": asked, "visual": "bar"})
tiles = (TextTile(id="x", role="title", text="Visits – 12 ½"), bar, SourcesTile(id="s"))
page = compose(ReportBody(title="T", bands=(Band(id="b", tiles=tiles),)), {"t": report_table(table)})
for ending, one in FORMATS.items():
    print(ending, hashlib.sha256(one.page(page)).hexdigest())
    if one.scene is not None:
        print(ending, hashlib.sha256(one.scene(page.tiles()[1].scene, "en")).hexdigest())
question, drawn = {"measures": [{"stat": "count"}], "per": [{"column": "Branch"}]}, {"name": "bar"}
with tempfile.TemporaryDirectory() as folder:
    os.chdir(folder)
    for name, held in (("t.csv", VISITS), ("q.json", json.dumps(question)), ("v.json", json.dumps(drawn))):
        open(name, "w").write(held)
    for ending in (name for name, one in FORMATS.items() if one.scene is not None):
        assert cli("draw", "t.csv", "--question", "q.json", "--visual", "v.json", "--out", f"draw.{ending}") == 0
        assert cli("cloud", "t.csv", "--column", "Branch", "--out", f"cloud.{ending}") == 0
        for name in (f"draw.{ending}", f"cloud.{ending}"):
            print(name, hashlib.sha256(open(name, "rb").read()).hexdigest())
for ending in WRITERS:
    print(ending, hashlib.sha256(write_table(Rows.of_table(table), ending, sheet="T")).hexdigest())
"""


def test_every_file_is_the_same_again():
    made = []
    for seed in ("1", "2"):
        environment = {**os.environ, "PYTHONHASHSEED": seed, "TZ": "UTC" if seed == "1" else "Asia/Tokyo"}
        done = subprocess.run(
            [sys.executable, "-c", MADE], env=environment, capture_output=True, text=True, check=False,
            cwd=os.path.dirname(os.path.dirname(os.path.dirname(__file__))),
        )  # fmt: skip
        assert done.returncode == 0, done.stderr[-800:]
        made.append(done.stdout)
    assert made[0] == made[1]
    assert len(made[0].splitlines()) >= 13
