"""The shipped palettes of eight colours each.

Any two colours of a palette are at least 10 apart (CIE 1976 ΔE) as seen with and without a colour-vision deficiency
(Machado, Oliveira and Fernandes 2009, severity 1.0), and each has at least 4.5:1 on white (WCAG 2.2, 1.4.3), so that
it can carry text. ``tests/reference`` measures both. They were found by moving hand-picked colours as little as that
takes.
"""

from __future__ import annotations

PALETTES: dict[str, tuple[str, ...]] = {
    "house": ("#14697f", "#af6117", "#6a4098", "#ac345a", "#4f7f39", "#6d7178", "#75391b", "#2870c5"),
    "sea": ("#0b4f6c", "#4d8165", "#1c62b1", "#1d442b", "#65768e", "#323772", "#2b873b", "#835699"),
    "earth": ("#8a4b20", "#7f7462", "#a16819", "#55351f", "#635868", "#0c4a44", "#b16046", "#675241"),
    "berry": ("#8e1f5b", "#4a3c91", "#a9382a", "#2e5d7e", "#a15ea3", "#6e2a1f", "#6f7845", "#bd5278"),
}
HOUSE = "house"
