"""Addresses of accounts."""

from django.contrib.auth.views import LoginView, LogoutView
from django.urls import path

from ypsil.web.accounts.views import Account, delete_account, sign_up

urlpatterns = [
    path(
        "sign-in/",
        LoginView.as_view(
            template_name="accounts/sign_in.html",
            redirect_authenticated_user=True,
        ),
        name="sign-in",
    ),
    path("sign-out/", LogoutView.as_view(), name="sign-out"),
    path("account/delete/", delete_account, name="delete-account"),
    path("account/", Account.as_view(), name="account"),
    path("sign-up/", sign_up, name="sign-up"),
]
