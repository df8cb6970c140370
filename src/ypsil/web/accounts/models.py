"""Users. The model is our own from the first migration, so that it can grow."""

from __future__ import annotations

from django.conf import settings
from django.contrib.auth.models import AbstractUser
from django.contrib.auth.models import UserManager as PlainUserManager
from django.db import models
from django.db.models.functions import Lower


class UserManager(PlainUserManager["User"]):
    """Finds people by their name, however they write its letters."""

    def get_by_natural_key(self, username: str | None) -> User:
        return self.get(username__iexact=username)


class User(AbstractUser):
    """A person with an account."""

    objects = UserManager()  # type: ignore[misc]

    class Meta(AbstractUser.Meta):
        constraints = [
            models.UniqueConstraint(
                Lower("username"), name="one_account_of_a_name", violation_error_message="This name is already taken."
            )
        ]


class SentForm(models.Model):
    """A form that made something, by the name it carried, and where its first sending led."""

    sender = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=40)
    path = models.CharField(max_length=200)
    led_to = models.CharField(max_length=400, blank=True)
    sent = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["sender", "name"], name="one_sending_of_a_form")]
