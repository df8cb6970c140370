"""The command line. It works without the web application and without a database."""

from __future__ import annotations

import argparse
import contextlib
import datetime as dt
import gc
import json
import os
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from ypsil.cli_build import add_build_options, build_files
from ypsil.cli_draft import add_draft_options, draft_file, templates_json
from ypsil.cli_numbers import numbers_json
from ypsil.cli_palette import add_palette_options, palette_json
from ypsil.cli_words import add_word_options, counted
from ypsil.core.errors import YpsilError

MAX_JSON_BYTES = 1024 * 1024
_CLOUD_TERMS = 200


def run() -> None:
    """Run one command as a process of its own, which ends at once when it is done."""
    # What is imported stays: looking through it for garbage again and again is a tenth of a short command's time.
    gc.set_threshold(100_000, 50, 100)
    code = main()
    # The reader of our output may have gone, as with `| head`; there is nobody left to tell.
    with contextlib.suppress(BrokenPipeError):
        sys.stdout.flush()
        sys.stderr.flush()
    # Nothing is left to be put in order; taking libraries down one by one takes as long as the work.
    os._exit(code)


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; return 0 when done, 1 when the input is bad, 2 for wrong usage."""
    parsed = _parser().parse_args(arguments)
    try:
        code = parsed.run(parsed)
    except YpsilError as problem:
        named = [Path(path).name for path in getattr(parsed, "files", [_file_of(parsed)])]
        # Of several tables the one that it is about is named, or all of them.
        file = next((name for name in named if name and problem.where == name), ", ".join(named))
        if problem.where == file:
            problem.where = ""
        print(f"ypsil: {file}: {problem.line()}" if file else f"ypsil: {problem.line()}", file=sys.stderr)
        return 1
    except BrokenPipeError:
        # The reader of our output has gone, as with `| head`; there is nobody left to tell.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0
    return int(code or 0)


def _file_of(parsed: argparse.Namespace) -> str:
    return getattr(parsed, "file", "") or getattr(parsed, "colour", "")


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="ypsil", description="Tables and survey text become reports.")
    commands = parser.add_subparsers(dest="command", required=True, metavar="COMMAND")
    for name, help_text, run in (
        ("inspect", "say what is in a table file", _inspect),
        ("answer", "answer a question about a table", _answer),
        ("words", "count the words people wrote", _words),
        ("draw", "draw a visual to a file", _draw),
        ("cloud", "draw a word cloud to a file", _cloud),
        ("visuals", "list the visuals", _visuals),
        ("numbers", "find the numbers in a text, and what could show them", _numbers),
        ("palette", "make a palette of a colour or a picture", _palette),
        ("draft", "make a first page of tables", _draft),
        ("templates", "list the templates, and which of them fit some tables", _templates),
        ("build", "make a file of a packed report, with its own data or other", _build),
        ("demo", "serve the application with the sample data", _serve),
        ("serve", "serve the application", _serve),
        ("backup", "write all data of the application to one file, also while it is served", _backup),
        ("restore", "put the data of a backup into an empty folder", _restore),
    ):
        command = commands.add_parser(name, help=help_text, description=help_text)
        command.set_defaults(run=run, with_demo=name == "demo")
        if name not in ("visuals", "palette", "draft", "templates", "demo", "serve"):
            command.add_argument("file", metavar="FILE")
        if name in ("inspect", "answer", "draw"):
            command.add_argument("--sheet", metavar="NAME")
        if name in ("answer", "draw"):
            command.add_argument("--question", required=True, metavar="Q.json")
        if name in ("words", "cloud"):
            add_word_options(command)
        if name in ("draw", "cloud"):
            command.add_argument("--out", required=True, metavar="X.svg|png|pdf")
    add_build_options(commands.choices["build"])
    add_palette_options(commands.choices["palette"])
    add_draft_options(commands.choices["draft"])
    commands.choices["templates"].add_argument("files", metavar="TABLE", nargs="*")
    commands.choices["draw"].add_argument("--visual", required=True, metavar="V.json")
    cloud = commands.choices["cloud"]
    cloud.add_argument("--shape", default="rectangle")
    cloud.add_argument("--seed", type=int, default=1)
    cloud.add_argument("--width", type=float, default=1000)
    cloud.add_argument("--height", type=float, default=600)
    for name in ("demo", "serve"):
        commands.choices[name].add_argument("--port", type=int, default=8000)
    return parser


def _print(data: Any) -> None:
    print(json.dumps(data, ensure_ascii=False, default=_plain))


def _plain(value: Any) -> str:
    if isinstance(value, dt.date | dt.time):
        return value.isoformat()
    return str(value)


def _bytes(path: str) -> bytes:
    from ypsil.core.tables.limits import MAX_UPLOAD_BYTES

    try:
        if Path(path).stat().st_size > MAX_UPLOAD_BYTES:
            raise YpsilError(
                f"the file is larger than {MAX_UPLOAD_BYTES // 1024**2} MB", remedy="split it or leave out columns"
            )
        return Path(path).read_bytes()
    except OSError as problem:
        reason = (problem.strerror or "the file cannot be read").lower()
        raise YpsilError(reason, where=Path(path).name, remedy="give the name of a file that is there") from None


def _json(path: str) -> Any:
    data = _bytes(path)
    if len(data) > MAX_JSON_BYTES:
        raise YpsilError("the JSON file is larger than 1 MB", where=Path(path).name, remedy="give a smaller one")
    try:
        return json.loads(data)
    except (json.JSONDecodeError, UnicodeDecodeError, RecursionError) as problem:
        place = f", line {problem.lineno}, column {problem.colno}" if isinstance(problem, json.JSONDecodeError) else ""
        raise YpsilError(
            "this is not JSON", where=f"{Path(path).name}{place}", remedy="mend it at that place"
        ) from None


def _table(parsed: argparse.Namespace) -> Any:
    from ypsil.core.tables.read import read_table

    return read_table(_bytes(parsed.file), parsed.file, sheet=getattr(parsed, "sheet", None))


def _inspect(parsed: argparse.Namespace) -> None:
    table = _table(parsed)
    columns = [
        {"name": one.name, "kind": one.kind, "unit": one.unit, "missing": one.missing, "distinct": one.distinct}
        for one in table.columns
    ]
    _print(
        {
            "table": table.name,
            "rows": table.rows,
            "sheets": list(table.sheets),
            "columns": columns,
            "remarks": [remark.as_said() for remark in table.remarks],
            "preview": [list(row) for row in table.frame.head(20).rows()],
        }
    )


def _ask(parsed: argparse.Namespace) -> Any:
    from ypsil.core.answers import answer
    from ypsil.core.questions import parse_question

    question = parse_question(_json(parsed.question))
    table = _table(parsed)
    return answer(table.frame, table.columns, question)


def _answer(parsed: argparse.Namespace) -> None:
    found = _ask(parsed)
    _print(
        {
            "sentence": found.sentence,
            "columns": [
                {"name": column.name, "kind": column.kind}
                | ({"unit": column.unit} if column.unit else {})
                | ({"by": column.grain} if column.grain else {})
                for column in found.columns
            ],
            "rows": [list(row) for row in found.rows],
            "base": found.base,
            "notes": list(found.notes),
        }
    )


def _words(parsed: argparse.Namespace) -> None:
    found = counted(parsed, _bytes, _table)
    _print(
        {
            "responses": found.responses,
            "tokens": found.tokens,
            "terms": [{"term": term.term, "count": term.count, "responses": term.responses} for term in found.terms],
        }
    )


def _write(scene: Any, out: str) -> None:
    from ypsil.core.export import scene_to_file

    _keep(scene_to_file(scene, Path(out).suffix.lower().lstrip(".")), out)


def _keep(made: bytes, out: str) -> None:
    # Written beside it first: who reads it meanwhile finds the one before, or nothing, and never half of it.
    beside = Path(f"{out}.{os.getpid()}.part")
    try:
        beside.write_bytes(made)
        beside.replace(out)
    except OSError as problem:
        beside.unlink(missing_ok=True)
        raise YpsilError(
            (problem.strerror or "the file cannot be written").lower(), where=out, remedy="choose another place"
        ) from None


def _draw(parsed: argparse.Namespace) -> None:
    from pydantic import BaseModel, ConfigDict, Field, ValidationError

    from ypsil.core.style import HouseStyle
    from ypsil.core.visuals import Box, draw

    class Wanted(BaseModel):
        model_config = ConfigDict(extra="forbid")
        name: str
        options: dict[str, Any] = {}
        width: float = Field(640, ge=40, le=10_000)
        height: float = Field(400, ge=40, le=10_000)

    try:
        wanted = Wanted.model_validate(_json(parsed.visual))
    except ValidationError as problem:
        first = problem.errors()[0]
        place = ".".join(str(part) for part in first["loc"]) or "the whole"
        raise YpsilError(
            first["msg"].lower(),
            where=f"{Path(parsed.visual).name}, {place}",
            remedy="it has name, options, width and height",
        ) from None
    found = _ask(parsed)
    box = Box(wanted.width, wanted.height)
    scene = draw(wanted.name, found, wanted.options, box, HouseStyle())
    if scene.refusal:
        what, _, way_out = scene.refusal.partition(". ")
        remedy = way_out.rstrip(".") or "ask otherwise, or choose another visual"
        raise YpsilError(what.rstrip("."), remedy=remedy[0].lower() + remedy[1:])
    _write(scene, parsed.out)
    _print({"sentence": found.sentence, "name": scene.name, "description": scene.description, "out": parsed.out})


def _pictures_of(shape: str) -> dict[str, Any]:
    """Return the picture that a shape is the path of, by its name; none for a plain shape or an icon."""
    from ypsil.core.drawing.picture_files import read_picture

    path = Path(shape)
    if not path.is_file():
        return {}
    found = read_picture(path.read_bytes(), path.name)
    return {found.name: found}


def _cloud(parsed: argparse.Namespace) -> None:
    from ypsil.core.answers import AnswerColumn, answer_of_rows
    from ypsil.core.cloud import SMALLEST_PX
    from ypsil.core.style import HouseStyle
    from ypsil.core.visuals import checked_options
    from ypsil.core.visuals.base import Box
    from ypsil.core.visuals.words.cloud import CloudOptions, cloud_scene, layout

    if not (40 <= parsed.width <= 10_000 and 40 <= parsed.height <= 10_000 and 1 <= parsed.seed <= 9999):
        raise YpsilError("--width and --height go from 40 to 10,000, --seed from 1 to 9999", remedy="change them")
    found = counted(parsed, _bytes, _table)
    terms = found.first(parsed.max_terms or _CLOUD_TERMS)
    if not terms:
        raise YpsilError("no words are left to draw", remedy="try --keep-stop-words or a lower --min-count")
    by_responses = parsed.count == "responses"
    answer = answer_of_rows(
        "Words",
        (
            AnswerColumn("Word in text", "category", "per", is_words=True),
            AnswerColumn("Times used", "number", "measure"),
        ),
        [(term.term, term.responses if by_responses else term.count) for term in terms],
        found.responses,
    )
    style, box = HouseStyle(), Box(parsed.width, parsed.height)
    pictures = _pictures_of(parsed.shape)
    shape = next(iter(pictures), parsed.shape)
    options = checked_options("cloud", {"seed": parsed.seed, "shape": shape, "smallest": SMALLEST_PX}, pictures)
    assert isinstance(options, CloudOptions)
    placed = layout(answer, options, box, style)
    _write(cloud_scene(placed, answer, options, box, style), parsed.out)
    _print({"placed": len(placed.placed), "left_out": list(placed.left_out), "ink": placed.ink})


def _build(parsed: argparse.Namespace) -> None:
    files, said = build_files(parsed, _bytes)
    for name, content in files:
        _keep(content, name)
    _print(said)


def _draft(parsed: argparse.Namespace) -> None:
    content, said = draft_file(parsed, _bytes)
    _keep(content, parsed.out)
    _print(said)


def _numbers(parsed: argparse.Namespace) -> None:
    _print(numbers_json(parsed.file, _bytes))


def _palette(parsed: argparse.Namespace) -> None:
    _print(palette_json(parsed, _bytes))


def _templates(parsed: argparse.Namespace) -> None:
    _print(templates_json(parsed.files, _bytes))


def _visuals(parsed: argparse.Namespace) -> None:
    from ypsil.core.visuals import registry_json

    _print(registry_json())


def _serve(parsed: argparse.Namespace) -> int:
    from ypsil.web.server import serve

    serve(port=parsed.port, with_demo=parsed.with_demo)
    return 0


def _backup(parsed: argparse.Namespace) -> None:
    from ypsil.web.backup import back_up
    from ypsil.web.settings import HOME

    _print(back_up(HOME, Path(parsed.file)) | {"out": parsed.file})


def _restore(parsed: argparse.Namespace) -> None:
    from ypsil.web.backup import restore
    from ypsil.web.server import only_one
    from ypsil.web.settings import HOME, private_folder

    if not Path(parsed.file).is_file():
        raise YpsilError("there is no such file", where=parsed.file, remedy="give the name of a backup")
    private_folder(HOME)
    with only_one(HOME):
        restore(Path(parsed.file), HOME)
    _print({"restored": str(HOME)})


if __name__ == "__main__":
    run()
