"""Settings that all tests share."""

from __future__ import annotations

import os
import tempfile

from hypothesis import settings

# Set before Django reads its settings: a home of its own for each process, and work done at once.
os.environ.setdefault("YPSIL_HOME", tempfile.mkdtemp(prefix="ypsil-tests-"))
os.environ["TASK_BACKEND"] = "django_tasks.backends.immediate.ImmediateBackend"

# Shared machines are uneven; what is checked is behaviour, never time.
settings.register_profile("ypsil", deadline=None, max_examples=60, derandomize=True)
settings.load_profile("ypsil")
