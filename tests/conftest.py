"""Settings that all tests share."""

from __future__ import annotations

from hypothesis import settings

# Shared machines are uneven; what is checked is behaviour, never time.
settings.register_profile("ypsil", deadline=None, max_examples=60, derandomize=True)
settings.load_profile("ypsil")
