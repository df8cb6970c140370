"""How words are counted on the command line: the options of ``words`` and ``cloud``, and the texts they are about."""

from __future__ import annotations

import argparse
from collections.abc import Callable
from pathlib import Path
from typing import Any

from ypsil.core.errors import YpsilError

TEXT_ENDINGS = (".txt", ".text", ".md")
# Gets the bytes of a file by its name, and the table that options name.
Read = Callable[[str], bytes]
TableOf = Callable[[argparse.Namespace], Any]


def add_word_options(command: argparse.ArgumentParser) -> None:
    command.add_argument("--column", metavar="C")
    command.add_argument("--language", help="as en or de; guessed from the text unless given")
    command.add_argument("--phrase-length", type=int, default=1, metavar="N")
    command.add_argument("--min-count", type=int, default=1, metavar="N")
    command.add_argument("--max-terms", type=int, metavar="N")
    command.add_argument("--count", choices=("occurrences", "responses"), default="occurrences")
    command.add_argument("--merge", choices=("none", "stem"), default="none")
    command.add_argument("--keep-stop-words", action="store_true")


def counted(parsed: argparse.Namespace, read: Read, table_of: TableOf) -> Any:
    """Return the words that people wrote, counted as the options say."""
    from pydantic import ValidationError

    from ypsil.core.text.count import count_terms
    from ypsil.core.text.function_words import CAPITALISING
    from ypsil.core.text.settings import WordSettings

    try:
        settings = WordSettings(
            language=parsed.language,
            phrase_length=parsed.phrase_length,
            min_count=parsed.min_count,
            count=parsed.count,
            merge=parsed.merge,
            keep_stop_words=parsed.keep_stop_words,
            max_terms=parsed.max_terms,
            case="lower",
        )
    except ValidationError as problem:
        first = problem.errors()[0]
        option = "--" + str(first["loc"][0]).replace("_", "-")
        raise YpsilError(f"{option}: {first['msg'].lower()}", remedy="give another value") from None
    texts = _texts(parsed, read, table_of)
    found = count_terms(texts, settings)
    if found.language not in CAPITALISING:
        return found
    # In small letters a German noun is misspelt.
    return count_terms(texts, settings.model_copy(update={"case": "common"}))


def _texts(parsed: argparse.Namespace, read: Read, table_of: TableOf) -> list[str | None]:
    """Return the responses of a plain text file (one a line) or of a table's text column."""
    from ypsil.core.tables.delimited import decode

    if parsed.file.lower().endswith(TEXT_ENDINGS) and parsed.column is None:
        data = decode(read(parsed.file), Path(parsed.file).name)[0]
        return [line for line in data.decode("utf-8", errors="replace").splitlines() if line.strip()]
    table = table_of(parsed)
    name = parsed.column
    if name is None:
        found = table.columns_of("text") or ([table.columns[0]] if len(table.columns) == 1 else [])
        if not found:
            raise YpsilError(
                "no column holds written answers", remedy="name one with --column, such as " + table.columns[0].name
            )
        name = found[0].name
    column = table.column(name)
    if column is None:
        names = ", ".join(column.name for column in table.columns[:12])
        raise YpsilError(f"there is no column “{name}”", remedy=f"choose one of: {names}")
    if column.kind not in ("text", "category", "place"):
        raise YpsilError(f"the column “{name}” holds {column.kind}, not text", remedy="choose another column")
    return list(table.frame[name].to_list())
