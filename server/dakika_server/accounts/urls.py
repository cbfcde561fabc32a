"""Addresses of accounts."""

from django.urls import path

from dakika_server.accounts.api import account, reset, session

urlpatterns = [
    path("session", session.SessionView.as_view()),
    path("session/second", session.SecondFactorView.as_view()),
    path("session/passkey", session.PasskeyView.as_view()),
    path("session/passkey/options", session.PasskeyOptionsView.as_view()),
    path("session/confirm", session.SureView.as_view()),
    path("account", account.AccountView.as_view()),
    path("account/password", account.PasswordView.as_view()),
    path("account/address", account.AddressView.as_view()),
    path("account/address/taken", account.TakenAddressView.as_view()),
    path("account/totp", account.TotpView.as_view()),
    path("account/recovery-codes", account.RecoveryCodesView.as_view()),
    path("account/passkeys", account.PasskeysView.as_view()),
    path("account/passkeys/options", account.NewPasskeyOptionsView.as_view()),
    path("account/passkeys/<int:pk>", account.OnePasskeyView.as_view()),
    path("account/sessions", account.OtherSessionsView.as_view()),
    path("account/sessions/<int:pk>", account.OneSessionView.as_view()),
    path("password-reset", reset.ResetView.as_view()),
    path("password-reset/new", reset.NewPasswordView.as_view()),
]
