"""Keep what readers see now."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.services import report_for
from ypsil.web.publish import services
from ypsil.web.publish.models import Release


def keep_state(asker: User, uid: str, name: str) -> Release:
    """Keep what readers see now under a name, beside the report that follows its data; raises YpsilError without."""
    return services.keep_state(report_for(asker, uid), name)
