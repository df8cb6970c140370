"""The names of icons and pictures, as settings take them."""

from __future__ import annotations

from typing import Annotated

from pydantic import AfterValidator, ValidationInfo

from ypsil.core.drawing.icons import find_icons, icons
from ypsil.core.drawing.pictures import is_picture_name, named
from ypsil.core.visuals.shared.settings import PICTURES

_NAMED = 5


def _is_icon(name: str) -> str:
    """Refuse an unknown icon, naming those that its words find."""
    if name in icons():
        return name
    near = ", ".join(icon.name for icon in find_icons(name)[:_NAMED])
    raise ValueError(f"there is no icon “{name}”" + (f"; there are: {near}" if near else ""))


IconName = Annotated[str, AfterValidator(_is_icon)]


def icon_or_picture(name: str, info: ValidationInfo) -> str:
    """Refuse a name that is neither an icon's nor a picture's; a picture is held by its name where it is at hand."""
    at_hand = (info.context or {}).get(PICTURES, {})
    return named(name, at_hand) if is_picture_name(name) else _is_icon(name)


def _or_none(name: str, info: ValidationInfo) -> str:
    return icon_or_picture(name, info) if name else ""


IconOrPicture = Annotated[str, AfterValidator(_or_none)]
