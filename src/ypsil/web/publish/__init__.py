"""Publish: who can see a report, its link, and its files."""
