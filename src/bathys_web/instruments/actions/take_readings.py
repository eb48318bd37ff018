"""Take readings that a board sends: each once, whatever comes twice, late or in any order."""

import hashlib
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

from django.utils import timezone
from django.utils.dateparse import parse_datetime

from bathys.instruments import CHANNEL_KINDS, unit_named
from bathys.units import show
from bathys_web.instruments.models import Board, BoardChannel
from bathys_web.instruments.storage import write_readings

__all__ = ["MOST_READINGS", "BadToken", "Taken", "board_of", "hashed", "take_readings", "take_rows"]

MOST_READINGS = 500
"""Of one message."""

_AHEAD = timedelta(minutes=10)
_OLDEST = timedelta(days=400)


class BadToken(ValueError):
    """A token that no board has, or that was taken back."""


@dataclass(frozen=True, slots=True)
class Taken:
    """What came of readings that were sent.

    Attributes
    ----------
    kept, known : int
        How many are new, and how many were there already
    refused : tuple of (int, str)
        Number of the row, from 1 on, and why it is refused
    """

    kept: int
    known: int
    refused: tuple[tuple[int, str], ...]


def hashed(token: str) -> str:
    """What is kept of a token.

    Parameters
    ----------
    token : str
        The token

    Returns
    -------
    str
        Its hash
    """
    return hashlib.sha256(token.encode()).hexdigest()


def board_of(token: str) -> Board:
    """Whose token it is.

    Parameters
    ----------
    token : str
        The token

    Returns
    -------
    Board
        The board

    Raises
    ------
    BadToken
        If no board has it, or it was taken back
    """
    board = Board.objects.filter(token_hash=hashed(token)).first() if token else None
    if board is None:
        raise BadToken("No board has this token, or it was taken back.")
    return board


def take_readings(board: Board, rows: Sequence[Any]) -> Taken:
    """Take readings of a board.

    Parameters
    ----------
    board : Board
        The board
    rows : sequence of object
        Of each its ``channel``, its ``value`` in the channel's unit, and when it was read as
        ``at``: as ISO 8601 with its zone, or in seconds since 1970; now if it is not told

    Returns
    -------
    Taken
        What came of them
    """
    channels = {c.key: c for c in board.channels.all()}
    now, good, refused = timezone.now(), list[tuple[BoardChannel, datetime, float]](), []
    for number, row in enumerate(rows, start=1):
        try:
            good.append(_read(row, channels, now))
        except ValueError as why:
            refused.append((number, str(why)))
    kept, known = take_rows(board, good, now)
    return Taken(kept, known, tuple(refused))


def take_rows(
    board: Board, rows: Sequence[tuple[BoardChannel, datetime, float]], now: datetime
) -> tuple[int, int]:
    """Keep readings that were looked through.

    Parameters
    ----------
    board : Board
        The board
    rows : sequence of (BoardChannel, datetime, float)
        Channel, when, and what was read, in SI
    now : datetime
        The present moment

    Returns
    -------
    (int, int)
        How many are new, and how many were there already
    """
    kept = write_readings([(channel.pk, at, value) for channel, at, value in rows])
    if rows:
        last = min(max(at for _, at, _ in rows), now)
        Board.objects.filter(pk=board.pk).exclude(heard__gt=last).update(heard=last)
    return kept, len(rows) - kept


def _read(
    row: Any, channels: Mapping[str, BoardChannel], now: datetime
) -> tuple[BoardChannel, datetime, float]:
    if not isinstance(row, dict):
        raise ValueError("A reading needs “channel”, “value” and, if it is not of now, “at”.")
    channel = channels.get(str(row.get("channel", "")))
    if channel is None:
        raise ValueError("This board has no such channel.")
    return channel, moment_of(row.get("at"), now), value_of(channel, row.get("value"))


def value_of(channel: BoardChannel, sent: Any) -> float:
    """A value in SI.

    Parameters
    ----------
    channel : BoardChannel
        Its channel
    sent : object
        What was sent, in the channel's unit

    Returns
    -------
    float
        In SI

    Raises
    ------
    ValueError
        With a sentence, if it is no number or cannot be
    """
    if isinstance(sent, bool) or not isinstance(sent, int | float) or not math.isfinite(sent):
        raise ValueError("“value” must be a number.")
    kind, unit = CHANNEL_KINDS[channel.kind], unit_named(channel.kind, channel.unit)
    value = float(sent) * unit.factor + unit.offset + channel.offset
    if not kind.least <= value <= kind.most:
        low, high = (show(v, kind.quantity, "metric") for v in (kind.least, kind.most))
        raise ValueError(f"{kind.title} cannot be so: it lies between {low} and {high}.")
    return value


def moment_of(sent: Any, now: datetime) -> datetime:
    """When something was read.

    Parameters
    ----------
    sent : object
        As it was sent; None for now
    now : datetime
        The present moment

    Returns
    -------
    datetime
        When

    Raises
    ------
    ValueError
        With a sentence, if it cannot be read, lies ahead, or is too old
    """
    if sent is None:
        return now
    try:
        if isinstance(sent, int | float) and not isinstance(sent, bool):
            at = datetime.fromtimestamp(sent, UTC)
        else:
            at = parse_datetime(str(sent)[:40]) or _no_time()
    except (ValueError, OverflowError, OSError):
        raise ValueError("“at” must be a time such as 2030-05-17T08:30:00Z.") from None
    if at.tzinfo is None:
        raise ValueError("“at” must name its zone, as the Z in 2030-05-17T08:30:00Z.")
    if at > now + _AHEAD:
        raise ValueError("This lies ahead of now: set the board’s clock.")
    if at < now - _OLDEST:
        raise ValueError("This is older than 400 days.")
    return at


def _no_time() -> datetime:
    raise ValueError
