"""Percentage figures: one share, or a few at one scale, shown big."""
