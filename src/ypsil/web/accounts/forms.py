"""The sign-up form."""

from django import forms
from django.contrib.auth.forms import BaseUserCreationForm

from ypsil.web.accounts.models import User


def taken(name: str) -> str:
    """Return what is said of a name that somebody has, however its letters are written."""
    return f"The name “{name}” is already taken. Choose another, or sign in with it."


class SignUpForm(BaseUserCreationForm[User]):
    username = forms.CharField(
        label="Name to sign in with",
        max_length=150,
        widget=forms.TextInput(attrs={"autocomplete": "username", "autofocus": True}),
    )

    class Meta:
        model = User
        fields = ("username",)

    def clean_username(self) -> str:
        name: str = self.cleaned_data["username"]
        if User.objects.filter(username__iexact=name).exists():
            raise forms.ValidationError(taken(name))
        return name
