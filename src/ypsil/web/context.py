"""What every template knows of the application."""

from django.conf import settings
from django.http import HttpRequest


def application(request: HttpRequest) -> dict[str, object]:
    return {"demo_mode": settings.DEMO}
