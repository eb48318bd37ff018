"""What every page may need to know of the visitor."""

from typing import Any

from django.conf import settings
from django.http import HttpRequest
from django.utils.functional import SimpleLazyObject

from bathys_web.accounts.demo import deleted_after

__all__ = ["account_context"]


def account_context(request: HttpRequest) -> dict[str, Any]:
    """What the frame of a page shows of the account.

    Parameters
    ----------
    request : HttpRequest
        The request

    Returns
    -------
    dict
        ``demo_mode``: whether demo accounts are offered; ``demo_until``: when the visitor's own is
        deleted, looked up only where it is shown; ``sends_mail`` and ``has_mailbox``
    """
    return {
        "demo_mode": settings.DEMO,
        "demo_until": SimpleLazyObject(lambda: deleted_after(request.user)),
        "sends_mail": settings.SENDS_MAIL,
        "has_mailbox": settings.HAS_MAILBOX,
    }
