"""Addresses of accounts."""

from django.contrib.auth.views import LoginView, LogoutView
from django.urls import path

from ypsil.demo.author import DEMO_NAME, DEMO_PASSWORD
from ypsil.web.accounts.views import sign_up

urlpatterns = [
    path(
        "sign-in/",
        LoginView.as_view(
            template_name="accounts/sign_in.html",
            redirect_authenticated_user=True,
            extra_context={"demo_name": DEMO_NAME, "demo_password": DEMO_PASSWORD},
        ),
        name="sign-in",
    ),
    path("sign-out/", LogoutView.as_view(), name="sign-out"),
    path("sign-up/", sign_up, name="sign-up"),
]
