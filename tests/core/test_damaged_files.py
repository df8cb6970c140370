"""Files that are damaged, cut or salted with odd values, by chance: read, or refused in words, and nothing else.

More of them: ``FUZZ=5000 pytest tests/core/test_damaged_files.py``. Each is made from its number, so that a failure
can be made again.
"""

import datetime as dt
import io
import json
import os
import random
import zipfile

import openpyxl
import polars as pl
import pytest

from ypsil.core.errors import YpsilError
from ypsil.core.tables.read import read_table

EACH = int(os.environ.get("FUZZ", "240")) // 6
ROWS = b"Day,Branch,Kind,Visits,Note\n2024-01-01,Alder,Adult,120,good\n2024-02-01,Elm,Child,80,\n2024-03-01,Oak,A,7,x\n"
RECORDS = [{"Day": "2024-01-01", "V": 5, "in": {"a": 1}}, {"Day": "2024-01-02", "V": None, "in": {"a": [1, 2]}}]
ODD = (
    b"1e400", b"NaN", b"-inf", b"9" * 400, "²³१".encode(), b"\xed\xa0\x80", b"0000-00-00", b"99999-12-31", b'"',
    b"\x00", b"\r", b"=1+1", "\u202e".encode(), b"1e-400", b"{", b"[[[[" * 50, b"31/02/2024",
    b"24:61:61", b"12:00", b"-0",
)  # fmt: skip


def workbook():
    book, kept = openpyxl.Workbook(), io.BytesIO()
    for row in (["Day", "Branch", "Visits"], [dt.date(2024, 1, 1), "Alder", 5], [dt.date(2024, 2, 1), "Elm", 7.5]):
        book.active.append(row)
    book.save(kept)
    return kept.getvalue()


def columns():
    kept, day = io.BytesIO(), dt.datetime(2024, 1, 1, 3)
    pl.DataFrame({"V": [1.5, None], "L": [["a"], ["b", "c"]], "T": [day, None]}).write_parquet(kept)
    return kept.getvalue()


def archive():
    kept = io.BytesIO()
    with zipfile.ZipFile(kept, "w") as made:
        for name in ("a.csv", "b.csv"):
            made.writestr(name, ROWS)
    return kept.getvalue()


WHOLE = {
    "csv": ROWS * 4, "xlsx": workbook(), "parquet": columns(), "json": json.dumps(RECORDS).encode(),
    "jsonl": b"\n".join(json.dumps(one).encode() for one in RECORDS), "zip": archive(),
}  # fmt: skip


def damaged(data, chance):
    found = bytearray(data)
    for _ in range(chance.choice([1, 1, 2, 5, 20])):
        place, what = chance.randrange(len(found) or 1), chance.random()
        if what < 0.35 and found:
            found[place] = chance.randrange(256)
        elif what < 0.6:
            found[place:place] = chance.choice(ODD)
        elif what < 0.8:
            del found[place : place + chance.choice([1, 3, 10, 60])]
        else:
            found[place:place] = found[place : place + chance.randrange(40)]
    return bytes(found)


@pytest.mark.parametrize("kind", WHOLE)
def test_a_damaged_file_is_read_or_refused_in_words(kind):
    read = 0
    for number in range(EACH):
        data = damaged(WHOLE[kind], random.Random(f"{kind} {number}"))
        try:
            table = read_table(data, f"rows.{kind}")
        except YpsilError as refused:
            assert refused.what and refused.remedy, f"{kind} {number}"

        except BaseException as problem:
            pytest.fail(f"{kind} {number}: {type(problem).__name__}: {problem}")
        else:
            assert table.frame.columns == [column.name for column in table.columns], f"{kind} {number}"
            read += 1


@pytest.mark.parametrize("kind", WHOLE)
def test_a_whole_one_is_read(kind):
    assert read_table(WHOLE[kind], f"rows.{kind}").rows >= 2


def test_an_archive_whose_places_lie_is_refused():
    data = bytearray(archive())
    end = data.rindex(b"PK\x05\x06")
    # The offset of the directory, one byte more than there are.
    data[end + 16 : end + 20] = (len(data) + 1).to_bytes(4, "little")
    with pytest.raises(YpsilError, match="broken"):
        read_table(bytes(data), "rows.zip")
