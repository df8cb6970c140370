"""Delimited text (RFC 4180 and its relatives) to a grid of text cells."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator
from itertools import islice

import polars as pl

from ypsil.core.errors import UnreadableFile
from ypsil.core.tables.limits import MAX_CELLS, MAX_UPLOAD_BYTES, check_size, check_width
from ypsil.core.tables.model import RawGrid, Remark
from ypsil.core.tables.reading import Encoding, Reading

# Python's own limit of 128 kB is below what people paste into one cell.
csv.field_size_limit(MAX_UPLOAD_BYTES)

_SEPARATORS = (",", ";", "\t", "|")
_SAMPLE_LINES = 200
_SAMPLE_BYTES = 256 * 1024


def decode(data: bytes, where: str, encoding: Encoding | None = None) -> tuple[bytes, Encoding, Remark | None]:
    """Return the text as UTF-8 bytes, its encoding, and a remark when that had to be guessed."""
    if encoding is not None and encoding != "utf-8":
        return data.decode(encoding, errors="replace").removeprefix("\ufeff").encode(), encoding, None
    if data.startswith((b"\xff\xfe", b"\xfe\xff")):
        return data.decode("utf-16", errors="replace").encode(), "utf-16", None
    if b"\x00" in data[:_SAMPLE_BYTES]:
        raise UnreadableFile("this is not a text file", where=where, remedy="choose a file with a table in it")
    data = data.removeprefix(b"\xef\xbb\xbf")
    if data.isascii() and encoding in (None, "utf-8"):
        return data, "utf-8", None
    try:
        data.decode("utf-8")
    except UnicodeDecodeError:
        if encoding is not None:
            return data.decode("utf-8", errors="replace").encode(), "utf-8", None
        text = data.decode("cp1252", errors="replace")
        message = "The file does not say how its letters are written; it was read as Windows-1252."
        return text.encode(), "cp1252", Remark("encoding-guessed", "info", message, state="done")
    return data, "utf-8", None


def is_blank(data: bytes) -> bool:
    """Tell whether there is nothing but white space."""
    return not data[:_SAMPLE_BYTES].strip() and not data.strip()


def guess_separator(sample: str) -> str:
    """Return the separator that splits most lines of the sample into the same number of cells.

    >>> guess_separator("Branch;Visits\\nAlder Lane;1.204,5\\nMarket Square;12"), guess_separator("only\\nwords")
    (';', ',')
    """

    def score(separator: str) -> tuple[int, int]:
        widths = [len(row) for row in csv.reader(io.StringIO(sample), delimiter=separator)]
        wide = [width for width in widths if width > 1]
        if not wide:
            return (0, 0)
        usual = max(set(wide), key=wide.count)
        return (wide.count(usual), usual)

    return max(_SEPARATORS, key=score)


def read_delimited(data: bytes, where: str, reading: Reading | None = None) -> RawGrid:
    """Read delimited text; short rows are filled up, rows longer than the rest are kept whole."""
    reading = reading or Reading()
    data, encoding, remark = decode(data, where, reading.encoding)
    if is_blank(data):
        raise UnreadableFile("the file is empty", where=where, remedy="choose a file with rows in it")
    sample = data[:_SAMPLE_BYTES].decode("utf-8", errors="ignore")
    separator = reading.separator or guess_separator("\n".join(sample.splitlines()[:_SAMPLE_LINES]))
    width = max(map(len, islice(_rows_of(sample, separator, where), _SAMPLE_LINES)))
    check_width(width, where)
    if width * len(data) > MAX_CELLS:
        # Where the bytes leave room for too many cells, the rows are counted before any is made.
        check_size(data.count(b"\n") + 1, width, where)
    names = [f"c{index}" for index in range(width)]
    try:
        frame = pl.read_csv(
            io.BytesIO(data),
            has_header=False,
            separator=separator,
            schema=dict.fromkeys(names, pl.String),
            missing_columns="insert",
            infer_schema=False,
        )
        ragged: list[int] = []
    except pl.exceptions.PolarsError:
        frame, ragged = _read_row_by_row(data, separator, where)
    remarks = [remark] if remark else []
    if ragged:
        remarks.append(
            Remark(
                "ragged-rows",
                "warning",
                "Some rows have more cells than the others; all their cells were kept. Is a separator missing its "
                "quotes?",
                row=ragged[0],
                count=len(ragged),
            )
        )
    return RawGrid(frame, tuple(remarks), encoding=encoding, separator=separator)


def _rows_of(text: str, separator: str, where: str) -> Iterator[list[str]]:
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=separator)
    try:
        yield from reader
    except csv.Error as problem:
        raise UnreadableFile(
            f"the file cannot be split into cells ({problem})",
            where=f"{where}, line {reader.line_num}",
            remedy="save it as CSV again",
        ) from None


def _check_quotes(text: str, separator: str, where: str) -> None:
    """Refuse a file in which a quote is opened and never closed: the rest would be one cell."""
    start = 1
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=separator, strict=True)
    try:
        for _ in reader:
            start = reader.line_num + 1
    except csv.Error as problem:
        if "end of data" in str(problem):
            raise UnreadableFile(
                "a quote is opened and never closed",
                where=f"{where}, line {start}",
                remedy="close it or take it out",
            ) from None


def _read_row_by_row(data: bytes, separator: str, where: str) -> tuple[pl.DataFrame, list[int]]:
    """The slow, forgiving way, for files whose rows differ in length or whose quotes are odd."""
    text = data.decode("utf-8")
    _check_quotes(text, separator, where)
    rows = list(_rows_of(text, separator, where))
    width = max(map(len, rows))
    check_size(len(rows), width, where)
    lengths = [len(row) for row in rows if row]
    usual = max(set(lengths), key=lengths.count)
    ragged = [number for number, row in enumerate(rows, 1) if len(row) > usual]
    columns = {
        f"c{index}": [row[index] or None if index < len(row) else None for row in rows] for index in range(width)
    }
    return pl.DataFrame(columns, schema=dict.fromkeys(columns, pl.String)), ragged
