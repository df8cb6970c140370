"""The gallery: a report that shows every visual once, on the libraries' tables."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from ypsil.core.report import Band, Frame, ReportBody, SourcesTile, TextTile, VisualTile
from ypsil.core.visuals import VISUALS
from ypsil.core.visuals.base import Needs
from ypsil.demo.libraries import JOINING

_WIDTH, _HEIGHT, _ACROSS = 8, 36, 3


def _sum(column: str, **more: Any) -> dict[str, Any]:
    return {"stat": "sum", "column": column, **more}


VISITS = [_sum("Visits")]
COUNT = [{"stat": "count"}]
COST = {"ratio": [_sum("Cost (£)"), _sum("Visits")], "name": "Cost per visit"}
MONTHS = [{"column": "Month", "by": "month"}]
HOURS = [{"column": "Time", "by": "hour"}]
QUARTERS = [{"column": "Month", "by": "quarter"}]
RECOMMEND = {"measures": [{"stat": "share", "column": "Would recommend", "values": ["Yes"]}]}
BRANCHES = [{"column": "Branch"}]
AREAS = [{"column": "Area"}]
EACH = [{"column": "Branch", "by": "row"}]
KIND = {"column": "Kind"}
LAST_YEAR = [{"column": "Month", "test": "last", "count": 12, "by": "month"}]
# For each visual: the table, the question, what it says, and its options.
Entry = tuple[str, dict[str, Any], str, dict[str, Any]]
COMPARE: dict[str, Entry] = {
    "column": ("visits", {"measures": VISITS, "per": QUARTERS}, "Visits per quarter", {"average": True}),
    "bar": ("visits", {"measures": VISITS, "per": BRANCHES}, "Visits by branch", {"emphasis": "Dunmere"}),
    "lollipop": ("visits", {"measures": [_sum("Events")], "per": BRANCHES}, "Events by branch", {}),
    "dot_plot": ("visits", {"measures": [{"stat": "mean", "column": "Visits"}], "per": BRANCHES, "split": KIND},
                 "Mean visits a month", {}),
    "dumbbell": ("visits", {"measures": VISITS, "per": BRANCHES, "split": KIND, "where": LAST_YEAR},
                 "Children and adults by branch", {}),
    "bullet": ("visits", {"measures": VISITS, "per": BRANCHES, "where": LAST_YEAR}, "Visits against a target of 15,000",
               {"target": 15000}),
    "pareto": ("visits", {"measures": VISITS, "per": BRANCHES}, "Few branches, most visits", {}),
    "funnel": ("joining", {"measures": [_sum("People")], "per": [{"column": "Stage"}],
                           "order": {"by": "given", "values": [stage for stage, _ in JOINING]}},
               "From a poster to a loan", {}),
    "ranked_list": ("visits", {"measures": VISITS, "per": BRANCHES}, "Branches by visits", {"emphasis": "Dunmere"}),
    "pictogram": ("visits", {"measures": VISITS, "per": AREAS, "where": LAST_YEAR}, "Visits by area",
                  {"icon": "people"}),
    "sized_shapes": ("visits", {"measures": [_sum("Loans")], "per": AREAS, "where": LAST_YEAR}, "Loans by area",
                     {"shape": "icon", "icon": "book"}),
    "stars": ("survey", {"measures": [{"stat": "mean", "column": "Rating"}], "per": [{"column": "Age"}]}, "",
              {"label": "Mean rating by age"}),
    "table": ("visits", {"measures": [*VISITS, _sum("Loans"), COST], "per": BRANCHES}, "Branches in numbers", {}),
}  # fmt: skip
CHANGE: dict[str, Entry] = {
    "line": ("visits", {"measures": VISITS, "per": MONTHS, "split": KIND}, "Visits per month", {}),
    "area": ("visits", {"measures": [_sum("Loans")], "per": MONTHS}, "Loans per month", {}),
    "stacked_area": ("visits", {"measures": VISITS, "per": MONTHS, "split": {"column": "Area"}}, "Visits by area", {}),
    "stacked_column": ("visits", {"measures": VISITS, "per": QUARTERS, "split": KIND}, "Visits per quarter", {}),
    "share_column": ("visits", {"measures": VISITS, "per": QUARTERS, "split": KIND}, "Children among visitors", {}),
    "combined": ("visits", {"measures": [*VISITS, COST], "per": QUARTERS}, "Visits and what one costs", {}),
    "slope": ("visits", {"measures": [{"stat": "mean", "column": "Visits"}], "per": AREAS,
                         "split": {"column": "Month", "by": "year"},
                         "where": [{"column": "Month", "test": "at_least", "values": ["2025-01-01"]}]},
              "A usual month, year by year", {}),
    "waterfall": ("visits", {"measures": [_sum("Visits", then="change")], "per": QUARTERS}, "Quarter by quarter", {}),
    "sparkline": ("visits", {"measures": VISITS, "per": MONTHS}, "Visits in one line", {}),
    "multiples": ("visits", {"measures": VISITS, "per": MONTHS, "split": {"column": "Area"}}, "Area by area", {}),
    "calendar_heat": ("loans", {"measures": [_sum("Loans")], "per": [{"column": "Day", "by": "day"}]},
                      "Saturdays at Market Square", {}),
    "clock": ("counter", {"measures": [{"stat": "mean", "column": "Visits"}], "per": HOURS},
              "A day at the door", {}),
    "range_bars": ("programme", {"measures": [{"stat": "min", "column": "Start"}, {"stat": "max", "column": "End"}],
                                 "per": [{"column": "Event"}]}, "The year’s programme", {}),
    "timeline": ("programme", {"measures": [{"stat": "min", "column": "Start"}], "per": [{"column": "Event"}]},
                 "When it began", {}),
    "kpi": ("visits", {"measures": VISITS, "per": MONTHS}, "", {"label": "Visits", "against": "average"}),
    "kpi_row": ("visits", {"measures": [*VISITS, _sum("Loans"), COST], "per": MONTHS}, "",
                {"labels": "Visits; Loans; Cost per visit", "good": "up; up; down", "on_track": "10000; 12000; 6",
                 "act": "8000; 10000; 7"}),
}  # fmt: skip
WHOLE: dict[str, Entry] = {
    "donut": ("visits", {"measures": VISITS, "per": AREAS}, "Visits by area", {}),
    "pie": ("visits", {"measures": VISITS, "per": AREAS}, "Visits by area, as slices", {}),
    "ring": ("survey", RECOMMEND, "", {"label": "would recommend their library"}),
    "gauge": ("survey", RECOMMEND, "", {"label": "would recommend their library", "mark": 0.75, "mark_name": "Target",
                                        "on_track": 0.7, "act": 0.5}),
    "percent_bar": ("survey", RECOMMEND | {"per": [{"column": "Age"}]}, "", {"label": "Would recommend their library"}),
    "percent_grid": ("survey", RECOMMEND, "", {"label": "would recommend their library", "colour": "third"}),
    "icon_row": ("survey", RECOMMEND, "", {"label": "would recommend their library", "icon": "book"}),
    "filled_icon": ("survey", RECOMMEND, "", {"label": "would recommend their library", "icon": "heart",
                                              "colour": "fourth"}),
    "filled_numerals": ("survey", RECOMMEND, "", {"label": "would recommend their library", "picture": "heart"}),
    "share_strip": ("survey", {"measures": COUNT, "per": [{"column": "Rating"}]}, "", {"label": "Rating"}),
    "part_of_part": ("visits", {"measures": VISITS, "per": [KIND, {"column": "Area"}]}, "Children, and where they come",
                     {"part": "Child", "inner": "Coast"}),
    "treemap": ("visits", {"measures": VISITS, "per": [*AREAS, *BRANCHES]}, "Branches within areas", {}),
    "icicle": ("visits", {"measures": VISITS, "per": [*AREAS, *BRANCHES]}, "Branches within areas, in columns", {}),
    "stacked_bar": ("visits", {"measures": VISITS, "per": BRANCHES, "split": KIND}, "Who visits which branch", {}),
    "share_bar": ("survey", {"measures": COUNT, "per": [{"column": "Age"}], "split": {"column": "Rating"}},
                  "Ratings by age", {}),
    "diverging_bar": ("survey", {"measures": COUNT, "per": [{"column": "Age"}], "split": {"column": "Rating"}},
                      "Ratings to both sides", {}),
    "radar": ("survey", {"measures": [{"stat": "share", "within": "split"}], "per": [{"column": "Comes for"}],
                         "split": {"column": "Would recommend"}}, "What both groups come for", {}),
}  # fmt: skip
SPREAD: dict[str, Entry] = {
    "histogram": ("visits", {"measures": COUNT, "per": [{"column": "Visits", "by": {"width": 200}}]},
                  "How large a month is", {}),
    "box": ("visits", {"measures": VISITS, "per": EACH}, "Months of each branch", {}),
    "strip": ("visits", {"measures": VISITS, "per": [{"column": "Area", "by": "row"}]}, "Every month of each area", {}),
    "density": ("visits", {"measures": VISITS, "per": [{"column": "Kind", "by": "row"}]}, "Children and adults", {}),
    "pyramid": ("survey", {"measures": COUNT, "per": [{"column": "Age"}], "split": {"column": "Would recommend"}},
                "Who would recommend us", {}),
    "heat_table": ("visits", {"measures": VISITS, "per": BRANCHES, "split": {"column": "Month", "by": "quarter"}},
                   "Branches by quarter", {}),
    "cross_table": ("survey", {"measures": COUNT, "per": [{"column": "Age"}], "split": {"column": "Rating"}},
                    "Ratings by age", {}),
    "scatter": ("visits", {"measures": [*VISITS, _sum("Loans")], "per": EACH, "split": KIND}, "Visits and loans",
                {"trend": True}),
    "bubble": ("visits", {"measures": [*VISITS, _sum("Loans"), _sum("Events")], "per": BRANCHES},
               "Visits, loans and events", {}),
    "binned_scatter": ("visits", {"measures": [*VISITS, _sum("Cost (£)")], "per": EACH}, "Visits and cost", {}),
    "cloud": ("survey", {"measures": COUNT, "per": [{"column": "Comment", "by": "word"}], "keep": 60}, "",
              {"shape": "ellipse"}),
    "marking_words": ("survey", {"measures": COUNT, "per": [{"column": "Comment", "by": "word"}], "keep": 6,
                                 "split": {"column": "Would recommend"},
                                 "order": {"by": "keyness", "descending": True}}, "By who would recommend", {}),
    "compared_clouds": ("survey", {"measures": COUNT, "per": [{"column": "Comment", "by": "word"}], "keep": 20,
                                   "split": {"column": "Would recommend"}}, "Words by who would recommend", {}),
    "word_line": ("survey", {"measures": COUNT, "per": [{"column": "Comment", "by": "word"}], "keep": 24}, "",
                  {"colouring": "value"}),
}  # fmt: skip
# The same visuals again, tuned: bands, notes, patterns, palettes, numbers as they are written elsewhere.
TUNED: tuple[tuple[str, Entry], ...] = (
    ("cloud", ("survey", {"measures": COUNT, "per": [{"column": "Comment", "by": "word"}], "keep": 50,
                          "split": {"column": "Would recommend"}}, "words gathered by who would recommend",
               {"arrangement": "colours", "background": "pale", "shape": "rounded"})),
    ("column", ("visits", {"measures": VISITS, "per": QUARTERS}, "a usual range and a note",
                {"band_from": 34000, "band_to": 40000, "band_name": "Usual", "note_at": "Q3 2025",
                 "note": "The summer reading game ran in every branch"})),
    ("stacked_bar", ("visits", {"measures": VISITS, "per": AREAS, "split": KIND}, "patterns for print in grey",
                     {"patterns": True})),
    ("line", ("visits", {"measures": VISITS, "per": QUARTERS, "split": KIND}, "values at both ends, dashes",
              {"at_start": "value", "at_end": "name and value", "patterns": True, "palette": "berry"})),
    ("bar", ("visits", {"measures": [_sum("Cost (£)")], "per": AREAS}, "as written in German",
             {"locale": "de_DE", "palette": "earth"})),
    ("multiples", ("visits", {"measures": [*VISITS, _sum("Loans")], "per": EACH, "split": {"column": "Area"}},
                   "visits and loans in each area", {"palette": "sea"})),
    ("pie", ("visits", {"measures": VISITS, "per": AREAS}, "with a note",
             {"note_at": "Coast", "note": "Three branches", "palette": "sea"})),
)  # fmt: skip
SECTIONS = (
    ("Compare", COMPARE),
    ("How it changes", CHANGE),
    ("Parts of a whole", WHOLE),
    ("How it spreads, and what goes together", SPREAD),
)
_ENTRIES = {name: entry for _, entries in SECTIONS for name, entry in entries.items()}


def sections() -> list[tuple[str, dict[str, Entry]]]:
    """Return the sections with all visuals of the registry; one that nobody wrote an entry for has a plain question."""
    more = {name: plain_entry(entry.needs) for name, entry in VISUALS.items() if name not in _ENTRIES}
    return [*SECTIONS, *([("More", more)] if more else [])]


def plain_entry(needs: Needs) -> Entry:
    """Return a question of the samples that a visual with these needs can show."""
    sample = next(one for one in _SAMPLES if one.suits(needs))
    groups = max(int(needs.per[0]), int(sample.is_grouped)) if needs.per[1] else 0
    question: dict[str, Any] = {
        "measures": sample.measures[: max(1, int(needs.measures[0]))],
        "per": sample.per[:groups],
    }
    if needs.split == "needed" or needs.marking or needs.series[0] > 1:
        question["split"] = {"column": "Would recommend"} if sample.table == "survey" else KIND
    if needs.words == "needed":
        question["keep"] = 12
    if needs.marking:
        question["order"] = {"by": "keyness", "descending": True}
    return sample.table, question, "", {}


@dataclass(frozen=True, slots=True)
class Sample:
    """What of the samples suits some needs: a table, measures of it, and what they can be grouped by; where it
    ``is_grouped``, they are grouped whatever else is asked for."""

    suits: Callable[[Needs], bool]
    table: str
    measures: list[dict[str, Any]]
    per: list[dict[str, Any]]
    is_grouped: bool = True


_AMOUNTS = [*VISITS, _sum("Loans"), _sum("Events")]
_AGES = [{"column": "Age"}]
# The first that suits is taken.
_SAMPLES = (
    Sample(lambda needs: needs.words == "needed" or needs.marking, "survey", COUNT,
           [{"column": "Comment", "by": "word"}]),
    Sample(lambda needs: needs.shares or needs.percentages, "survey", RECOMMEND["measures"], _AGES, is_grouped=False),
    Sample(lambda needs: needs.ratings, "survey", [{"stat": "mean", "column": "Rating"}], _AGES, is_grouped=False),
    Sample(lambda needs: needs.moments, "programme",
           [{"stat": "min", "column": "Start"}, {"stat": "max", "column": "End"}], [{"column": "Event"}]),
    Sample(lambda needs: needs.grain == "day", "loans", [_sum("Loans")], [{"column": "Day", "by": "day"}]),
    Sample(lambda needs: needs.grain == "hour", "counter", [{"stat": "mean", "column": "Visits"}], HOURS),
    Sample(lambda needs: needs.people, "survey", COUNT, _AGES, is_grouped=False),
    Sample(lambda needs: needs.classes == "needed", "visits", COUNT, [{"column": "Visits", "by": {"width": 200}}]),
    Sample(lambda needs: needs.each_row == "needed", "visits", _AMOUNTS, EACH),
    Sample(lambda needs: needs.dates == "needed" or needs.ordered, "visits", _AMOUNTS, MONTHS),
    Sample(lambda needs: True, "visits", _AMOUNTS, [*AREAS, *BRANCHES], is_grouped=False),
)  # fmt: skip


def gallery_report(*, picture: str, **tables: str) -> ReportBody:
    """Return the gallery over the tables ``visits``, ``survey``, ``loans``, ``programme``, ``counter`` and
    ``joining``, with a picture in one of its figures."""
    title = TextTile(role="title", text="Every visual once", place=Frame(column=0, row=0, width=24, height=8))
    bands = [Band(message="Headline", tiles=(title,))]
    for heading, entries in sections():
        tiles = [TextTile(role="heading", text=heading, place=Frame(column=0, row=0, width=24, height=5))]
        drawn = [_tile(name, entry, index, tables) for index, (name, entry) in enumerate(entries.items())]
        bands.append(Band(message=heading, tiles=(*tiles, *drawn)))
    tuned = [
        TextTile(role="heading", text="Tuned", place=Frame(column=0, row=0, width=24, height=5)),
        *(_tile(name, entry, index, tables) for index, (name, entry) in enumerate((*TUNED, _with(picture)))),
    ]
    bands.append(Band(message="Tuned", tiles=tuple(tuned)))
    foot = SourcesTile(place=Frame(column=0, row=0, width=24, height=6))
    return ReportBody(title="Gallery: every visual once", bands=(*bands, Band(message="Sources", tiles=(foot,))))


def _with(picture: str) -> tuple[str, Entry]:
    options = {"label": "would recommend their library", "picture": picture}
    return "filled_numerals", ("survey", RECOMMEND, "a picture inside", options)


def _tile(name: str, entry: Entry, index: int, tables: dict[str, str]) -> VisualTile:
    table, question, said, options = entry
    place = {"column": index % _ACROSS * _WIDTH, "row": 6 + index // _ACROSS * (_HEIGHT + 3), "width": _WIDTH}
    title = f"{VISUALS[name].label}: {said}" if said else ""
    return VisualTile.model_validate(
        {
            "table": tables[table],
            "visual": name,
            "question": question,
            "title": title,
            "options": options,
            "place": {**place, "height": _HEIGHT},
        }
    )
