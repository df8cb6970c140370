"""Compose: reports, their edits and the page editor; the desk, where reports and tables are listed."""
