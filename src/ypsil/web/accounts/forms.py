"""The forms of an account."""

import re
from typing import Any

from django import forms
from django.contrib.auth.forms import BaseUserCreationForm

from ypsil.web.accounts.models import User

_NAME = r"[\w.@+-]+"


def taken(name: str) -> str:
    """Return what is said of a name that somebody has, however its letters are written."""
    return f"The name “{name}” is already taken. Choose another, or sign in with it."


def mail_address(label: str, *, is_first: bool = False, **given: Any) -> forms.EmailField:
    """Return a field for a mail address, which has the focus where it is the first of its page."""
    widget = forms.EmailInput(attrs={"autocomplete": "email", "autofocus": is_first})
    return forms.EmailField(label=label, max_length=254, widget=widget, **given)


class SignUpForm(BaseUserCreationForm[User]):
    username = forms.CharField(
        label="Name to sign in with",
        max_length=150,
        widget=forms.TextInput(attrs={"autocomplete": "username", "autofocus": True}),
    )

    email = mail_address(
        "Mail address, if you like",
        help_text="A forgotten password can be chosen anew by a letter to it. Nobody else sees it.",
        required=False,
    )

    class Meta:
        model = User
        fields = ("username", "email")

    def clean_username(self) -> str:
        name: str = self.cleaned_data["username"]
        if not re.fullmatch(_NAME, name):
            way_out = re.sub(r"[^\w.@+-]+", ".", name).strip(".")
            raise forms.ValidationError(
                "A name to sign in with has letters, digits and @ . + - _ only, and no spaces."
                + (f" “{way_out}” would do." if way_out else "")
            )
        if User.objects.filter(username__iexact=name).exists():
            raise forms.ValidationError(taken(name))
        return name


class AddressForm(forms.Form):
    """Another mail address of an account, or none; the password shows that it is its owner who asks."""

    email = mail_address(
        "Mail address", help_text="Left empty, a forgotten password cannot be chosen anew.", required=False
    )
    password = forms.CharField(
        label="Your password",
        strip=False,
        widget=forms.PasswordInput(attrs={"autocomplete": "current-password"}),
    )

    def __init__(self, person: User, data: Any = None) -> None:
        self.person = person
        super().__init__(data, initial={"email": person.email}, prefix="address")

    def clean_password(self) -> str:
        password: str = self.cleaned_data["password"]
        if not self.person.check_password(password):
            raise forms.ValidationError("That is not the password of this account. The address stays as it was.")
        return password

    def save(self) -> None:
        self.person.email = self.cleaned_data["email"]
        self.person.save(update_fields=["email"])
