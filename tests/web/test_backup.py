"""A backup is made while people write, and gives the same data in another folder."""

import os
import sqlite3
import subprocess
import sys
import zipfile
from contextlib import closing
from pathlib import Path

import pytest

from ypsil.core.errors import YpsilError
from ypsil.web.backup import back_up, restore

YPSIL = str(Path(sys.executable).with_name("ypsil"))


@pytest.fixture
def home(tmp_path):
    folder = tmp_path / "home"
    folder.mkdir()
    with closing(sqlite3.connect(folder / "ypsil.sqlite3")) as database:
        database.executescript(
            "PRAGMA journal_mode=WAL; CREATE TABLE kept (word TEXT); INSERT INTO kept VALUES ('alder')"
        )
    (folder / "secret_key").write_text("a key")
    return folder


def words(home):
    with closing(sqlite3.connect(home / "ypsil.sqlite3")) as database:
        return [word for (word,) in database.execute("SELECT word FROM kept")]


def test_what_is_backed_up_while_somebody_writes_comes_back_in_another_folder(home, tmp_path):
    target, other = tmp_path / "ypsil.backup", tmp_path / "other"
    other.mkdir()
    with closing(sqlite3.connect(home / "ypsil.sqlite3", isolation_level=None)) as writer:
        writer.execute("BEGIN IMMEDIATE")
        writer.execute("INSERT INTO kept VALUES ('half done')")
        back_up(home, target)
        writer.execute("COMMIT")
    restore(target, other)
    assert words(other) == ["alder"] and (other / "secret_key").read_text() == "a key"
    assert target.stat().st_mode & 0o777 == 0o600 and (other / "ypsil.sqlite3").stat().st_mode & 0o777 == 0o600
    assert sorted(path.name for path in tmp_path.iterdir()) == ["home", "other", "ypsil.backup"], "nothing is left over"
    with pytest.raises(YpsilError, match="has data already"):
        restore(target, other)


def test_what_is_no_whole_backup_is_refused_and_nothing_is_written(home, tmp_path):
    target, other = tmp_path / "ypsil.backup", tmp_path / "other"
    other.mkdir()
    back_up(home, target)
    whole = target.read_bytes()
    target.write_bytes(whole[: len(whole) // 2])
    with pytest.raises(YpsilError, match="not a backup"):
        restore(target, other)
    with zipfile.ZipFile(target, "w") as archive:
        archive.writestr("backup.json", '{"form": 1}')
        archive.writestr("ypsil.sqlite3", b"SQLite format 3\x00" + b"x" * 5000)
    with pytest.raises(YpsilError, match="damaged"):
        restore(target, other)
    assert list(other.iterdir()) == []
    with pytest.raises(YpsilError, match="no data"):
        back_up(other, target)


def test_both_are_commands(home, tmp_path):
    def run(folder, *words):
        surroundings = os.environ | {"YPSIL_HOME": str(folder)}
        return subprocess.run([YPSIL, *words], env=surroundings, capture_output=True, text=True)

    assert run(home, "backup", str(tmp_path / "kept")).returncode == 0
    assert run(tmp_path / "new", "restore", str(tmp_path / "kept")).returncode == 0
    assert words(tmp_path / "new") == ["alder"]
    again = run(tmp_path / "new", "restore", str(tmp_path / "kept"))
    assert again.returncode == 1 and "has data already" in again.stderr and "Traceback" not in again.stderr
