"""The one family of exceptions that may reach a user."""

from __future__ import annotations

from typing import Any


class YpsilError(Exception):
    """Something a user can put right: what happened, where, and what to do.

    The web shows the three parts as they are; the command line prints them on one line.
    """

    def __init__(self, what: str, *, where: str = "", remedy: str = "") -> None:
        self.what = what
        self.where = where
        self.remedy = remedy
        super().__init__(self.line())

    def __reduce__(self) -> tuple[Any, ...]:
        # Whatever a kind of error is made of, it comes whole from another process.
        return _made_again, (type(self), self.args, self.__dict__)

    def line(self) -> str:
        """Return the whole message on one line: ``what, where; what to do``.

        >>> YpsilError("the file is empty", where="visits.csv", remedy="choose another file").line()
        'the file is empty, visits.csv; choose another file'
        """
        text = self.what + (f", {self.where}" if self.where else "")
        return " ".join((text + (f"; {self.remedy}" if self.remedy else "")).split())


def _made_again(kind: type[YpsilError], given: tuple[Any, ...], said: dict[str, Any]) -> YpsilError:
    made = kind.__new__(kind, *given)
    made.__dict__.update(said)
    return made


class UnreadableFile(YpsilError):
    """A file that cannot become a table or text."""


class QuestionRefused(YpsilError):
    """A question that the table cannot answer, or that asks for what is not there yet."""


class TooFewPeople(QuestionRefused):
    """What readers chose leaves so few people that nothing of them may be shown."""


class MissingColumns(QuestionRefused):
    """A question that names columns the table does not have.

    ``columns`` are the missing names, so that a report can say which tile needs what.
    """

    def __init__(self, columns: list[str], available: list[str]) -> None:
        self.columns = columns
        names = ", ".join(f"“{name}”" for name in columns)
        have = ", ".join(f"“{name}”" for name in available[:12])
        super().__init__(
            f"the table has no column {names}",
            remedy=f"choose one of its columns: {have}" if available else "choose another table",
        )


class DrawingRefused(YpsilError):
    """An answer that a visual cannot draw; the message says which visual would fit."""


class EditRefused(YpsilError):
    """An edit that does not fit the report it is applied to."""
