"""The command ``palette``: colours from one, or from a picture, and who takes which of them for each other."""

from __future__ import annotations

import argparse
import re
from collections.abc import Callable
from pathlib import Path
from typing import Any

from ypsil.core.errors import YpsilError

_HEX = re.compile(r"#?(?:[0-9a-fA-F]{6}|[0-9a-fA-F]{3})")
_USUAL = 5


def add_palette_options(command: argparse.ArgumentParser) -> None:
    command.add_argument("colour", metavar="COLOUR|PICTURE", help="such as #14697f, a name of CSS, or a file")
    command.add_argument("--harmony", choices=("one-hue", "neighbours", "opposite", "triad"))
    command.add_argument("--count", type=int, default=_USUAL, metavar="N")


def palette_json(parsed: argparse.Namespace, read: Callable[[str], bytes]) -> dict[str, Any]:
    """Return the colours, the parts of a style that go with the first, and the pairs that are too close."""
    from ypsil.core.style.harmony import MOST_COLOURS, harmonious, roles_of
    from ypsil.core.style.seen import close_pairs

    if not 1 <= parsed.count <= MOST_COLOURS:
        raise YpsilError(f"a palette has 1 to {MOST_COLOURS} colours", remedy="give another number with --count")
    colour = _colour(parsed.colour)
    found = [colour] if colour else _of_picture(parsed.colour, parsed.count, read)
    if parsed.harmony or (colour and len(found) < parsed.count):
        found = harmonious(found[0], parsed.harmony or "neighbours", parsed.count)
    return {
        "colours": found,
        "roles": roles_of(found[0]),
        "warnings": [
            {"pair": [*one.pair], "seen_as": one.seen_as, "difference": one.difference, "instead": one.instead}
            for one in close_pairs(found)
        ],
    }


def _colour(said: str) -> str:
    """Return a colour as a code; nothing for the name of a file."""
    if Path(said).exists():
        return ""
    if _HEX.fullmatch(said):
        plain = said.removeprefix("#").lower()
        return "#" + ("".join(2 * one for one in plain) if len(plain) == 3 else plain)
    from PIL import ImageColor

    try:
        red, green, blue = ImageColor.getrgb(said)[:3]
    except ValueError:
        if "." in said or "/" in said:
            return ""
        raise YpsilError(
            "this is neither a colour nor a file", where=said, remedy="give one such as #14697f, or a picture"
        ) from None
    return f"#{red:02x}{green:02x}{blue:02x}"


def _of_picture(path: str, count: int, read: Callable[[str], bytes]) -> list[str]:
    from ypsil.core.drawing.picture_files import read_picture
    from ypsil.core.style.from_pictures import colours_in

    where = Path(path).name
    found = colours_in(read_picture(read(path), where), count)
    if not found:
        raise YpsilError("nothing of the picture has a colour: all of it is clear", where=where, remedy="give another")
    return found
