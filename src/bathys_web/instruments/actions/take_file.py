"""Take readings out of a file: kept while it is looked at, then written row by row."""

from collections.abc import Mapping
from dataclasses import dataclass

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied
from django.utils import timezone

from bathys.instruments import read_csv, shape_of
from bathys_web.instruments.actions.take_readings import moment_of, value_of
from bathys_web.instruments.models import BoardChannel, UploadedReadings
from bathys_web.instruments.storage import write_readings
from bathys_web.plans.models import SavedPlan

__all__ = ["FileTaken", "drop_file", "keep_file", "kept_file", "take_file"]

_MOST_TOLD = 50
_AT_ONCE = 5000  # readings written in one statement


@dataclass(frozen=True, slots=True)
class FileTaken:
    """What came of a file.

    Attributes
    ----------
    kept, known, refused : int
        Readings that are new, that were there already, and that are not taken
    why : tuple of (int, str)
        Rows that are not taken, and why: the first of them
    """

    kept: int
    known: int
    refused: int
    why: tuple[tuple[int, str], ...]


def keep_file(saved: SavedPlan, user: User, text: str) -> None:
    """Keep a file while it is looked at; one of each account, for a day.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : user
        Whose
    text : str
        The file

    Raises
    ------
    PermissionDenied
        If the plan is not theirs
    """
    if saved.owner_id != user.pk:
        raise PermissionDenied
    UploadedReadings.objects.update_or_create(owner=user, defaults={"plan": saved, "text": text})


def kept_file(saved: SavedPlan, user: User) -> str | None:
    """The file that is looked at.

    Parameters
    ----------
    saved : SavedPlan
        The plan
    user : user
        Whose

    Returns
    -------
    str or None
        The file; None if there is none of this plan
    """
    row = UploadedReadings.objects.filter(owner=user, plan=saved).first()
    return row.text if row is not None else None


def drop_file(user: User) -> None:
    """Look at it no longer.

    Parameters
    ----------
    user : user
        Whose
    """
    UploadedReadings.objects.filter(owner=user).delete()


def take_file(
    text: str, times: int, columns: Mapping[int, BoardChannel], zone: str, is_day_first: bool
) -> FileTaken:
    """Write the readings of a file.

    Parameters
    ----------
    text : str
        The file
    times : int
        Which column tells the time
    columns : mapping of int to BoardChannel
        What each column that is taken measures
    zone : str
        Time zone of times that name none
    is_day_first : bool
        Whether a day stands before its month

    Returns
    -------
    FileTaken
        What came of it

    Raises
    ------
    BadCell
        If there is no such zone, or it is no such file
    """
    shape = shape_of(text, is_day_first)
    now, rows, kept, count = timezone.now(), [], 0, 0
    refused, why = 0, list[tuple[int, str]]()
    for reading in read_csv(text, shape, times, tuple(columns), zone):
        try:
            if reading.at is None:
                raise ValueError(reading.why)
            channel = columns[reading.column]
            at = moment_of(reading.at.timestamp(), now)
            rows.append((channel.pk, at, value_of(channel, reading.value)))
        except ValueError as error:
            refused += 1
            if len(why) < _MOST_TOLD:
                why.append((reading.row, str(error)))
        if len(rows) >= _AT_ONCE:
            kept, count, rows = kept + write_readings(rows), count + len(rows), []
    kept, count = kept + write_readings(rows), count + len(rows)
    return FileTaken(kept, count - kept, refused, tuple(why))
