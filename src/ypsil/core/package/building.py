"""A packed report as a file: the whole of it, one band or one tile, with filters."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from urllib.parse import parse_qs

from ypsil.core.choosing import Choices
from ypsil.core.errors import YpsilError
from ypsil.core.export import file_format
from ypsil.core.export.base import AS_USUAL, Delivery
from ypsil.core.package.opening import Package
from ypsil.core.render import Page, compose
from ypsil.core.report.choosing import choices_of
from ypsil.core.report.document import ReportBody
from ypsil.core.report.parts import part_of
from ypsil.core.tables.conditions import Filter
from ypsil.core.tables.model import Column


@dataclass(frozen=True, slots=True)
class Wanted:
    """What is to be made: rows where columns have values, one band or one tile, and in which ways the file is wanted;
    ``chosen`` is what readers would choose, as the query of an address."""

    where: tuple[tuple[str, str], ...] = ()
    band: str | None = None
    tile: str | None = None
    deliveries: tuple[Delivery, ...] = (AS_USUAL,)
    chosen: str = ""


@dataclass(frozen=True, slots=True)
class Built:
    """A file in each of the ways that it was wanted, and what of the report could not be drawn, in words."""

    contents: tuple[bytes, ...]
    problems: tuple[str, ...]


def build(package: Package, ending: str, wanted: Wanted) -> Built:
    """Return a packed report as the bytes of a file with this ending.

    Raises YpsilError for an ending that no format has, and for columns, bands and tiles that are not there.
    """
    made = file_format("jpg" if ending == "jpeg" else ending)
    report = _filtered(part_of(package.report, wanted.band, wanted.tile), package, wanted)
    choices = choices_of(package.report, package.tables, parse_qs(wanted.chosen))
    if wanted.chosen and (choices.problems or not choices.made):
        said = [one for every in choices.problems.values() for one in every]
        raise YpsilError(
            " ".join(said) or f"nothing of “{wanted.chosen}” can be chosen", remedy=_what_is_chosen(choices)
        )

    def composed(*, for_readers: bool) -> Page:
        return compose(
            report,
            package.tables,
            pictures=package.pictures,
            for_readers=for_readers,
            is_opened=True,
            choices=choices,
        )

    page = composed(for_readers=False)
    problems = tuple(f"{view.tile.label()}: {problem}" for view, problem in page.problems())
    if problems:
        # A file is for readers: they are not shown what is for its author.
        page = composed(for_readers=True)
    return Built(tuple(made.page(page, delivery) for delivery in wanted.deliveries), problems)


def _what_is_chosen(choices: Choices) -> str:
    names = [choices.keys[name] + ("" if one.way == "values" else "-from") for name, one in choices.offered.items()]
    return f"what can be chosen: {', '.join(names)}" if names else "put a filter into the report first"


def _filtered(report: ReportBody, package: Package, wanted: Wanted) -> ReportBody:
    filters = tuple(_filters(package, wanted))
    return report.model_copy(update={"filters": (*report.filters, *filters)}) if filters else report


def _filters(package: Package, wanted: Wanted) -> Iterator[Filter]:
    """Yield a filter for each column with the values that were given for it."""
    values: dict[str, list[str]] = {}
    for named, value in wanted.where:
        values.setdefault(named, []).append(value)
    for name, several in values.items():
        column = _column(package, name)
        if column.kind == "number":
            yield Filter(column=name, test="in", values=tuple(_number(one, name) for one in several))
        else:
            yield Filter(column=name, test="in", values=tuple(several))


def _column(package: Package, name: str) -> Column:
    for table in package.tables.values():
        for column in table.columns:
            if column.name == name:
                return column
    there = ", ".join(dict.fromkeys(column.name for table in package.tables.values() for column in table.columns))
    raise YpsilError(f"no table has a column “{name}”", remedy=f"the columns are: {there}")


def _number(text: str, name: str) -> float:
    try:
        return float(text)
    except ValueError:
        raise YpsilError(f"“{text}” is no number, and “{name}” holds numbers", remedy="give it as 1204.5") from None
