"""Take a message of a board, whichever way it came: by HTTP or by MQTT."""

import json
from dataclasses import dataclass
from typing import Any

from django.db import IntegrityError, OperationalError
from django.utils import timezone

from bathys_web.instruments.actions.take_readings import (
    MOST_READINGS,
    BadToken,
    board_of,
    take_readings,
)

__all__ = ["MOST_MESSAGE_BYTES", "MessageAnswer", "take_message"]

MOST_MESSAGE_BYTES = 200_000


@dataclass(frozen=True, slots=True)
class MessageAnswer:
    """What a board is answered.

    Attributes
    ----------
    status : int
        As HTTP has it
    told : dict of str to object
        As JSON: how many are ``kept``, how many were ``known``, which are ``refused`` and why, and
        what ``time`` it is; or an ``error``
    """

    status: int
    told: dict[str, Any]


def _refused(status: int, why: str) -> MessageAnswer:
    return MessageAnswer(status, {"error": why})


def take_message(body: bytes, token: str | None = None) -> MessageAnswer:
    """Take a message.

    Parameters
    ----------
    body : bytes
        JSON with ``readings``
    token : str, optional
        The board's token; where none is given, it stands in the message as ``token``

    Returns
    -------
    MessageAnswer
        What came of it
    """
    if len(body) > MOST_MESSAGE_BYTES:
        return _refused(413, f"Send {MOST_READINGS} readings at most at a time.")
    try:
        message: Any = json.loads(body)
    except (ValueError, RecursionError):
        message = None
    if token is None:
        token = str(message.get("token", "")) if isinstance(message, dict) else ""
    try:
        board = board_of(token)
    except BadToken as bad:
        return _refused(401, str(bad))
    if message is None:
        return _refused(400, "This is not JSON.")
    rows = message.get("readings") if isinstance(message, dict) else None
    if not isinstance(rows, list) or len(rows) > MOST_READINGS:
        return _refused(400, f"Send “readings”, a list of at most {MOST_READINGS}.")
    try:
        taken = take_readings(board, rows)
    except (IntegrityError, OperationalError):  # two crossed, or a channel was just deleted
        return _refused(503, "Send it again in a moment.")
    refused = [{"row": number, "why": why} for number, why in taken.refused]
    told = {"kept": taken.kept, "known": taken.known, "refused": refused}
    return MessageAnswer(200, told | {"time": timezone.now().isoformat()})
