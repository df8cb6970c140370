"""The worker: ``python -m ypsil.web.worker``, kept running by ``ypsil.web.server``. It does the long work, in turn."""

from __future__ import annotations

import os
import sys

from ypsil.core.apart import end_with

_NICE = 5


def run() -> None:
    """Take up what was left in the middle, and work until told to stop."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ypsil.web.settings")
    # Where there is work for all cores, whoever waits for a page comes first.
    os.nice(_NICE)
    import django

    django.setup()
    from django.core.management import call_command

    from ypsil.web.gather.arrivals import resume
    from ypsil.web.publish.files import resume_files
    from ypsil.web.publish.releases import look_at_all
    from ypsil.web.tidy import forget_ended, forget_interrupted

    forget_interrupted()
    forget_ended()
    resume()
    resume_files()
    look_at_all()
    call_command("db_worker", interval=0.5, verbosity=0, startup_delay=False)


if __name__ == "__main__":
    end_with(int(sys.argv[1]))
    run()
