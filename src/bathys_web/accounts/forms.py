"""The form for a new account."""

from allauth.account.forms import SignupForm
from django.contrib.auth import get_user_model

__all__ = ["SignUpForm"]


class SignUpForm(SignupForm):
    """Takes an address that has an account without a word: a stranger learns nothing of it."""

    def validate_unique_email(self, value: str) -> str:
        """Note whether the address is taken."""
        self.account_already_exists = get_user_model().objects.filter(email__iexact=value).exists()
        return value
