"""The three fuzzers of the tests, at length: about ten minutes in all."""

from __future__ import annotations

import os
import subprocess
import sys
import time

MANY = {
    "tests/core/test_damaged_files.py": 3_000,
    "tests/core/test_odd_questions.py": 20_000,
    "tests/web/test_odd_requests.py": 5_000,
}


def by_chance() -> None:
    """Say for each fuzzer how many it tried, how long that took, and whether anything but a refusal in words came."""
    for file, many in MANY.items():
        began = time.perf_counter()
        asked = [sys.executable, "-m", "pytest", "-q", "--no-header", "-p", "no:warnings", file]
        found = subprocess.run(asked, env=os.environ | {"FUZZ": str(many)}, capture_output=True, text=True)
        said = "nothing but refusals" if found.returncode == 0 else "FAULTS:\n" + found.stdout[-3_000:]
        print(f"{file}: {many:,} by chance in {time.perf_counter() - began:.0f} s, {said}", flush=True)
