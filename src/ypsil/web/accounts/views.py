"""Signing up and one's own account; signing in and out are Django's own views."""

from typing import Any

from django.conf import settings
from django.contrib import messages
from django.contrib.auth import login, logout
from django.contrib.auth.decorators import login_required
from django.contrib.auth.forms import PasswordChangeForm
from django.contrib.auth.views import PasswordChangeView
from django.db import IntegrityError, transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse_lazy
from django.views.decorators.http import require_http_methods, require_POST

from ypsil.web.accounts.forms import AddressForm, SignUpForm, taken
from ypsil.web.accounts.models import User


@require_http_methods(["GET", "HEAD", "POST"])
def sign_up(request: HttpRequest) -> HttpResponse:
    form = SignUpForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        try:
            with transaction.atomic():
                made = form.save()
        except IntegrityError:
            # Somebody else took the name since it was looked for.
            form.add_error("username", taken(form.cleaned_data["username"]))
        else:
            login(request, made, backend="django.contrib.auth.backends.ModelBackend")
            return redirect("desk")
    return render(request, "accounts/sign_up.html", {"form": form}, status=200 if not form.errors else 422)


@login_required
@require_http_methods(["GET", "HEAD", "POST"])
def delete_account(request: HttpRequest) -> HttpResponse:
    """Deleting for good asks first, and for the password: whoever finds a window open cannot do it."""
    person = request.user
    problem = ""
    if settings.DEMO and person.get_username() == settings.DEMO_NAME:
        problem = "The sample account stays as long as the sample is shown."
    elif request.method == "POST":
        if person.check_password(request.POST.get("password", "")):
            person.delete()
            logout(request)
            messages.success(request, "The account and all that it held are deleted.")
            return redirect("sign-in")
        problem = "That is not the password of this account. Nothing was deleted."
    status = 422 if problem and request.method == "POST" else 200
    return render(request, "accounts/delete.html", {"problem": problem}, status=status)


@login_required
@require_POST
def change_address(request: HttpRequest) -> HttpResponse:
    person = request.user
    assert isinstance(person, User)
    form = AddressForm(person, request.POST)
    if form.is_valid():
        form.save()
        messages.success(request, "The mail address is changed." if person.email else "No mail address is kept.")
        return redirect("account")
    forms = {"form": PasswordChangeForm(person), "address": form}
    return render(request, "accounts/account.html", forms, status=422)


class Account(PasswordChangeView):
    """One's own account: a changed password ends every other sign-in."""

    template_name = "accounts/account.html"
    success_url = reverse_lazy("desk")

    def get_context_data(self, **given: Any) -> dict[str, Any]:
        person = self.request.user
        assert isinstance(person, User)
        return super().get_context_data(**given) | {"address": AddressForm(person)}

    def form_valid(self, form: Any) -> HttpResponse:
        messages.success(self.request, "The password is changed.")
        return super().form_valid(form)

    def form_invalid(self, form: Any) -> HttpResponse:
        return self.render_to_response(self.get_context_data(form=form), status=422)
