"""The package as a file format, beside those that show a report."""

from __future__ import annotations

from ypsil.core.drawing.scene import Scene
from ypsil.core.errors import YpsilError
from ypsil.core.export.base import Delivery, FileFormat
from ypsil.core.package.writing import package_of
from ypsil.core.render import Page


def _page(page: Page, _: Delivery) -> bytes:
    return package_of(page.report, page.context.tables, page.context.pictures)


def _scene(scene: Scene, language: str) -> bytes:
    raise YpsilError("one drawing is no report", remedy="pack the report that it stands in")


PACKAGE = FileFormat("ypsil", "Package: the report with its tables and pictures", "application/zip", 90, _page, _scene)
