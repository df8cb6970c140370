"""The house style as the theme of slides, so that what somebody adds to them later is in it, too."""

from __future__ import annotations

from typing import Any

from lxml import etree
from pptx.opc.constants import RELATIONSHIP_TYPE as RT
from pptx.oxml.ns import qn

from ypsil.core.style.house import HouseStyle

_ACCENTS = 6


def in_style(deck: Any, style: HouseStyle) -> None:
    """Give the theme of a presentation the colours and the typefaces of a house style."""
    part = deck.slide_master.part.part_related_by(RT.THEME)
    theme = etree.fromstring(part.blob)
    theme.set("name", "House style")
    colours = {"dk1": style.ink, "lt1": style.paper, "dk2": style.muted, "lt2": style.grid}
    colours |= {f"accent{number + 1}": style.colour(number) for number in range(_ACCENTS)}
    colours |= {"hlink": style.accent, "folHlink": style.muted}
    for name, colour in colours.items():
        found = theme.find(f".//{qn('a:clrScheme')}/{qn(f'a:{name}')}")
        for child in list(found):
            found.remove(child)
        etree.SubElement(found, qn("a:srgbClr")).set("val", colour.removeprefix("#")[:6].upper())
    for place, family in (("majorFont", style.heading_family), ("minorFont", style.body_family)):
        theme.find(f".//{qn('a:fontScheme')}/{qn(f'a:{place}')}/{qn('a:latin')}").set("typeface", family)
    for scheme in ("clrScheme", "fontScheme", "fmtScheme"):
        theme.find(f".//{qn(f'a:{scheme}')}").set("name", "House style")
    part._blob = etree.tostring(theme, xml_declaration=True, encoding="UTF-8", standalone=True)
