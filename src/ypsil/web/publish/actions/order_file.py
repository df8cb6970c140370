"""Ask for a file of a report."""

from __future__ import annotations

from ypsil.web.accounts.services import User
from ypsil.web.compose.services import report_for
from ypsil.web.publish import files
from ypsil.web.publish.models import MadeFile
from ypsil.web.publish.orders import Order


def order_file(asker: User, uid: str, order: Order) -> MadeFile:
    """Ask for a file of a report of one's own; raises YpsilError for what cannot be had."""
    return files.order_file(asker, report_for(asker, uid), order)
