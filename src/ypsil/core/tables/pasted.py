"""What people paste: cells, or answers a line or a paragraph; and whether a first line is the question above them.

Common practice, no source: cells have the same number of separators in every line, answers have not; a question is
short, and ends with a question mark or stands above texts that are much longer.
"""

from __future__ import annotations

import csv
import io
import re
import statistics
from collections import Counter
from collections.abc import Sequence
from typing import Literal

Pasted = Literal["cells", "line", "paragraph"]
_LOOKED_AT = 500
_EVEN = 0.9
_LONG_CELL = 60
_HEADING_LETTERS, _TIMES_AS_LONG = 60, 2.0
_VALUE = re.compile(r"^[\W_]*[\d.,:/\-\s%£€$¥]+[\W_]*$")


def what_is_pasted(text: str) -> Pasted:
    """Return what a pasted text is.

    >>> what_is_pasted("Branch\\tVisits\\nAlder\\t3\\nElm\\t4"), what_is_pasted("Branch;Visits\\nAlder;3\\nElm;4")
    ('cells', 'cells')
    >>> what_is_pasted("Long hours, and kind staff\\nNothing\\nWarm, dry, free")
    'line'
    >>> what_is_pasted("One\\nanswer\\n\\nAnother")
    'paragraph'
    >>> what_is_pasted("Visits\\n12\\n7\\n31")
    'cells'
    """
    text = text.strip("\r\n").replace("\r\n", "\n").replace("\r", "\n")
    lines = [line for line in text.split("\n")[:_LOOKED_AT] if line.strip()]
    if any(_is_even(lines, separator) for separator in "\t;|,"):
        return "cells"
    if sum(bool(_VALUE.match(line)) for line in lines) > len(lines) / 2:
        return "cells"
    blocks = [block for block in re.split(r"\n\s*\n", text) if block.strip()]
    has_longer = any("\n" in block.strip() for block in blocks)
    return "paragraph" if len(blocks) > 1 and has_longer else "line"


def _is_even(lines: Sequence[str], separator: str) -> bool:
    """Tell whether nearly all lines have as many cells, two or more, none of them long."""
    if len(lines) < 2 or sum(separator in line for line in lines) < _EVEN * len(lines):
        return False
    rows = list(csv.reader(io.StringIO("\n".join(lines), newline=""), delimiter=separator))
    width, often = Counter(map(len, rows)).most_common(1)[0]
    if width < 2 or often < _EVEN * len(rows):
        return False
    # Sentences can have as many commas; a tab stands in cells alone.
    cells = [cell.strip() for row in rows for cell in row]
    is_short = statistics.median(map(len, cells)) <= _LONG_CELL / 2
    return separator == "\t" or (is_short and not _are_sentences(lines))


def _are_sentences(lines: Sequence[str]) -> bool:
    return sum(line.rstrip().endswith((".", "!", "?", "…")) for line in lines) > len(lines) / 2


def has_heading(answers: Sequence[str]) -> bool:
    """Tell whether the first of some texts is what the others answer.

    >>> has_heading(["What could be better?", "Longer hours", "More books"])
    True
    >>> has_heading(["Longer hours", "More books", "Warm rooms"])
    False
    >>> has_heading(["Comment", "I would like the branch to open earlier.", "The staff are very kind to my children."])
    True
    """
    if len(answers) < 3 or len(answers[0]) > 3 * _HEADING_LETTERS or "\n" in answers[0]:
        return False
    first, others = answers[0].strip(), answers[1:]
    asks = sum(one.rstrip().endswith("?") for one in others) / len(others)
    if first.endswith("?"):
        return asks < 1 - _EVEN
    usual = statistics.median(map(len, others))
    is_name = len(first) <= _HEADING_LETTERS / 2 and not first.endswith((".", "!", "…", ","))
    return is_name and len(first.split()) <= 4 and usual >= _TIMES_AS_LONG * max(len(first), _HEADING_LETTERS / 4)
