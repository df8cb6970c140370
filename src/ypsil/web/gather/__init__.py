"""Gather: tables, their versions, and the files they came from."""
