"""What stands in the files of a room, so that adding a file is all that adding takes."""

from __future__ import annotations

import importlib
import pkgutil
import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from functools import cached_property, reduce
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


class Shelf(Mapping[str, _Kind]):
    """What the modules of a room hold under a name, each by a name of its own: one is had without the others.

    The text of a module says what it holds, by the first text in it (``VISUAL = Visual(name="bar", ...)`` or
    ``FORMAT = FileFormat("svg", ...)``), so that only the module of the one asked for is imported; going through all
    imports all. ``order`` is the order of that.
    """

    def __init__(self, room: str, file: str, name: str, kind: type[_Kind], order: Callable[[_Kind], Any]) -> None:
        self._name, self._kind, self._order = name, kind, order
        self._says = re.compile(rf"^{name} = \w+\([^\"']*[\"']([\w-]+)[\"']", re.MULTILINE)
        self._room, self._folder = room, Path(file).parent
        self._sorted: list[str] | None = None
        # What was asked for once: drawings ask for the same few again and again.
        self._held: dict[str, _Kind] = {}

    @cached_property
    def _paths(self) -> list[Path]:
        return sorted(self._folder.rglob("*.py"))

    @cached_property
    def _modules(self) -> dict[str, str]:
        """The module of each name: the text of all of them is read for it."""
        return {said: self._module(path) for path in self._paths if (said := self._said_in(path))}

    def _said_in(self, path: Path) -> str:
        found = self._says.search(path.read_text(encoding="utf-8"))
        return found[1] if found else ""

    def _module(self, path: Path) -> str:
        return ".".join((self._room, *path.relative_to(self._folder).with_suffix("").parts))

    def _module_of(self, key: str) -> str | None:
        """Return the module of a name; most are called as their module is, and then no other is read."""
        if "_modules" not in self.__dict__:
            alike = next((path for path in self._paths if path.stem == key.replace("-", "_")), None)
            if alike is not None and self._said_in(alike) == key:
                return self._module(alike)
        return self._modules.get(key)

    def __getitem__(self, key: str) -> _Kind:
        if key not in self._held:
            module = self._module_of(key)
            if module is None:
                raise KeyError(key)
            held = getattr(importlib.import_module(module), self._name)
            assert isinstance(held, self._kind)
            self._held[key] = held
        return self._held[key]

    def __contains__(self, key: object) -> bool:
        return isinstance(key, str) and (key in self._held or self._module_of(key) is not None)

    def __iter__(self) -> Iterator[str]:
        if self._sorted is None:
            self._sorted = sorted(self._modules, key=lambda key: self._order(self[key]))
        return iter(self._sorted)

    def __len__(self) -> int:
        return len(self._modules)


def values_in(room: str, file: str, name: str, kind: type[_Kind], *, but: tuple[str, ...] = ()) -> list[_Kind]:
    """Return what the modules of a room hold under a name, where it is of a kind."""
    held = (getattr(module, name, None) for module in modules_in(room, file, but=but))
    return [one for one in held if isinstance(one, kind)]
