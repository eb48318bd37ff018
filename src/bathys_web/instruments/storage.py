"""The table of readings, its parts by month, and what it is rolled up to.

Readings lie in partitions of one month, so that old ones go at once. Each batch is written and
rolled up to minutes, hours and days in one statement: a reading sent twice counts once in all.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from functools import lru_cache
from pathlib import Path

import numpy as np
from django.db import IntegrityError, connection, transaction

from bathys.instruments import Series

__all__ = ["STEPS", "RolledUp", "drop_old", "latest_of", "rolled_up", "series_of", "write_readings"]

STEPS = (60, 3600, 86400)
"""Readings are rolled up to so long [s]."""

_MAKING_PARTS = 7_316_204  # name of the lock under which partitions are made
_RAW_KEPT, _MINUTES_KEPT = timedelta(days=100), timedelta(days=400)

_SQL = {
    path.stem: path.read_text(encoding="utf-8")
    for path in (Path(__file__).parent / "sql").glob("*.sql")
}


@dataclass(frozen=True, slots=True)
class RolledUp:
    """Readings of a stretch of time taken together.

    Attributes
    ----------
    begin : datetime
        From when
    mean, least, most : float
        Of their values, in SI
    """

    begin: datetime
    mean: float
    least: float
    most: float


@lru_cache(maxsize=64)
def _part_made(year: int, month: int) -> None:
    """Make the partition of a month, unless it is there."""
    begin = datetime(year, month, 1, tzinfo=UTC)
    end = datetime(year + month // 12, month % 12 + 1, 1, tzinfo=UTC)
    name = f"instruments_reading_{year:04d}_{month:02d}"
    with transaction.atomic(), connection.cursor() as cursor:
        # One after the other: the first messages of a month come to several processes at once.
        cursor.execute("SELECT pg_advisory_xact_lock(%s)", [_MAKING_PARTS])
        cursor.execute(
            f"CREATE TABLE IF NOT EXISTS {name} PARTITION OF instruments_reading "
            f"FOR VALUES FROM ('{begin.isoformat()}') TO ('{end.isoformat()}')"
        )


def write_readings(rows: Sequence[tuple[int, datetime, float]]) -> int:
    """Write readings, each once.

    Parameters
    ----------
    rows : sequence of (int, datetime, float)
        Channel, when, and the value, in SI

    Returns
    -------
    int
        How many were not known before
    """
    if not rows:
        return 0
    try:
        return _write(rows)
    except IntegrityError:  # another process has dropped a month that this one knew to be there
        _part_made.cache_clear()
        return _write(rows)


def _write(rows: Sequence[tuple[int, datetime, float]]) -> int:
    for year, month in {(at.astimezone(UTC).year, at.astimezone(UTC).month) for _, at, _ in rows}:
        _part_made(year, month)
    channels, times, values = (list(column) for column in zip(*rows, strict=True))
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute(_SQL["write"], [channels, times, values, list(STEPS)])
        found = cursor.fetchone()
    return int(found[0]) if found else 0


def series_of(channels: Sequence[int], since: datetime, until: datetime) -> dict[str, Series]:
    """Readings by the minute.

    Parameters
    ----------
    channels : sequence of int
        Numbers of the channels
    since, until : datetime
        Between which times

    Returns
    -------
    dict of str to Series
        By the channel's number; times in seconds since 1970, values in SI
    """
    rows: dict[int, tuple[list[float], list[float]]] = {}
    with connection.cursor() as cursor:
        cursor.execute(_SQL["series"], [list(channels), since, until])
        for channel, begin, mean in cursor.fetchall():
            times, values = rows.setdefault(channel, ([], []))
            times.append(begin)
            values.append(mean)
    return {
        str(c): Series(np.array(times), np.array(values)) for c, (times, values) in rows.items()
    }


def latest_of(channels: Sequence[int]) -> dict[int, tuple[datetime, float]]:
    """The last reading of each channel.

    Parameters
    ----------
    channels : sequence of int
        Numbers of the channels

    Returns
    -------
    dict of int to (datetime, float)
        When and what, in SI, by the channel's number
    """
    with connection.cursor() as cursor:
        cursor.execute(_SQL["latest"], [list(channels)])
        return {channel: (at, value) for channel, at, value in cursor.fetchall()}


def rolled_up(channel: int, step: int, since: datetime, until: datetime) -> list[RolledUp]:
    """Readings of a channel taken together.

    Parameters
    ----------
    channel : int
        Number of the channel
    step : int
        One of :data:`STEPS`, [s]
    since, until : datetime
        Between which times

    Returns
    -------
    list of RolledUp
        In their order
    """
    with connection.cursor() as cursor:
        cursor.execute(_SQL["rolled_up"], [channel, step, since, until])
        return [RolledUp(*row) for row in cursor.fetchall()]


def drop_old(now: datetime) -> None:
    """Drop whole months of readings that are older than is kept, and minutes after a year. Hours
    and days are kept.

    Parameters
    ----------
    now : datetime
        The present moment
    """
    last = now - _RAW_KEPT
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT inhrelid::regclass::text FROM pg_inherits "
            "WHERE inhparent = 'instruments_reading'::regclass"
        )
        for (name,) in cursor.fetchall():
            year, month = (int(part) for part in name.split("_")[-2:])
            if datetime(year + month // 12, month % 12 + 1, 1, tzinfo=UTC) < last:
                cursor.execute(f"DROP TABLE IF EXISTS {name}")
        cursor.execute(
            "DELETE FROM instruments_rollup WHERE step = 60 AND begin < %s", [now - _MINUTES_KEPT]
        )
    _part_made.cache_clear()
