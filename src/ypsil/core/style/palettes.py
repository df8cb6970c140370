"""The shipped palettes of eight colours each, with the ground that they are made for.

Any two colours of a palette are at least 10 apart (CIE 1976 ΔE) as seen with and without a colour-vision deficiency
(Machado, Oliveira and Fernandes 2009, severity 1.0), and each has at least 4.5:1 on its ground (WCAG 2.2, 1.4.3), so
that it can carry text. ``tests/reference`` measures both. They were found by moving hand-picked colours as little as
that takes.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Manner = Literal["calm", "loud", "dark", "for print", "for children"]


@dataclass(frozen=True, slots=True)
class Palette:
    """Colours by their parts in a style; the first of ``series`` is the main one."""

    name: str
    label: str
    manners: tuple[Manner, ...]
    series: tuple[str, ...]
    paper: str = "#ffffff"
    ink: str = "#22212b"
    rise: str = "#1f7a4d"
    watch: str = "#8a5a00"
    fall: str = "#b3343f"


# What rises and falls on dark grounds.
_DARK = {"rise": "#7ddba3", "watch": "#f0c05a", "fall": "#ff8f8f"}
_ALL = (
    Palette(
        "house", "Teal and amber", ("calm",),
        ("#14697f", "#af6117", "#6a4098", "#ac345a", "#4f7f39", "#6d7178", "#75391b", "#2870c5"),
    ),
    Palette(
        "sea", "Sea", ("calm",),
        ("#0b4f6c", "#4d8165", "#1c62b1", "#1d442b", "#65768e", "#323772", "#2b873b", "#835699"),
    ),
    Palette(
        "earth", "Earth", ("calm",),
        ("#8a4b20", "#7f7462", "#a16819", "#55351f", "#635868", "#0c4a44", "#b16046", "#675241"),
    ),
    Palette(
        "berry", "Berry", ("loud",),
        ("#8e1f5b", "#4a3c91", "#a9382a", "#2e5d7e", "#a15ea3", "#6e2a1f", "#6f7845", "#bd5278"),
    ),
    Palette(
        "meadow", "Meadow", ("calm",),
        ("#338137", "#946d00", "#74736f", "#783f24", "#515f00", "#6b4a8b", "#005b48", "#a33f7a"),
        paper="#fbfdf7", ink="#1d2a1c",
    ),
    Palette(
        "harbour", "Harbour", ("calm",),
        ("#054170", "#c0474b", "#197892", "#896425", "#455d97", "#7a123c", "#45794c", "#6c707b"),
        paper="#f8fafc", ink="#10213a",
    ),
    Palette(
        "clay", "Clay and cream", ("calm",),
        ("#ad4226", "#606060", "#8f6c00", "#6d4263", "#5b7949", "#7c6f61", "#7a2c1a", "#464646"),
        paper="#fdf8f2", ink="#33211a",
    ),
    Palette(
        "plum", "Plum and mint", ("loud",),
        ("#5b2d89", "#196847", "#804500", "#c2326a", "#2e6eb2", "#656565", "#352553", "#777614"),
        paper="#fbf9fe", ink="#2a1a3e",
    ),
    Palette(
        "print", "Ink and one red", ("calm", "for print"),
        ("#100f0f", "#c53428", "#585858", "#205ba7", "#383838", "#7b4c00", "#747474", "#4d7b3c"),
        paper="#ffffff", ink="#111111",
    ),
    Palette(
        "playground", "Playground", ("loud", "for children"),
        ("#b40400", "#2a6dcf", "#097d37", "#ad6300", "#6f28be", "#ae0059", "#757575", "#59432f"),
        paper="#ffffff", ink="#22212b",
    ),
    Palette(
        "parade", "Parade", ("loud",),
        ("#c2225c", "#5a38b9", "#ba5000", "#6a6a6a", "#358139", "#840095", "#8e3c1a", "#4c4cab"),
        paper="#fffaf6", ink="#2b1326",
    ),
    Palette(
        "slate", "Slate", ("calm", "for print"),
        ("#4f4f4f", "#956753", "#40796e", "#613a67", "#606d8b", "#353535", "#80413b", "#6d6231"),
        paper="#f8f9fb", ink="#1f2733",
    ),
    Palette(
        "night", "Night", ("dark", "calm"),
        ("#95d6eb", "#e0ab6e", "#b6fed1", "#d68195", "#a7a1ff", "#d1cfcc", "#ffe47d", "#6c99b3"),
        paper="#131a2e", ink="#f1f4fb", **_DARK,
    ),
    Palette(
        "forest", "Forest at night", ("dark", "calm"),
        ("#9fe99a", "#edc13f", "#86d4d2", "#f08a6c", "#c8b6ff", "#dfe8dc", "#5fbf8f", "#d391b1"),
        paper="#12241d", ink="#eef5ea", **_DARK,
    ),
    Palette(
        "chalkboard", "Chalkboard", ("dark", "for children"),
        ("#f4d66e", "#ededed", "#f69f9a", "#b4eead", "#d9b7ff", "#ecddc8", "#f9be7b", "#74d4cd"),
        paper="#22332f", ink="#f8f6ee", **_DARK,
    ),
    Palette(
        "ember", "Ember", ("dark", "loud"),
        ("#ff9958", "#fdcf6f", "#fd7c8b", "#bcbcbc", "#cda7ea", "#e7ded6", "#c97a45", "#a8cc78"),
        paper="#221714", ink="#fbf1ea", **_DARK,
    ),
)  # fmt: skip
SHIPPED: dict[str, Palette] = {one.name: one for one in _ALL}
PALETTES: dict[str, tuple[str, ...]] = {one.name: one.series for one in _ALL}
HOUSE = "house"
