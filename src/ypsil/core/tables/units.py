"""What may stand around the digits of a number: currencies, percent, words for thousands and millions, units.

Signs and symbols of units are those of the SI (BIPM, The International System of Units, 9th edition 2019, tables 2
to 8) and of everyday use; codes of currencies are those of ISO 4217. Which of them people write behind numbers is
common practice, no source.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache

PERCENT = "%"
_CODES = (
    "GBP", "EUR", "USD", "CHF", "JPY", "CNY", "INR", "SEK", "NOK", "DKK", "ISK", "PLN", "CZK", "HUF", "RON", "BGN",
    "TRY", "AUD", "CAD", "NZD", "HKD", "SGD", "ZAR", "BRL", "MXN", "KRW", "ILS", "THB",
)  # fmt: skip
_SIGNS = ("$US", "$CA", "$AU", "£GB", "US$", "AU$", "A$", "CA$", "C$", "NZ$", "HK$", "S$", "R$", *"£$€¥₹₩₺₪฿₫₱₦₴₽")
_ABBREVIATIONS = ("kr", "zł", "Kč", "Ft", "Rs")
AMOUNTS_OF_MONEY = frozenset({*_CODES, *_SIGNS, *_ABBREVIATIONS})
_CURRENCY = "|".join(
    [*map(re.escape, _SIGNS), rf"\b(?:{'|'.join(_CODES)})\b", rf"\b(?:{'|'.join(_ABBREVIATIONS)})\b\.?"]
)
_PERCENT_WORDS = frozenset({"%", "percent", "per cent", "pct", "prozent", "procent", "por ciento", "pour cent"})
# Powers of ten. A single m or b means a million or a billion only beside a currency: m alone is metres.
_SCALES = {
    "k": 3, "thousand": 3, "tsd": 3, "tausend": 3,
    "M": 6, "mn": 6, "mln": 6, "mio": 6, "million": 6, "millions": 6, "millionen": 6,
    "bn": 9, "bln": 9, "mrd": 9, "billion": 9, "billions": 9, "milliarden": 9,
    "tn": 12, "trn": 12, "trillion": 12, "trillions": 12,
    "lakh": 5, "lakhs": 5, "crore": 7, "crores": 7,
}  # fmt: skip
_SCALES_OF_MONEY = {"m": 6, "b": 9, "B": 9, "t": 12, "T": 12, "cr": 7, "Cr": 7}
# Units by what they measure, each with its size in the first of them; within a line they can be turned into each other.
_DIMENSIONS: tuple[dict[str, float], ...] = (
    {"m": 1, "µm": 1e-6, "mm": 1e-3, "cm": 1e-2, "dm": 1e-1, "km": 1e3},
    {"in": 1, "ft": 12, "yd": 36, "mi": 63_360},
    {"g": 1, "µg": 1e-6, "mg": 1e-3, "kg": 1e3, "t": 1e6},
    {"lb": 1, "oz": 1 / 16},
    {"l": 1, "ml": 1e-3, "cl": 1e-2, "dl": 1e-1, "hl": 1e2, "m³": 1e3, "cm³": 1e-3},
    {"s": 1, "ms": 1e-3, "min": 60, "h": 3600},
    {"days": 1, "weeks": 7},
    {"months": 1, "years": 12},
    {"m²": 1, "cm²": 1e-4, "mm²": 1e-6, "ha": 1e4, "km²": 1e6},
    {"Wh": 1, "kWh": 1e3, "MWh": 1e6, "GWh": 1e9, "TWh": 1e12},
    {"W": 1, "kW": 1e3, "MW": 1e6, "GW": 1e9},
    {"J": 1, "kJ": 1e3, "MJ": 1e6},
    {"cal": 1, "kcal": 1e3},
    {"Hz": 1, "kHz": 1e3, "MHz": 1e6, "GHz": 1e9},
    {"kB": 1, "MB": 1e3, "GB": 1e6, "TB": 1e9},
    {"hPa": 1, "Pa": 1e-2, "kPa": 10, "mbar": 1, "bar": 1e3},
    {"V": 1, "mV": 1e-3, "kV": 1e3},
)
_ALONE = ("°C", "°F", "°", "km/h", "m/s", "mph", "mpg", "acres", "gal", "pt", "px", "dB", "ppm", "rpm", "pp")
_OTHER_SPELLINGS = {
    "km2": "km²", "sq km": "km²", "sqkm": "km²", "m2": "m²", "sqm": "m²", "sq m": "m²", "qm": "m²", "cm2": "cm²",
    "m3": "m³", "cm3": "cm³", "cc": "cm³", "L": "l", "litre": "l", "litres": "l", "liter": "l", "liters": "l",
    "mL": "ml", "centimetre": "cm", "centimetres": "cm", "centimeter": "cm", "centimeters": "cm", "millimetre": "mm",
    "millimetres": "mm", "millimeter": "mm", "millimeters": "mm", "kilogram": "kg", "kilograms": "kg", "metre": "m",
    "metres": "m", "meter": "m", "meters": "m", "kms": "km", "kilometres": "km", "kilometers": "km", "miles": "mi",
    "mile": "mi", "feet": "ft", "foot": "ft", "inches": "in", "inch": "in", "yards": "yd", "yard": "yd", "kgs": "kg",
    "kilos": "kg", "grams": "g", "gram": "g", "lbs": "lb", "pounds": "lb", "tonnes": "t", "tons": "t", "sec": "s",
    "secs": "s", "second": "s", "seconds": "s", "mins": "min", "minute": "min", "minutes": "min", "hr": "h",
    "hrs": "h", "hour": "h", "hours": "h", "day": "days", "week": "weeks", "wks": "weeks", "month": "months",
    "mths": "months", "year": "years", "yr": "years", "yrs": "years", "y": "years", "kph": "km/h", "kmh": "km/h",
    "KB": "kB", "acre": "acres", "deg": "°", "degrees": "°", "ºC": "°C", "µ": "µm", "ounces": "oz", "people": "people",
    "persons": "people", "person": "people",
}  # fmt: skip
_UNITS = {name: name for dimension in _DIMENSIONS for name in dimension} | {name: name for name in _ALONE}
_UNITS |= _OTHER_SPELLINGS
_HEAD = re.compile(rf"([+-])? ?(\()? ?([+-])? ?({_CURRENCY})? ?([+-])? ?(\()?")
_SCALE_WORD = re.compile(r"([^\W\d_]+)\.?(?![^\W\d_]) ?")
_TAIL = re.compile(rf"({_CURRENCY})? ?([^()+]*?) ?(\))? ?([+-])? ?(\))?")
_PLAIN_WORD = re.compile(r"[a-zà-öø-ÿ]{4,20}")


def unit_called(said: str) -> str:
    """Return the sign of a unit as it is usually written; what is not known stays as it was typed.

    >>> unit_called(" kilometres"), unit_called("per cent"), unit_called("£"), unit_called("beds")
    ('km', '%', '£', 'beds')
    """
    tidy = " ".join(said.split())
    if tidy.lower() in _PERCENT_WORDS:
        return PERCENT
    return _UNITS.get(tidy, _UNITS.get(tidy.lower(), tidy))


@dataclass(frozen=True, slots=True)
class Around:
    """What stands before or behind a number's digits: signs, brackets, its unit, the power of ten that it stands for.

    ``is_word`` marks a unit that is a word of no known meaning.
    """

    minus: bool = False
    signs: int = 0
    brackets: int = 0
    currency: str = ""
    unit: str = ""
    power: int = 0
    is_word: bool = False


@lru_cache(maxsize=4096)
def before_digits(text: str) -> Around | None:
    """Return what stands before a number's digits, or None where no number is written so.

    >>> before_digits("-£").currency, before_digits("(").brackets, before_digits("A")
    ('£', 1, None)
    """
    found = _HEAD.fullmatch(text.strip())
    if found is None:
        return None
    signs = [sign for sign in found.group(1, 3, 5) if sign]
    return Around("-" in signs, len(signs), sum(map(bool, found.group(2, 6))), _without_stop(found[4]))


@lru_cache(maxsize=4096)
def behind_digits(text: str, *, is_money: bool = False) -> Around | None:
    """Return what stands behind a number's digits, or None where no number is written so; ``is_money`` tells that a
    currency stands before them.

    >>> behind_digits(" km").unit, behind_digits("%)").unit, behind_digits(" bn €").power, behind_digits("‰").power
    ('km', '%', 9, -3)
    >>> behind_digits("m").unit, behind_digits("m", is_money=True).power, behind_digits("th")
    ('m', 6, None)
    """
    text = text.strip()
    word = _SCALE_WORD.match(text)
    is_money = is_money or re.search(_CURRENCY, text) is not None
    power = _power(word[1], is_money) if word else None
    found = _TAIL.fullmatch(text[word.end() :] if word and power else text)
    if found is None:
        return None
    unit, power = found[2].strip(), power or 0
    if unit.lower() in _PERCENT_WORDS or unit == "‰":
        unit, power = PERCENT, power - (3 if unit == "‰" else 2)
    is_word = bool(unit) and unit not in _UNITS and unit != PERCENT
    if is_word and not _PLAIN_WORD.fullmatch(unit):
        return None
    brackets = sum(map(bool, found.group(3, 5)))
    return Around(
        found[4] == "-", int(bool(found[4])), brackets, _without_stop(found[1]), _UNITS.get(unit, unit), power, is_word
    )


def _power(word: str, is_money: bool) -> int | None:
    """Return the power of ten that a word stands for; a small m, b or t does so only for money."""
    if is_money and word in _SCALES_OF_MONEY:
        return _SCALES_OF_MONEY[word]
    return _SCALES.get(word) or (_SCALES.get(word.lower()) if len(word) > 1 or word == "K" else None)


def _without_stop(currency: str | None) -> str:
    return (currency or "").rstrip(".")


def same_word(one: str) -> str:
    """Return a unit that is a word without the ending of its plural, so that "1 star" and "2 stars" go together.

    >>> same_word("stars"), same_word("star")
    ('star', 'star')
    """
    return one[:-1] if one.endswith("s") and len(one) > 4 else one


def known_unit(text: str) -> str | None:
    """Return the unit that a text is the sign, code or name of; None for any other.

    >>> known_unit("kilometres"), known_unit("£"), known_unit("EUR"), known_unit("paid")
    ('km', '£', 'EUR', None)
    """
    if text.lower() in _PERCENT_WORDS:
        return PERCENT
    return text if text in AMOUNTS_OF_MONEY else _UNITS.get(text)


def factor_between(unit: str, wanted: str) -> float | None:
    """Return by what amounts in one unit are multiplied to be in another; None where they measure different things.

    >>> factor_between("m", "cm"), factor_between("kg", "m"), factor_between("min", "h")
    (100.0, None, 0.016666666666666666)
    """
    for dimension in _DIMENSIONS:
        if unit in dimension and wanted in dimension:
            return dimension[unit] / dimension[wanted]
    return None
