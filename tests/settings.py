"""Settings of the tests: a home of its own for each process, and background work done at once."""

import atexit
import os
import shutil
import tempfile

HOME_OF_TESTS = tempfile.mkdtemp(prefix="ypsil-tests-")
atexit.register(shutil.rmtree, HOME_OF_TESTS, ignore_errors=True)
os.environ["YPSIL_HOME"] = HOME_OF_TESTS
os.environ["TASK_BACKEND"] = "django_tasks.backends.immediate.ImmediateBackend"

from ypsil.web.settings import *  # noqa: E402, F403

# What keeps a stolen password from being guessed costs a second each time somebody signs in.
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
