"""What a number says: figures with their signs and scales, number words, fractions, units."""

from __future__ import annotations

import re
from dataclasses import dataclass

UNITS = {
    "zero": 0, "nought": 0, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8,
    "nine": 9, "ten": 10, "eleven": 11, "twelve": 12, "thirteen": 13, "fourteen": 14, "fifteen": 15, "sixteen": 16,
    "seventeen": 17, "eighteen": 18, "nineteen": 19,
}  # fmt: skip
TENS = {
    "twenty": 20, "thirty": 30, "forty": 40, "fifty": 50, "sixty": 60, "seventy": 70, "eighty": 80, "ninety": 90,
    "threescore": 60, "fourscore": 80,
}  # fmt: skip
SCALES = {
    "hundred": 1e2, "thousand": 1e3, "million": 1e6, "millions": 1e6, "billion": 1e9, "billions": 1e9,
    "trillion": 1e12, "dozen": 12.0, "score": 20.0,
}  # fmt: skip
SHORT_SCALES = {"k": 1e3, "m": 1e6, "mn": 1e6, "mio": 1e6, "bn": 1e9, "b": 1e9, "tn": 1e12}
PARTS = {
    "half": 2, "halves": 2, "third": 3, "quarter": 4, "fourth": 4, "fifth": 5, "sixth": 6, "seventh": 7, "eighth": 8,
    "ninth": 9, "tenth": 10, "twelfth": 12, "twentieth": 20, "hundredth": 100, "thousandth": 1000,
}  # fmt: skip
PARTS |= {f"{name}s": part for name, part in list(PARTS.items()) if name not in ("half", "halves")}
GLYPHS = {
    "½": 1 / 2,
    "⅓": 1 / 3,
    "⅔": 2 / 3,
    "¼": 1 / 4,
    "¾": 3 / 4,
    "⅕": 1 / 5,
    "⅖": 2 / 5,
    "⅗": 3 / 5,
    "⅘": 4 / 5,
    "⅛": 1 / 8,
    "⅜": 3 / 8,
    "⅝": 5 / 8,
    "⅞": 7 / 8,
}
MONEY = {"£": "£", "$": "$", "€": "€", "¥": "¥", "₹": "₹", "gbp": "£", "usd": "$", "eur": "€", "chf": "CHF", "us$": "$"}
MONEY_WORDS = {
    "pound": "£",
    "pounds": "£",
    "euro": "€",
    "euros": "€",
    "dollar": "$",
    "dollars": "$",
    "pence": "p",
    "cents": "¢",
}
# Units as they are written after a number, and as they are called here.
MEASURES = {
    "%": "%", "‰": "‰", "percent": "%", "pct": "%", "pp": "percentage points", "pts": "points", "points": "points",
    "s": "s", "sec": "s", "secs": "s", "second": "s", "seconds": "s", "min": "min", "mins": "min", "minute": "min",
    "minutes": "min", "h": "h", "hr": "h", "hrs": "h", "hour": "h", "hours": "h", "day": "days", "days": "days",
    "week": "weeks", "weeks": "weeks", "month": "months", "months": "months", "year": "years", "years": "years",
    "decade": "decades", "decades": "decades", "mm": "mm", "cm": "cm", "m": "m", "metre": "m", "metres": "m",
    "meter": "m", "meters": "m", "km": "km", "kilometre": "km", "kilometres": "km", "kilometers": "km", "mile": "miles",
    "miles": "miles", "ft": "ft", "feet": "ft", "foot": "ft", "inch": "in", "inches": "in", "yard": "yards",
    "yards": "yards", "cubit": "cubits", "cubits": "cubits", "g": "g", "gram": "g", "grams": "g", "kg": "kg",
    "kilo": "kg", "kilos": "kg", "kilogram": "kg", "kilograms": "kg", "tonne": "t", "tonnes": "t", "tons": "tons",
    "ton": "tons", "t": "t", "lb": "lb", "lbs": "lb", "oz": "oz", "ounces": "oz", "l": "l", "litre": "l", "litres": "l",
    "liter": "l", "liters": "l", "ml": "ml", "°c": "°C", "°f": "°F", "°": "°", "degrees": "°", "degree": "°",
    "mph": "mph", "km/h": "km/h", "kph": "km/h", "kwh": "kWh", "mwh": "MWh", "gwh": "GWh", "kw": "kW", "mw": "MW",
    "gw": "GW", "w": "W", "watts": "W", "ha": "ha", "hectares": "ha", "hectare": "ha", "acres": "acres",
    "acre": "acres", "mb": "MB", "gb": "GB", "tb": "TB", "kb": "kB", "hz": "Hz", "khz": "kHz", "p": "p",
    "times": "times", "x": "times", "×": "times", "fold": "times", "sqm": "m²", "m²": "m²", "km²": "km²", "db": "dB",
    "ppm": "ppm", "kcal": "kcal", "calories": "kcal",
}  # fmt: skip
_SPACES = r"[   ]"
FIGURES = re.compile(
    rf"\d{{1,3}}(?:{_SPACES}\d{{3}})+(?:[.,]\d+)?(?!\d)|\d{{1,3}}(?:['’]\d{{3}})+(?:[.,]\d+)?|"
    r"\d{1,3}(?: \d{3})+(?:[.,]\d+)?(?![\d])|\d{1,3}(?:,\d{3})+(?:\.\d+)?(?!\d)|\d{1,3}(?:\.\d{3})+,\d+|"
    r"\d{1,3}(?:\.\d{3}){2,}(?!\d)|\d+[.,]\d+|\d+|(?<![\w.,])[.]\d+"
)
# A word, also one with an apostrophe.
WORD = re.compile(r"[A-Za-z]+(?:['’][a-z]+)?")
_BETWEEN_WORDS = re.compile(r"[ \t   -]{1,2}|,? (?=and )|\n(?=\S)")
_MOST_WORDS = 12
_DEAD = re.compile(r"[\s   '’]")


def word_set(said: str) -> frozenset[str]:
    """Return the words of a text."""
    return frozenset(WORD.findall(said))


def figures_value(text: str, decimal_comma: bool) -> float:
    """Return what figures say; where a mark can be either, it is as usual in the language.

    >>> figures_value("1,204.5", False), figures_value("1.204,5", True), figures_value("1,5", False)
    (1204.5, 1204.5, 1.5)
    >>> figures_value("1.204", False), figures_value("1.204", True), figures_value("12 500", False)
    (1.204, 1204.0, 12500.0)
    """
    plain = _DEAD.sub("", text)
    dots, commas = plain.count("."), plain.count(",")
    if dots and commas:
        decimal = max(plain.rfind("."), plain.rfind(","))
        whole = plain[:decimal].replace(".", "").replace(",", "")
        return float(f"{whole}.{plain[decimal + 1 :]}")
    if dots > 1 or commas > 1:
        return float(plain.replace(".", "").replace(",", ""))
    if commas:
        is_thousands = re.fullmatch(r"[1-9]\d{0,2},\d{3}", plain) is not None and not decimal_comma
        return float(plain.replace(",", "" if is_thousands else "."))
    if dots and decimal_comma and re.fullmatch(r"[1-9]\d{0,2}\.\d{3}", plain):
        return float(plain.replace(".", ""))
    return float(plain)


@dataclass(frozen=True, slots=True)
class Said:
    """A number in words: its value and how many of the words it takes."""

    value: float
    count: int


def words_value(words: list[str]) -> Said | None:
    """Return the number that some words begin with; None where they begin with none.

    >>> words_value(["three", "hundred", "and", "sixty", "five", "days"])
    Said(value=365.0, count=5)
    >>> words_value(["nine", "hundred", "sixty", "and", "nine", "years"]), words_value(["a", "dozen", "eggs"])
    (Said(value=969.0, count=5), Said(value=12.0, count=2))
    >>> words_value(["four", "score", "and", "seven"]).value, words_value(["two", "and", "a", "half"]).value
    (87.0, 2.5)
    """
    sum_of = _Sum()
    at = used = 0
    while at < len(words):
        word, following = words[at], words[at + 1] if at + 1 < len(words) else ""
        if word == "and" and used:
            if words[at + 1 : at + 3] == ["a", "half"]:
                return Said(sum_of.value + 0.5 * _last_scale(words[:used]), at + 3)
            if not sum_of.goes_on_with(following):
                break
        elif word in ("a", "an") and not used and following in SCALES:
            sum_of.current = 1.0
        elif sum_of.takes(word, is_first=not used):
            used = at + 1
        else:
            break
        at += 1
    return Said(sum_of.value, used) if used else None


@dataclass(slots=True)
class _Sum:
    """A number in words on the way: whole thousands and millions, and what is being said below them."""

    total: float = 0.0
    current: float = 0.0
    # Whether scores were said last: threescore and fifteen.
    is_score: bool = False

    @property
    def value(self) -> float:
        return self.total + self.current

    def goes_on_with(self, word: str) -> bool:
        """Tell whether “and” goes on with a number: “two and three” are two, only what is smaller is added."""
        value = UNITS.get(word, TENS.get(word))
        if value is None:
            return False
        is_after_tens = self.current >= 20 and self.current % 10 == 0 and self.current > value
        return self.current >= 100 or (not self.current and self.total > 0) or is_after_tens

    def takes(self, word: str, *, is_first: bool) -> bool:
        """Add a word, and tell whether it can be added."""
        below = self.current % 100
        if word in UNITS:
            most = 20 if self.is_score else 10
            is_free = is_first or not below or (below % 10 == 0 and below >= 20 and UNITS[word] < most)
            self.current += UNITS[word] if is_free else 0
            return is_free
        if word in TENS:
            self.current += 0 if below else TENS[word]
            self.is_score = word.endswith("score")
            return not below
        if word not in SCALES or (is_first and not self.current):
            return False
        self._scale(SCALES[word])
        return True

    def _scale(self, scale: float) -> None:
        if scale < 1_000:
            self.current = (self.current or 1) * scale
        else:
            self.total += (self.current or 1) * scale
            self.current = 0.0


def _last_scale(words: list[str]) -> float:
    return next((SCALES[word] for word in reversed(words) if word in SCALES), 1.0)


def word_matches(text: str, start: int) -> list[re.Match[str]]:
    """Return the words from a place on that nothing but spaces and hyphens parts, a dozen at most."""
    found: list[re.Match[str]] = []
    at = start
    while len(found) < _MOST_WORDS and (match := WORD.match(text, at)):
        found.append(match)
        gap = _BETWEEN_WORDS.match(text, match.end())
        if gap is None:
            break
        at = gap.end()
    return found
