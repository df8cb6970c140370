"""Users. The model is our own from the first migration, so that it can grow."""

from django.contrib.auth.models import AbstractUser


class User(AbstractUser):
    """A person with an account."""
