"""Forms of accounts."""

from typing import Any, ClassVar

from allauth.account.forms import (
    AddEmailForm,
    ChangePasswordForm,
    LoginForm,
    ResetPasswordForm,
    ResetPasswordKeyForm,
    SignupForm,
)
from allauth.account.models import EmailAddress
from django import forms
from django.contrib import messages
from django.contrib.auth import get_user_model
from django.http import HttpRequest

__all__ = [
    "ChangeEmailForm",
    "NewPasswordForm",
    "OtherPasswordForm",
    "ResetForm",
    "SignInForm",
    "SignUpForm",
]

_LABELS = {
    "login": "E-mail address",
    "password": "Password",
    "email": "E-mail address",
    "oldpassword": "Password now",
    "password1": "New password",
    "password2": "New password again",
}


class _Labelled(forms.Form):
    """This application's labels for the fields that are there, and no text in their boxes."""

    other_labels: ClassVar[dict[str, str]] = {}

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for name, label in {**_LABELS, **self.other_labels}.items():
            if name in self.fields:
                self.fields[name].label = label
                self.fields[name].widget.attrs.pop("placeholder", None)


class SignInForm(_Labelled, LoginForm):
    """E-mail address and password."""


class ResetForm(_Labelled, ResetPasswordForm):
    """The address that gets the link."""


class NewPasswordForm(_Labelled, ResetPasswordKeyForm):
    """A new password, twice."""


class OtherPasswordForm(_Labelled, ChangePasswordForm):
    """The password there is, and a new one twice."""


class SignUpForm(_Labelled, SignupForm):
    """Takes an address that has an account without a word: a stranger learns nothing of it."""

    other_labels: ClassVar = {"password1": "Password"}

    def validate_unique_email(self, value: str) -> str:
        """Note whether the address is taken."""
        self.account_already_exists = get_user_model().objects.filter(email__iexact=value).exists()
        return value


class ChangeEmailForm(_Labelled, AddEmailForm):
    """A new address, with the password: an open window is not enough to take an account over."""

    password = forms.CharField(
        label="Password", widget=forms.PasswordInput({"autocomplete": "current-password"})
    )

    other_labels: ClassVar = {"email": "New e-mail address"}

    def clean_password(self) -> str:
        """Refuse a wrong password."""
        password: str = self.cleaned_data["password"]
        if self.user is None or not self.user.check_password(password):
            raise forms.ValidationError("This is not your password.")
        return password

    def save(self, request: HttpRequest) -> EmailAddress:
        """Send the e-mail that confirms the new address; the one in use stays until then, whether
        it was ever confirmed or not."""
        assert self.user is not None  # noqa: S101 - the page is for who is signed in
        pending = EmailAddress.objects.filter(user=self.user, verified=False)
        pending.exclude(email__iexact=self.user.email).delete()
        address = EmailAddress.objects.create(user=self.user, email=self.cleaned_data["email"])
        address.send_confirmation(request)
        messages.success(request, f"An e-mail is on its way to {address.email}.")
        return address
