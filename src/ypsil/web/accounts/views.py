"""Signing up; signing in and out are Django's own views."""

from django.contrib.auth import login
from django.db import IntegrityError, transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods

from ypsil.web.accounts.forms import SignUpForm, taken


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
