"""What every template knows of the application."""

from django.conf import settings
from django.http import HttpRequest


def application(request: HttpRequest) -> dict[str, object]:
    if not settings.DEMO:
        return {"demo_mode": False}
    return {"demo_mode": True, "demo_name": settings.DEMO_NAME, "demo_password": settings.DEMO_PASSWORD}
