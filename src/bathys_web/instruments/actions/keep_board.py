"""Boards of a plan: added with what they measure, changed, their tokens taken back, deleted."""

import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied
from django.db import transaction
from django.utils import timezone
from django.utils.crypto import salted_hmac

from bathys.instruments import CHANNEL_KINDS, unit_labels
from bathys.scenarios.failures import Failure
from bathys_web.instruments.actions.take_readings import hashed
from bathys_web.instruments.models import Board, BoardChannel, Incident, RigFault
from bathys_web.plans.models import SavedPlan

__all__ = [
    "MOST_BOARDS",
    "MOST_CHANNELS",
    "BoardRefused",
    "NewChannel",
    "add_board",
    "add_channel",
    "add_fault",
    "delete_board",
    "delete_channel",
    "rig_token",
    "set_channel",
    "take_token_back",
]

MOST_BOARDS, MOST_CHANNELS = 10, 40
_FAULT_LASTS = timedelta(hours=2)


class BoardRefused(ValueError):
    """A board or a channel that cannot be; its message is a sentence."""


@dataclass(frozen=True, slots=True)
class NewChannel:
    """What a board is to measure.

    Attributes
    ----------
    key : str
        What the board calls it
    kind, part : str
        What it measures and where
    unit : str
        Label of the unit it sends; empty for the usual one
    offset, mark : float
        Added to what is sent, and height of a float contact, in SI
    """

    key: str
    kind: str
    part: str
    unit: str = ""
    offset: float = 0.0
    mark: float = 0.0


def rig_token(board: Board) -> str:
    """The token of a simulated board: made of the server's key, so that it is kept nowhere.

    Parameters
    ----------
    board : Board
        The board

    Returns
    -------
    str
        The token
    """
    return salted_hmac("bathys.rig", str(board.key), algorithm="sha256").hexdigest()


def _check_owner(saved: SavedPlan, user: User) -> None:
    if saved.owner_id != user.pk:
        raise PermissionDenied


@transaction.atomic
def add_board(
    saved: SavedPlan,
    user: User,
    name: str,
    channels: Sequence[NewChannel],
    *,
    is_simulated: bool = False,
) -> tuple[Board, str]:
    """Add a board.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : user
        Who asks
    name : str
        What the board is called
    channels : sequence of NewChannel
        What it measures
    is_simulated : bool
        Whether it is a simulated one

    Returns
    -------
    (Board, str)
        It and its token, which is told only now

    Raises
    ------
    BoardRefused
        With a sentence
    PermissionDenied
        If the plan is not theirs
    """
    _check_owner(saved, user)
    SavedPlan.objects.select_for_update().get(pk=saved.pk)
    if saved.boards.count() >= MOST_BOARDS:
        raise BoardRefused(f"A plan has {MOST_BOARDS} boards at most: delete one first.")
    if is_simulated and saved.boards.filter(is_simulated=True).exists():
        raise BoardRefused("This plan has a simulated board already.")
    if not name.strip():
        raise BoardRefused("Give the board a name.")
    if not channels:
        raise BoardRefused("Choose at least one thing that it measures.")
    board = Board.objects.create(plan=saved, name=name.strip()[:40], is_simulated=is_simulated)
    token = rig_token(board) if is_simulated else secrets.token_urlsafe(32)
    board.token_hash = hashed(token)
    board.save()
    for channel in channels:
        _add(board, channel)
    return board, token


@transaction.atomic
def add_channel(board: Board, user: User, channel: NewChannel) -> None:
    """Add something that a board measures.

    Parameters
    ----------
    board : Board
        The board
    user : user
        Who asks
    channel : NewChannel
        What it is

    Raises
    ------
    BoardRefused
        With a sentence
    PermissionDenied
        If the plan is not theirs
    """
    _check_owner(board.plan, user)
    Board.objects.select_for_update().get(pk=board.pk)
    _add(board, channel)


def _add(board: Board, channel: NewChannel) -> None:
    key = channel.key.strip()[:40]
    if not key:
        raise BoardRefused("Give it the name that the board sends.")
    if board.channels.count() >= MOST_CHANNELS:
        raise BoardRefused(f"A board measures {MOST_CHANNELS} things at most.")
    if board.channels.filter(key=key).exists():
        raise BoardRefused("This board sends something of that name already.")
    if channel.kind not in CHANNEL_KINDS:
        raise BoardRefused("Choose what it measures.")
    labels = unit_labels(channel.kind)
    unit = channel.unit or labels[0]
    if unit not in labels:
        raise BoardRefused(f"Choose a unit of these: {', '.join(labels)}.")
    BoardChannel.objects.create(
        board=board,
        key=key,
        kind=channel.kind,
        part=channel.part,
        unit=unit,
        offset=channel.offset,
        mark=channel.mark,
    )


def set_channel(channel: BoardChannel, user: User, unit: str, offset: float, mark: float) -> None:
    """Change the unit a channel is sent in, and what is added to it, for what comes from now on.

    Parameters
    ----------
    channel : BoardChannel
        The channel
    user : user
        Who asks
    unit : str
        Label of the unit
    offset, mark : float
        Added to what is sent, and height of a float contact, [SI unit of its kind, m]

    Raises
    ------
    BoardRefused
        With a sentence
    PermissionDenied
        If the plan is not theirs
    """
    _check_owner(channel.board.plan, user)
    if unit not in unit_labels(channel.kind):
        raise BoardRefused("Choose a unit of the list.")
    channel.unit, channel.offset, channel.mark = unit, offset, mark
    channel.save(update_fields=("unit", "offset", "mark"))


def delete_channel(channel: BoardChannel, user: User) -> None:
    """Delete a channel with all its readings.

    Parameters
    ----------
    channel : BoardChannel
        The channel
    user : user
        Who asks

    Raises
    ------
    PermissionDenied
        If the plan is not theirs
    """
    _check_owner(channel.board.plan, user)
    channel.delete()
    _end_unwatched(channel.board.plan)


def take_token_back(board: Board, user: User) -> None:
    """Take a board's token back: nothing that it sends is taken any longer.

    Parameters
    ----------
    board : Board
        The board
    user : user
        Who asks

    Raises
    ------
    PermissionDenied
        If the plan is not theirs
    """
    _check_owner(board.plan, user)
    Board.objects.filter(pk=board.pk).update(token_hash=None)
    _end_unwatched(board.plan)


def delete_board(board: Board, user: User) -> None:
    """Delete a board with all its readings.

    Parameters
    ----------
    board : Board
        The board
    user : user
        Who asks

    Raises
    ------
    PermissionDenied
        If the plan is not theirs
    """
    _check_owner(board.plan, user)
    board.delete()
    _end_unwatched(board.plan)


def _end_unwatched(saved: SavedPlan) -> None:
    """Where nothing is measured any longer, nothing is told to be wrong."""
    left = BoardChannel.objects.filter(board__plan=saved).exclude(board__token_hash=None)
    if not left.exists():
        Incident.objects.filter(plan=saved, ended=None).update(ended=timezone.now())


def add_fault(board: Board, user: User, failure: Failure, now: datetime) -> RigFault:
    """Let something fail on a simulated board for two hours; what fails there already ends.

    Parameters
    ----------
    board : Board
        The board
    user : user
        Who asks
    failure : Failure
        What fails
    now : datetime
        The present moment

    Returns
    -------
    RigFault
        What fails

    Raises
    ------
    BoardRefused
        If the board is a real one
    PermissionDenied
        If the plan is not theirs
    """
    _check_owner(board.plan, user)
    if not board.is_simulated:
        raise BoardRefused("Only a simulated board can fail on demand.")
    board.faults.filter(ends__gt=now).update(ends=now)
    return RigFault.objects.create(
        board=board, kind=failure.kind, place=failure.place, begins=now, ends=now + _FAULT_LASTS
    )
