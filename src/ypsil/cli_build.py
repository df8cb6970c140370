"""The command ``build``: a file of a packed report."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

from ypsil.core.errors import YpsilError

_PICTURES = (".png", ".jpg", ".jpeg", ".webp")
_MOST_SIZES = 8


def add_build_options(command: argparse.ArgumentParser) -> None:
    command.add_argument("--data", action="append", default=[], metavar="NAME=FILE")
    command.add_argument("--where", action="append", default=[], metavar="COLUMN=VALUE")
    command.add_argument(
        "--choose", default="", metavar="QUERY", help="what readers choose, as in a page's address: branch=North"
    )
    part = command.add_mutually_exclusive_group()
    part.add_argument("--band", metavar="ID")
    part.add_argument("--tile", metavar="ID")
    size = command.add_mutually_exclusive_group()
    size.add_argument("--scale", type=float, default=2.0)
    size.add_argument("--width", type=float, metavar="PX")
    size.add_argument("--dpi", type=float, metavar="N", help="dots to an inch of print")
    size.add_argument("--sizes", metavar="1x,1200px,300dpi", help="pictures: a file of each size, X-1x.png and so on")
    command.add_argument(
        "--pages", choices=("A4", "Letter", "band"), default="", help="PDF: the paper, or a page a band"
    )
    command.add_argument("--bleed", action="store_true", help="PDF: 3 mm beyond the edge, with marks where it is cut")
    command.add_argument("--numbers", action="store_true", help="PDF: tables of all numbers at the end")
    command.add_argument("--outlines", action="store_true", help="SVG: letters as outlines")
    command.add_argument("--out", required=True, metavar="X.pdf|png|jpg|webp|svg|html|pptx|docx|xlsx|zip")


def build_files(
    parsed: argparse.Namespace, read: Callable[[str], bytes]
) -> tuple[list[tuple[str, bytes]], dict[str, Any]]:
    """Return the files that are wanted, by their names, and what is said of them; ``read`` gets the bytes of a file."""
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
    out, sizes = Path(parsed.out), _sizes(parsed)
    deliveries = tuple(delivery.sized(size) for size in sizes) or (delivery,)
    wanted = Wanted(where, parsed.band, parsed.tile, deliveries, parsed.choose.partition("?")[2] or parsed.choose)
    made = build(package, out.suffix.removeprefix(".").lower(), wanted)
    for problem in made.problems:
        print(f"ypsil: {Path(parsed.file).name}: {problem}", file=sys.stderr)
    names = [str(out.with_name(f"{out.stem}-{size}{out.suffix}")) for size in sizes] or [parsed.out]
    said: dict[str, Any] = {"title": package.report.title, "out": parsed.out, "problems": list(made.problems)}
    return list(zip(names, made.contents, strict=True)), said | ({"files": names} if sizes else {})


def _sizes(parsed: argparse.Namespace) -> list[str]:
    """Return the sizes that are wanted, each once; none where one file is."""
    wanted = [] if parsed.sizes is None else ["".join(one.lower().split()) for one in parsed.sizes.split(",")]
    sizes = list(dict.fromkeys(one for one in wanted if one))
    if sizes and Path(parsed.out).suffix.lower() not in _PICTURES:
        raise YpsilError("only pictures have sizes", where=parsed.out, remedy="write a PNG, JPEG or WebP file")
    if len(sizes) > _MOST_SIZES:
        raise YpsilError(f"at most {_MOST_SIZES} sizes are made at once", where="--sizes", remedy="name fewer")
    return sizes


def _pair(pair: str, option: str) -> tuple[str, str]:
    name, sign, value = pair.partition("=")
    if not (name and sign and value):
        raise YpsilError(f"“{pair}” is not a pair", where=option, remedy="give it as NAME=VALUE")
    return name, value
