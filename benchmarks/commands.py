"""Commands on a small file as whole processes, beside a process that only imports the libraries they stand on."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
from pathlib import Path

from benchmarks.timing import Row, side_by_side

ROWS = "Day,Branch,Kind,Visits\n" + "".join(
    f"2026-{month:02}-01,{branch},Adult,{100 * month + len(branch)}\n"
    for month in range(1, 13)
    for branch in ("Alder Lane", "Market Square", "Dunmere")
)
QUESTION = {"measures": [{"stat": "sum", "column": "Visits"}], "per": [{"column": "Branch"}]}
NOTES = "The opening hours are short\nLonger opening hours on Sunday\nQuiet rooms for reading\n" * 20
COMMANDS = (
    "inspect visits.csv",
    "answer visits.csv --question q.json",
    "words notes.txt",
    "cloud notes.txt --out cloud.svg",
    "draw visits.csv --question q.json --visual v.json --out bar.svg",
    "numbers notes.txt",
    "palette #14697f",
    "templates visits.csv",
)
LIBRARIES = "import polars, numpy, pydantic"


def commands() -> list[Row]:
    with tempfile.TemporaryDirectory() as folder:
        held = {"visits.csv": ROWS, "notes.txt": NOTES, "q.json": json.dumps(QUESTION), "v.json": '{"name": "bar"}'}
        for name, text in held.items():
            (Path(folder) / name).write_text(text)
        return [_timed(command, folder) for command in COMMANDS]


def _timed(command: str, folder: str) -> Row:
    ypsil = str(Path(sys.executable).with_name("ypsil"))

    def run(*words: str) -> None:
        subprocess.run(words, cwd=folder, stdout=subprocess.DEVNULL, check=True)

    return side_by_side(
        f"ypsil {command.split()[0]}, a process",
        lambda: run(ypsil, *command.split()),
        "importing its libraries",
        lambda: run(sys.executable, "-c", LIBRARIES),
        "<700 ms",
    )
