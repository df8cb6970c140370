"""An answer grouped by one or two columns as a tree of amounts."""

from __future__ import annotations

from dataclasses import dataclass

from ypsil.core.answers.model import Answer
from ypsil.core.visuals.shared.summary import group_name


@dataclass(frozen=True, slots=True)
class Node:
    """A part of the whole, with its own parts where there are any."""

    name: str
    amount: float
    children: tuple[Node, ...] = ()


def nodes_of(answer: Answer) -> list[Node]:
    """Return the first column's groups from the largest down, each with those of the second; none below zero."""
    per = answer.of("per")
    measure = answer.of("measure")[0]
    names = [[group_name(value, column) for value in answer.values(column)] for column in per]
    found: dict[str, list[Node]] = {}
    for place, value in enumerate(answer.values(measure)):
        if isinstance(value, int | float) and value > 0:
            inner = names[1][place] if len(per) > 1 else ""
            found.setdefault(names[0][place], []).append(Node(inner, float(value)))
    nodes = []
    for name, parts in found.items():
        parts.sort(key=lambda node: -node.amount)
        nodes.append(Node(name, sum(part.amount for part in parts), tuple(parts) if len(per) > 1 else ()))
    return sorted(nodes, key=lambda node: -node.amount)
