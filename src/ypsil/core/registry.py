"""What stands in the files of a room, so that adding a file is all that adding takes."""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Iterator, Sequence
from functools import reduce
from operator import or_
from pathlib import Path
from types import ModuleType
from typing import Annotated, Any, TypeVar

from pydantic import Field

_Kind = TypeVar("_Kind")


def modules_in(room: str, file: str, *, but: tuple[str, ...] = ()) -> Iterator[ModuleType]:
    """Yield the modules of a room and of the rooms in it, by name; ``file`` is the room's ``__file__``, ``but`` are
    those that hold nothing of the kind that is looked for."""
    found = pkgutil.walk_packages([str(Path(file).parent)], f"{room}.")
    for module in sorted(found, key=lambda one: one.name):
        if module.name.removeprefix(f"{room}.") not in but:
            yield importlib.import_module(module.name)


def classes_in(room: str, file: str, kind: type[_Kind], *, but: tuple[str, ...] = ()) -> list[type[_Kind]]:
    """Return the classes of a kind that are defined in a room, in the order of their modules, then of their lines."""
    return [
        one
        for module in modules_in(room, file, but=but)
        for one in vars(module).values()
        if isinstance(one, type) and issubclass(one, kind) and one is not kind and one.__module__ == module.__name__
    ]


def one_of(models: Sequence[Any]) -> Any:
    """Return the type of data that is one of several models, told apart by their ``type``."""
    return Annotated[reduce(or_, models), Field(discriminator="type")]


def values_in(room: str, file: str, name: str, kind: type[_Kind], *, but: tuple[str, ...] = ()) -> list[_Kind]:
    """Return what the modules of a room hold under a name, where it is of a kind."""
    held = (getattr(module, name, None) for module in modules_in(room, file, but=but))
    return [one for one in held if isinstance(one, kind)]
