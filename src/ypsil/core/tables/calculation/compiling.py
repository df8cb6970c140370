"""From a calculation's parts to a typed polars expression. Nothing of it is ever run as Python."""

from __future__ import annotations

import datetime as dt
import difflib
import operator
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

import polars as pl

from ypsil.core.tables.calculation.functions import FUNCTIONS, Type
from ypsil.core.tables.calculation.parsing import (
    WORDS,
    CalculationRefused,
    Call,
    Choice,
    ColumnName,
    Literal,
    Node,
    parse,
)
from ypsil.core.tables.model import Field

TYPE_OF_KIND: dict[str, Type] = {
    "number": "number",
    "category": "text",
    "text": "text",
    "place": "text",
    "date": "date",
    "yesno": "yesno",
    "list": "list",
}
# What the names of steps begin with; no column of a file can.
_STEP = "\x00step"
_NAMES = {"yesno": "yes or no", "missing": "nothing", "list": "a list", "date": "a date", "time": "a time of the day"}
_COMPARISONS = {"=": "eq", "<>": "ne", "<": "lt", "<=": "le", ">": "gt", ">=": "ge"}
_SIGN_NAMES = {"negative": "-"}
_ARITHMETIC: dict[str, Callable[[pl.Expr, pl.Expr], pl.Expr]] = {
    "+": operator.add,
    "-": operator.sub,
    "*": operator.mul,
    "/": lambda left, right: pl.when(right != 0).then(left / right),
    "^": lambda left, right: left.pow(right),
}


@dataclass(frozen=True, slots=True)
class Compiled:
    """An expression with its type; ``unit`` is kept where all parts share it.

    ``steps`` are the operations before the last, each small: the engine never sees a tree that is deep, or that holds a
    part several times because several places need it.
    """

    expression: pl.Expr
    type: Type
    unit: str | None = None
    constant: float | str | bool | None = None
    steps: tuple[tuple[str, pl.Expr], ...] = ()

    def values(self, frame: pl.DataFrame) -> pl.Series:
        """Return what the calculation gives for each row of a frame."""
        for name, step in self.steps:
            used = [part for part in step.meta.root_names() if part.startswith(_STEP)]
            # Each step is used by one other alone.
            frame = frame.with_columns(step.alias(name)).drop(used)
        made = frame.select(self.expression.alias(_STEP)).to_series()
        return made if len(made) == frame.height else made.new_from_index(0, frame.height)

    def field(self) -> Field:
        """Return what a column with this in it holds."""
        if self.type == "number":
            return Field("number", self.unit)
        if self.type == "time":
            return Field("date", form="time")
        kinds = {"text": "category", "date": "date", "yesno": "yesno", "list": "list", "missing": "category"}
        return Field(kinds[self.type])  # type: ignore[arg-type]


def compile_calculation(text: str, fields: Mapping[str, Field], today: dt.date | None = None) -> Compiled:
    """Return the expression of a calculation over columns with these fields.

    Numbers are computed as 64-bit floats; dividing by zero gives a missing value, and so does whatever rests
    on one. Raises CalculationRefused with the place and, for a name that is not there, the nearest one.

    >>> fields = {"Visits": Field("number"), "Cost": Field("number", "£")}
    >>> made = compile_calculation("Cost / Visits", fields)
    >>> made.type, made.unit
    ('number', '£')
    >>> made.values(pl.DataFrame({"Visits": [4, 0], "Cost": [10, 5]})).to_list()
    [2.5, None]
    """
    compiler = _Compiler(fields, today or dt.date.today())
    made = compiler.node(parse(text))
    return replace(made, steps=tuple(compiler.steps))


def _said(kind: Type) -> str:
    return _NAMES.get(kind, f"a {kind}")


class _Compiler:
    def __init__(self, fields: Mapping[str, Field], today: dt.date) -> None:
        self.fields = fields
        self.today = today
        self.steps: list[tuple[str, pl.Expr]] = []
        self.by_low_name: dict[str, list[str]] = {}
        for name in fields:
            self.by_low_name.setdefault(name.lower(), []).append(name)

    def node(self, node: Node) -> Compiled:
        if isinstance(node, Literal):
            return self.literal(node)
        if isinstance(node, ColumnName):
            return self.column(node)
        if isinstance(node, Choice):
            return self.step(self.choice(node))
        assert isinstance(node, Call)
        return self.step(self.sign(node) if node.is_sign else self.call(node))

    def step(self, made: Compiled) -> Compiled:
        """Keep an operation as a step, so that whoever needs it takes a column."""
        name = f"{_STEP}{len(self.steps)}"
        self.steps.append((name, made.expression))
        return replace(made, expression=pl.col(name))

    def literal(self, node: Literal) -> Compiled:
        value = node.value
        if value is None:
            return Compiled(pl.lit(None), "missing")
        if isinstance(value, bool):
            return Compiled(pl.lit(value), "yesno", constant=value)
        return Compiled(pl.lit(value), "text" if isinstance(value, str) else "number", constant=value)

    def column(self, node: ColumnName) -> Compiled:
        name = node.name
        if name not in self.fields:
            same = self.by_low_name.get(name.lower(), [])
            if len(same) != 1:
                raise self.unknown(node)
            name = same[0]
        field = self.fields[name]
        cell = pl.col(name)
        if field.kind == "number":
            return Compiled(cell.cast(pl.Float64), "number", field.unit)
        return Compiled(cell, "time" if field.form == "time" else TYPE_OF_KIND[field.kind])

    def unknown(self, node: ColumnName) -> CalculationRefused:
        near = difflib.get_close_matches(node.name.lower(), list(self.by_low_name), n=1, cutoff=0.5)
        if near:
            name = self.by_low_name[near[0]][0]
            remedy = f"did you mean {quoted(name)}?"
        elif node.name.lower() in FUNCTIONS:
            remedy = f"it is a function: write {FUNCTIONS[node.name.lower()].example}"
        else:
            remedy = f"a text stands in single quotes: '{node.name}'; the columns are {self.some_names()}"
        return CalculationRefused(f"there is no column “{node.name}”", node.start, node.end, remedy=remedy)

    def some_names(self) -> str:
        return ", ".join(quoted(name) for name in list(self.fields)[:8])

    def choice(self, node: Choice) -> Compiled:
        condition = self.of_type(node.condition, "yesno", "what follows “if”")
        then, otherwise = self.alike(node.then, self.node(node.then), node.otherwise, self.node(node.otherwise))
        made = pl.when(condition.expression).then(then.expression).otherwise(otherwise.expression)
        return Compiled(made, _type_of(then, otherwise), _unit_of(then, otherwise))

    def of_type(self, node: Node, wanted: Type, what: str) -> Compiled:
        return self.checked(node, self.node(node), wanted, what)

    def checked(self, node: Node, found: Compiled, wanted: Type, what: str) -> Compiled:
        """Return a part that is of a type; raises CalculationRefused for any other."""
        if found.type == "missing":
            return Compiled(found.expression, wanted)
        if found.type != wanted:
            raise CalculationRefused(
                f"{what} must be {_said(wanted)}, and this is {_said(found.type)}", node.start, node.end,
                remedy="compare it with something, such as Visits > 100" if wanted == "yesno" else _how_to(wanted),
            )  # fmt: skip
        return found

    def alike(self, left: Node, one: Compiled, right: Node, other: Compiled) -> tuple[Compiled, Compiled]:
        """Return two parts in one type; a text beside a date is read as a date."""
        if one.type == other.type or "missing" in (one.type, other.type):
            return one, other
        if other.type == "date" and isinstance(one.constant, str):
            return self.as_date(left, one), other
        if one.type == "date" and isinstance(other.constant, str):
            return one, self.as_date(right, other)
        raise CalculationRefused(
            f"{_said(one.type)} and {_said(other.type)} do not go together here", left.start, right.end,
            remedy=_how_to(one.type),
        )  # fmt: skip

    def as_date(self, node: Node, text: Compiled) -> Compiled:
        try:
            return Compiled(pl.lit(dt.date.fromisoformat(str(text.constant))), "date")
        except ValueError:
            remedy = "write dates as '2026-03-31'"
            raise CalculationRefused(f"“{text.constant}” is not a date", node.start, node.end, remedy=remedy) from None

    def sign(self, node: Call) -> Compiled:
        name = node.name
        if name in _COMPARISONS:
            return self.comparison(node)
        if name in ("and", "or", "not"):
            return self.logic(node)
        if name == "is missing":
            return Compiled(self.node(node.parts[0]).expression.is_null(), "yesno")
        if name == "in":
            return self.among(node)
        if name == "&":
            texts = [self.as_text(self.node(part)).fill_null("") for part in node.parts]
            return Compiled(pl.concat_str(texts), "text")
        return self.arithmetic(node)

    def comparison(self, node: Call) -> Compiled:
        left, right = node.parts
        one, other = self.alike(left, self.node(left), right, self.node(right))
        if "list" in (one.type, other.type):
            remedy = "write holds(column, 'answer')"
            raise CalculationRefused("a list is not compared as a whole", node.start, node.end, remedy=remedy)
        return Compiled(getattr(one.expression, _COMPARISONS[node.name])(other.expression), "yesno")

    def logic(self, node: Call) -> Compiled:
        parts = [self.of_type(part, "yesno", f"what stands beside “{node.name}”").expression for part in node.parts]
        if node.name == "not":
            return Compiled(~parts[0], "yesno")
        return Compiled(parts[0] & parts[1] if node.name == "and" else parts[0] | parts[1], "yesno")

    def among(self, node: Call) -> Compiled:
        first, *values = node.parts
        if not values:
            raise CalculationRefused("there is nothing to choose from", node.start, node.end, remedy="name some values")
        one = self.node(first)
        tests = []
        for value in values:
            left, right = self.alike(first, one, value, self.node(value))
            tests.append(left.expression.eq(right.expression))
        # A chain of hundreds would be a tree as deep.
        return Compiled(pl.any_horizontal(tests), "yesno")

    def arithmetic(self, node: Call) -> Compiled:
        parts = [self.node(part) for part in node.parts]
        if parts[0].type == "date" and node.name in ("+", "-"):
            return self.date_arithmetic(node, parts)
        for part, found in zip(node.parts, parts, strict=True):
            if found.type not in ("number", "missing"):
                sign = _SIGN_NAMES.get(node.name, node.name)
                remedy = "join texts with &" if sign == "+" and found.type == "text" else _how_to("number")
                what = f"“{sign}” works with numbers, and this is {_said(found.type)}"
                raise CalculationRefused(what, part.start, part.end, remedy=remedy)
        numbers = [found.expression.cast(pl.Float64) for found in parts]
        if node.name == "negative":
            return Compiled(-numbers[0], "number", parts[0].unit)
        left, right = numbers
        made = _ARITHMETIC[node.name](left, right)
        return Compiled(pl.when(made.is_finite()).then(made), "number", _unit_after(node.name, *parts))

    def date_arithmetic(self, node: Call, parts: list[Compiled]) -> Compiled:
        first, second = parts
        if second.type == "date" and node.name == "-":
            return Compiled(FUNCTIONS["days_between"].build(second.expression, first.expression), "number")
        days = self.checked(node.parts[1], second, "number", "what is added to a date").expression
        return Compiled(FUNCTIONS["add_days"].build(first.expression, days if node.name == "+" else -days), "date")

    def as_text(self, part: Compiled) -> pl.Expr:
        if part.type == "number":
            shown = part.expression * 100 if part.unit == "%" else part.expression
            text = shown.round(10).cast(pl.String).str.replace(r"\.0$", "")
            return text + "%" if part.unit == "%" else text
        if part.type == "yesno":
            return pl.when(part.expression).then(pl.lit("Yes")).when(~part.expression).then(pl.lit("No"))
        if part.type == "list":
            return part.expression.list.join("; ")
        return part.expression.cast(pl.String)

    def call(self, node: Call) -> Compiled:
        function = FUNCTIONS.get(node.name)
        if function is None:
            near = difflib.get_close_matches(node.name, list(FUNCTIONS), n=1, cutoff=0.5)
            remedy = f"did you mean {near[0]}?" if near else "the guide lists the functions"
            raise CalculationRefused(f"there is no function “{node.name}”", node.start, node.end, remedy=remedy)
        given, most = len(node.parts), len(function.parts)
        if given < function.fewest or (given > most and not function.many):
            what = f"“{function.name}” cannot work with {given} value{'s' if given != 1 else ''}"
            raise CalculationRefused(what, node.start, node.end, remedy=f"write it as {function.example}")
        if node.name == "today":
            return Compiled(pl.lit(self.today), "date")
        if node.name == "date" and given == 2:
            raise CalculationRefused("a date needs a day too", node.start, node.end, remedy=f"write {function.example}")
        parts = [self.argument(node, position) for position in range(given)]
        if node.name == "text":
            return Compiled(self.as_text(parts[0]), "text")
        if node.name == "first_present":
            parts = self.all_alike(node, parts)
        made = function.build(*(part.expression for part in parts))
        unit = _unit_of(*[part for part in parts if part.type == "number"]) if function.keeps_unit else None
        return Compiled(made, function.gives or parts[0].type, unit)

    def all_alike(self, node: Call, parts: list[Compiled]) -> list[Compiled]:
        typed = [self.alike(node.parts[0], parts[0], at, part)[1] for at, part in zip(node.parts, parts, strict=True)]
        return [self.alike(node.parts[0], parts[0], node.parts[1], typed[1])[0], *typed[1:]]

    def argument(self, node: Call, position: int) -> Compiled:
        function = FUNCTIONS[node.name]
        allowed = function.parts[min(position, len(function.parts) - 1)]
        part = node.parts[position]
        found = self.node(part)
        if found.type == "missing" or found.type in allowed:
            return found
        if allowed == ("date",) and isinstance(found.constant, str):
            return self.as_date(part, found)
        wanted = " or ".join(_said(one) for one in allowed)
        what = f"“{function.name}” needs {wanted} here, and this is {_said(found.type)}"
        raise CalculationRefused(what, part.start, part.end, remedy=f"write it as {function.example}")


def _how_to(wanted: Type) -> str:
    return {
        "number": "turn a text into a number with number(…)",
        "text": "turn a value into text with text(…)",
        "date": "write dates as '2026-03-31', or turn a text into a date with date(…)",
    }.get(wanted, "change one of the two")


def quoted(name: str) -> str:
    """Return a column's name as it is written in a calculation.

    >>> quoted("Visits"), quoted("Cost (£)"), quoted("in")
    ('Visits', '"Cost (£)"', '"in"')
    """
    plain = name.isidentifier() and name.lower() not in WORDS
    return name if plain else '"' + name.replace('"', '""') + '"'


def _type_of(*parts: Compiled) -> Type:
    return next((part.type for part in parts if part.type != "missing"), "missing")


def _unit_of(*parts: Compiled) -> str | None:
    """Return the unit that all parts have; a bare number takes the others' unit."""
    units = {part.unit for part in parts if part.constant is None and part.type != "missing"}
    return units.pop() if len(units) == 1 else None


def _unit_after(sign: str, one: Compiled, other: Compiled) -> str | None:
    if sign in ("+", "-"):
        return _unit_of(one, other)
    money = [part.unit for part in (one, other) if part.unit and part.unit != "%"]
    if sign == "*" and len(money) == 1:
        return money[0]
    return one.unit if sign == "/" and other.unit in (None, "%") and one.unit != "%" else None
