"""Ypsil: spreadsheet tables and survey text become infographics and dashboard reports."""

__version__ = "0.1.0"
