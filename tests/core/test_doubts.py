"""What a reader of files notices about values that can hardly be, and what it no longer takes for a doubt."""

import datetime as dt

import pytest

from tests.factories import codes, csv_table, kinds

DAYS = [(dt.date(2025, 1, 1) + dt.timedelta(days=3 * place)).isoformat() for place in range(60)]


def table(names, rows):
    return csv_table(names + "\n" + "".join(",".join(map(str, row)) + "\n" for row in rows))


def remark(found, code):
    return next(one for one in found.remarks if one.code == code)


DATED = [(day, n) for n, day in enumerate(DAYS)]
AGES = [18 + 7 * place % 60 for place in range(40)]
NOTICED = {
    "a century off": ("Day,V", [*DATED, ("1925-03-01", 4)], "dates-out-of-range", 62),
    "in the future": ("Day,V", [*DATED, ("2099-03-01", 4)], "dates-out-of-range", 62),
    "years in the future": ("Year,V", [*((1980 + n % 40, n) for n in range(60)), (2190, 4)], "dates-out-of-range", 62),
    "before a birth": (
        "Born,Died", [*((f"{1900 + n}-01-01", f"{1970 + n}-05-01") for n in range(30)), ("1950-01-01", "1940-01-01")],
        "dates-turned-round", 32,
    ),
    "999": ("Age,Kind", [*((age, "a") for age in AGES), (999, "b")], "sentinel-values", 42),
    "-1": ("Age,Kind", [*((age, "a") for age in AGES), (-1, "b")], "sentinel-values", 42),
    "-99": ("Income,Kind", [*((age * 1_000.5, "a") for age in AGES), (-99, "b")], "sentinel-values", 42),
    "nines": ("Income,Kind", [*((age * 100, "a") for age in AGES), (9_999_999, "b")], "sentinel-values", 42),
    "identifier twice": ("Member ID,V", [*((1000 + n, n) for n in range(30)), (1004, 3)], "identifier-repeated", 6),
    "letters twice": ("Member ID,V", [*((f"M{n}", n) for n in range(30)), ("M4", 3)], "identifier-repeated", 6),
    "a total": (
        "Entity,Deaths", [(name, n) for n in range(1, 9) for name in ("Flood", "Fire", "Storm")]
        + [("All natural disasters", 108)], "total-among-values", 26,
    ),
    "a total beside a false number": (
        "Entity,Deaths", [(name, 9) for _ in range(8) for name in ("Flood", "Fire", "Storm")] + [("Fire", 9_999_999)]
        + [("All natural disasters", 27)] * 8, "total-among-values", 27,
    ),
    "codes of two groups": ("Sex,V", [(1 + n % 2, n) for n in range(20)], "coded-groups", None),
    "zero and one": ("Smokes,V", [(n % 2, n) for n in range(20)], "coded-groups", None),
    "running numbers": ("Case,V", [(10_000 + n, n % 7) for n in range(40)], "codes-as-numbers", None),
    "a ward": ("Ward,V", [(101 + n % 9, n) for n in range(40)], "codes-as-numbers", None),
    "epoch": ("created,V", [(1_700_000_000 + n * 86_400, n) for n in range(12)], "epoch-times", None),
    "epoch in thousandths": ("timestamp,V", [((1_700_000_000 + n) * 1_000, n) for n in range(12)], "epoch-times", None),
    "a lone point": ("A,V", [(n, n) for n in range(12)] + [(".", 4)], "missing-codes", 14),
    "days that cannot be": ("Day,V", [*DATED, ("2026-02-30", 4)], "mixed-kinds", 62),
}  # fmt: skip


@pytest.mark.parametrize("case", NOTICED)
def test_what_can_hardly_be_is_said_with_its_row(case):
    names, rows, code, row = NOTICED[case]
    found = remark(table(names, rows), code)
    assert found.row == row
    assert found.message[0].isupper() or found.message.startswith("“")


def test_a_column_with_a_few_impossible_dates_stays_one_of_dates():
    for day in ("1925-03-01", "2099-03-01", "2026-02-30"):
        assert kinds(table("Day,V", [*DATED, (day, 4)]))["Day"] == "date"


def test_epoch_times_are_moments():
    found = table("created,V", [(1_700_000_000 + n, n) for n in range(12)])
    # 1,700,000,000 s after 1 January 1970 (POSIX).
    assert found.frame["created"][0] == dt.datetime(2023, 11, 14, 22, 13, 20)


UNDOUBTED = {
    "changes": ("Change,V", [(n % 21 - 10, n) for n in range(60)] + [(-99, 4)]),
    "ages up to 99": ("Age,V", [(40 + n, n) for n in range(60)]),
    "old books": ("Printed,V", [(f"{1850 + 3 * n}-01-01", n) for n in range(50)]),
    "plans": ("Due,V", [(f"{2025 + n % 9}-04-01", n) for n in range(60)]),
    "branches called all": ("Branch,Visits", [(name, n) for n in range(9) for name in ("All Saints", "Quay", "Mill")]),
    "a large branch called all": (
        "Branch,Visits",
        [
            (name, n * (2 if name == "All Saints" else 1))
            for n in range(9)
            for name in ("All Saints", "Quay", "Mill", "Elm")
        ],
    ),
    "amounts": ("Visits,Cost", [(137 * n % 9_000 + 1_000, n) for n in range(60)]),
    "postcodes": ("District code,V", [(11 + n % 3, n) for n in range(40)]),
    "sides": ("Side,V", [(("upper", "lower", "left", "right")[n % 4], n) for n in range(40)]),
    "aircraft": ("Plane,V", [(("A-10A", "A-10A", "A-10A", "OA-10A")[n % 4], n) for n in range(40)]),
    "start and end": ("From,To", [(DAYS[n % 30], DAYS[n % 30 + n % 2]) for n in range(40)]),
}


@pytest.mark.parametrize("case", UNDOUBTED)
def test_what_may_well_be_is_not_doubted(case):
    found = set(codes(table(*UNDOUBTED[case])))
    assert not found & {
        "dates-out-of-range", "dates-turned-round", "sentinel-values", "total-among-values", "codes-as-numbers",
        "near-duplicate-values", "scale-order-unknown", "identifier-repeated",
    }  # fmt: skip


def test_the_same_number_with_another_sign_is_no_slip():
    rows = [("-308,000 or so",), ("308,000 or so",), ("other words",)] * 4
    assert "near-duplicate-values" not in codes(csv_table("A\n" + "".join(f'"{row[0]}"\n' for row in rows)))
