"""Figures that are no numbers: dates and times, versions, addresses, telephone numbers, numbers of sections and of
things. The rules are common practice, no source."""

from __future__ import annotations

import re
from collections.abc import Iterator

from ypsil.core.numbers.counted import NOT_COUNTED
from ypsil.core.numbers.model import Aside

MONTHS = (
    "january", "february", "march", "april", "may", "june", "july", "august", "september", "october", "november",
    "december",
)  # fmt: skip
_SHORT = ("jan", "feb", "mar", "apr", "jun", "jul", "aug", "sept", "sep", "oct", "nov", "dec")
MONTH = "|".join((*MONTHS, *_SHORT)) + r")\.?(?![a-z]"
_DAY = r"(?:0?[1-9]|[12]\d|3[01])(?:st|nd|rd|th)?"
_YEAR = r"(?:1\d{3}|20\d\d|21\d\d)"
# What names a thing by its number, however it is written: "Section 3.2", "page 12", "type 2", "Room 204".
_CALLED = (
    "sections?|chapters?|figures?|figs?|tables?|pages?|pp?|paragraphs?|paras?|clauses?|articles?|appendix|annex|"
    "volumes?|vol|questions?|exercises?|footnotes?|verses?|psalms?|steps?|phases?|versions?|releases?|rooms?|flats?|"
    "apartments?|apt|suites?|gates?|platforms?|routes?|junctions?|type|numbers?|no|nos|nr|version|article|amendments?|"
    "code|invoice|ref|slides?|lessons?|items?|fields?|grades?|motorway|highway|extension|ext|rule|regulation|"
    "protocol|paper|draft|edition|error|port|ticket|bug|pull request"
)
# And what does so only with a capital: "Group 2", "Year 7", "Bus 31".
_CALLED_SO = (
    "Group|Team|Class|Level|Year|Years|Unit|Units|Module|Part|Parts|Stage|Form|Act|Scene|Zone|Ward|District|Terminal|"
    "Flight|Train|Bus|Tram|Line|Lines|Road|Route|Floor|Building|Block|Box|Model|Series|Season|Episode|Round|Lot|Area|"
    "Sector|Bay|Pier|Hall|Track|Channel|Radio|Station|Engine|Player|Division|League|Tier|Schedule|Note|Notes|File|"
    "Case|Document|Directive|Resolution|Rule|Plan|Window|Windows|Python|Django|Java|Android|Formula|Apollo|Boeing|"
    "Airbus|Catch|Agenda|Studio|Henry|Louis|Pope|Elizabeth|War|Psalm|Genesis|Exodus|Matthew|Mark|Luke|John|Week|Day|"
    "Key Stage"
)
_UNITS_FOLLOW = (
    r"(?!\s*(?:%|per\s?cent|percent|metres?|meters?|km|cm|mm|kg|minutes?|mins?|hours?|hrs?|days?|weeks?|months?|years?|"
    r"seconds?|secs?|pounds?|euros?|dollars?|million|billion|thousand|times|°))"
)
_FIGURE = r"\d+(?:[.:]\d+)*[a-z]?\b(?!\.\d|,\d{3})"
_STREETS = (
    "[Ss]treet|St|[Rr]oad|Rd|[Aa]venue|Ave|Lane|Ln|Drive|Square|Sq|Close|Way|Court|Place|Terrace|Gardens|Boulevard|"
    "Blvd|Hill|Row|Crescent|Park|Quay|Grove|Mews"
)
# Units that stand close to their figures, and make them no name.
_CLOSE_UNITS = (
    "k|K|m|M|bn|tn|pm|am|th|st|nd|rd|s|h|g|kg|km|cm|mm|ml|l|p|x|W|kW|MW|GW|kWh|MWh|GWh|TWh|MB|GB|TB|kB|Hz|kHz|MHz|GHz|"
    "V|A|N|Pa|hPa|J|kJ|C|F|L"
)
_PATTERNS: tuple[tuple[str, str], ...] = (
    ("address", r"\b(?:https?://|www\.)\S+|\b[\w.+-]+@[\w-]+\.[\w.-]+"),
    ("size", r"\b\d+\s?[x×]\s?\d+(?:\s?[x×]\s?\d+)*\b(?!\s?(?:mm|cm|m|km|px|in|ft)\b)|\b\w+\^\d+|\b\d+\+\d+\b"),
    (
        "section",
        r"\b\d{1,4}(?:\.\d+)?\s?(?:\(\d{1,4}\))?\s?[,.:;]\s?(?:\d{1,4}\s?[,:]\s?)?\d{1,5}\s?[-–]\s?\d{1,5}\b"
        r"(?=\s*(?:[.,;)\]]|$))|\b\d{1,4}\s?\(\d{4}\)\s\d+[-–]\d+\b|\b\d{1,3}\(\d{1,2}\)",
    ),
    ("address", r"\b\d{1,3}(?:\.\d{1,3}){3}\b(?::\d+)?"),
    ("code", r"\b(?:ISBN|ISSN|DOI|IBAN|VAT)\b[:\s]*[\dXx][\dXx/. -]{0,24}\d"),
    ("date", rf"\b{_YEAR}-(?:0[1-9]|1[0-2])(?:-(?:0[1-9]|[12]\d|3[01]))?(?:[T ]\d\d:\d\d(?::\d\d)?)?\b"),
    ("date", r"\b\d{1,2}[/.]\d{1,2}[/.](?:\d{4}|\d{2})\b"),
    ("date", rf"\b(?:{_DAY}\s*(?:-|–|to|and)\s*)?{_DAY}\s+(?:of\s+)?(?:{MONTH})(?:,?\s+{_YEAR}\b)?"),
    (
        "date",
        rf"\b(?:{MONTH})\s+{_DAY}\b(?!\s*(?:%|per\s?cent|percent|million|thousand))(?:\s*(?:-|–)\s*{_DAY}\b)?"
        rf"(?:,?\s+{_YEAR}\b)?",
    ),
    ("date", rf"\b(?:{MONTH}),?\s+{_YEAR}\b"),
    ("date", rf"\b(?:(?:early|late|mid)[- ])?(?:the\s+)?{_YEAR}s\b|['’]\d0s\b"),
    ("date", r"\b\d{4}\s?Q[1-4]\b|\bQ[1-4]\b(?:\s*(?:/|of)?\s*\d{4}\b)?|\b(?:H[12]|FY)\s?\d{2,4}\b"),
    ("date", rf"\b{_YEAR}\s?[/–-]\s?(?:{_YEAR}|\d{{2}})\b(?!\s*(?:%|km|m\b|people|visits))"),
    ("date", r"\b\d+(?:\s*(?:BC|AD|BCE|CE))\b|\bAD\s*\d+\b"),
    (
        "time",
        r"\b(?:[01]?\d|2[0-3])[:.][0-5]\d(?::[0-5]\d)?\s*(?:a\.?m\.?|p\.?m\.?|o['’]clock|hrs?\b|h\b)",
    ),
    ("time", r"\b(?:[01]?\d|2[0-3]):[0-5]\d(?::[0-5]\d)?\b"),
    ("time", r"\b\d{1,2}\s*(?:a\.?m\.?|p\.?m\.?)(?![\w])|\b\d{1,2}\s+o['’]clock"),
    ("time", r"\bquarter\s+(?:to|past)\s+\w+|\bhalf\s+past\s+\w+"),
    ("telephone", r"(?:\+|(?<!\d[ ,.\u2009\u202f])\b00)\d{1,3}[\s./-]?(?:\(0\)[\s-]?)?\d[\d\s./-]{5,20}\d"),
    ("telephone", r"\(0?\d{2,5}\)\s?\d[\d\s-]{3,20}\d"),
    ("telephone", r"(?<!\d[ ,.\u2009\u202f])\b0\d{2,5}[\s/-]\d[\d\s/-]{3,20}\d\b"),
    ("telephone", r"\b\d{3}-\d{4}\b|\b\d{3}-\d{3}-\d{4}\b"),
    ("telephone", r"\b(?:call|phone|tel|telephone|fax|ring|dial|text)(?:\.|:)?\s+\d[\d\s-]{2,20}\d\b"),
    ("version", r"\bv\.?\s?\d+(?:\.\d+)*\b|\b\d+\.\d+\.\d+(?:\.\d+)*(?:-?[a-z]+\d*)?\b"),
    (
        "section",
        rf"\b(?:{_CALLED})\b\.?\s*(?:nos?\.?\s*)?#?{_FIGURE}{_UNITS_FOLLOW}"
        rf"(?:\s*(?:-|–|,|and|to|&)\s*\d+(?:\.\d+)*\b{_UNITS_FOLLOW})?",
    ),
    ("section", r"[§#№]\s?\d+(?:\.\d+)*"),
    ("heading", r"^[ \t]*\(?\d{1,3}(?:\.\d{1,3})*[.)](?=[ \t]+\S)|^[ \t]*\d{1,3}(?:\.\d{1,3})+(?=[ \t]+[A-Z])"),
    ("section", r"(?<=, )\d{1,4}[-–]\d{1,4}(?=\.\s*$|\.\s+[-A-Z])"),
    ("heading", r"\(\d{1,2}\)(?=\s+[A-Z])"),
    ("street", r"\b\d{4,5}\s+(?=[A-Z][a-z]+,\s+[A-Z])"),
    ("section", r"\[\d+(?:\s*[,–-]\s*\d+)*\]"),
    ("street", rf"\b\d{{1,5}}[a-z]?(?:\s*[-–]\s*\d{{1,5}})?,?\s+(?:[A-Z][\w'’]+\s+){{1,3}}(?:{_STREETS})\b\.?"),
    ("street", r"\b[A-Z]{1,2}\d[A-Z\d]?\s\d[A-Z]{2}\b|\bP\.?O\.?\s?Box\s\d+"),
    ("name", r"\b[A-Z][A-Za-z]*\d*-\d+\b"),
    ("name", rf"\b(?=[A-Za-z]*\d)(?=\d*[A-Z])(?!\d+(?:{_CLOSE_UNITS})\b)[A-Za-z]*\d+[A-Za-z\d]*\b"),
    ("name", r"\b\d{1,3}-?(?:D|G)\b|\b24/7\b|\b9/11\b"),
    ("name", rf"\b(?:{_CALLED_SO}|iOS|macOS)\s+{_FIGURE}{_UNITS_FOLLOW}"),
    ("code", r"\b97[89][- ]?(?:\d[- ]?){9}\d\b|\b\d{4}[- ]\d{4}[- ]\d{4}(?:[- ]\d{4})?\b"),
    ("score", r"\b\d{1,2}\s?[–:-]\s?\d{1,2}\b(?=\s+(?:win|victory|defeat|draw|lead|up|down|loss|against))"),
    ("score", r"(?:(?<=\bscore was )|(?<=\bwon )|(?<=\blost ))\d{1,2}\s?[–:-]\s?\d{1,2}\b"),
    ("order", r"\b\d+(?:st|nd|rd|th)\b"),
)  # fmt: skip
# Of these a capital tells them from what is counted.
_WITH_CAPITALS = ("name", "street", "heading")
_ALL = [
    (kind, re.compile(pattern, re.MULTILINE | (0 if kind in _WITH_CAPITALS else re.IGNORECASE)))
    for kind, pattern in _PATTERNS
]
# A year alone: after what says when, or in brackets, and not where something is counted after it.
_YEAR_ALONE = re.compile(
    rf"(?<![\d.,£$€-])\b{_YEAR}\b(?![\d,.]*\d)(?!\s*(?:%|per\s?cent|percent|km\b|kg\b|people|visits|visitors|loans|"
    r"million|pounds|euros|dollars|years?\b|days\b|hours\b|members|pupils|copies|items|books))",
    re.IGNORECASE,
)
_SAYS_WHEN = re.compile(
    r"(?:\b(?:in|near|around|circa|for|since|until|till|by|from|to|and|of|during|before|after|between|through|summer|winter|spring|autumn|"
    r"fall|end of|year|early|late|mid|season|edition|budget|census|election|survey|report|plan|act)\s*[-–(,]?\s*|"
    r"[(–/;-]\s*|^\s*|\n\s*)$",
    re.IGNORECASE,
)
_ENDS_WHEN = re.compile(
    r"^\s*(?:[),:;.–-]|$|was|saw|and|to|–|the\b|we\b|season|edition|census|election|survey|report)", re.IGNORECASE
)
# A year before what it is of, or between two full stops: the 1967 census, Fair, Ray. 1978.
_OF_A_YEAR = re.compile(r"\s+(?:[A-Z]|(?!\w*s\b)[a-z]{3,})")
_STOPS = re.compile(r"[.,]\s*$")
_FIRST_YEAR = "1500"


def asides_in(text: str) -> list[Aside]:
    """Return the figures of a text that are no numbers, in their order; where two lie over each other, the first rule
    holds.

    >>> [(text[one.start:one.end], one.kind) for text in ["On 3 May 2024, see Section 2.1."] for one in asides_in(text)]
    [('3 May 2024', 'date'), ('Section 2.1', 'section')]
    """
    found: list[Aside] = []
    taken = bytearray(len(text))
    every = (Aside(match.start(), match.end(), kind) for kind, rule in _ALL for match in rule.finditer(text))
    for one in (*every, *_years(text)):
        if one.end > one.start and not any(taken[one.start : one.end]):
            found.append(one)
            taken[one.start : one.end] = b"\1" * (one.end - one.start)
    return sorted(found, key=lambda one: one.start)


def _years(text: str) -> Iterator[Aside]:
    for match in _YEAR_ALONE.finditer(text):
        before, after = text[max(0, match.start() - 24) : match.start()], text[match.end() : match.end() + 24]
        says_when = _SAYS_WHEN.search(before) and (match.group() > _FIRST_YEAR or _ENDS_WHEN.search(after))
        is_modern = match.group() >= "1800"
        is_of_it = is_modern and _OF_A_YEAR.match(after) and _first_word(after) not in NOT_COUNTED
        if says_when or is_of_it or (is_modern and _STOPS.search(before) and after.startswith(".")):
            yield Aside(match.start(), match.end(), "date")


def _first_word(text: str) -> str:
    found = re.search("[A-Za-z]+", text)
    return found.group().lower() if found else ""
