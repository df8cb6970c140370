"""The tables that a report names, under other names."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ypsil.core.report.nodes import with_tables


def renamed(report: dict[str, Any], names: Mapping[str, str]) -> dict[str, Any]:
    """Return a report as JSON data with its tables under other names."""

    def tile(content: dict[str, Any]) -> dict[str, Any]:
        found = with_tables(content, names)
        return found | {"tiles": [tile(one) for one in found["tiles"]]} if "tiles" in found else found

    bands = [band | {"tiles": [tile(one) for one in band.get("tiles", ())]} for band in report.get("bands", ())]
    return report | {"bands": bands}
