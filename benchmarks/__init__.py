"""Measurements side by side with general-purpose libraries, in one run: ``make bench``."""
