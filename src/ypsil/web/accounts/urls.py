"""Addresses of accounts."""

from django.contrib.auth.views import LoginView, LogoutView
from django.urls import path

from ypsil.web.accounts.forgotten import Forgotten, NewPassword, sent
from ypsil.web.accounts.views import Account, change_address, delete_account, sign_up

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
    path("forgotten/", Forgotten.as_view(), name="forgotten"),
    path("forgotten/sent/", sent, name="forgotten-sent"),
    path("forgotten/<str:uidb64>/<str:token>/", NewPassword.as_view(), name="new-password"),
    path("account/address/", change_address, name="change-address"),
    path("account/delete/", delete_account, name="delete-account"),
    path("account/", Account.as_view(), name="account"),
    path("sign-up/", sign_up, name="sign-up"),
]
