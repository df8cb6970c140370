"""From the text of a calculation to its parts (grammar: docs/guide/calculations.md)."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

from ypsil.core.errors import YpsilError

MAX_LENGTH = 2_000
_MAX_DEPTH = 40
_MAX_CALLS = 120
WORDS = ("if", "then", "else", "and", "or", "not", "is", "in", "missing", "yes", "no")
_SIGNS = {"≤": "<=", "≥": ">=", "≠": "<>", "!=": "<>", "==": "=", "×": "*", "·": "*", "÷": "/", "−": "-"}
_TOKEN = re.compile(
    r"""(?P<space>\s+)
    |(?P<number>\d+\.?\d*|\.\d+)
    |(?P<text>'(?:[^']|'')*'|‘[^’]*’)
    |(?P<column>"(?:[^"]|"")*"|“[^”]*”)
    |(?P<name>[^\W\d]\w*)
    |(?P<sign><=|>=|<>|!=|==|[-+*/^%&=<>(),≤≥≠×·÷−])""",
    re.VERBOSE,
)


class CalculationRefused(YpsilError):
    """A calculation that cannot be understood: ``start`` and ``end`` mark the place in its text, from 0."""

    def __init__(self, what: str, start: int, end: int, *, remedy: str = "") -> None:
        self.start = start
        self.end = end
        super().__init__(what, where=f"character {start + 1}", remedy=remedy)


@dataclass(frozen=True, slots=True)
class Token:
    kind: str
    text: str
    start: int
    end: int


@dataclass(frozen=True, slots=True)
class Node:
    """A part of a calculation with its place in the text."""

    start: int
    end: int


@dataclass(frozen=True, slots=True)
class Literal(Node):
    """A number, a text, yes, no, or nothing (None)."""

    value: float | str | bool | None


@dataclass(frozen=True, slots=True)
class ColumnName(Node):
    name: str


@dataclass(frozen=True, slots=True)
class Call(Node):
    """A function or a sign (``+``, ``and``, ``is missing`` ...) with what it is applied to."""

    name: str
    parts: tuple[Node, ...]
    is_sign: bool = False


@dataclass(frozen=True, slots=True)
class Choice(Node):
    condition: Node
    then: Node
    otherwise: Node


def tokens(text: str) -> Iterator[Token]:
    """Yield the tokens of a calculation, without the spaces between them."""
    position = 0
    while position < len(text):
        found = _TOKEN.match(text, position)
        if found is None:
            sign = text[position]
            what = "a quote is opened and never closed" if sign in "'\"‘“" else f"“{sign}” has no meaning here"
            remedy = (
                "close it"
                if sign in "'\"‘“"
                else "take it out; a column's name with signs in it stands in double quotes"
            )
            raise CalculationRefused(what, position, position + 1, remedy=remedy)
        kind = str(found.lastgroup)
        if kind != "space":
            yield Token(kind, found.group(), position, found.end())
        position = found.end()


def parse(text: str) -> Node:
    """Return the parts of a calculation.

    Raises CalculationRefused with the place of what cannot be understood.

    >>> parse("Visits / 2").parts[0].name
    'Visits'
    """
    if len(text) > MAX_LENGTH:
        raise CalculationRefused(
            f"the calculation is longer than {MAX_LENGTH:,} characters", MAX_LENGTH, len(text), remedy="split it in two"
        )
    return _Parser(text).whole()


class _Parser:
    """Precedence climbing: each method reads one level and calls the next tighter one."""

    def __init__(self, text: str) -> None:
        self.text = text
        self.tokens = list(tokens(text))
        self.position = 0
        self.depth = 0
        self.calls = 0

    def whole(self) -> Node:
        if not self.tokens:
            raise CalculationRefused("nothing is calculated yet", 0, 0, remedy="write something like Visits * 2")
        node = self.expression()
        if (token := self.peek()) is not None:
            remedy = "write a sign such as + or & between the two"
            if token.text == ")":
                remedy = "take the bracket out, or open one before"
            raise CalculationRefused(f"“{token.text}” is not expected here", token.start, token.end, remedy=remedy)
        return node

    def made(self, call: Call) -> Call:
        """Count an operation; raises CalculationRefused where there are too many."""
        self.calls += 1
        if self.calls > _MAX_CALLS:
            what = f"the calculation has more than {_MAX_CALLS} operations"
            raise CalculationRefused(what, call.start, call.end, remedy="make a column of a part of it first")
        return call

    def peek(self) -> Token | None:
        return self.tokens[self.position] if self.position < len(self.tokens) else None

    def accept(self, *texts: str) -> Token | None:
        """Take the next token when it is one of the given signs or words."""
        token = self.peek()
        if token is None or token.kind not in ("sign", "name"):
            return None
        plain = _SIGNS.get(token.text, token.text.lower() if token.kind == "name" else token.text)
        if plain not in texts:
            return None
        self.position += 1
        return Token(token.kind, plain, token.start, token.end)

    def expect(self, text: str, why: str) -> Token:
        found = self.accept(text)
        if found is None:
            token = self.peek()
            start, end = (token.start, token.end) if token else (len(self.text), len(self.text))
            raise CalculationRefused(f"“{text}” is missing here", start, end, remedy=why)
        return found

    def expression(self) -> Node:
        self.depth += 1
        if self.depth > _MAX_DEPTH:
            token = self.peek() or self.tokens[-1]
            what = "the calculation is nested too deeply"
            raise CalculationRefused(what, token.start, token.end, remedy="make a column of a part of it first")
        node = self.choice() if self.accept_ahead("if") else self.either()
        self.depth -= 1
        return node

    def accept_ahead(self, word: str) -> bool:
        token = self.peek()
        return token is not None and token.kind == "name" and token.text.lower() == word

    def choice(self) -> Node:
        start = self.expect("if", "").start
        why = "a choice reads: if Visits > 100 then 'busy' else 'quiet'"
        condition = self.either()
        self.expect("then", why)
        then = self.expression()
        self.expect("else", why)
        otherwise = self.expression()
        return Choice(start, otherwise.end, condition, then, otherwise)

    def chain(self, signs: tuple[str, ...], tighter: str) -> Node:
        """Read parts of the next tighter level with any of the signs between them, from left to right."""
        left: Node = getattr(self, tighter)()
        while (sign := self.accept(*signs)) is not None:
            right: Node = getattr(self, tighter)()
            left = self.made(Call(left.start, right.end, sign.text, (left, right), True))
        return left

    def either(self) -> Node:
        return self.chain(("or",), "both")

    def both(self) -> Node:
        return self.chain(("and",), "negation")

    def negation(self) -> Node:
        if (sign := self.accept("not")) is not None:
            self.depth += 1
            part = self.negation() if self.depth <= _MAX_DEPTH else self.expression()
            self.depth -= 1
            return self.made(Call(sign.start, part.end, "not", (part,), True))
        return self.comparison()

    def comparison(self) -> Node:
        left = self.joined()
        if (sign := self.accept("=", "<>", "<", "<=", ">", ">=")) is not None:
            right = self.joined()
            node = self.made(Call(left.start, right.end, sign.text, (left, right), True))
            if (again := self.accept("=", "<>", "<", "<=", ">", ">=")) is not None:
                remedy = "join two comparisons with “and”"
                raise CalculationRefused("only two things are compared at once", again.start, again.end, remedy=remedy)
            return node
        if self.accept("is") is not None:
            turned = self.accept("not") is not None
            end = self.expect("missing", "“is” is followed by “missing” or “not missing”").end
            node = self.made(Call(left.start, end, "is missing", (left,), True))
            return self.made(Call(left.start, end, "not", (node,), True)) if turned else node
        if self.accept("in") is not None:
            self.expect("(", "values to choose from stand in brackets: Kind in ('Adult', 'Child')")
            values = self.arguments()
            return self.made(Call(left.start, self.tokens[self.position - 1].end, "in", (left, *values), True))
        return left

    def joined(self) -> Node:
        return self.chain(("&",), "added")

    def added(self) -> Node:
        return self.chain(("+", "-"), "multiplied")

    def multiplied(self) -> Node:
        return self.chain(("*", "/"), "signed")

    def signed(self) -> Node:
        if (sign := self.accept("-")) is not None:
            self.depth += 1
            part = self.signed() if self.depth <= _MAX_DEPTH else self.expression()
            self.depth -= 1
            return self.made(Call(sign.start, part.end, "negative", (part,), True))
        return self.power()

    def power(self) -> Node:
        base = self.primary()
        if self.accept("^") is None:
            return base
        self.depth += 1
        exponent = self.signed() if self.depth <= _MAX_DEPTH else self.expression()
        self.depth -= 1
        return self.made(Call(base.start, exponent.end, "^", (base, exponent), True))

    def arguments(self) -> tuple[Node, ...]:
        """Read parts separated by commas up to the closing bracket."""
        if self.accept(")") is not None:
            return ()
        parts = [self.expression()]
        while self.accept(",") is not None:
            parts.append(self.expression())
        self.expect(")", "close the bracket, or put a comma between two values")
        return tuple(parts)

    def primary(self) -> Node:
        token = self.peek()
        if token is None:
            what = "the calculation ends too early"
            raise CalculationRefused(what, len(self.text), len(self.text), remedy="write what comes next")
        self.position += 1
        if token.kind == "number":
            return self.number(token)
        if token.kind == "text":
            return Literal(token.start, token.end, token.text[1:-1].replace("''", "'"))
        if token.kind == "column":
            return ColumnName(token.start, token.end, token.text[1:-1].replace('""', '"'))
        if token.text == "(":
            node = self.expression()
            self.expect(")", "close the bracket")
            return node
        if token.kind == "name":
            return self.word(token)
        remedy = "write a column, a number or a text before it"
        raise CalculationRefused(f"“{token.text}” is not expected here", token.start, token.end, remedy=remedy)

    def number(self, token: Token) -> Node:
        if (percent := self.accept("%")) is not None:
            return Literal(token.start, percent.end, float(token.text) / 100)
        return Literal(token.start, token.end, float(token.text))

    def word(self, token: Token) -> Node:
        low = token.text.lower()
        if low in ("yes", "no", "missing"):
            value = None if low == "missing" else low == "yes"
            return Literal(token.start, token.end, value)
        if low in WORDS:
            remedy = f"put it in double quotes if a column is called “{token.text}”"
            raise CalculationRefused(f"“{token.text}” is not expected here", token.start, token.end, remedy=remedy)
        if self.accept("(") is not None:
            parts = self.arguments()
            return self.made(Call(token.start, self.tokens[self.position - 1].end, low, parts))
        return ColumnName(token.start, token.end, token.text)
