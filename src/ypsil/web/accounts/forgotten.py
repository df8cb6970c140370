"""A forgotten password: a letter with a link, which lets its reader choose a new one, once and within a day."""

from __future__ import annotations

from contextlib import suppress
from typing import Any

from axes.utils import reset
from django.contrib import messages
from django.contrib.auth.forms import PasswordResetForm
from django.contrib.auth.models import AbstractBaseUser
from django.contrib.auth.views import PasswordResetConfirmView, PasswordResetView
from django.core.cache import cache
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.template.loader import render_to_string
from django.urls import reverse_lazy

from ypsil.web.accounts.forms import mail_address
from ypsil.web.outbox.services import is_mail_kept, send

# So many letters go to an address, and are asked for from one, within an hour.
LETTERS_TO_ADDRESS, LETTERS_FROM_ONE = 3, 20
_HOUR_S = 3600


class ForgottenForm(PasswordResetForm):
    """Finds the accounts of a mail address and writes to it, once for each."""

    email = mail_address("Mail address", is_first=True)

    def send_mail(
        self,
        subject_template_name: str,
        email_template_name: str,
        context: dict[str, Any],
        from_email: str | None,
        to_email: str,
        html_email_template_name: str | None = None,
    ) -> None:
        send(to_email, "A new password for Ypsil", render_to_string(email_template_name, context))


class Forgotten(PasswordResetView):
    """Asks for the address. What is answered is the same whether there is such an account or not."""

    template_name = "accounts/forgotten.html"
    email_template_name = "accounts/forgotten_letter.txt"
    form_class = ForgottenForm
    success_url = reverse_lazy("forgotten-sent")

    def get_context_data(self, **given: Any) -> dict[str, Any]:
        return super().get_context_data(**given) | {"mail_is_kept": is_mail_kept()}

    def form_valid(self, form: Any) -> HttpResponse:
        if _counted(f"from {self.request.META.get('REMOTE_ADDR', '')}") > LETTERS_FROM_ONE:
            return render(self.request, "accounts/too_many_letters.html", status=429)
        if _counted(f"to {form.cleaned_data['email'].casefold()}") > LETTERS_TO_ADDRESS:
            # Said on the page that follows, whether there is an account or not.
            return HttpResponse(status=302, headers={"Location": str(self.success_url)})
        return super().form_valid(form)

    def form_invalid(self, form: Any) -> HttpResponse:
        return self.render_to_response(self.get_context_data(form=form), status=422)


def _counted(what: str) -> int:
    """Count one more letter, and return how many there were within an hour."""
    key = f"letters {what}".replace(" ", "_")
    while True:
        cache.add(key, 0, _HOUR_S)
        # The hour may end between the two.
        with suppress(ValueError):
            return int(cache.incr(key))


def sent(request: HttpRequest) -> HttpResponse:
    return render(request, "accounts/forgotten_sent.html", {"mail_is_kept": is_mail_kept()})


class NewPassword(PasswordResetConfirmView):
    """Chooses the new password; every sign-in of before ends, and so does a lock of the account."""

    template_name = "accounts/new_password.html"
    success_url = reverse_lazy("sign-in")

    def form_valid(self, form: Any) -> HttpResponse:
        answered = super().form_valid(form)
        person: AbstractBaseUser = form.user
        reset(username=person.get_username())
        messages.success(self.request, "The password is changed. Sign in with the new one.")
        return answered

    def form_invalid(self, form: Any) -> HttpResponse:
        return self.render_to_response(self.get_context_data(form=form), status=422)
