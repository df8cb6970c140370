"""What each remark is about, in plain words: for lists of what was undone or left."""

TITLES = {
    "encoding-guessed": "How letters are written",
    "header-not-first": "Rows above the column names",
    "header-two-rows": "Names in two rows",
    "merged-cells-filled": "Merged cells",
    "blank-rows-dropped": "Empty rows",
    "total-row": "Rows that add up others",
    "footnote-rows": "Notes under the table",
    "numbers-as-text": "Numbers stored as text",
    "decimal-comma": "Decimal comma",
    "decimal-mark-ambiguous": "Decimals or thousands",
    "units-read": "Units behind numbers",
    "mixed-units": "Amounts in several units",
    "percent-text": "Percentages",
    "currency": "Amounts of money",
    "mixed-kinds": "Values that do not fit",
    "date-order-ambiguous": "Day or month first",
    "date-order-inferred": "Day or month first",
    "missing-codes": "Signs for missing values",
    "near-duplicate-values": "Spellings of one thing",
    "duplicate-rows": "Rows that stand twice",
    "duplicate-column-names": "Columns of one name",
    "century-doubtful": "Which century",
    "months-as-columns": "Periods as columns",
    "identifier-column": "Numbers that name things",
    "ragged-rows": "Rows of different length",
    "several-answers": "Several answers in a cell",
    "scale-order-unknown": "Answers whose order is not known",
    "no-header": "No column names",
    "periods-read": "Years, quarters, months or weeks",
    "serial-dates": "Day numbers of a spreadsheet",
    "epoch-times": "Seconds counted from 1970",
    "sentinel-values": "Numbers that stand for no answer",
    "coded-groups": "Codes for groups",
    "codes-as-numbers": "Numbers that may name things",
    "identifier-repeated": "Identifiers that stand twice",
    "dates-out-of-range": "Dates that can hardly be",
    "dates-turned-round": "Dates in the wrong order",
    "total-among-values": "A total among the groups",
    "files-differ": "Files that differ",
    "question-above": "The question above the answers",
    "answers-read": "Text read as answers",
    "one-column": "One column only",
}


def title_of(key: str) -> str:
    """Return a remark's title from its key, with the column it speaks of.

    >>> title_of("currency/Cost"), title_of("total-row")
    ('Amounts of money in Cost', 'Rows that add up others')
    """
    code, _, column = key.partition("/")
    title = TITLES.get(code, code)
    return f"{title} in {column}" if column else title
