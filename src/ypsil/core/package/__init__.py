"""A report as one open file: a zip with the report, its tables as CSV with what their columns hold, and its pictures.

``report.json`` is a report as in ``docs/formats/report.schema.json``; what its tiles call their table is the name of a
file in ``tables/``. Beside ``tables/visits.csv`` stands ``tables/visits.json`` (``package.schema.json``). Pictures are
named by what they hold.
"""

from ypsil.core.package.file_format import PACKAGE
from ypsil.core.package.opening import Package, open_package
from ypsil.core.package.writing import package_of

__all__ = ["PACKAGE", "Package", "open_package", "package_of"]
