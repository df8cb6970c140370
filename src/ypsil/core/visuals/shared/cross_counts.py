"""What a cross-table shows: counts, shares and bases, of one answer each or of several."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ypsil.core.answers.model import Answer
from ypsil.core.figures import format_number, part_texts
from ypsil.core.survey import CrossTable, cross_table
from ypsil.core.visuals.shared.grid import Grid
from ypsil.core.visuals.shared.settings import ADDS_UP, PartOptions, setting

ALL, PEOPLE = "All", "People"
_Counts = Sequence[Sequence[float]]
_Beside = Literal["rows", "effective", "people", "people_weight", "people_effective"]


class CrossTableOptions(PartOptions):
    percent_of: Literal["row", "column", "total"] = setting("row", "Percentages of the", "Numbers")
    signs: bool = setting(
        True, "Arrows where a difference is more than chance", "Marks", "95% interval of the difference from all"
    )
    shades: bool = setting(True, "Shade larger shares", "Colours")
    test: bool = setting(True, "Chi-square test below", "Notes")


@dataclass(frozen=True, slots=True)
class Made:
    """The table of the groups that are shown; ``places`` are their rows in the answer, hidden ones have none.

    ``people`` are those of each row, ``everybody`` all of them, of whom one may stand in several rows; ``of`` is what
    the percentages are taken of; ``foot`` names the row below, whose cells are ``totals``. ``groups_across`` tells that
    groups of people stand side by side, and what they answered below each other.
    """

    table: CrossTable
    texts: list[list[str]]
    totals: list[str]
    places: dict[int, int]
    people: list[float]
    everybody: float
    gave_several: bool
    of: str
    foot: str = ALL
    groups_across: bool = False


def made_of(answer: Answer, grid: Grid, options: CrossTableOptions) -> Made | None:
    """Work the table out from the groups that are not hidden; None where all are."""
    rows = [[one.values[index] for one in grid.series] for index in range(len(grid.names))]
    # A row of which a cell is hidden has no sum that its other cells could be taken of: it is hidden as a whole.
    hidden = _with_hidden_cells(answer)
    kept = [index for index, row in enumerate(rows) if any(row) and grid.groups[index] not in hidden]
    if not kept:
        return None
    places = {index: place for place, index in enumerate(kept)}
    values = [[value or 0.0 for value in rows[index]] for index in kept]
    if answer.of("per")[0].several or answer.of("split")[0].several:
        return _of_several(answer, grid, options, values, places)
    tested = _tested(answer, grid, values, kept)
    table = cross_table(values, options.percent_of, tested=tested)
    weighted = _beside(answer, grid, "rows") if tested else None
    people = [sum(weighted[index]) for index in kept] if weighted else list(table.row_sums)
    texts, totals = (_texts(shares, options, one_each=True) for shares in (table.shares, [table.total_shares]))
    return Made(table, texts, totals[0], places, people, sum(people), False, options.percent_of)


def _with_hidden_cells(answer: Answer) -> set[object]:
    """Return the groups of which the answer holds a cell without a value; cells that are not there are zero."""
    values = answer.series(answer.of("measure")[0])
    return set(answer.series(answer.of("per")[0]).filter(values.is_null()).to_list())


def _of_several(
    answer: Answer, grid: Grid, options: CrossTableOptions, values: _Counts, places: dict[int, int]
) -> Made:
    """Work out the table of answers of which one person may have given several.

    Each answer has the people of its group as its base; groups of people are compared with each other, never answers,
    and there is no chi-square test.
    """
    people, weights, worth = (
        [_beside(answer, grid, what)[index] for index in places]
        for what in ("people", "people_weight", "people_effective")
    )
    # A share of respondents becomes a count of people again.
    counts = values if answer.of("measure")[0].counts else _each(lambda share, base: share * base, values, weights)
    judged = _each(lambda count, base, size: count / base * size if base else 0.0, counts, weights, worth)
    if answer.of("per")[0].several and answer.of("split")[0].several:
        return _of_the_same_people(answer, options, counts, people, places)
    if answer.of("per")[0].several:
        rows = _beside(answer, grid, "rows")
        chosen = [sum(rows[index]) if any(rows[index]) else sum(row) for index, row in zip(places, counts, strict=True)]
        bases = people[0], weights[0], worth[0]
        return _groups_across(answer, options, counts, judged, bases, chosen, places)
    first = [row[0] for row in weights]
    sizes = [row[0] for row in worth]
    table = cross_table(counts, options.percent_of, first, one_each=False, tested=judged, tested_bases=sizes)
    texts, totals = (_texts(shares, options, one_each=False) for shares in (table.shares, [table.total_shares]))
    bases_shown = [row[0] for row in people]
    return Made(table, texts, totals[0], places, bases_shown, sum(bases_shown), True, options.percent_of)


def _groups_across(
    answer: Answer, options: CrossTableOptions, counts: _Counts, judged: _Counts,
    bases: tuple[Sequence[float], Sequence[float], Sequence[float]], chosen: list[float], places: dict[int, int],
) -> Made:  # fmt: skip
    """A row an answer, a column a group of people. Of a row are those who gave that answer, of a column its people.

    ``bases`` are the people of each group, what they weigh, and how many equal ones they are worth; ``chosen`` counts
    the people who gave each answer.
    """
    people, weights, worth = bases
    of = "column" if options.percent_of == "row" and not answer.of("measure")[0].counts else options.percent_of
    turned = cross_table(_across(counts), "row", weights, one_each=False, tested=_across(judged), tested_bases=worth)
    everybody = sum(weights)
    wholes: dict[str, _Counts] = {
        "row": [[sum(row)] * len(weights) for row in counts],
        "column": [weights] * len(counts),
        "total": [[everybody] * len(weights)] * len(counts),
    }
    shares = tuple(tuple(row) for row in _each(lambda count, base: count / base if base else 0.0, counts, wholes[of]))
    table = replace(turned, shares=shares, signs=tuple(zip(*turned.signs, strict=True)), row_sums=tuple(chosen))
    if of == "column":
        totals, foot = [format_number(base, locale=options.in_locale) for base in people], PEOPLE
    else:
        parts = [base / everybody if everybody else None for base in weights]
        totals, foot = part_texts(parts, options.decimals, locale=options.in_locale), ALL
    texts = _texts(shares, options, one_each=False)
    return Made(table, texts, totals, places, chosen, sum(people), True, of, foot, groups_across=True)


def _of_the_same_people(
    answer: Answer, options: CrossTableOptions, counts: _Counts, people: _Counts, places: dict[int, int]
) -> Made:
    """The same people stand in rows and columns, so nothing can be compared by chance."""
    everybody = people[0][0]
    each_once = answer.of("per")[0].several == "statements"
    bases = None if each_once else [everybody] * len(counts)
    table = cross_table(counts, options.percent_of, bases, one_each=False)
    table = replace(table, signs=tuple(tuple(0 for _ in row) for row in table.shares))
    texts, totals = (_texts(shares, options, one_each=each_once) for shares in (table.shares, [table.total_shares]))
    return Made(table, texts, totals[0], places, list(table.row_sums), everybody, True, options.percent_of)


def _each(work: Callable[..., float], *tables: _Counts) -> list[list[float]]:
    """Return what is made of the cells in the same place of several tables."""
    return [[work(*cells) for cells in zip(*rows, strict=True)] for rows in zip(*tables, strict=True)]


def _across(table: _Counts) -> list[tuple[float, ...]]:
    return list(zip(*table, strict=True))


def _beside(answer: Answer, grid: Grid, what: _Beside) -> _Counts:
    """Return what stands beside the values, as groups by answers; zeros where there is nothing. What is said of people
    is the same for all cells of a group of them, also for those without an answer."""
    found = answer.exactness_of(answer.of("measure")[0], what)
    per, split = answer.of("per")[0], answer.of("split")[0]
    cells = dict(zip(zip(answer.values(per), answer.values(split), strict=True), found, strict=True))
    members = answer.members(split)
    if what in ("rows", "effective"):
        return [[cells.get((group, member)) or 0.0 for member in members] for group in grid.groups]
    by_group = {group: value for (group, _), value in cells.items() if value}
    by_member = {member: value for (_, member), value in cells.items() if value}
    if per.several:
        return [[by_member.get(member, 0.0) for member in members] for _ in grid.groups]
    return [[by_group.get(group, 0.0) for _ in members] for group in grid.groups]


def _tested(answer: Answer, grid: Grid, counts: _Counts, kept: Sequence[int]) -> list[list[float]] | None:
    """Return weighted counts as large as the effective base of their group (Kish 1965): chance is judged by them."""
    effective = _beside(answer, grid, "effective")
    if not any(map(any, effective)):
        return None
    found = []
    for row, index in zip(counts, kept, strict=True):
        squares = sum(count**2 / base for count, base in zip(row, effective[index], strict=True) if base)
        factor = sum(row) / squares if squares else 0.0
        found.append([count * factor for count in row])
    return found


def _texts(shares: Sequence[Sequence[float | None]], options: CrossTableOptions, *, one_each: bool) -> list[list[str]]:
    """Return the percentages; those of a row that is a whole add up to 100."""
    adds_up = options.rounding == ADDS_UP and options.percent_of == "row" and one_each
    locale = options.in_locale
    if options.percent_of == "column" and one_each and options.rounding == ADDS_UP and len(shares) > 1:
        columns = [
            part_texts(column, options.decimals, locale=options.in_locale) for column in zip(*shares, strict=True)
        ]
        return [list(row) for row in zip(*columns, strict=True)]
    places, locale = options.decimals or 0, options.in_locale
    return [part_texts(row, places, adds_up=adds_up, locale=locale) for row in shares]
