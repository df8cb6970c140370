"""Which numbers of a table are amounts, and what is done with them: added up, averaged, or neither.

The rules are common practice, no source: a total of temperatures, ages or rates means nothing, nor does any calculation
with numbers that name things, count rows, or say when or where.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ypsil.core.questions import Measure
from ypsil.core.tables.model import Column
from ypsil.core.tables.profile import Profile
from ypsil.core.tables.shown_names import in_words
from ypsil.core.tables.units import AMOUNTS_OF_MONEY

# What is measured of a thing or at a moment has a mean, and no total.
_MEASURED = frozenset({
    "acceleration", "age", "ages", "altitude", "average", "avg", "bmi", "density", "depth", "displacement",
    "duration", "elevation", "error", "expect", "expectancy", "gallon", "gpa", "height", "heights", "high", "highest",
    "horsepower", "humidity", "income", "index", "length", "level", "low", "lowest", "mass", "max",
    "maximum", "mean", "median", "min", "minimum", "mpg", "pct", "per", "percent", "percentage",
    "ph", "pressure", "price", "prices", "rate", "rates", "rating", "ratings", "ratio", "score", "scores", "share",
    "size", "speed", "temp", "temperature", "temperatures", "velocity", "weight", "width", "wind", "yield",
})  # fmt: skip
# What has no meaning without the unit that it is measured in; of money, the currency.
_NEED_UNIT = frozenset({
    "acceleration", "altitude", "area", "budget", "consumption", "cost", "costs", "depth", "distance", "donations",
    "duration", "earnings", "elevation", "emission", "emissions", "energy", "expenses", "fare", "fee", "fees", "gross",
    "height", "heights", "income", "length", "mass", "power", "precipitation", "pressure", "price", "prices", "profit",
    "rain", "rainfall", "revenue", "salary", "sales", "snow", "snowfall", "speed", "spend", "spending", "temp",
    "temperature", "temperatures", "turnover", "velocity", "volume", "wage", "wages", "wait", "waiting", "weight",
    "width", "wind", "yield", "yields",
})  # fmt: skip
# What is added up even where few different values come again and again, in the languages that tables often come in.
ADDED = frozenset({
    "amount", "attendance", "births", "bookings", "budget", "cases", "cost", "costs", "count", "customers", "deaths",
    "donations", "expenses", "gross", "issues", "items", "loans", "number", "orders", "participants", "passengers",
    "people", "precipitation", "production", "profit", "pupils", "quantity", "rain", "rainfall", "revenue", "sales",
    "snowfall", "spend", "spending", "tickets", "turnover", "units", "users", "visitors", "visits", "votes",
    "anzahl", "ausgaben", "ausleihen", "besuche", "besucher", "betrag", "einnahmen", "kosten", "menge", "umsatz",
    "verkäufe", "coût", "coûts", "montant", "nombre", "quantité", "recettes", "ventes", "visites", "cantidad", "coste",
    "costes", "importe", "ingresos", "ventas", "visitas", "costo", "quantità", "vendite", "visite", "aantal",
    "bezoeken", "omzet", "quantidade", "vendas",
})  # fmt: skip
# What there is at a moment is added up among places, and never over time.
_STOCKS = frozenset({
    "balance", "employees", "employment", "enrolment", "inventory", "members", "membership", "pop", "population",
    "staff", "stock", "subscribers", "workforce",
})  # fmt: skip
_UNITS_OF_THINGS = frozenset({"%", "°C", "°F", "°", "km/h", "m/s", "mph", "mpg", "cm", "mm", "hPa", "dB", "ppm", "rpm"})
_SCALE_VALUES = 11
# Counts begin low and go far: whole numbers that all lie close together are measured.
_RANGE_OF_COUNTS = 8
# Places on the earth, alone or as the last word of a name.
_ON_EARTH = frozenset({"latitude", "longitude", "lat", "lon", "lng", "easting", "northing"})
# Places in the calendar, as a whole name.
_IN_CALENDAR = frozenset({"quarter", "month", "week", "weekday", "day", "hour"})
_SAYS_YEAR = frozenset(
    {"year", "yr", "born", "birth", "founded", "built", "opened", "established", "released", "since"}
)
_FIRST_YEAR, _LAST_YEAR = 1000, 2200
_ORDERS = frozenset({"rank", "ranking", "position", "serial"})
# What names things in numbers, where reading the table has not told (or somebody undid it).
_NAMES_THINGS = frozenset({"id", "code", "key", "fips", "zip", "postcode", "phone", "isbn"})
_FEWEST_COUNTED = 5


@dataclass(frozen=True, slots=True)
class Amount:
    """A number column with what is measured of it, or nothing where nothing can be; ``why`` is said to its author."""

    column: Column
    measure: Measure | None
    why: str


def amounts(profile: Profile) -> list[Amount]:
    """Return the number columns of a table with what is done with each, in the order of the table."""
    return [amount_of(column, profile) for column in profile.of("number")]


def amounts_of(profile: Profile) -> list[Column]:
    """Return the number columns that are added up or averaged."""
    return [found.column for found in amounts(profile) if found.measure is not None]


def natural_measure(column: Column, profile: Profile) -> Measure:
    """Amounts are added up; ratings and other short scales, shares, and what is measured of things (a temperature, an
    age, a length) are averaged. So is what nothing says to be an amount: a mean is true of any numbers, a total is not
    (common practice, no source)."""
    return Measure(stat="mean" if _averaged(column, profile) else "sum", column=column.name)


def lacks_unit(column: Column) -> bool:
    """Tell whether readers of a number cannot know in what it is measured: its name says that it is a length, a weight,
    a time, money or the like, and nothing says in which unit.

    >>> from ypsil.core.tables.model import Column
    >>> said = {"kind": "number", "missing": 0, "distinct": 9}
    >>> lacks_unit(Column("Height", unit=None, **said)), lacks_unit(Column("Height", unit="cm", **said))
    (True, False)
    >>> lacks_unit(Column("Visits", unit=None, **said)), lacks_unit(Column("Rating", unit=None, **said))
    (False, False)
    """
    return column.kind == "number" and not column.unit and bool(set(_words(column)) & _NEED_UNIT)


def amount_of(column: Column, profile: Profile) -> Amount:
    """Return what is done with a number column."""
    no = _never(column, profile)
    if no:
        return Amount(column, None, no)
    why = _averaged(column, profile) or "an amount, which is added up"
    return Amount(column, natural_measure(column, profile), why)


def _averaged(column: Column, profile: Profile) -> str:
    """Return why a column is averaged; nothing where it is added up."""
    words = set(_words(column))
    said = words & _MEASURED
    if said:
        return f"measured of things or moments (“{min(said)}”), so it is averaged and never added up"
    if column.unit in _UNITS_OF_THINGS:
        return f"measured in {column.unit}, so it is averaged and never added up"
    if words & _STOCKS and profile.has("date"):
        return "there at a moment, so it is averaged over time and never added up"
    if words & (ADDED | _STOCKS) or column.unit in AMOUNTS_OF_MONEY:
        return ""
    if column.distinct <= _SCALE_VALUES and profile.rows >= 4 * column.distinct:
        return f"{column.distinct} values that come again and again, as on a scale, so it is averaged"
    return "" if _looks_counted(column, profile) else "nothing says that it may be added up, so it is averaged"


def _looks_counted(column: Column, profile: Profile) -> bool:
    """Tell whether whole numbers of times or groups look like counts."""
    ends = profile.ends.get(column.name)
    if (
        not ends
        or not profile.looks_whole(column.name)
        or not profile.has("date", "category", "place", "list", "yesno")
    ):
        return False
    low, high = float(ends[0]), float(ends[1])
    return low >= 0 and high >= _RANGE_OF_COUNTS * max(low, 1)


def _never(column: Column, profile: Profile) -> str:
    """Return why nothing is calculated from a column; nothing where something is."""
    words = _words(column)
    ends = profile.ends.get(column.name)
    if not ends:
        return "it has no values"
    low, high = float(ends[0]), float(ends[1])
    why = next((why for is_so, why in _reasons(words, low, high) if is_so), "")
    # What is called an amount is one, even where its values happen to follow each other.
    return why if why or set(words) & ADDED else _counted(column, profile, low, high)


def _reasons(words: list[str], low: float, high: float) -> Iterator[tuple[bool, str]]:
    """Yield what the words of a name may say against an amount, with the reason."""
    yield words[-1] in _ON_EARTH or words[0] in _ON_EARTH, "a place on the earth, no amount"
    yield len(words) == 1 and words[0] in _IN_CALENDAR, "a place in the calendar, no amount"
    yield bool(set(words) & _SAYS_YEAR) and low >= _FIRST_YEAR and high <= _LAST_YEAR, "years, which are no amounts"
    yield len(words) > 1 and words[-1] in _NAMES_THINGS, "numbers that name things"
    yield words[-1] in _ORDERS or words[0] in _ORDERS, "places in an order, no amounts"


def _counted(column: Column, profile: Profile, low: float, high: float) -> str:
    """Return what the values of a column say against an amount."""
    present = profile.rows - column.missing
    if present < _FEWEST_COUNTED:
        return ""
    if column.distinct == present and high - low + 1 == present and low in (0.0, 1.0):
        return "numbers that count the rows"
    return "the same in every row" if column.distinct == 1 else ""


def _words(column: Column) -> list[str]:
    return in_words(column.name).lower().split() or [""]
