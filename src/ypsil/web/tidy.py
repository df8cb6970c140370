"""What nobody needs any more is cleared: at each start of the worker, and once a day: ``python -m ypsil.web.tidy``."""

from __future__ import annotations

import datetime as dt
import os
import sys

from ypsil.core.apart import end_with

KEPT_RESULTS = dt.timedelta(days=1)
# The file is written anew, smaller, where this much of it holds nothing any more.
_FREE_PART, _FREE_BYTES = 0.25, 32 << 20


def forget_ended() -> None:
    """Clear sessions that have run out and results of work that is done; what accounts left that are gone;
    give room in the file back."""
    from django.core.management import call_command
    from django.utils import timezone
    from django_tasks_db.models import DBTaskResult

    from ypsil.web.accounts.services import forget_sent_forms
    from ypsil.web.compose.services import forget_resting
    from ypsil.web.gather.services import forget_orphans
    from ypsil.web.outbox.services import forget_letters
    from ypsil.web.publish.services import forget_files

    call_command("clearsessions", verbosity=0)
    forget_sent_forms(before=timezone.now() - KEPT_RESULTS)
    DBTaskResult.objects.finished().filter(finished_at__lt=timezone.now() - KEPT_RESULTS).delete()
    forget_resting()
    forget_orphans()
    forget_letters()
    forget_files()
    shrink()


def forget_interrupted() -> None:
    """Clear the notes of work in whose middle a worker ended; what it worked on is taken up by what it is."""
    from django_tasks_db.models import DBTaskResult

    DBTaskResult.objects.running().delete()


def shrink(free_bytes: int = _FREE_BYTES) -> bool:
    """Give the room in the database's file that holds nothing back to the disk, where there is much; say whether."""
    from django.db import connection

    if connection.vendor != "sqlite":
        return False
    with connection.cursor() as cursor:
        free, pages, size = (
            cursor.execute(f"PRAGMA {name}").fetchone()[0] for name in ("freelist_count", "page_count", "page_size")
        )
        if free * size < free_bytes or free < _FREE_PART * pages:
            return False
        cursor.execute("VACUUM")
        cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    return True


if __name__ == "__main__":
    end_with(int(sys.argv[1]))
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ypsil.web.settings")
    import django

    django.setup()
    forget_ended()
