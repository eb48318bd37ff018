"""What every page may need to know of the visitor."""

from django.conf import settings
from django.http import HttpRequest

__all__ = ["demo_mode"]


def demo_mode(request: HttpRequest) -> dict[str, bool]:
    """Whether the demo account is offered.

    Parameters
    ----------
    request : HttpRequest
        The request

    Returns
    -------
    dict of str to bool
        The template's variable
    """
    return {"demo_mode": settings.DEMO}
