"""The command ``build``: a file of a packed report."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

from ypsil.core.errors import YpsilError


def add_build_options(command: argparse.ArgumentParser) -> None:
    command.add_argument("--data", action="append", default=[], metavar="NAME=FILE")
    command.add_argument("--where", action="append", default=[], metavar="COLUMN=VALUE")
    part = command.add_mutually_exclusive_group()
    part.add_argument("--band", metavar="ID")
    part.add_argument("--tile", metavar="ID")
    size = command.add_mutually_exclusive_group()
    size.add_argument("--scale", type=float, default=2.0)
    size.add_argument("--width", type=float, metavar="PX")
    size.add_argument("--dpi", type=float, metavar="N", help="dots to an inch of print")
    command.add_argument(
        "--pages", choices=("A4", "Letter", "band"), default="", help="PDF: the paper, or a page a band"
    )
    command.add_argument("--bleed", action="store_true", help="PDF: 3 mm beyond the edge, with marks where it is cut")
    command.add_argument("--numbers", action="store_true", help="PDF: tables of all numbers at the end")
    command.add_argument("--outlines", action="store_true", help="SVG: letters as outlines")
    command.add_argument("--out", required=True, metavar="X.pdf|png|jpg|webp|svg|html|pptx|docx|xlsx|zip")


def build_file(parsed: argparse.Namespace, read: Callable[[str], bytes]) -> tuple[bytes, dict[str, Any]]:
    """Return the file that is wanted, and what is said of it; ``read`` gets the bytes of a file by its name."""
    from ypsil.core.export.base import Delivery
    from ypsil.core.package import open_package
    from ypsil.core.package.building import Wanted, build

    package = open_package(read(parsed.file), Path(parsed.file).name)
    for pair in parsed.data:
        name, path = _pair(pair, "--data")
        package = package.with_rows(name, read(path), Path(path).name)
    where = tuple(_pair(pair, "--where") for pair in parsed.where)
    delivery = Delivery(
        scale=parsed.scale,
        width=parsed.width,
        dpi=parsed.dpi,
        paper=parsed.pages,
        has_bleed=parsed.bleed,
        has_numbers=parsed.numbers,
        is_outlined=parsed.outlines,
    )
    wanted = Wanted(where, parsed.band, parsed.tile, delivery)
    made = build(package, Path(parsed.out).suffix.removeprefix(".").lower(), wanted)
    for problem in made.problems:
        print(f"ypsil: {Path(parsed.file).name}: {problem}", file=sys.stderr)
    return made.content, {"title": package.report.title, "out": parsed.out, "problems": list(made.problems)}


def _pair(pair: str, option: str) -> tuple[str, str]:
    name, sign, value = pair.partition("=")
    if not (name and sign and value):
        raise YpsilError(f"“{pair}” is not a pair", where=option, remedy="give it as NAME=VALUE")
    return name, value
