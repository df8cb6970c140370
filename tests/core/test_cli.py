"""The command line as its users call it. The JSON shapes are a contract."""

import json
import subprocess
import sys

import pytest
from PIL import Image

from tests.factories import VISITS
from ypsil.cli import main

QUESTION = {"measures": [{"stat": "sum", "column": "Visits"}], "per": [{"column": "Day", "by": "month"}]}
DRAW = ("draw", "visits.csv", "--question", "q.json", "--visual")


@pytest.fixture
def folder(tmp_path):
    (tmp_path / "visits.csv").write_text(VISITS)
    (tmp_path / "notes.txt").write_text("Longer opening hours\nopening hours please\nkind staff\n")
    (tmp_path / "q.json").write_text(json.dumps(QUESTION))
    (tmp_path / "v.json").write_text(json.dumps({"name": "column", "options": {}, "width": 640, "height": 400}))
    return tmp_path


@pytest.fixture
def run(folder, capsys, monkeypatch):
    monkeypatch.chdir(folder)

    def run(*arguments):
        code = main(arguments)
        out, err = capsys.readouterr()
        return code, json.loads(out) if out else None, err

    return run


def test_inspect(run):
    code, data, _ = run("inspect", "visits.csv")
    assert code == 0
    assert list(data) == ["table", "rows", "sheets", "columns", "remarks", "preview"]
    assert (data["table"], data["rows"], data["sheets"]) == ("visits", 6, ["visits"])
    assert data["columns"][3] == {"name": "Visits", "kind": "number", "unit": None, "missing": 1, "distinct": 5}
    assert data["preview"][3] == ["2026-02-16", "Market Square", "Child", None, 200, False, "Kind staff in warm rooms"]


def test_remarks_have_the_agreed_shape(run, folder):
    (folder / "odd.csv").write_text("Title,\nBranch,Visits\nAlder,n/a\nElm,4\nTotal,4\n")
    _, data, _ = run("inspect", "odd.csv")
    assert {remark["code"] for remark in data["remarks"]} == {"header-not-first", "missing-codes", "total-row"}
    assert all(list(remark) == ["code", "severity", "message", "column", "row", "count"] for remark in data["remarks"])


def test_answer(run):
    code, data, _ = run("answer", "visits.csv", "--question", "q.json")
    assert code == 0
    assert data["sentence"] == "Total Visits per month of Day"
    assert [(column["name"], column["kind"]) for column in data["columns"]] == [
        ("Day", "date"),
        ("Total Visits", "number"),
    ]
    assert data["rows"] == [["2026-01-01", 200], ["2026-02-01", 300], ["2026-03-01", 350]]
    assert data["base"] == 5


def test_words_of_a_text_file_and_of_a_column(run):
    _, data, _ = run("words", "notes.txt", "--phrase-length", "2", "--max-terms", "1")
    assert data == {"responses": 3, "tokens": 8, "terms": [{"term": "opening hours", "count": 2, "responses": 2}]}
    _, data, _ = run("words", "visits.csv", "--column", "Comment", "--min-count", "3")
    assert [term["term"] for term in data["terms"]] == ["staff"]
    _, data, _ = run("words", "visits.csv")
    assert data["responses"] == 5


@pytest.mark.parametrize("shape", ["rounded", "heart", "shape.png"])
def test_a_cloud_fills_a_plain_shape_an_icon_or_a_picture(run, folder, shape):
    picture = Image.new("L", (60, 60), 255)
    picture.paste(0, (10, 10, 50, 50))
    picture.save(folder / "shape.png")
    code, data, _ = run("cloud", "notes.txt", "--shape", shape, "--out", "c.svg")
    assert (code, data["placed"]) == (0, 6)


@pytest.mark.parametrize(("ending", "start"), [("svg", b"<svg"), ("png", b"\x89PNG"), ("pdf", b"%PDF-1.7")])
def test_draw_and_cloud_write_each_kind_of_file(run, folder, ending, start):
    code, _, err = run("draw", "visits.csv", "--question", "q.json", "--visual", "v.json", "--out", f"d.{ending}")
    assert (code, err) == (0, "")
    assert (folder / f"d.{ending}").read_bytes().startswith(start)
    code, data, _ = run("cloud", "notes.txt", "--seed", "3", "--out", f"c.{ending}")
    assert (code, data["placed"], data["left_out"]) == (0, 6, [])
    assert 0 < data["ink"] < 1
    assert (folder / f"c.{ending}").read_bytes().startswith(start)


def test_visuals_lists_the_registry(run):
    _, data, _ = run("visuals")
    assert {"name", "purpose", "needs", "options"} <= set(data[0])


@pytest.mark.parametrize(
    ("arguments", "message"),
    [
        (("inspect", "nowhere.csv"), "nowhere.csv: no such file"),
        (("inspect", "q.json"), "the JSON holds no list of records"),
        (("inspect", "visits.csv", "--sheet", "x"), "no sheets"),
        (("answer", "visits.csv", "--question", "notes.txt"), "this is not JSON, notes.txt, line 1"),
        (("answer", "visits.csv", "--question", "nowhere.json"), "no such file"),
        (
            ("draw", "visits.csv", "--question", "q.json", "--visual", "q.json", "--out", "a.svg"),
            "it has name, options",
        ),
        (
            ("draw", "visits.csv", "--question", "q.json", "--visual", "v.json", "--out", "a.gif"),
            "“gif” are not there yet",
        ),
        (
            ("draw", "visits.csv", "--question", "q.json", "--visual", "v.json", "--out", "no/a.svg"),
            "choose another place",
        ),
        (("words", "visits.csv", "--column", "Nope"), "no column “Nope”"),
        (("words", "visits.csv", "--column", "Visits"), "not text"),
        (("words", "notes.txt", "--language", "xx"), "no stop-word list"),
        (("words", "notes.txt", "--phrase-length", "9"), "--phrase-length"),
        (("cloud", "notes.txt", "--shape", "nowhere", "--out", "a.svg"), "there is no icon “nowhere”"),
        (("cloud", "notes.txt", "--min-count", "9", "--out", "a.svg"), "no words are left"),
    ],
)
def test_bad_input_is_one_line_that_says_what_where_and_what_to_do(run, arguments, message):
    code, out, err = run(*arguments)
    assert (code, out) == (1, None)
    assert err.startswith("ypsil: ")
    assert err.count("\n") == 1
    assert message in err
    assert ";" in err


def test_wrong_usage_ends_with_2():
    with pytest.raises(SystemExit) as ended:
        main(["inspect"])
    assert ended.value.code == 2


def test_it_runs_without_the_web_application(folder):
    code = "import sys; from ypsil.cli import main; main(['inspect', 'visits.csv']); sys.exit('django' in sys.modules)"
    done = subprocess.run([sys.executable, "-c", code], cwd=folder, capture_output=True, timeout=120, check=False)
    assert done.returncode == 0


def test_a_visual_that_does_not_fit_its_question_is_an_error_and_writes_nothing(run, folder):
    (folder / "pie.json").write_text('{"name": "line"}')
    (folder / "one.json").write_text('{"measures": [{"stat": "count"}]}')
    code, out, err = run("draw", "visits.csv", "--question", "one.json", "--visual", "pie.json", "--out", "a.svg")
    assert (code, out) == (1, None)
    assert err.startswith("ypsil: visits.csv: Line") and err.count("\n") == 1
    assert not (folder / "a.svg").exists()


IMPORTED = """
import io, sys, contextlib
from ypsil.cli import main
with contextlib.redirect_stdout(io.StringIO()):
    assert main(sys.argv[1:]) == 0
print(*sorted(sys.modules))
"""


@pytest.mark.parametrize(
    ("command", "without"),
    [
        (("inspect", "visits.csv"), ("ypsil.core.visuals", "ypsil.core.answers", "uharfbuzz", "PIL")),
        (("answer", "visits.csv", "--question", "q.json"), ("ypsil.core.visuals", "uharfbuzz", "PIL")),
        (("words", "notes.txt"), ("ypsil.core.visuals", "ypsil.core.answers", "uharfbuzz", "PIL")),
        (("cloud", "notes.txt", "--out", "c.svg"), ("ypsil.core.visuals.ranks.bar", "ypsil.core.report", "typst")),
        ((*DRAW, "v.json", "--out", "x.svg"), ("ypsil.core.visuals.changes.line", "ypsil.core.report", "typst")),
    ],
    ids=lambda given: given[0],
)
def test_a_command_imports_what_it_needs_and_no_more(folder, command, without):
    done = subprocess.run([sys.executable, "-c", IMPORTED, *command], cwd=folder, capture_output=True, text=True)
    assert done.returncode == 0, done.stderr
    named = set(done.stdout.split())
    assert not {"scipy", "fontTools", "xlsxwriter", "django", *without} & named


def test_a_reader_who_goes_early_is_no_fault(folder):
    command = [sys.executable, "-m", "ypsil.cli", "inspect", "visits.csv"]
    begun = subprocess.Popen(command, cwd=folder, stdout=subprocess.PIPE, stderr=subprocess.PIPE)
    begun.stdout.close()
    assert (begun.stderr.read(), begun.wait()) == (b"", 0)
