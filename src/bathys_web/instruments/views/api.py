"""Where boards send what they read. It needs no account, but the board's token."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.utils import timezone
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET, require_POST

from bathys.instruments import CHANNEL_KINDS
from bathys_web.instruments.actions.take_message import MOST_MESSAGE_BYTES, take_message
from bathys_web.instruments.actions.take_readings import MOST_READINGS, BadToken, board_of
from bathys_web.plans.numbers import whole_number

__all__ = ["describe_board", "receive"]


def _token_of(request: HttpRequest) -> str:
    scheme, _, token = request.headers.get("Authorization", "").partition(" ")
    return token.strip() if scheme.lower() == "bearer" else ""


def _refused(why: str, status: int) -> JsonResponse:
    headers = {"WWW-Authenticate": "Bearer"} if status == 401 else {}
    return JsonResponse({"error": why}, status=status, headers=headers)


@csrf_exempt
@require_POST
def receive(request: HttpRequest) -> HttpResponse:
    """Take what a board sends. It needs no account, but the board's token.

    Parameters
    ----------
    request : HttpRequest
        The request: JSON with ``readings``

    Returns
    -------
    HttpResponse
        JSON: how many are ``kept``, how many were ``known``, which are ``refused`` and why, and
        what ``time`` it is
    """
    sent = whole_number(request.headers.get("Content-Length"))
    if sent > MOST_MESSAGE_BYTES:
        return _refused(f"Send {MOST_READINGS} readings at most at a time.", 413)
    answer = take_message(request.body, _token_of(request))
    headers = {"WWW-Authenticate": "Bearer"} if answer.status == 401 else {}
    return JsonResponse(answer.told, status=answer.status, headers=headers)


@require_GET
def describe_board(request: HttpRequest) -> HttpResponse:
    """What a board is to send, and what time it is.

    Parameters
    ----------
    request : HttpRequest
        The request, with the board's token

    Returns
    -------
    HttpResponse
        JSON
    """
    try:
        mine = board_of(_token_of(request))
    except BadToken as bad:
        return _refused(str(bad), 401)
    channels = [
        {"channel": c.key, "measures": CHANNEL_KINDS[c.kind].title, "unit": c.unit}
        for c in mine.channels.all()
    ]
    address = settings.PUBLIC_URL.rstrip("/") or request.build_absolute_uri("/").rstrip("/")
    return JsonResponse(
        {
            "board": mine.name,
            "channels": channels,
            "send_to": f"{address}/api/readings/",
            "time": timezone.now().isoformat(),
        }
    )
