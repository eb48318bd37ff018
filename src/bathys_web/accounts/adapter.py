"""Signing in and up, as allauth asks for it."""

import logging
from typing import Any, ClassVar

from allauth.account.adapter import DefaultAccountAdapter
from django.contrib import messages
from django.contrib.auth.base_user import AbstractBaseUser
from django.core import signing
from django.core.exceptions import ValidationError
from django.http import HttpRequest, HttpResponse

from bathys_web.accounts.guesses import forget, seconds_to_wait

__all__ = ["AccountAdapter"]

_log = logging.getLogger(__name__)
_COOKIE, _SALT = "device", "bathys.device"
_YEAR = 365 * 86400


class AccountAdapter(DefaultAccountAdapter):
    """Wrong guesses wait; a device that has signed in is known again."""

    error_messages: ClassVar = {
        **DefaultAccountAdapter.error_messages,
        "email_password_mismatch": "This address and this password do not go together.",
    }

    def send_mail(self, template_prefix: str, email: str, context: dict[str, Any]) -> None:
        """Send an e-mail; a mail server that fails is told on the page and in the log."""
        try:
            super().send_mail(template_prefix, email, context)
        except OSError:  # what smtplib raises is one, too
            _log.exception("an e-mail was not sent: %s", template_prefix)
            messages.error(self.request, "The e-mail was not sent. Try again in a few minutes.")

    def pre_authenticate(self, request: HttpRequest, **credentials: Any) -> None:
        """Refuse a guess that comes too soon."""
        account = _account(credentials)
        known = account in _accounts_of(request)
        wait = seconds_to_wait(self.get_client_ip(request), account, known)
        if wait:
            told = f"{wait} s" if wait < 120 else f"{-(-wait // 60)} min"
            raise ValidationError(f"There were wrong guesses. Wait {told}, then try again.")

    def _rollback_login_failed_rl_usage(self) -> None:
        """The guess was right; see :meth:`post_login`."""

    def post_login(self, request: HttpRequest, user: AbstractBaseUser, **more: Any) -> HttpResponse:
        """Forget the wrong guesses, and know this device from now on."""
        response: HttpResponse = super().post_login(request, user, **more)
        account = str(getattr(user, "email", "")).lower()
        forget(self.get_client_ip(request), account)
        known = [account, *(a for a in _accounts_of(request) if a != account)][:5]
        response.set_signed_cookie(
            _COOKIE,
            signing.dumps(known, salt=_SALT),
            salt=_SALT,
            max_age=_YEAR,
            httponly=True,
            samesite="Lax",
            secure=request.is_secure(),
        )
        return response


def _account(credentials: dict[str, Any]) -> str:
    return str(credentials.get("email") or credentials.get("username") or "").strip().lower()[:254]


def _accounts_of(request: HttpRequest) -> list[str]:
    """The accounts that this device has signed in to."""
    kept = request.get_signed_cookie(_COOKIE, default="", salt=_SALT, max_age=_YEAR)
    try:
        return list(signing.loads(kept, salt=_SALT)) if kept else []
    except signing.BadSignature:
        return []
